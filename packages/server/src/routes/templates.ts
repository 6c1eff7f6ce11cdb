import type { Router } from 'express';
import { Failure } from '@inkwell-twin/core';
import { removeTemplate } from '../masters/templates';
import type { Workshop } from '../workshop';
import { SANDBOX, on, personOf } from './handle';

/** What new masters may begin with. */
export function templateRoutes(router: Router, { compute, database }: Workshop): void {
  on(router, 'templates', async () => {
    const rows = await database.rows<{ id: string; name: string; made_by: string; drawn: boolean }>(
      'select id, name, made_by, png is not null as drawn from template order by lower(name), id',
    );
    return {
      templates: rows.map(({ id, name, made_by: by, drawn }) => ({
        id,
        name,
        by,
        picture: drawn ? `/api/templates/${id}/picture.png` : null,
      })),
    };
  });
  on(router, 'templatePicture', async ({ params, response }) => {
    const [row] = await database.rows<{ png: Buffer | null }>('select png from template where id = $1', [params['id']]);
    if (!row?.png) throw new Failure('not-found', 'There is no picture of this template.');
    response.set(SANDBOX).send(row.png);
  });
  on(router, 'makeTemplate', async ({ params, body, request }) => {
    const master = params['id']!;
    const by = personOf(request).name;
    return { id: await compute.run('template', { master, name: body.name, by }, { queueKey: master }) };
  });
  on(router, 'removeTemplate', async ({ params }) => {
    await removeTemplate(database, params['id']!);
    return { done: true as const };
  });
}
