import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { newMaster, writePackage } from '../packages/core/src';
import { TestWorkshop } from './workshop';

let workshop: TestWorkshop;
let file: string;
test.beforeEach(async ({}, info) => {
  workshop = await TestWorkshop.emptyFor(info);
  const plate = newMaster('0f1d7c1e-1111-4a1b-9c1d-0000000d0013', 'Gate plate', 'Ines Okoro', 'panel', {});
  plate.boards[0]!.items = [
    {
      kind: 'text',
      id: 'name',
      layer: plate.layers[0]!.id,
      style: { fill: '#14213a', stroke: null, strokeWidth: 0 },
      text: 'North gate',
      x: 20,
      y: 40,
      size: 20,
      font: 'Commissioner',
      align: 'start',
    },
  ];
  file = info.outputPath('gate plate.inkwell');
  writeFileSync(file, writePackage({ master: plate, rev: 1, time: '2026-05-04T08:10:00Z', history: null, resources: new Map() }));
});
test.afterEach(() => workshop.leave());

test('how a copy is made is kept under a name, for others and for many; a copy gets a lock, and loses it', async ({
  page,
  browser,
}) => {
  const broken: string[] = [];
  page.on('pageerror', (error) => broken.push(error.message));
  await page.goto(workshop.url);
  await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
  const vane = 'packages/core/test/fixtures/weathervane.svg';
  await page.locator('input[type=file]').first().setInputFiles(vane);
  await expect(page.getByText('is a master now')).toBeVisible();
  await page.locator('input[type=file]').first().setInputFiles(file);
  await page.getByRole('link', { name: 'Gate plate', exact: true }).first().click();
  await page.getByRole('button', { name: 'Derive …' }).click();
  const panel = page.locator('twin-derive-panel');
  await panel.getByRole('radio', { name: 'PDF pages' }).check();
  await panel.getByRole('button', { name: /^More/ }).click();
  // Nothing is asked that says nothing of this board: it has neither texts nor pictures.
  await expect(panel.getByLabel('bleed', { exact: true })).toBeVisible();
  await expect(panel.getByLabel('letters', { exact: true })).toHaveCount(0);
  await expect(panel.getByLabel('fineness', { exact: true })).toHaveCount(0);
  await panel.getByRole('radio', { name: 'A-2b: to keep for good' }).check();
  await expect(panel.getByLabel('Password')).toHaveCount(0);
  await panel.getByRole('button', { name: 'Keep these settings …' }).click();
  await panel.getByLabel('Settings called').fill('For the records');
  await panel.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(panel.getByText('Kept as “For the records”')).toBeVisible();

  await panel.getByRole('radio', { name: '1.7: for most' }).check();
  await panel.getByLabel('Password').fill('short');
  await expect(panel.getByText('5 letters is soon found')).toBeVisible();
  await panel.getByLabel('Password').fill('reed warbler north');
  // Of what was chosen on the board, as large as that.
  await expect(panel.getByRole('radio', { name: /^What is chosen/ })).toHaveCount(0);
  // The bytes are looked at before any are kept.
  await panel.getByRole('button', { name: 'See it as the copy will be' }).click();
  await expect(panel.getByText('Read back, it says all that the master says of this part.')).toBeVisible();
  await panel.getByRole('radio', { name: 'outlines', exact: true }).check();
  await expect(panel.getByText('Against the master itself:')).toBeVisible();
  await expect(panel.locator('twin-match-list')).toContainText('North gate');
  await panel.getByRole('radio', { name: 'text', exact: true }).check();
  await expect(panel.getByText('Read back, it says all that the master says of this part.')).toBeVisible();
  await panel.getByRole('button', { name: 'Look no more at the copy as it will be' }).click();
  await panel.getByLabel('Name', { exact: true }).fill('for the smith');
  await panel.getByRole('button', { name: 'Write copy' }).click();
  const copies = page.locator('twin-copies-lane');
  await copies.locator('[data-copy="for the smith"]').click();
  const match = page.locator('twin-match-lane');
  await expect(match.getByText('opens with a password')).toBeVisible();
  await expect(match.locator('.verdict')).toContainText('In step');
  const folder = readdirSync(workshop.shelf).find((name) => name.startsWith('gate_plate'))!;
  const isLocked = (name: string): boolean => readFileSync(join(workshop.shelf, folder, name)).includes('/Encrypt');
  expect(isLocked('for_the_smith_r1.pdf')).toBe(true);
  await match.getByRole('button', { name: 'With each update' }).click();
  await expect(match.getByText('written again with each update')).toBeVisible();
  await match.getByRole('button', { name: 'Change …' }).click();
  await match.getByRole('button', { name: 'Take the lock off' }).click();
  await expect(match.getByText('opens without a password')).toBeVisible();
  expect(isLocked('for_the_smith_r1.pdf')).toBe(false);

  // Somebody else derives by those settings: one master here, several at once on the Desk.
  const other = await (await browser.newContext()).newPage();
  await other.goto(workshop.url);
  await other.getByRole('button', { name: 'Choose several' }).click();
  await other.getByRole('button', { name: /^All \d+ shown/ }).click();
  await other.getByRole('button', { name: 'Derive them …' }).click();
  await other.getByRole('checkbox', { name: /For the records/ }).check();
  await other.getByRole('button', { name: 'Derive 2 masters' }).click();
  await expect(other.getByText('2 copies are being derived.')).toBeVisible();
  await expect(copies.locator('[data-copy="For the records"]')).toBeVisible();
  await other.getByRole('button', { name: 'Derive 2 masters' }).click();
  await expect(other.getByText('It has this copy already.')).toHaveCount(2);
  expect(broken).toEqual([]);
});

test('a master is laid into an archive package that is held against its checksums', async ({ page }) => {
  await page.goto(workshop.url);
  await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
  await page.locator('input[type=file]').first().setInputFiles(file);
  await page.getByRole('link', { name: 'Gate plate', exact: true }).first().click();
  await page.getByRole('button', { name: 'Derive …' }).click();
  const panel = page.locator('twin-derive-panel');
  await panel.getByRole('radio', { name: 'To keep for good' }).check();
  // Pages for that purpose are of the grade that is for it, without a question.
  await expect(panel.getByRole('radio', { name: 'PDF pages' })).toBeChecked();
  await expect(panel.locator('code')).toContainText('_a-2b.pdf');
  await panel.getByRole('radio', { name: 'Archive package' }).check();
  await expect(panel.getByText('as it is: it opens again from here')).toBeVisible();
  await panel.getByRole('button', { name: 'Write copy' }).click();
  const copies = page.locator('twin-copies-lane');
  await copies.locator('[data-copy="Archive package"]').click();
  const match = page.locator('twin-match-lane');
  await expect(match.getByText('each file beside it is as it was laid in')).toBeVisible();
  const folder = join(
    workshop.shelf,
    readdirSync(workshop.shelf).find((name) => name.startsWith('gate_plate'))!,
  );
  const name = readdirSync(folder).find((one) => one.endsWith('.zip'))!;
  const bytes = readFileSync(join(folder, name));
  const at = bytes.indexOf('%PDF-1.7') + 200;
  bytes[at]! ^= 1;
  writeFileSync(join(folder, name), bytes);
  await match.getByRole('button', { name: 'Check now' }).click();
  await expect(match.locator('.verdict')).toContainText('Touched');
  await expect(match.getByText(/renditions\/.*\.pdf is not as its checksum says/).first()).toBeVisible();
});
