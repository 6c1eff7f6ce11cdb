import type { Router } from 'express';
import { type OutsideDescription } from '@inkwell-twin/api';
import type { Workshop } from '../workshop';
import { on, personOf } from './handle';

/** Most descriptions that one answer holds. */
const MOST = 500;

export function descriptionRoutes(router: Router, { database, compute, journal, jobs, shelf }: Workshop): void {
  on(router, 'outsideDescriptions', async ({ request }) => {
    const rows = await database.rows<OutsideDescription & { folder: string }>(
      `select master, title, folder, about, sidecar.name as picture, sidecar.file, sidecar.state, trouble, standing, fields from sidecar join master on master.id = sidecar.master
        where master.state = 'live' and (sidecar.state not in ('none', 'in step') or $1) order by lower(title), master, sidecar.name, about limit $2`,
      [request.query['all'] === 'yes', MOST],
    );
    return {
      descriptions: rows.map(({ folder, ...rest }) => ({
        ...rest,
        file: rest.about ? rest.file : `${folder}/${shelf.sidecarFile(folder)}`,
      })),
    };
  });

  /** One after the other, each whole: what goes wrong with one keeps nothing from the others. */
  const each = async (masters: readonly string[], work: (master: string) => Promise<unknown>) => {
    const failed: { master: string; message: string }[] = [];
    for (const master of masters) {
      await work(master).catch((error: Error) => failed.push({ master, message: error.message }));
      await jobs.event({ kind: 'master', master });
    }
    return { failed };
  };
  on(router, 'writeDescriptions', ({ body }) =>
    each(body.masters, (master) => compute.run('sidecarWrite', { master, about: body.about }, { queueKey: master })),
  );
  on(router, 'orderDescriptions', ({ body }) =>
    each(body.masters, (master) => compute.run('sidecarOrder', { master, about: body.about, on: body.on }, { queueKey: master })),
  );
  on(router, 'settleDescriptions', ({ body, request }) => {
    const { name: author } = personOf(request);
    return each(body.masters, (master) =>
      journal.run('sidecarSettle', { master, about: body.about, author, choices: body.choices }, { queueKey: master }),
    );
  });

  on(router, 'describe', async ({ body: { masters, ...said }, request }) => {
    const { name } = personOf(request);
    const failed: { master: string; message: string }[] = [];
    let changed = 0;
    // One after the other, each whole: what one of them lacks keeps nothing from the others.
    for (const master of masters)
      await journal.run('describe', { master, author: name, said }, { queueKey: master }).then(
        (done) => void (done && changed++),
        (error: Error) => failed.push({ master, message: error.message }),
      );
    return { changed, failed };
  });
}
