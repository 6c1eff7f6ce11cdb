import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { houseRules } from '../packages/core/src';
import { choose, chooseAct, TestWorkshop } from './workshop';

let workshop: TestWorkshop;
test.beforeAll(async () => {
  workshop = await TestWorkshop.open('house_e2e');
});
test.afterAll(() => workshop.close());

test('a house says its rules; a master is held against them and mended, names follow, and the rules travel as a file', async ({
  page,
  browser,
}) => {
  await page.goto(workshop.url);
  await page.getByRole('link', { name: 'House rules' }).click();
  await chooseAct(page, 'Take standards from a master', 'Boardwalk waymarker');
  await expect(page.getByLabel('Name of layer 2')).toHaveValue('Vinyl lettering');
  await page.getByLabel('Name of layer 2').fill('Vinyl');
  await page.getByLabel('Widths of lines').fill('0.25, nothing');
  await page.getByLabel('Widths of lines').blur();
  await expect(page.getByRole('alert')).toContainText('is not a number');
  await page.getByLabel('Widths of lines').fill('0,25 0.5 mm 1');
  await page.getByLabel('Widths of lines').blur();
  await expect(page.getByRole('alert')).toContainText('is not a number');
  await page.getByLabel('Widths of lines').fill('0,25 0.5 1');
  await page.getByLabel('Widths of lines').blur();
  await page.getByLabel('Take out Commissioner', { exact: true }).click();
  await choose(page, 'Words of names', 'CamelParts');
  await page.getByPlaceholder('whose rules these are').fill('Lantern Fen Trust');
  await expect(page.locator('.example')).toContainText('MetalShopDrawing_Front_r7_R12.ending');

  // Somebody else keeps other rules first: these are still here, and nothing of the other's is written over.
  const other = await (await browser.newContext()).newPage();
  await other.goto(`${workshop.url}/house`);
  await choose(other, 'Between parts', '-');
  await other.getByRole('button', { name: 'Keep these rules' }).click();
  await expect(other.getByRole('status')).toContainText('Kept.');
  await page.getByRole('button', { name: 'Keep these rules' }).click();
  await expect(page.getByRole('alert')).toContainText('changed the house rules meanwhile');
  await expect(page.getByLabel('Name of layer 2')).toHaveValue('Vinyl');
  await expect(page.getByRole('button', { name: 'Take those, and leave mine' })).toBeVisible();
  await choose(other, 'Between parts', '_');
  await other.close();

  // Taken along and brought in: a file says them all.
  const taken = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Export as a file' }).click();
  const theirs = houseRules(JSON.parse(readFileSync(await (await taken).path(), 'utf8')));
  expect(theirs.names.separator).toBe('-');
  await page.getByRole('button', { name: 'Take those, and leave mine' }).click();
  await expect(page.getByLabel('Between parts')).toHaveText('-');
  const file = join(workshop.shelf, '..', `rules-${process.pid}.json`);
  const names = { ...theirs.names, separator: '_', letters: 'CamelParts' };
  const layers = [
    { name: 'Panel', process: 'route', colour: '#14213a' },
    { name: 'Vinyl', process: 'cut', colour: '#2b4180' },
    { name: 'Reeds', process: 'print', colour: '#127a68' },
  ];
  const rules = { ...theirs, names, layers, house: 'Lantern Fen Trust', widths: [0.25, 0.5, 1], fonts: ['Commissioner Bold'] };
  writeFileSync(file, JSON.stringify(rules));
  await page.getByLabel('File of house rules').setInputFiles(file);
  await expect(page.getByRole('status')).toContainText('They count once they are kept');
  // The connection comes back while they are kept: what is read then is one's own, and not somebody else's.
  await page.route('**/api/house', async (route) => {
    if (route.request().method() === 'GET') return route.continue();
    const answer = await route.fetch();
    await page.evaluate(() => {
      new BroadcastChannel('inkwell-events').postMessage({ kind: 'told', event: { kind: 'again', master: '' } });
    });
    // Long enough for what would be asked to be answered: a page that asks nothing gives no sign.
    await page.evaluate(() => fetch('/api/house').then((one) => one.json()));
    await route.fulfill({ response: answer });
  });
  await page.getByRole('button', { name: 'Keep these rules' }).click();
  await expect(page.getByText('Kept. New copies')).toBeVisible();
  await expect(page.getByText('changed the rules meanwhile')).toBeHidden();
  await page.unroute('**/api/house');
  writeFileSync(file, '{"format": "other"}');
  await page.getByLabel('File of house rules').setInputFiles(file);
  await expect(page.getByRole('alert')).toContainText('These are no house rules');

  await page.getByRole('link', { name: 'Back to the Desk' }).click();
  await page.getByRole('link', { name: 'Boardwalk waymarker', exact: true }).click();
  await page.getByRole('button', { name: 'Contents' }).click();
  await page.getByRole('button', { name: 'Hold against the house rules' }).click();
  const pane = page.locator('twin-rules');
  await expect(pane).toContainText('5 objects with a line of 0.4 mm; the house draws 0.25, 0.5, 1 mm.');
  await pane.getByRole('button', { name: 'Hole 2 of 5' }).click();
  await expect(page.locator('twin-slip')).toContainText('Hole 2 of 5');
  await pane.getByRole('button', { name: /Layer “Vinyl lettering” called “Vinyl”/ }).click();
  await expect(pane).not.toContainText('Vinyl lettering');
  await pane.getByRole('button', { name: /at once/ }).click();
  await expect(pane).not.toContainText('objects with a line');
  await expect(pane).toContainText('The file boardwalk_waymarker.inkwell is not called as the house writes names.');
  await page.getByLabel('What this update is about').fill('As the house has it');
  await page.getByRole('button', { name: /Update master/ }).click();
  await expect(page.getByText('all changes are in r7')).toBeVisible();

  // The names of the new revision have come before anything is held.
  const again = pane.getByRole('button', { name: /derive it again as TrailWebPage_r7/ });
  await expect(again).toBeVisible();
  // What is listed moves once the names have come: until then none of it can be pressed.
  let release = (): void => undefined;
  const held = new Promise<void>((done) => (release = done));
  await page.route('**/wrong-names', (route) => held.then(() => route.continue()));
  const moved = page.waitForResponse(/\/place$/);
  await pane.getByRole('button', { name: /call it BoardwalkWaymarker.inkwell/ }).click();
  await moved;
  await expect(page.getByRole('banner').getByText('BoardwalkWaymarker.inkwell', { exact: true })).toBeVisible();
  await expect.poll(() => existsSync(join(workshop.shelf, 'BoardwalkWaymarker/BoardwalkWaymarker.inkwell'))).toBe(true);
  await expect(again).toBeDisabled();
  release();
  await again.click();
  await expect(page.locator('[data-copy="trail web page"]')).toContainText('TrailWebPage_r7');
  await page.getByRole('button', { name: 'Derive …' }).click();
  await page.locator('twin-derive-panel').getByLabel('Name', { exact: true }).fill('for the joiner');
  await page.getByRole('button', { name: 'Write copy' }).click();
  await expect(page.locator('[data-copy="for the joiner"]')).toContainText('ForTheJoiner_r7');
});
