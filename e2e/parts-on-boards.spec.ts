import { createRequire } from 'node:module';
import { expect, test } from '@playwright/test';
import { choose, chooseAct, TestWorkshop } from './workshop';

let workshop: TestWorkshop;
test.beforeAll(async () => {
  workshop = await TestWorkshop.open('parts_on_boards', 'yes');
});
test.afterAll(() => workshop.close());

test(
  'a drawing sheet follows its solid: a hole is drilled larger, its size is stated anew, and copies of the sheet are told of',
  { tag: '@long' },
  async ({ page }) => {
    // All copies of the part are checked anew after it.
    const broken: string[] = [];
    page.on('pageerror', (error) => broken.push(error.message));
    await page.goto(workshop.url);
    await page.getByRole('link', { name: 'Post bracket', exact: true }).click();
    await expect(page.locator('[data-copy="drawing for the shop"]')).toBeVisible();
    // The master of a part opens at the part; its sheet is the next.
    const face = page.locator('twin-solid-face');
    await expect(face.getByText('cm³')).toBeVisible();
    await face.getByLabel('screw', { exact: true }).fill('7.5');
    await face.getByLabel('screw', { exact: true }).press('Enter');
    await expect(page.getByLabel('What this draft would outdate')).toContainText('drawing for the shop');
    await page.getByRole('tab', { name: 'Drawing sheet' }).click();
    await page.getByRole('button', { name: 'Contents' }).click();
    await page.locator('twin-contents').getByRole('button', { name: 'In front' }).click();
    const slip = page.locator('twin-slip');
    await expect(slip.getByLabel('Solid')).toHaveText('Post bracket');
    await choose(slip, 'Hidden edges', 'left out');
    await page.getByRole('button', { name: /Update master/ }).click();
    await expect(page.getByText('all changes are in r5')).toBeVisible();

    // The copy of the sheet says what the sheet said: the proof shows where it is other now.
    await page.locator('[data-copy="drawing for the shop"]').click();
    await expect(page.locator('twin-match-lane').getByText('Behind.')).toBeVisible();
    await expect(page.locator('twin-match-lane tbody')).toContainText('Ø6.5');
    await expect(page.locator('twin-match-lane tbody')).toContainText('Ø7.5');
    await page.getByRole('button', { name: 'Derive again' }).click();
    await expect(page.getByText(/outlines? read back; each has its equal/)).toBeVisible();
    expect(broken).toEqual([]);
  },
);

test('a chart is put on a board, chooses its columns, and says why it can’t be drawn', { tag: '@long' }, async ({ page }) => {
  await page.goto(workshop.url);
  await page.getByRole('link', { name: 'Coating weathering series', exact: true }).click();
  await page.getByRole('tab', { name: 'Report' }).click();
  await chooseAct(page.locator('twin-foot-bar'), 'Place on the board', 'chart');
  const slip = page.locator('twin-slip');
  await choose(slip, 'Drawn', 'Moisture');
  await choose(slip, 'Along', 'Week');
  await choose(slip, 'Apart by', 'Coating');
  await choose(slip, 'Form', 'bars');
  await expect(page.getByRole('alert')).toHaveCount(0);
  await choose(slip, 'Drawn', 'Coating');
  await expect(page.getByRole('alert')).toContainText('no column of numbers');
  await choose(slip, 'Drawn', 'Gloss');
  await expect(page.getByRole('alert')).toHaveCount(0);
});

test('boards with tables and charts pass WCAG 2.2 AA by machine', { tag: '@long' }, async ({ browser }) => {
  const axe = createRequire(`${process.cwd()}/`).resolve('axe-core/axe.min.js');
  for (const colorScheme of ['light', 'dark'] as const) {
    const page = await browser.newPage({ colorScheme, bypassCSP: true, viewport: { width: 1280, height: 800 } });
    await page.goto(workshop.url);
    await page.getByRole('link', { name: 'Coating weathering series', exact: true }).click();
    await page.getByRole('tab', { name: 'Report' }).click();
    const offered = page.getByRole('button', { name: 'Go on with it' });
    if (await offered.isVisible()) await offered.click();
    await page.getByRole('button', { name: 'Contents' }).click();
    await page.locator('twin-contents').getByRole('button', { name: 'Gloss kept over the weeks' }).click();
    await expect(page.locator('twin-slip')).toBeVisible();
    await page.addScriptTag({ path: axe });
    const found = await page.evaluate(async () => {
      const runner = (
        window as unknown as {
          axe: {
            run: (root: Document, options: object) => Promise<{ violations: { id: string; nodes: { target: string[] }[] }[] }>;
          };
        }
      ).axe;
      const { violations } = await runner.run(document, { runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] });
      return violations.map(({ id, nodes }) => `${id} ${nodes.map(({ target }) => target.join(' ')).join(', ')}`);
    });
    expect(found).toEqual([]);
    await page.close();
  }
});
