import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { type Page, expect, test } from '@playwright/test';
import { choose, TestWorkshop } from './workshop';

let workshop: TestWorkshop;
test.beforeAll(async () => {
  workshop = await TestWorkshop.open('work');
});
test.afterAll(() => workshop.close());

const verdictIs = (page: Page, label: string, verdict: string) =>
  expect(page.locator(`[data-copy="${label}"] twin-verdict-mark`)).toHaveAttribute('data-verdict', verdict);
async function open(page: Page, title: string): Promise<void> {
  await page.goto(workshop.url);
  await page.getByRole('link', { name: title, exact: true }).click();
  await expect(page.getByRole('heading', { name: title })).toBeVisible();
  const offer = page.getByRole('button', { name: 'Discard it' });
  if (await offer.isVisible()) await offer.click();
}

test(
  'hiding a layer and changing what happens to it outdate what carries it, and undo brings it back',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'Boardwalk waymarker');
    await page.getByRole('button', { name: 'Contents' }).click();
    await page.getByRole('button', { name: 'Hide layer Reeds' }).click();
    await verdictIs(page, 'trail web page', 'behind');
    await verdictIs(page, 'vinyl lettering', 'in step');
    await page.getByRole('button', { name: 'Undo' }).click();
    await verdictIs(page, 'trail web page', 'in step');
    await choose(page, 'Process of layer Vinyl lettering', 'print');
    await verdictIs(page, 'vinyl lettering', 'behind');
    await verdictIs(page, 'trail web page', 'in step');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByText('all changes are in r6')).toBeVisible();
  },
);

test(
  'a difference that someone accepts with a reason is accepted, and a withdrawn copy leaves the list',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'Boardwalk waymarker');
    await page.locator('[data-copy="proof for the reserve"]').click();
    await page.getByRole('button', { name: 'Accept …' }).click();
    await expect(page.getByRole('button', { name: 'Accept', exact: true })).toBeDisabled();
    await page.getByLabel('Reason for accepting').fill('Only a proof');
    await page.getByRole('button', { name: 'Accept', exact: true }).click();
    await verdictIs(page, 'proof for the reserve', 'accepted');
    await expect(page.getByText('“Only a proof”')).toBeVisible();
    await page.locator('[data-copy="vinyl, first trial"]').click();
    await page.getByRole('button', { name: 'Withdraw' }).click();
    await expect(page.locator('[data-copy="vinyl, first trial"]')).toHaveCount(0);
  },
);

test(
  'the report of a target lights up its objects, follows its options, and warns of what a machine does not take',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'Fen map leaflet');
    await page.getByRole('button', { name: 'Derive …' }).click();
    await page.getByRole('radio', { name: 'To a machine' }).click();
    const lines = page.locator('table[aria-label="What carries over"] tbody tr');
    await expect(lines.filter({ hasText: 'not for this machine' })).toHaveCount(4);
    await page.getByRole('radio', { name: 'To deliver' }).click();
    await expect(lines.filter({ hasText: 'stays text' })).toHaveCount(1);
    await page.getByRole('button', { name: /^More/ }).click();
    await page.getByRole('radio', { name: 'outlines' }).click();
    await expect(lines.filter({ hasText: 'becomes outlines' })).toHaveCount(1);
    await lines.filter({ hasText: 'becomes outlines' }).click();
    await expect(lines.filter({ hasText: 'becomes outlines' })).toHaveClass(/on/);
    await page.getByRole('radio', { name: 'Inside', exact: true }).click();
    await expect(page.getByRole('tab', { name: 'Inside' })).toHaveAttribute('aria-selected', 'true');
    // A name is proposed; without one nothing is written, and it is said why.
    await expect(page.locator('twin-derive-panel').getByLabel('Name', { exact: true })).toHaveValue(/^Inside, /);
    await page.locator('twin-derive-panel').getByLabel('Name', { exact: true }).fill('');
    await expect(page.getByText('Give it a name first.')).toBeVisible();
    await expect(page.getByRole('button', { name: 'Write copy' })).toBeDisabled();
    await page.keyboard.press('Escape');
    await expect(lines).toHaveCount(0);
  },
);

