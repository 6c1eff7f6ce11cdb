import type { Router } from 'express';
import { Failure, fileName, houseRulesText } from '@inkwell-twin/core';
import { houseOf, keepPreset, sayHouse, wrongNames } from '../house/house';
import type { Workshop } from '../workshop';
import { SANDBOX, on, personOf } from './handle';

export function houseRoutes(router: Router, { database, shelf, jobs }: Workshop): void {
  on(router, 'house', () => houseOf(database));
  on(router, 'sayHouse', async ({ body, request }) => {
    const said = await sayHouse(database, body.rules, personOf(request).name, body.knows);
    await jobs.event({ kind: 'again', master: '' });
    return said;
  });
  on(router, 'keepPreset', async ({ body, request }) => {
    const said = await keepPreset(database, body.preset, personOf(request).name, body.replace);
    await jobs.event({ kind: 'again', master: '' });
    return said;
  });
  on(router, 'houseFile', async ({ response }) => {
    const { rules } = await houseOf(database);
    // eslint-disable-next-line no-restricted-syntax -- the ending of a file of rules
    const name = fileName('{title}', { title: `house rules ${rules.house}` }, 'json');
    response.attachment(name).type('application/json').set(SANDBOX).send(houseRulesText(rules));
  });
  on(router, 'wrongNames', async ({ params }) => {
    const id = params['id']!;
    const [row] = await database.rows<{ folder: string }>('select folder from master where id = $1', [id]);
    if (!row) throw new Failure('not-found', 'There is no such master on this Desk.');
    return { names: await wrongNames(database, id, shelf.masterFile(row.folder)) };
  });
}
