import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { choose, TestWorkshop } from './workshop';

let workshop: TestWorkshop;
let file: string;
test.beforeEach(async ({}, info) => {
  workshop = await TestWorkshop.emptyFor(info);
  file = info.outputPath('north rack.csv');
  const rows = Array.from(
    { length: 40 },
    (_, i) => `P-${String(i + 1).padStart(2, '0')};0${1 + (i % 9)}.04.2026;${80 - i},5;${60 + (i % 7)},25`,
  );
  writeFileSync(file, ['Panel;Day;Gloss before (GU);Gloss after (GU)', ...rows].join('\r\n'));
});
test.afterEach(() => workshop.leave());

test('a file of cells is confirmed, comes in, is edited by keys, computed, derived, and a copy false by one digit is found', async ({
  page,
  context,
}) => {
  const broken: string[] = [];
  page.on('pageerror', (error) => broken.push(error.message));
  // A machine that is never at rest.
  await page.addInitScript(() => (window.requestIdleCallback = () => 0));
  await page.goto(workshop.url);
  // What comes in by then moves what is clicked.
  await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
  await page.locator('input[type=file]').first().setInputFiles(file);
  const look = page.getByRole('region', { name: 'How the file is read' });
  await expect(look.getByRole('cell', { name: '2026-04-01' }).first()).toBeVisible();
  // A day and a month that could be each other are a guess, and said to be one.
  await expect(look.getByText('a guess').first()).toBeVisible();
  await choose(look, 'Dates', '4/3/2026: month first');
  await expect(look.getByRole('cell', { name: '2026-01-04' }).first()).toBeVisible();
  await choose(look, 'Dates', '3.4.2026: day first');
  await expect(look.getByRole('cell', { name: '2026-04-01' }).first()).toBeVisible();
  await look.getByRole('button', { name: 'Bring it in' }).click();
  await page.getByRole('link', { name: 'north rack', exact: true }).first().click();

  const face = page.locator('twin-table-face');
  const cell = (row: string, at: number) => face.locator('.tabulator-row', { hasText: row }).locator('.tabulator-cell').nth(at);
  await expect(cell('P-01', 3)).toHaveText('80.5');
  await page.keyboard.press('1');
  // A double click opens a cell; what is typed over a chosen one replaces it.
  await cell('P-02', 3).dblclick();
  await page.keyboard.type('77,25');
  await page.keyboard.press('Enter');
  await expect(cell('P-02', 3)).toHaveText('77.3');
  await cell('P-03', 4).click();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.type('61');
  await page.keyboard.press('Enter');
  await expect(cell('P-04', 4)).toHaveText('61.00');
  await expect(page.getByText('2 changes since r1')).toBeVisible();

  // A column that is computed, and a summary of it.
  await face.locator('.tabulator-col', { hasText: 'Gloss after' }).click();
  await face.getByRole('button', { name: 'Column after it' }).click();
  await face.locator('.tabulator-col', { hasText: 'Column 5' }).click();
  const slip = face.locator('twin-table-slip');
  await slip.getByLabel('Name').fill('Loss');
  await slip.getByLabel('Name').blur();
  await slip.getByLabel('Computed as').fill('Gloss_before - Glos_after');
  await slip.getByLabel('Computed as').blur();
  await expect(slip.getByRole('alert')).toContainText('no column or summary “Glos_after”');
  await slip.getByLabel('Computed as').fill('Gloss_before - Gloss_after');
  await slip.getByLabel('Computed as').blur();
  await expect(cell('P-01', 5)).toHaveText('20.25');
  await slip.getByRole('button', { name: 'Mean of it' }).click();
  await expect(face.getByRole('button', { name: /Mean of Loss/ })).toBeVisible();
  const mean = await face.getByRole('button', { name: /Mean of Loss/ }).textContent();
  await slip.getByRole('button', { name: 'Close' }).click();

  // Cells of a spreadsheet are pasted over a range and beyond its end.
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await cell('P-05', 3).click();
  await page.evaluate(() => navigator.clipboard.writeText('70,5\t50\n71\t51\n'));
  await page.keyboard.press('Control+V');
  await expect(cell('P-06', 4)).toHaveText('51.00');
  await expect(cell('P-05', 5)).toHaveText('20.5');
  expect(await face.getByRole('button', { name: /Mean of Loss/ }).textContent()).not.toBe(mean);
  await page.keyboard.press('Control+Z');
  await expect(cell('P-06', 4)).toHaveText('65.25');
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(cell('P-06', 4)).toHaveText('51.00');

  await page.getByLabel('What this update is about').fill('Loss of gloss');
  await page.getByRole('button', { name: /Update master/ }).click();
  await expect(page.getByText('all changes are in r2')).toBeVisible();

  await page.reload();
  await expect(cell('P-06', 4)).toHaveText('51.00');
  await page.keyboard.press('2');
  await page.getByRole('button', { name: 'Derive …' }).click();
  const panel = page.locator('twin-derive-panel');
  await expect(panel.getByText(/Workbook/).first()).toBeVisible();
  await panel.getByRole('radio', { name: 'As data' }).first().click();
  await expect(panel.getByText(/Formulas, 1/)).toBeVisible();
  await page.locator('twin-derive-panel').getByLabel('Name', { exact: true }).fill('for the laboratory');
  await panel.getByRole('button', { name: /^Write/ }).click();
  const copy = page.locator('twin-copies-lane').getByText('for the laboratory').first();
  await expect(copy).toBeVisible();
  const folder = join(workshop.shelf, 'north_rack');
  const name = () => readdirSync(folder).find((one) => one.endsWith('.csv') || one.endsWith('.json'));
  await expect.poll(name).toBeTruthy();
  const path = join(
    folder,
    readdirSync(folder).find((one) => one.startsWith('for_the_laboratory') && one.endsWith('.csv'))!,
  );
  writeFileSync(path, readFileSync(path, 'utf8').replace('P-07,2026-04-07,74.5', 'P-07,2026-04-07,79.5'));
  await copy.click();
  const lane = page.locator('twin-match-lane');
  await expect(lane.getByText('Touched.')).toBeVisible();
  await expect(lane.getByText('master 74.5, copy 79.5')).toBeVisible();
  await lane.getByRole('button', { name: 'value changed' }).click();
  await expect(lane.locator('td.chosen')).toContainText('79.5');
  expect(broken).toEqual([]);
});
