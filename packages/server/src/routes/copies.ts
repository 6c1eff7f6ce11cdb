import { FILE_TYPE } from '@inkwell-twin/api';
import type { Router } from 'express';
import {
  Failure,
  declarationOf,
  declarations,
  fileName,
  fixedScope,
  freeName,
  listsOf,
  newId,
  optionFields,
  parseOptions,
  assertHolds,
  assertLocks,
  assertPassword,
  PART_LISTS,
  USES,
  type Recipe,
  fittedTo,
  recipeOf,
} from '@inkwell-twin/core';
import { blobChunks } from '../blobs/blobs';
import { type NamedMaster, SELECT_NAMED, namesOnRecord, plainName } from '../copies/names';
import { optionalFeatures } from '../copies/optional-features';
import { addRecipe, addSeries, variantsAskedFor } from '../copies/recipes';
import { copiesAsZip } from '../copies/all-as-zip';
import { type CopyRow, IN_ORDER, SELECT_COPIES, recipeOfRow, viewOfRow } from '../copies/rows';
import { isShown, standingFile } from '../copies/standing-file';
import { restoreCopy, withdraw, withdrawSeries } from '../copies/withdraw';
import { deriveMany } from '../copies/derive-many';
import { deriveBehind, deriveRecipe, removeRecipe } from '../copies/derivations';
import { atWork } from '../jobs/at-work';
import { houseOf, namingOfHouse } from '../house/house';
import { LARGE } from '../jobs/queues';
import type { Workshop } from '../workshop';
import { SANDBOX, on } from './handle';
import { leafOf, sendChunks, sendPacked } from './packed';

/** Seconds that the search for a size may compute: a copy is written some ten times for it. */
const FIT_LIMIT = 240;

/** @throws Failure `option-invalid`, `password-invalid` */
function assertMayLock(recipe: Recipe, password: string): void {
  assertLocks(recipe);
  assertPassword(password);
}

