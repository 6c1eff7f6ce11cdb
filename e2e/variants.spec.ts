import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { type Master, newMaster, writePackage } from '../packages/core/src';
import { TestWorkshop } from './workshop';

let workshop: TestWorkshop;
let file: string;
test.beforeEach(async ({}, info) => {
  workshop = await TestWorkshop.emptyFor(info);
  const blank = newMaster('0f1d7c1e-1111-4a1b-9c1d-0000000d0012', 'Door plate', 'Ines Okoro', 'panel', {});
  const plate: Master = {
    ...blank,
    parameters: [
      { id: 'who', name: 'who', value: 'Hanne Vik', measure: 'text' },
      { id: 'size', name: 'letter_size', value: 20, measure: 'length' },
    ],
    boards: blank.boards.map((board) => ({
      ...board,
      items: [
        {
          kind: 'text',
          id: 'name',
          layer: blank.layers[0]!.id,
          style: { fill: '#14213a', stroke: null, strokeWidth: 0 },
          text: '{who}',
          slots: true,
          x: 20,
          y: 40,
          size: 20,
          formulas: { size: 'letter_size' },
          font: 'Commissioner',
          align: 'start',
        },
      ],
    })),
  };
  file = info.outputPath('door plate.inkwell');
  writeFileSync(file, writePackage({ master: plate, rev: 1, time: '2026-05-04T08:10:00Z', history: null, resources: new Map() }));
});
test.afterEach(() => workshop.leave());

test('parameters get a table, each row of which becomes a copy of its own that is held against it', async ({ page, context }) => {
  const broken: string[] = [];
  page.on('pageerror', (error) => broken.push(error.message));
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await page.goto(workshop.url);
  await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
  await page.locator('input[type=file]').first().setInputFiles(file);
  await page.getByRole('link', { name: 'Door plate', exact: true }).first().click();
  await page.getByRole('button', { name: 'Parameters' }).click();
  await page.getByRole('button', { name: 'Make a table of variants' }).click();

  const face = page.locator('twin-table-face');
  await expect(face.getByText('Hanne Vik')).toBeVisible();
  await page.evaluate(() => navigator.clipboard.writeText('Hanne Vik\t20\nÓscar Lind\t24\nLone Berg\t\nOle Sand\t20'));
  await face.getByText('Hanne Vik').click();
  await page.keyboard.press('Control+v');
  await expect(face.getByText('Ole Sand')).toBeVisible();
  await page.getByRole('button', { name: 'Update master (r2)' }).click();
  await expect(page.getByText('all changes are in r2')).toBeVisible();

  await page.getByRole('button', { name: 'Derive …' }).click();
  const panel = page.locator('twin-derive-panel');
  await expect(panel.getByRole('radio', { name: 'One for each row of Variants: 4' })).toBeChecked();
  const rows = panel.getByRole('list', { name: 'Rows' });
  await expect(rows).toContainText('letter_size is empty');
  await expect(panel.locator('twin-variant-tile')).toHaveCount(3);
  await rows.getByRole('checkbox', { name: 'Ole Sand' }).uncheck();
  await panel.getByLabel('Name', { exact: true }).fill('plate');
  await panel.getByLabel('numbered from').fill('07');
  await expect(panel.locator('code')).toContainText('plate_07_hanne_vik_r2.svg');
  await panel.getByLabel('numbered from').fill('');
  await expect(panel.locator('code')).toContainText('plate_hanne_vik_r2.svg');
  await panel.getByRole('button', { name: 'Write 2 copies' }).click();

  const copies = page.locator('twin-copies-lane');
  const series = copies.locator('[data-series="plate"]');
  await expect(series).toContainText('2 variants: 2 in step');
  await series.click();
  await expect(copies.locator('[data-copy="plate Óscar Lind"]')).toContainText('plate_oscar_lind_r2.svg');
  const [folder] = readdirSync(workshop.shelf).filter((name) => name.startsWith('door_plate'));
  const written = (name: string) => readFileSync(join(workshop.shelf, folder!, name), 'utf8');
  expect(written('plate_oscar_lind_r2.svg')).toContain('Óscar Lind');
  expect(written('plate_hanne_vik_r2.svg')).toContain('Hanne Vik');

  // One name is written otherwise: its copy would fall behind while it is typed, and does after the update; the other one does not.
  await page.getByRole('tab', { name: 'Variants' }).click();
  await face.getByText('Óscar Lind').dblclick();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('Oscar Lind');
  await page.keyboard.press('Enter');
  await expect(series).toContainText('1 behind, 1 in step');
  await page.getByRole('button', { name: 'Update master (r3)' }).click();
  await expect(copies.getByText('1 is behind')).toBeVisible();
  await copies.getByRole('button', { name: 'Derive it again' }).click();
  await expect(series).toContainText('2 variants: 2 in step');
  // All of them go together, and come back.
  await copies.getByRole('button', { name: 'Withdraw all 2' }).click();
  await expect(series).toBeHidden();
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click();
  await expect(series).toContainText('2 variants: 2 in step');
  expect(broken).toEqual([]);
});
