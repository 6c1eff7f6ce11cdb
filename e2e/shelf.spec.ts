import { existsSync, mkdirSync, readdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { type Page, expect, test } from '@playwright/test';
import { otterPlaque } from '../packages/demo/src/otter-plaque';
import { choose, chooseAct, TestWorkshop } from './workshop';

let workshop: TestWorkshop;
test.beforeAll(async () => {
  workshop = await TestWorkshop.open('shelf_e2e');
});
test.afterAll(() => workshop.close());

const row = (page: Page, title: string) =>
  page.locator('.rows li', { has: page.getByRole('link', { name: title, exact: true }) });
const withMaster = (page: Page, title: string, act: string): Promise<void> =>
  chooseAct(page, `What can be done with ${title}`, act);

test('masters are described together, moved and renamed with what stands there shown, and laid together by folder and keyword', async ({
  page,
}) => {
  await page.goto(workshop.url);
  await page.getByRole('button', { name: 'Choose several' }).click();
  await page.getByRole('button', { name: 'All 2 shown' }).click();
  await page.getByRole('button', { name: 'Describe them …' }).click();
  await page.getByLabel('Keywords').fill('Lantern Fen, lantern fen, signs');
  await page.getByLabel('Rights').fill('Lantern Fen Trust');
  await page.getByRole('button', { name: 'Say it of 2' }).click();
  await expect(row(page, 'Boardwalk waymarker')).toContainText('r7');
  await expect(row(page, 'Fen map leaflet')).toContainText('r5');
  await expect(row(page, 'Fen map leaflet').locator('.keywords button')).toHaveText(['Lantern Fen', 'signs']);

  await withMaster(page, 'Fen map leaflet', 'Describe …');
  await page.locator('twin-describe-form').getByRole('button', { name: 'signs' }).click();
  await page.getByRole('button', { name: 'Say it', exact: true }).click();
  await expect(row(page, 'Fen map leaflet').locator('.keywords button')).toHaveText(['Lantern Fen']);

  await expect(row(page, 'Fen map leaflet').locator('.picture img')).toBeVisible();
  await withMaster(page, 'Boardwalk waymarker', 'Move or rename …');
  await page.getByLabel('Name on the shelf').fill('Fen_Map_Leaflet');
  await expect(page.locator('.there')).toContainText('the master Fen map leaflet, r6');
  await expect(page.locator('.there img')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Move it there' })).toBeDisabled();
  await page.getByRole('button', { name: 'Take Fen_Map_Leaflet_2 instead' }).click();
  await page.getByLabel('Name on the shelf').fill('con');
  await expect(page.getByRole('alert')).toContainText('keep for a device');
  await page.getByLabel('Folder on the shelf').fill('Signs/Trails');
  await page.getByLabel('Name on the shelf').fill('waymarker');
  await page.getByRole('button', { name: 'Move it there' }).click();
  await expect(row(page, 'Boardwalk waymarker').locator('.names code')).toHaveText('Signs/Trails/waymarker');
  expect(existsSync(join(workshop.shelf, 'boardwalk_waymarker'))).toBe(false);
  expect(readdirSync(join(workshop.shelf, 'Signs/Trails/waymarker'))).toContain('waymarker.inkwell');

  await choose(page, 'Group by', 'folder');
  await expect(page.locator('.rows .group')).toHaveText([/on the shelf itself\s*1 master/, /Signs\/Trails\s*1 master/]);
  await choose(page, 'Group by', 'keyword');
  await expect(page.locator('.rows .group')).toHaveText([/Lantern Fen\s*2 masters/, /signs\s*1 master/]);
  await page.locator('.rows .group').getByRole('button', { name: 'signs' }).click();
  await expect(page.locator('.rows .title')).toHaveText(['Boardwalk waymarker']);
  await page.locator('.only').click();
  await choose(page, 'Group by', 'nothing');
  await choose(page, 'Show', 'a copy gone');
  await expect(page.locator('.rows .title')).toHaveText(['Fen map leaflet']);
  await choose(page, 'Show', 'all masters');
  await choose(page, 'Sort by', 'last changed first');
  await expect(page.locator('.rows .title')).toHaveText(['Fen map leaflet', 'Boardwalk waymarker']);
});

test('what is deleted says which copies are out there, and comes back', { tag: '@long' }, async ({ page }) => {
  await page.goto(workshop.url);
  await withMaster(page, 'Fen map leaflet', 'Delete …');
  await expect(page.locator('twin-delete-form')).toContainText('copies of it are out there');
  await expect(page.locator('twin-delete-form li')).not.toHaveCount(0);
  await page.getByRole('button', { name: 'Delete it' }).click();
  await expect(page.locator('.rows .title')).toHaveCount(1);
  await page.getByRole('button', { name: '1 deleted' }).click();
  await expect(row(page, 'Fen map leaflet')).toContainText('30 days left');
  await page.getByRole('button', { name: 'Bring back' }).click();
  await expect(page.locator('.rows .title')).toHaveCount(2);
  await page.getByRole('link', { name: 'Fen map leaflet', exact: true }).click();
  await expect(page.locator('twin-stage canvas.board')).toBeVisible();
});

test(
  'a master of native version 1 opens from the shelf untouched, is confirmed at its first update, and its leftovers go',
  { tag: '@long' },
  async ({ page }) => {
    const { folder, files } = otterPlaque();
    for (const [path, bytes] of files) {
      mkdirSync(dirname(join(workshop.shelf, folder, path)), { recursive: true });
      writeFileSync(join(workshop.shelf, folder, path), bytes);
    }
    await page.goto(workshop.url);
    await page.getByRole('button', { name: '1 older master on the shelf' }).click();
    await expect(page.getByText('“Otter plaque” of native version 1')).toBeVisible();
    await page.getByRole('button', { name: 'Open it' }).click();
    await expect(page.getByText('Nothing on the shelf is touched until you update it')).toBeVisible();
    await page.getByRole('button', { name: 'Contents' }).click();
    await page.locator('twin-contents').getByRole('button', { name: 'Name' }).first().click();
    await page.getByLabel('Wording').fill('Otter Run West');
    await page.getByLabel('Wording').blur();
    await page.getByRole('button', { name: 'Update master (r2)' }).click();
    await expect(page.getByRole('dialog')).toContainText('opened from native version 1');
    expect(readdirSync(join(workshop.shelf, folder)).sort()).toEqual(['otter_plaque.inkfolio', 'otter_plaque_parts']);
    await page.getByRole('button', { name: 'Write r2 beside them' }).click();
    await expect(page.getByText('Left of native version 1: 2 files')).toBeVisible();
    await expect.poll(() => readdirSync(join(workshop.shelf, folder)).length).toBe(3);
    await page.getByRole('button', { name: 'Take them away …' }).click();
    await expect(page.locator('twin-older-panel li')).toHaveText([/otter_plaque.inkfolio/, /otter_plaque_parts\/board_1.json/]);
    await page.getByRole('button', { name: 'Take these 2 files away for good' }).click();
    await expect(page.locator('twin-older-panel')).toHaveCount(0);
    expect(readdirSync(join(workshop.shelf, folder))).toEqual(['otter_plaque.inkwell']);
  },
);