test('a copy is opened by a program of its own version, and by any other, and what that sees is shown', async ({ page }) => {
  await open(page, 'Boardwalk waymarker');
  await page.locator('[data-copy="joiner’s drawing"]').click();
  const row = page.locator('twin-reader-row');
  await expect(row).toContainText('a program of 2000 opens it and sees');
  await expect(row).toContainText('2 texts, all as meant when it was written');
  await row.getByRole('button', { name: 'See what it sees' }).click();
  const seen = page.getByRole('dialog', { name: 'As other versions open it' });
  await expect(seen.getByRole('img', { name: 'What it sees' })).toBeVisible();
  await seen.getByRole('combobox', { name: 'Version of the program' }).click();
  await page.getByRole('option', { name: 'R12' }).click();
  await expect(seen).toContainText('Does not open it: the file is of version 1015; known are those up to 1009.');
  await expect(seen.getByRole('img', { name: 'What it sees' })).toHaveCount(0);
});

test(
  'the versions of a format stand side by side, with what each costs, and the name says which was chosen',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'Boardwalk waymarker');
    await page.getByRole('button', { name: 'Derive …' }).click();
    await page.getByRole('radio', { name: 'For another program' }).click();
    await expect(page.getByText('2004 is the oldest that keeps all that can be kept')).toBeVisible();
    const stair = page.getByRole('radiogroup', { name: 'Version' });
    const widths = page.locator('table[aria-label="What carries over"] tr', { hasText: 'Line widths' }).locator('td');
    await expect(stair.getByRole('radio', { name: /^2000/ })).toHaveAttribute('aria-checked', 'true');
    await expect(widths).toContainText('kept');
    await stair.getByRole('radio', { name: /^R12/ }).click();
    await expect(widths).toContainText('left out');
    await stair.getByRole('radio', { name: /^2000/ }).click();
    await page.locator('twin-derive-panel').getByLabel('Name', { exact: true }).fill('metal shop drawing');
    await expect(page.getByText('metal_shop_drawing_r6_2000.dxf')).toBeVisible();
    await stair.getByRole('radio', { name: /^R12/ }).click();
    await expect(page.getByText('metal_shop_drawing_r6_r12.dxf')).toBeVisible();
    await page.getByRole('radio', { name: 'To deliver' }).click();
    await page.locator('twin-derive-panel').getByLabel('Name', { exact: true }).fill('trail web page');
    const taken = page.locator('twin-taken');
    await expect(taken).toContainText('trail_web_page_r6.svg is taken. There stands the copy “trail web page” of r6');
    await expect(taken.getByRole('radio', { name: 'Keep both, this one as trail_web_page_r6_2.svg' })).toBeChecked();
    await expect(page.locator('twin-derive-panel footer code')).toHaveText('trail_web_page_r6_2.svg');
    await taken.getByRole('radio', { name: 'Replace it' }).click();
    await expect(taken).toContainText('That copy is withdrawn.');
    await expect(page.locator('twin-derive-panel footer code')).toHaveText('trail_web_page_r6.svg');
    await taken.getByRole('button', { name: 'Another name' }).click();
    await page.keyboard.type('trail page');
    await expect(page.locator('twin-derive-panel footer code')).toHaveText('trail_page_r6.svg');
    await expect(taken).toHaveCount(0);
    await page.locator('twin-derive-panel').getByLabel('Name', { exact: true }).fill('trail web page');
    await taken.getByRole('radio', { name: 'Replace it' }).click();
    await page.getByRole('button', { name: 'Write copy' }).click();
    await expect(page.locator('twin-copies-lane').getByText('trail_web_page_r6.svg')).toHaveCount(1);
  },
);

