import type { Router } from 'express';
import { Failure, TARGETS, boardOf, ladderInWords, newId, optionValues, parseOptions, recipeOf } from '@inkwell-twin/core';
import { blobChunks } from '../blobs/blobs';
import { dataOf } from '../copies/rows';
import type { Workshop } from '../workshop';
import { on } from './handle';

export function copyRoutes(router: Router, workshop: Workshop): void {
  const { masters, copies, compute, jobs, database } = workshop;
  const changed = (master: string) => workshop.events.send({ kind: 'copies', master });

  on(router, 'targets', async () => ({
    targets: TARGETS.map((target) => {
      const defaults = parseOptions(target, {});
      const options = Object.entries(target.options.shape).map(([name, schema]) => ({
        name,
        words: schema.description ?? '',
        values: [...optionValues(target, name)],
        standard: String(defaults[name]),
      }));
      return {
        id: target.id,
        label: target.label,
        standard: target.standard,
        group: target.purpose(defaults),
        extension: target.extension,
        options,
      };
    }),
  }));

  on(router, 'carry', async ({ params, body }) => {
    const master = await masters.load(params['id']!);
    const asked = recipeOf(body.target, body.options, body.board);
    const { versions } = asked.target;
    const rungs = [];
    for (const version of versions.length ? versions : [null]) {
      const recipe = version === null ? asked : recipeOf(body.target, { ...body.options, version }, body.board, newId());
      const { rev, time, master: document } = master.head;
      const { report, bytes } = await compute.run('carry', { master: document, rev, time, recipe: dataOf(recipe) });
      rungs.push({
        version: version ?? '',
        report: { ...report, lines: report.lines.map((line) => ({ ...line, objects: [...line.objects] })) },
        bytes,
      });
    }
    return { words: ladderInWords(rungs), rungs };
  });

  on(router, 'copyName', async ({ params, body }) => {
    const master = await masters.load(params['id']!);
    const recipe = recipeOf(body.target, body.options, body.board);
    const wanted = copies.plainName(master, recipe, body.label, master.head.rev);
    return { wanted, file: await copies.freeNameFor(master, wanted) };
  });

  on(router, 'addRecipe', async ({ params, body }) => {
    const master = await masters.load(params['id']!);
    // By its id, so that the copy keeps to its board when that gets another name.
    const { id: board } = boardOf(master.head.master, body.board);
    const recipe = recipeOf(body.target, body.options, board, newId());
    await copies.addRecipe(database.pool, master.id, body.label, recipe);
    const run = async () => {
      try {
        await copies.derive(master.id, recipe.id);
      } catch (error) {
        // A recipe that never gave a copy is in nobody's list.
        await copies.dropEmptyRecipe(recipe.id);
        throw error;
      }
    };
    const job = jobs.start(master.id, 'Deriving', [{ label: body.label, run }]);
    return { recipe: recipe.id, job };
  });

  on(router, 'deriveAgain', async ({ params }) => {
    const row = await copies.find(params['id']!);
    return {
      job: jobs.start(row.master, 'Deriving', [
        { label: row.label, run: async () => void (await copies.derive(row.master, row.recipe)) },
      ]),
    };
  });

  on(router, 'check', async ({ params }) => {
    const row = await copies.find(params['id']!);
    return { job: workshop.checkOne(row.id, row.master, row.file) };
  });
  on(router, 'checkAll', async ({ params }) => ({
    job: await workshop.checkAll((await masters.load(params['id']!)).id),
  }));
  on(router, 'match', async ({ params }) => copies.match(params['id']!));

  on(router, 'accept', async ({ params, body }) => {
    await copies.accept(params['id']!, body.by, body.reason);
    const row = await copies.find(params['id']!);
    changed(row.master);
    return { copy: copies.view(row, await masters.load(row.master)) };
  });
  on(router, 'withdraw', async ({ params }) => {
    const row = await copies.find(params['id']!);
    await copies.withdraw(row.id);
    changed(row.master);
    return { done: true as const };
  });

  on(router, 'file', async ({ params, response }) => {
    const row = await copies.find(params['id']!);
    response.attachment(row.file).type('application/octet-stream');
    for await (const chunk of blobChunks(database, row.sha256)) response.write(chunk);
    response.end();
  });

  on(router, 'cancel', async ({ params }) => {
    if (!params['id']) throw new Failure('not-found', 'There is no such job.');
    jobs.cancel(params['id']);
    return { done: true as const };
  });
}
