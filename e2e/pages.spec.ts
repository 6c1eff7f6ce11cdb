import { spawnSync } from 'node:child_process';
import { readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { TestWorkshop } from './workshop';

let workshop: TestWorkshop;
test.beforeEach(async ({}, info) => {
  workshop = await TestWorkshop.open(`pages_${info.workerIndex}`);
});
test.afterEach(() => workshop.close());

test(
  'all boards become pages of a PDF, which is in step, and is not after a page was taken out',
  { tag: '@long' },
  async ({ page }, info) => {
    await page.goto(workshop.url);
    await page.getByRole('link', { name: 'Fen map leaflet', exact: true }).click();
    await page.getByRole('button', { name: 'Derive …' }).click();
    await page.getByRole('radio', { name: 'PDF pages' }).click();
    await page.getByRole('radio', { name: 'All of them' }).click();
    await page.getByRole('button', { name: /^More/ }).click();
    await page.getByLabel('Bleed').fill('3');
    await page.locator('twin-derive-panel').getByLabel('Name', { exact: true }).fill('proof pages');
    await page.getByRole('button', { name: 'Write copy' }).click();
    const copy = page.locator('[data-copy="proof pages"]');
    await expect(copy).toBeVisible();
    const lane = page.locator('twin-match-lane');
    await expect(lane).toContainText('In step');
    await expect(lane).toContainText('PDF pages 1.7');

    const name = 'proof_pages_all_r4.pdf';
    const file = readdirSync(workshop.shelf, { recursive: true, encoding: 'utf8' }).find((one) => one.endsWith(name))!;
    const path = join(workshop.shelf, file);
    const bytes = readFileSync(path);
    expect(bytes.subarray(0, 8).toString()).toBe('%PDF-1.7');
    test.skip(spawnSync('qpdf', ['--version']).error !== undefined, 'no other program for PDF here');
    const [whole, first] = [info.outputPath('in.pdf'), info.outputPath('out.pdf')];
    writeFileSync(whole, bytes);
    spawnSync('qpdf', [whole, '--pages', '.', '1', '--', first]);
    writeFileSync(path, readFileSync(first));
    await copy.click();
    await page.getByRole('button', { name: 'Check now' }).click();
    await expect(lane).toContainText('sheet missing');
  },
);

test('a difference leads to its board, whichever one is looked at', { tag: '@long' }, async ({ page }) => {
  await page.goto(workshop.url);
  await page.getByRole('link', { name: 'Fen map leaflet', exact: true }).click();
  await page.getByRole('button', { name: 'Derive …' }).click();
  await page.getByRole('radio', { name: 'PDF pages' }).click();
  await page.getByRole('radio', { name: 'All of them' }).click();
  await page.locator('twin-derive-panel').getByLabel('Name', { exact: true }).fill('both pages');
  await page.getByRole('button', { name: 'Write copy' }).click();
  const copy = page.locator('[data-copy="both pages"]');
  await expect(copy).toBeVisible();
  const lane = page.locator('twin-match-lane');
  await expect(lane).toContainText('In step');
  const [map, inside] = [
    page.getByRole('tab', { name: 'Map', exact: true }),
    page.getByRole('tab', { name: 'Inside', exact: true }),
  ];
  await inside.click();
  await page.getByRole('button', { name: 'Contents' }).click();
  await page.locator('twin-contents').getByText('Keep to the boards').first().click();
  await page.getByRole('application', { name: /^Board Inside/ }).focus();
  await page.keyboard.press('Shift+ArrowRight');
  await page.getByRole('button', { name: /^Update master/ }).click();
  await map.click();
  await copy.click();
  await lane.getByRole('button', { name: 'moved', exact: true }).click();
  await expect(inside).toHaveAttribute('aria-selected', 'true');
  await expect(page.getByRole('application', { name: /^Board Inside/ })).toBeVisible();
});

test('a PDF from elsewhere becomes a master of as many boards', { tag: '@long' }, async ({ page }, info) => {
  const objects = [
    '<</Type/Catalog/Pages 2 0 R>>',
    '<</Type/Pages/Count 2/Kids[3 0 R 4 0 R]>>',
    '<</Type/Page/Parent 2 0 R/MediaBox[0 0 200 100]/Contents 5 0 R/Resources<<>>>>',
    '<</Type/Page/Parent 2 0 R/MediaBox[0 0 100 100]/Contents 5 0 R/Resources<<>>>>',
    '<</Length 36>>stream\n0 0 1 rg 20 20 30 30 re f           \nendstream',
  ];
  const file = info.outputPath('two squares.pdf');
  writeFileSync(
    file,
    `%PDF-1.7\n${objects.map((one, i) => `${i + 1} 0 obj${one}\nendobj\n`).join('')}trailer<</Root 1 0 R>>\n%%EOF\n`,
  );
  await page.goto(workshop.url);
  await page.locator('input[type=file]').first().setInputFiles(file);
  await expect(page.getByText('is a master now')).toBeVisible();
  await expect(page.getByText('Everything in it was understood.')).toBeVisible();
  await page.getByRole('link', { name: 'two squares', exact: true }).first().click();
  await expect(page.getByText('Page 2', { exact: true }).first()).toBeVisible();
  await expect(page.getByText('70.6 × 35.3 mm')).toBeVisible();
});

test(
  'the pictures of a DXF stand beside it; each file can be had, and one that is missing is told',
  { tag: '@long' },
  async ({ page }) => {
    await page.goto(workshop.url);
    await page.getByRole('link', { name: 'Fen map leaflet', exact: true }).click();
    await page.getByRole('button', { name: 'Derive …' }).click();
    await page.getByRole('radio', { name: 'For another program' }).click();
    await page.getByRole('button', { name: /^More/ }).click();
    await page.getByRole('radio', { name: 'hatches' }).click();
    await page.getByRole('radio', { name: 'files beside' }).click();
    await page.locator('twin-derive-panel').getByLabel('Name', { exact: true }).fill('map to draw over');
    await page.getByRole('button', { name: 'Write copy' }).click();
    const copy = page.locator('[data-copy="map to draw over"]');
    await expect(copy).toBeVisible();
    const lane = page.locator('twin-match-lane');
    await expect(lane).toContainText('In step');
    const beside = lane.getByRole('link', { name: /^picture_[0-9a-f]{16}\.png$/ });
    const name = (await beside.textContent())!;
    const [download] = await Promise.all([page.waitForEvent('download'), beside.click()]);
    const file = readdirSync(workshop.shelf, { recursive: true, encoding: 'utf8' }).find((one) => one.endsWith(name))!;
    expect(readFileSync(await download.path()).equals(readFileSync(join(workshop.shelf, file)))).toBe(true);
    rmSync(join(workshop.shelf, file));
    await copy.click();
    await page.getByRole('button', { name: 'Check now' }).click();
    await expect(lane).toContainText('picture in another file');
  },
);
