import { expect, test } from '@playwright/test';
import { choose, TestWorkshop } from './workshop';

let workshop: TestWorkshop;
test.beforeEach(async ({}, info) => {
  workshop = await TestWorkshop.open(`painting_${info.workerIndex}`);
});
test.afterEach(() => workshop.close());

test(
  'gradients, dashes, opacity and fonts are set on the slip, kept over a reload, shown on the stage and derived',
  { tag: '@long' },
  async ({ page }) => {
    await page.goto(workshop.url);
    await page.getByRole('link', { name: 'Fen map leaflet', exact: true }).click();
    await page.getByRole('button', { name: 'Contents' }).click();
    const contents = page.locator('twin-contents');
    await contents.getByRole('button', { name: 'Lantern mere ellipse' }).click();
    const stage = page.locator('twin-stage canvas.board');
    const before = await stage.screenshot();

    const slip = page.locator('twin-slip');
    await choose(slip, 'Fill kind', 'gradient along');
    await slip.getByLabel('Fill colour 1', { exact: true }).fill('#c23b22');
    await slip.getByLabel('Fill colour 1', { exact: true }).press('Enter');
    await slip.getByRole('button', { name: 'Add a colour' }).first().click();
    await slip.getByLabel('Fill place of colour 2').fill('40');
    await slip.getByLabel('Fill place of colour 2').blur();
    await slip.getByLabel('Fill direction in degrees').fill('90');
    await slip.getByLabel('Fill direction in degrees').blur();
    for (const [label, value] of [
      ['Line width', '2'],
      ['Dashes', '6 3'],
      ['Opacity', '70'],
    ] as const) {
      await slip.getByLabel(label, { exact: true }).fill(value);
      await slip.getByLabel(label, { exact: true }).blur();
    }
    await choose(slip, 'Line ends', 'round');
    await slip.getByLabel('Opacity', { exact: true }).fill('170');
    await slip.getByLabel('Opacity', { exact: true }).blur();
    await expect(slip.getByRole('alert')).toContainText('from 0 to 100 percent');
    await contents.getByRole('button', { name: '“Lantern Fen”' }).click();
    await choose(slip, 'Font', 'Playfair Display Bold Italic');
    await expect(page.getByText(/changes since r4/)).toBeVisible();
    expect(
      await page.evaluate(async () => (await document.fonts.load("italic 700 20px 'Playfair Display'")).length),
    ).toBeGreaterThan(0);

    await page.reload();
    await page.getByRole('button', { name: 'Go on with it' }).click();
    const shown = page.getByRole('button', { name: 'Contents' });
    if ((await shown.getAttribute('aria-pressed')) === 'false') await shown.click();
    await contents.getByRole('button', { name: 'Lantern mere ellipse' }).click();
    await expect(slip.getByLabel('Fill kind')).toHaveText('gradient along');
    await expect(slip.getByLabel('Fill place of colour 2')).toHaveValue('40');
    await expect(slip.getByLabel('Fill direction in degrees')).toHaveValue('90');
    await expect(slip.getByLabel('Dashes', { exact: true })).toHaveValue('6 3');
    await expect(slip.getByLabel('Opacity', { exact: true })).toHaveValue('70');
    await expect(slip.getByLabel('Line ends')).toHaveText('round');
    await page.getByRole('button', { name: 'Close the slip' }).click();
    expect((await stage.screenshot()).equals(before)).toBe(false);

    await page.getByLabel('What this update is about').fill('The mere at dusk');
    await page.getByRole('button', { name: 'Update master (r5)' }).click();
    await expect(page.getByText('all changes are in r5')).toBeVisible();
    await page.locator('[data-copy="map for the printer"]').click();
    await page.getByRole('button', { name: 'Derive again' }).click();
    await expect(page.locator('[data-copy="map for the printer"] twin-verdict-mark')).toHaveAttribute('data-verdict', 'in step');
    await page.getByRole('button', { name: 'Beside', exact: true }).click();
    await expect(page.locator('twin-match-lane')).toContainText('In step');
  },
);
