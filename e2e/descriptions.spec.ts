import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { readSidecar } from '../packages/core/src';
import { TestWorkshop } from './workshop';

let workshop: TestWorkshop;
test.beforeAll(async () => {
  workshop = await TestWorkshop.open('descriptions_e2e');
});
test.afterAll(() => workshop.close());

test(
  'descriptions are written out for many, marked where they are not, and settled where both sides changed',
  { tag: '@long' },
  async ({ page }) => {
    const file = join(workshop.shelf, 'fen_map_leaflet/fen_map_leaflet.xmp');
    const says = () => readSidecar(readFileSync(file, 'utf8'));
    const choose = async () => {
      await page.getByRole('button', { name: 'Choose several' }).click();
      await page.getByRole('button', { name: 'All 2 shown' }).click();
    };
    const describe = async (caption: string) => {
      await choose();
      await page.getByRole('button', { name: 'Describe them …' }).click();
      await page.getByLabel('Caption').fill(caption);
      await page.getByRole('button', { name: /^Say it/ }).click();
      await expect(page.locator('twin-describe-form')).toHaveCount(0);
    };
    await page.goto(workshop.url);
    await describe('Seen from the boardwalk');
    expect(existsSync(file)).toBe(false);
    await choose();
    await page.getByRole('button', { name: 'Write descriptions out' }).click();
    await expect(page.getByRole('status').filter({ hasText: '2 descriptions written out.' })).toBeVisible();
    expect(says().caption).toBe('Seen from the boardwalk');
    await page.getByRole('button', { name: 'Choose none' }).click();

    await describe('Seen from the hide');
    const panel = page.locator('twin-outside-panel');
    // The files of both are written first, and their copies checked, however busy the machine is.
    await expect(panel).toContainText('2 not yet written out');
    await page.getByRole('button', { name: '2 descriptions to settle' }).click();
    const row = page.locator('.rows li', { has: page.getByRole('link', { name: 'Fen map leaflet', exact: true }) });
    await expect(row).toContainText('description not written out');
    // Another program changes one of them, too.
    writeFileSync(file, readFileSync(file, 'utf8').replace('Seen from the boardwalk', 'Seen from the water'));
    await expect(panel).toContainText('1 not yet written out, 1 changed on both sides');
    await expect(row).toContainText('description changed outside');
    await panel.getByRole('button', { name: 'Write out 1 description' }).click();
    await expect(panel).toContainText('1 changed on both sides');
    await panel.getByRole('button', { name: 'Look at them' }).click();
    const one = panel.getByRole('article', { name: 'Fen map leaflet' });
    await expect(one.getByRole('row', { name: /Caption/ })).toContainText('Seen from the hide');
    await one.getByLabel(/Seen from the water/).check();
    await one.getByLabel('every update writes it out').check();
    await one.getByRole('button', { name: 'Settle as chosen' }).click();
    await expect(panel.locator('section')).toHaveCount(0);
    expect(says().caption).toBe('Seen from the water');
    // By standing order the next one is out there by itself.
    await describe('Seen from afar');
    await expect.poll(() => says().caption).toBe('Seen from afar');
  },
);
