import { readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Page, expect, test } from '@playwright/test';
import { places, TestWorkshop } from './workshop';

let workshop: TestWorkshop;
test.beforeEach(async ({}, info) => {
  workshop = await TestWorkshop.open(`journey_${info.title.replace(/\D+/g, '').slice(0, 4) || 'x'}_${info.workerIndex}`);
});
test.afterEach(() => workshop.close());

async function openMaster(page: Page, title: string): Promise<void> {
  await page.goto(workshop.url);
  await page.getByRole('link', { name: title, exact: true }).click();
  await expect(page.getByRole('heading', { name: title })).toBeVisible();
}
const mark = (page: Page, label: string) => page.locator(`[data-copy="${label}"] twin-verdict-mark`);
const verdictIs = (page: Page, label: string, verdict: string) =>
  expect(mark(page, label)).toHaveAttribute('data-verdict', verdict);

/** Selects an object by its name, through Contents. */
async function select(page: Page, name: string): Promise<void> {
  const contents = page.getByRole('button', { name: 'Contents' });
  if ((await contents.getAttribute('aria-pressed')) === 'false') await contents.click();
  await page.locator('twin-contents').getByRole('button', { name }).click();
}
const shelfFile = (label: string): string => {
  const folder = join(workshop.shelf, 'boardwalk_waymarker');
  const file = readdirSync(folder).find((name) => name.startsWith(label));
  if (!file) throw new Error(`No ${label} on the shelf: ${readdirSync(folder).join(', ')}`);
  return join(folder, file);
};

test('1: changing the trail name outdates the copies that carry it, before and after the update', async ({ page }) => {
  await openMaster(page, 'Boardwalk waymarker');
  for (const label of ['trail web page', 'joiner’s drawing', 'vinyl lettering']) await verdictIs(page, label, 'in step');

  await select(page, 'Trail name');
  await page.getByLabel('Wording').fill('Heron Walk');
  await page.getByLabel('Wording').blur();
  await expect(page.getByText('1 change since r6')).toBeVisible();
  for (const label of ['trail web page', 'joiner’s drawing', 'vinyl lettering']) await verdictIs(page, label, 'behind');
  await page.getByRole('button', { name: 'Undo' }).click();
  await verdictIs(page, 'vinyl lettering', 'in step');

  // A fill is in the drawing for the web, but a knife does not know it.
  await select(page, 'Arrow');
  await page.getByLabel('Fill colour', { exact: true }).fill('#2b4180');
  await page.getByLabel('Fill colour', { exact: true }).blur();
  await verdictIs(page, 'trail web page', 'behind');
  await verdictIs(page, 'vinyl lettering', 'in step');
  await verdictIs(page, 'joiner’s drawing', 'in step');

  await select(page, 'Trail name');
  await page.getByLabel('Wording').fill('Heron Walk');
  await page.getByLabel('Wording').blur();
  await page.getByLabel('What this update is about').fill('New trail');
  await page.getByRole('button', { name: 'Update master (r7)' }).click();
  await expect(page.getByText('all changes are in r7')).toBeVisible();
  await expect(page.locator('twin-thread .tick')).toHaveCount(7);
  for (const label of ['trail web page', 'joiner’s drawing', 'vinyl lettering']) {
    await verdictIs(page, label, 'behind');
    await page.locator(`[data-copy="${label}"]`).click();
    await page.getByRole('button', { name: 'Derive again' }).click();
    await verdictIs(page, label, 'in step');
  }
  expect(readFileSync(shelfFile('vinyl_lettering_r7'), 'utf8')).toContain('rev=7');
  expect(
    readdirSync(join(workshop.shelf, 'boardwalk_waymarker')).filter((name) => name.startsWith('vinyl_lettering')),
  ).toHaveLength(1);
});