test('a copy that is dropped on the Desk is named and leads to its master; it does not become a master unasked', async ({
  page,
}) => {
  // A browser that never rests, as on a busy machine: what someone asks for comes all the same.
  await page.addInitScript(() => (window.requestIdleCallback = () => 0));
  await page.goto(workshop.url);
  const folder = join(workshop.shelf, 'boardwalk_waymarker');
  const file = join(
    folder,
    readdirSync(folder).find((name) => name.startsWith('metal_shop_drawing_r3'))!,
  );
  await page.getByLabel('Files to bring in').setInputFiles(file);
  const card = page.getByRole('status').filter({ hasText: 'Only masters are edited' });
  await expect(card).toContainText('is “metal shop drawing”, a copy of Boardwalk waymarker, made at r3. Behind');
  await expect(card.locator('twin-verdict-mark')).toHaveAttribute('data-verdict', 'behind');
  await expect(page.locator('.rows .title')).toHaveCount(2);
  await card.getByRole('link', { name: 'Go to its master' }).click();
  await expect(page.locator('[data-copy="metal shop drawing"]')).toHaveAttribute('aria-pressed', 'true');

  await page.goto(workshop.url);
  await page.getByLabel('Files to bring in').setInputFiles(file);
  // It is held against the master where it is dropped, and nothing of it is kept.
  await card.getByRole('button', { name: 'Compare it with its master' }).click();
  const held = page.getByRole('region', { name: 'and its master' });
  await held.getByRole('row').nth(1).click();
  await expect(held.getByRole('row').nth(1).getByRole('button')).toHaveAttribute('aria-pressed', 'true');
  await expect(held.locator('twin-overlay canvas').first()).toBeVisible();
  await held.getByRole('button', { name: 'Beside' }).click();
  await expect(held.getByText('Left: the master now. Right: the copy.')).toBeVisible();
  await held.getByRole('button', { name: 'Close the comparison' }).click();
  await expect(held).toHaveCount(0);
  await expect(page.locator('.rows .title')).toHaveCount(2);
  await card.getByRole('button', { name: 'Make another master of it' }).click();
  await expect(page.locator('.rows .title')).toHaveCount(3);
});

test(
  'a copy that comes back without its mark is asked about: compared, and attached as that copy, where its differences are found',
  { tag: '@long' },
  async ({ page }) => {
    const file = join(workshop.shelf, 'boardwalk_waymarker', 'trail_web_page_r6.svg');
    const unmarked = readFileSync(file, 'utf8')
      .replace(/<metadata>.*?<\/metadata>/s, '')
      .replace(/ data-inkwell-twin="[^"]*"/, '')
      .replace('cx="206"', 'cx="216"');
    await page.goto(workshop.url);
    await page
      .getByLabel('Files to bring in')
      .setInputFiles({ name: 'from the printer.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(unmarked) });
    const card = page.getByRole('status').filter({ hasText: 'Is it that copy, changed somewhere else?' });
    await expect(card).toContainText('It looks like');
    await card.getByRole('button', { name: 'Compare it with its master' }).click();
    await expect(page.getByRole('region', { name: 'and its master' }).getByRole('row')).toHaveCount(2);
    await card.getByRole('button', { name: 'Attach it as that copy' }).click();
    await page.getByRole('link', { name: 'See how it stands' }).click();
    await expect(
      page.locator('.copy[aria-pressed="true"] twin-verdict-mark, [aria-pressed="true"] twin-verdict-mark').first(),
    ).toHaveAttribute('data-verdict', 'touched');
  },
);

test(
  'an earlier revision is shown as it was, to look at only, and the draft is there again afterwards',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'Boardwalk waymarker');
    await page.getByRole('button', { name: 'Contents' }).click();
    const distance = page.locator('twin-contents').getByRole('button', { name: 'Distance' });
    await distance.click();
    await page.getByLabel('Wording').fill('2 km, round to the hide');
    await page.getByLabel('Wording').blur();
    await expect(page.getByText('1 change since r6')).toBeVisible();
    await page.getByRole('button', { name: 'Look at r1' }).press('Enter');
    await expect(page.getByRole('button', { name: /^Back to/ })).toBeVisible();
    await distance.click();
    await expect(page.getByLabel('Wording')).toHaveValue('{trail_length} km, back to the hide');
    await expect(page.getByLabel('Wording')).toBeDisabled();
    await expect(page.getByRole('button', { name: 'Hide layer Reeds' })).toBeDisabled();
    await page.locator('twin-stage canvas.board').press('Delete');
    await expect(distance).toHaveCount(1);
    await page.getByRole('button', { name: 'Back to the draft' }).click();
    await distance.click();
    await expect(page.getByLabel('Wording')).toHaveValue('2 km, round to the hide');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByText('all changes are in r6')).toBeVisible();
  },
);