export function copyRoutes(router: Router, workshop: Workshop): void {
  const { compute, jobs, database } = workshop;

  const masterRow = async (id: string): Promise<NamedMaster & { objects: number }> => {
    const [row] = await database.rows<NamedMaster & { objects: number }>(SELECT_NAMED, [id]);
    if (!row) throw new Failure('not-found', 'There is no such master on this Desk.');
    return row;
  };
  const copyRow = async (id: string): Promise<CopyRow> => {
    const [row] = await database.rows<CopyRow>(`${SELECT_COPIES} where id = $1`, [id]);
    if (!row) throw new Failure('not-found', 'This copy is not on the list any more: it was derived again or withdrawn.');
    return row;
  };
  /**
   * The copy that stands in the place of one: itself, or the one that was derived of its recipe meanwhile. Who asks for it to be
   * derived or checked means what there is of it now, as who withdraws it does.
   */
  const rowNow = async (id: string): Promise<CopyRow> => {
    const [row] = await database.rows<CopyRow>(`${SELECT_COPIES} where recipe = (select recipe from copy where copy.id = $1)`, [
      id,
    ]);
    if (!row) throw new Failure('not-found', 'This copy is not on the list any more: it was withdrawn.');
    return row;
  };
  const turnOf = async (master: string) => ({ queueKey: master, large: (await masterRow(master)).objects > LARGE });

  on(router, 'targets', async () => ({
    targets: declarations().map((declaration) => {
      const standard = parseOptions(declaration, {});
      return {
        id: declaration.id,
        label: declaration.label,
        standard: declaration.standard,
        group: declaration.use(standard),
        also: USES.flatMap((group) => {
          const options = declaration.alsoFor?.[group];
          return options ? [{ group, options: { ...options } }] : [];
        }),
        extension: declaration.extension(standard),
        version: declaration.versions?.option ?? null,
        many: declaration.holds.leaves === 'many',
        whole: declaration.renditions !== undefined,
        says: declaration.renditions ? [...PART_LISTS] : listsOf(declaration, standard),
        options: optionFields(declaration).map((field) => ({ ...field, choices: [...field.choices] })),
        features: optionalFeatures(declaration),
        shrinks: (declaration.smaller?.length ?? 0) > 0,
      };
    }),
  }));

  on(router, 'carry', async ({ params, body }) => {
    const { words, occurs, rungs } = await compute.run('carry', { ...body, master: params['id']! }, await turnOf(params['id']!));
    return {
      words,
      occurs,
      rungs: rungs.map(({ report, ...rest }) => ({
        ...rest,
        report: { ...report, lines: report.lines.map((line) => ({ ...line, objects: [...line.objects] })) },
      })),
    };
  });

  on(router, 'fit', async ({ params, body, response }) => {
    // Who stops it, or leaves, waits no more.
    const gone = new AbortController();
    response.once('close', () => gone.abort());
    const turn = { ...(await turnOf(params['id']!)), signal: gone.signal, limit: FIT_LIMIT };
    return compute.run('fit', { ...body, master: params['id']! }, turn);
  });

  on(router, 'machineFit', async ({ params, body }) =>
    compute.run('machineFit', { ...body, master: params['id']! }, await turnOf(params['id']!)),
  );

  on(router, 'foresee', async ({ params, body, request, response }) => {
    const data = { ...body, master: params['id']!, leaf: leafOf(request) };
    await sendPacked(request, response, await compute.run('foresee', data, await turnOf(params['id']!)));
  });

  on(router, 'copyName', async ({ params, body }) => {
    const master = await masterRow(params['id']!);
    const recipe = fittedTo(recipeOf(body.target, body.options, body.scope, undefined, body.choices), master.parts);
    const wanted = plainName(master, recipe, body.label, master.head, await namingOfHouse(database));
    const { files, about } = await compute.run('folder', { folder: master.folder, file: wanted }, { queueKey: master.id });
    return {
      wanted,
      file: freeName(wanted, [...files, ...(await namesOnRecord(database, master.id))]),
      standing: await standingFile(database, master, wanted, about),
    };
  });

  on(router, 'addRecipe', async ({ params, body }) => {
    const master = await masterRow(params['id']!);
    // By their ids, so that the copy keeps to its parts when they get other names.
    const asked = fittedTo(recipeOf(body.target, body.options, body.scope, newId(), body.choices), master.parts);
    const recipe = { ...asked, scope: fixedScope(master.parts, asked.scope) };
    assertHolds(recipe, master.parts);
    if (body.password !== null) assertMayLock(recipe, body.password);
    // The recipe and the job in one transaction: what was answered is never forgotten.
    const job = await database.transaction(async (client) => {
      await addRecipe(client, master.id, body.label, recipe, { ...body, replaces: body.replace });
      return jobs.derive(master.id, recipe.id, body.label, client);
    });
    await jobs.event({ kind: 'copies', master: master.id });
    return { recipe: recipe.id, job };
  });

  on(router, 'addVariants', async ({ params, body }) => {
    const master = await masterRow(params['id']!);
    const wanted = body.rows && new Set(body.rows);
    const all = await compute.run(
      'variants',
      { master: master.id, table: body.table, serial: body.serial },
      await turnOf(master.id),
    );
    const asked = fittedTo(recipeOf(body.target, body.options, body.scope, undefined, body.choices), master.parts);
    const scope = fixedScope(master.parts, asked.scope);
    assertHolds({ ...asked, scope }, master.parts);
    if (body.password !== null) assertMayLock(asked, body.password);
    const known = await variantsAskedFor(database, master.id, body.table, { ...asked, scope });
    const rows = all
      .filter(({ row }) => !wanted || wanted.has(row))
      .map((one) => (known.has(one.row) ? { ...one, problem: `It has its copy already: “${known.get(one.row)}”.` } : one));
    const failed = rows.filter(({ problem }) => problem);
    const good = rows.filter(({ problem }) => !problem);
    if (!good.length) throw new Failure('variant-invalid', failed[0]?.problem ?? 'The table has no rows: each becomes a copy.');
    const series = newId();
    const job = await database.transaction(async (client) => {
      await addSeries(client, { id: series, master: master.id, label: body.label });
      for (const { row, name } of good) {
        const recipe = recipeOf(body.target, body.options, scope, newId(), body.choices, { table: body.table, row });
        const { password, eachUpdate } = body;
        await addRecipe(client, master.id, `${body.label} ${name}`.slice(0, 120), recipe, { series, password, eachUpdate });
      }
      return jobs.series(master.id, series, body.label, client);
    });
    await jobs.event({ kind: 'copies', master: master.id });
    return { series, job, count: good.length, failed };
  });

  on(router, 'lockCopy', async ({ params, body: { password } }) => {
    const row = await rowNow(params['id']!);
    if (password !== null) assertMayLock(recipeOfRow(row), password);
    const job = await database.transaction(async (client) => {
      await client.query('update recipe set password = $2 where id = $1', [row.recipe, password]);
      return jobs.derive(row.master, row.recipe, row.label, client);
    });
    await jobs.event({ kind: 'copies', master: row.master });
    return { job };
  });
  on(router, 'orderCopy', async ({ params, body: { eachUpdate } }) => {
    const row = await rowNow(params['id']!);
    await database.query('update recipe set each_update = $2 where id = $1', [row.recipe, eachUpdate]);
    if (eachUpdate) await jobs.orders(row.master);
    await jobs.event({ kind: 'copies', master: row.master });
    return { copy: viewOfRow(await copyRow(row.id)) };
  });
  on(router, 'deriveAgain', async ({ params }) => {
    const row = await rowNow(params['id']!);
    const job = await jobs.derive(row.master, row.recipe, row.label);
    await jobs.event({ kind: 'copies', master: row.master });
    return { job };
  });
  on(router, 'deriveRecipe', async ({ params }) => ({ job: await deriveRecipe(database, jobs, params['id']!) }));
  on(router, 'removeRecipe', async ({ params }) => {
    await removeRecipe(database, jobs, params['id']!);
    return { done: true as const };
  });
  on(router, 'deriveBehind', async ({ body }) => ({ count: await deriveBehind(database, jobs, body.masters) }));

  on(router, 'deriveMany', async ({ body }) => {
    const { rules } = await houseOf(database);
    return deriveMany(database, jobs, rules, [...new Set(body.masters)], [...new Set(body.settings)]);
  });

  on(router, 'check', async ({ params }) => {
    const row = await rowNow(params['id']!);
    return { job: await jobs.checkNow(row.master, [row.id]) };
  });
  on(router, 'checkAll', async ({ params }) => ({ job: await workshop.checkAll((await masterRow(params['id']!)).id) }));
  on(router, 'match', async ({ params, request, response }) => {
    const row = await copyRow(params['id']!);
    const packed = await compute.run('match', { copy: row.id, leaf: leafOf(request) }, await turnOf(row.master));
    await sendPacked(request, response, packed);
  });

  on(router, 'openedBy', async ({ params }) => {
    const row = await copyRow(params['id']!);
    return compute.run('openedBy', { copy: row.id, reader: params['reader']! }, await turnOf(row.master));
  });

  on(router, 'accept', async ({ params, body }) => {
    const { id, master } = await copyRow(params['id']!);
    await compute.run('accept', { copy: id, ...body }, await turnOf(master));
    await jobs.event({ kind: 'copies', master });
    return { copy: viewOfRow(await copyRow(id)) };
  });
  on(router, 'withdraw', async ({ params }) => {
    await withdraw(database, jobs, params['id']!);
    return { done: true as const };
  });
  on(router, 'restoreCopy', async ({ params }) => {
    await restoreCopy(database, jobs, params['id']!);
    return { done: true as const };
  });

  on(router, 'withdrawSeries', async ({ params }) => ({ copies: await withdrawSeries(database, jobs, params['id']!) }));
  on(router, 'restoreSeries', async ({ body }) => {
    for (const copy of body.copies) await restoreCopy(database, jobs, copy);
    return { done: true as const };
  });

  on(router, 'file', async ({ params, request, response }) => {
    const row = await copyRow(params['id']!);
    const { part } = request.query;
    const { file, sha256 } = part === undefined ? row : (row.parts.find((one) => one.file === part) ?? { file: '', sha256: '' });
    if (!file) throw new Failure('not-found', 'This copy has no such file.');
    response.attachment(file).type(FILE_TYPE).set(SANDBOX);
    await sendChunks(response, blobChunks(database, sha256));
  });

  on(router, 'copiesZip', async ({ params, response }) => {
    const master = await masterRow(params['id']!);
    const rows = await database.rows<CopyRow>(`${SELECT_COPIES} where master = $1 ${IN_ORDER}`, [master.id]);
    if (!rows.length) throw new Failure('not-found', 'Nothing is derived from this master yet.');
    const [{ title } = { title: '' }] = await database.rows<{ title: string }>('select title from master where id = $1', [
      master.id,
    ]);
    response
      .attachment(fileName('{title}', { title: `${title} copies` }, 'zip'))
      .type(FILE_TYPE)
      .set(SANDBOX);
    await sendChunks(response, copiesAsZip(database, { title, head: master.head }, rows));
  });

  on(router, 'copyPicture', async ({ params, response }) => {
    const { target, sha256 } = await copyRow(params['id']!);
    const { mediaType } = declarationOf(target);
    if (!isShown(target)) throw new Failure('not-found', 'Browsers don’t show this copy as a picture.');
    response.type(mediaType).set(SANDBOX);
    await sendChunks(response, blobChunks(database, sha256));
  });

  on(router, 'work', async () => ({ ...(await atWork(database)), demo: await workshop.demoProgress() }));
  on(router, 'cancel', async ({ params }) => {
    await jobs.cancel(params['id']!);
    return { done: true as const };
  });
}