test('2: a copy edited on the shelf is touched, a deleted one gone, one that both sides changed crossed', async ({ page }) => {
  await openMaster(page, 'Boardwalk waymarker');
  await verdictIs(page, 'trail web page', 'in step');
  const web = shelfFile('joiner_s_drawing');
  const text = readFileSync(web, 'utf8');
  writeFileSync(web, text.replace('Sedge Loop', 'Sedge Lopp'));
  await verdictIs(page, 'joiner’s drawing', 'touched');
  await page.locator('[data-copy="joiner’s drawing"]').click();
  const row = page.locator('twin-match-lane tbody tr');
  await expect(row).toHaveCount(1);
  await expect(row).toContainText('retyped');
  await expect(row).toContainText('Sedge Lopp');

  // A hole moved by 3 mm in the file is shown with its amount.
  const moved = text.replace('\n10\n18\n20\n122\n', '\n10\n21\n20\n122\n');
  expect(moved).not.toBe(text);
  writeFileSync(web, moved);
  await expect(row).toContainText('moved');
  await expect(row).toContainText('3.00 mm');
  await row.click();
  await expect(row).toHaveClass(/on/);

  rmSync(shelfFile('trail_web_page'));
  await verdictIs(page, 'trail web page', 'gone');

  await select(page, 'Arrow');
  await page.getByLabel('Move right by').fill('5');
  await page.getByRole('button', { name: 'Move', exact: true }).click();
  await page.getByRole('button', { name: 'Update master (r7)' }).click();
  await verdictIs(page, 'joiner’s drawing', 'crossed');
});

test('3: a drawing that this project did not make comes in, and its DXF is in step', { tag: '@long' }, async ({ page }) => {
  await page.goto(workshop.url);
  await page.getByLabel('Files to bring in').setInputFiles('packages/core/test/fixtures/weathervane.svg');
  await expect(page.getByText('is a master now')).toBeVisible();
  await page.getByRole('link', { name: 'Open it' }).click();
  await page.getByRole('button', { name: 'Derive …' }).click();
  await page.getByRole('radio', { name: 'For another program' }).click();
  await page.getByRole('radio', { name: /^R12/ }).click();
  await expect(page.locator('table[aria-label="What carries over"] tbody tr')).not.toHaveCount(0);
  await page.locator('twin-derive-panel').getByLabel('Name', { exact: true }).fill('for the smith');
  await page.getByRole('button', { name: 'Write copy' }).click();
  await verdictIs(page, 'for the smith', 'in step');
  await page.locator('[data-copy="for the smith"]').click();
  await page.getByRole('button', { name: 'Check now' }).click();
  await expect(page.getByText('each has its equal')).toBeVisible();
});

test('4: a draft outlives a killed server and is offered again, complete', { tag: '@long' }, async ({ page }) => {
  await openMaster(page, 'Boardwalk waymarker');
  await select(page, 'Trail name');
  await page.getByLabel('Wording').fill('Otter Run');
  await page.getByLabel('Wording').blur();
  await page.getByLabel('Letter size').fill('30');
  await page.getByLabel('Letter size').blur();
  await select(page, 'Hole 3 of 5');
  await page.getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByText('3 changes since r6', { exact: true })).toBeVisible();
  await workshop.kill();
  await workshop.start();
  await openMaster(page, 'Boardwalk waymarker');
  await expect(page.getByText('A draft with 3 changes was kept')).toBeVisible();
  await page.getByRole('button', { name: 'Go on with it' }).click();
  await expect(page.getByText('3 changes since r6', { exact: true })).toBeVisible();
  await select(page, 'Trail name');
  await expect(page.getByLabel('Wording')).toHaveValue('Otter Run');
  await expect(page.getByLabel('Letter size')).toHaveValue('30');
  await expect(page.locator('twin-contents').getByRole('button', { name: 'Hole 3 of 5' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.locator('twin-contents').getByRole('button', { name: 'Hole 3 of 5' })).toHaveCount(1);
});

test('5: a change made while the server is away is kept as soon as it is back', { tag: '@long' }, async ({ page }) => {
  await openMaster(page, 'Boardwalk waymarker');
  await expect(page.locator('twin-stage canvas.board')).toBeVisible();
  await workshop.kill();
  await select(page, 'Trail name');
  await page.getByLabel('Wording').fill('Otter Run');
  await page.getByLabel('Wording').blur();
  await expect(page.getByText('not kept yet: the server is away')).toBeVisible();
  await workshop.start();
  await expect(page.getByText('1 change since r6', { exact: true })).toBeVisible();
  await page.reload();
  await expect(page.getByText('A draft with 1 change was kept')).toBeVisible();
});

test('6: moving an object on the stage by hand is a change like any other', { tag: '@long' }, async ({ page }) => {
  await openMaster(page, 'Boardwalk waymarker');
  // The arrow's shaft passes (70, 62) mm.
  const [x, y] = (await places(page))(70, 62);
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 30, y - 12, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByText('1 change since r6')).toBeVisible();
  await expect(page.locator('twin-slip')).toContainText('Arrow');
  await page.keyboard.press('Control+z');
  await expect(page.getByText('all changes are in r6')).toBeVisible();
  await page.keyboard.press('Control+Shift+z');
  await expect(page.getByText('1 change since r6')).toBeVisible();
});