test('a bar of the thread leads to the copy that it stands for', { tag: '@long' }, async ({ page }) => {
  await page.goto(workshop.url);
  await page.locator('.rows li', { hasText: 'Fen map leaflet' }).locator('twin-thread .bar').nth(3).click();
  await expect(page.getByRole('heading', { name: 'Fen map leaflet' })).toBeVisible();
  await expect(page.locator('[data-copy="survey drawing"]')).toHaveAttribute('aria-pressed', 'true');
  await page.locator('twin-thread .bar').nth(0).click();
  await expect(page.locator('[data-copy="map for the printer"]')).toHaveAttribute('aria-pressed', 'true');
});

test('everything on a board can be reached and changed by keyboard alone', { tag: '@long' }, async ({ page }) => {
  await open(page, 'Boardwalk waymarker');
  await page.getByRole('button', { name: 'Contents' }).focus();
  await page.keyboard.press('Enter');
  const hole = page.locator('twin-contents').getByRole('button', { name: 'Hole 1 of 5' });
  await hole.focus();
  await page.keyboard.press('Enter');
  await expect(page.locator('twin-slip')).toContainText('Hole 1 of 5');
  await page.locator('twin-stage canvas.board').focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowUp');
  await expect(page.getByLabel('Centre across')).toHaveValue('19');
  await expect(page.getByLabel('Centre up')).toHaveValue('132');
  await page.keyboard.press('Delete');
  await expect(hole).toHaveCount(0);
  await expect(page.getByText('3 changes since r6', { exact: true })).toBeVisible();
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
  await expect(page.getByText('all changes are in r6')).toBeVisible();
});

test('the lanes take each other’s room with 1, 2 and 3, and the marks never go away', { tag: '@long' }, async ({ page }) => {
  await open(page, 'Boardwalk waymarker');
  await page.locator('[data-copy="joiner’s drawing"]').click();
  await expect(page.locator('twin-match-lane')).toBeVisible();
  const width = async (lane: string) => (await page.locator(lane).boundingBox())?.width ?? 0;
  const even = await width('twin-keep-lane');
  await page.keyboard.press('1');
  await expect(page.locator('twin-match-lane')).toHaveCount(0);
  expect(await width('twin-keep-lane')).toBeGreaterThan(even);
  await verdictIs(page, 'joiner’s drawing', 'in step');
  await page.keyboard.press('3');
  await expect(page.locator('twin-match-lane')).toBeVisible();
  expect(await width('twin-match-lane')).toBeGreaterThan(await width('twin-keep-lane'));
  await page.reload();
  await expect(page.locator('[data-wide="match"]')).toBeVisible();
  await page.keyboard.press('2');
  await expect(page.locator('[data-wide="even"]')).toBeVisible();
});

test(
  'a copy is looked at alone and measured from corner to corner, and one door leads to its master',
  { tag: '@long' },
  async ({ page }) => {
    await page.goto(workshop.url);
    await page.getByRole('link', { name: 'Boardwalk waymarker', exact: true }).click();
    await page.locator('[data-copy="vinyl lettering"]').click();
    await expect(page.locator('twin-match-lane')).toContainText(
      /up to 0\.0\d\d mm from the master’s own lines, at x [\d.]+, y [\d.]+ mm/,
    );
    await page.locator('[data-copy="trail web page"]').click();
    await page.getByRole('button', { name: 'The copy alone' }).click();
    await expect(page.locator('twin-match-lane')).toContainText('it is changed in its master');
    await page.getByRole('button', { name: 'Measure' }).click();
    const canvas = page.locator('twin-overlay canvas');
    const { x, y, width, height } = (await canvas.boundingBox())!;
    // The sheet of 420 by 140 mm lies in the middle, 16 pixels from the sides.
    const top = y + (height - ((width - 32) * 140) / 420) / 2;
    await page.mouse.click(x + 18, top + 2);
    await page.mouse.move(x + 60, top + 40);
    await page.mouse.click(x + width - 14, top - 3);
    const said = page.locator('twin-match-lane .measured');
    await expect(said).toHaveText('420.00 mm, across 420.00 mm, up 0.00 mm, at 0.0°');
    await page.mouse.click(x + 18, top + 2);
    await page.mouse.click(x + 17, y + height - (top - y) + 1);
    await expect(said).toContainText('140.00 mm, across 0.00 mm, down 140.00 mm');
    await page.getByRole('button', { name: 'Change it in the master' }).click();
    await expect(page.getByRole('button', { name: 'Measure', exact: true })).toHaveCount(0);
    await expect(page.locator('twin-stage')).toBeVisible();
  },
);
