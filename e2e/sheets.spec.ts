import { readdirSync, renameSync } from 'node:fs';
import { join } from 'node:path';
import { type Page, expect, test } from '@playwright/test';
import { TestWorkshop } from './workshop';

let workshop: TestWorkshop;
test.beforeAll(async () => {
  workshop = await TestWorkshop.open('sheets');
});
test.afterAll(() => workshop.close());

const open = async (page: Page, title: string) => {
  await page.goto(workshop.url);
  await page.getByRole('link', { name: title, exact: true }).click();
};

test(
  'all boards go into a copy of a file each; a file that goes is a sheet that is missing, named and shown',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'Fen map leaflet');
    await page.getByRole('button', { name: 'Derive …' }).click();
    // The arrow keys walk along a row of choices.
    await page.getByRole('radio', { name: 'Map', exact: true }).focus();
    await page.keyboard.press('ArrowRight');
    await expect(page.getByRole('radio', { name: 'Inside', exact: true })).toBeChecked();
    await page.keyboard.press('ArrowRight');
    await expect(page.getByRole('radio', { name: 'All of them' })).toBeChecked();
    await page.getByRole('button', { name: /^More/ }).click();
    await page.getByRole('radio', { name: 'a file each' }).click();
    await page.getByLabel('Precision').fill('9');
    await page.getByLabel('Precision').press('Tab');
    await expect(page.getByText('“9” is not a whole number from 2 to 6.')).toBeVisible();
    await expect(page.getByLabel('Precision')).toHaveValue('3');
    // Only what the document has can be left out.
    const leaveOut = page.getByRole('group', { name: 'Leave out' });
    await expect(leaveOut.getByLabel('Opacity')).toHaveCount(0);
    await leaveOut.getByRole('checkbox').first().check();
    await page.locator('twin-derive-panel').getByLabel('Name', { exact: true }).fill('both sides');
    await page.getByRole('button', { name: 'Write copy' }).click();
    const row = page.locator('[data-copy="both sides"]');
    await expect(row).toHaveAttribute('title', 'both sides: in step');
    const folder = join(workshop.shelf, 'fen_map_leaflet');
    const [first, second] = readdirSync(folder)
      .filter((name) => name.startsWith('both_sides'))
      .sort();
    expect([first, second]).toEqual(['both_sides_all_r4.svg', 'both_sides_all_r4_2.svg']);
    await row.click();
    await expect(page.getByRole('radiogroup', { name: 'Which sheet' })).toBeVisible();
    await page.getByRole('radio', { name: 'Inside', exact: true }).click();
    await expect(page.locator('twin-overlay canvas')).toBeVisible();
    renameSync(join(folder, second!), join(folder, 'elsewhere.svg'));
    await expect(row).toHaveAttribute('title', 'both sides: touched');
    await expect(page.locator('twin-match-lane tbody tr')).toContainText(['Inside']);
    await expect(page.locator('twin-match-lane tbody tr').first()).toContainText('sheet missing');
    renameSync(join(folder, 'elsewhere.svg'), join(folder, second!));
    await expect(row).toHaveAttribute('title', 'both sides: in step');
  },
);

test(
  'boards are tabs that the arrow keys walk along, and the name on revisions is asked for in a dialog',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'Fen map leaflet');
    await page.getByRole('tab', { name: 'Map' }).focus();
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('tab', { name: 'Inside' })).toHaveAttribute('aria-selected', 'true');
    await page.getByRole('button', { name: /Your name on revisions/ }).click();
    const dialog = page.getByRole('dialog', { name: 'Who sits here' });
    await dialog.getByLabel('Your name').fill('Bram Adler');
    await dialog.getByRole('button', { name: 'Keep this name' }).click();
    await expect(page.getByRole('button', { name: 'Your name on revisions: Bram Adler' })).toHaveText('BA');
    // Gone before it is opened again, and ready before a key is pressed: nobody is faster than its own opening.
    await expect(dialog).toHaveCount(0);
    await page.getByRole('button', { name: /Your name on revisions/ }).click();
    await dialog.getByLabel('Your name').press('End');
    await expect(async () => {
      await page.keyboard.press('Escape');
      await expect(dialog).toHaveCount(0, { timeout: 500 });
    }).toPass();
  },
);
