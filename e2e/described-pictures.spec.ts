import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { readSidecar } from '../packages/core/src';
import { TestWorkshop } from './workshop';

let workshop: TestWorkshop;
test.beforeAll(async () => {
  workshop = await TestWorkshop.open('described_e2e');
});
test.afterAll(() => workshop.close());

/** A picture of two by one pixels (PNG 2nd edition), made by other hands. */
const PNG = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAIAAAABCAIAAAB7QOjdAAAACXBIWXMAAA7EAAAOxAGVKw4bAAAAD0lEQVR4nGM4IScnJ3cCAAcjAgnukg5ZAAAAAElFTkSuQmCC',
  'base64',
);

test(
  'pictures are described together, and their descriptions are written out beside them',
  { tag: '@long' },
  async ({ page }) => {
    await page.goto(workshop.url);
    await page.locator('.rows').getByRole('link', { name: 'Fen map leaflet', exact: true }).click();
    await page.getByRole('button', { name: 'Files', exact: true }).click();
    mkdirSync(join(workshop.shelf, 'Pool pictures'));
    writeFileSync(join(workshop.shelf, 'Pool pictures/mere.png'), PNG);
    const pane = page.locator('twin-files');
    await pane.getByRole('button', { name: 'Link instead' }).first().click();
    const linked = pane.locator('section', { hasText: 'linked to linked/' });
    await expect(linked).toHaveCount(1);
    const link = (await linked.locator('.state').innerText()).replace('linked to ', '');
    const name = await linked.locator('strong').innerText();
    await pane.getByRole('button', { name: 'Link a picture on the shelf …' }).click();
    await pane.getByRole('button', { name: /mere\.png/ }).click();
    await expect(pane.getByRole('checkbox')).toHaveCount(2);
    const boxes = await pane.getByRole('checkbox').all();
    for (const box of boxes) await box.check();
    await pane.getByRole('button', { name: `Describe ${boxes.length} pictures …` }).click();
    await pane.getByLabel('Keywords').fill('hide, pool');
    await pane.getByLabel('Rights').fill('Lantern Fen Trust');
    await pane.getByRole('button', { name: `Say it of ${boxes.length}` }).click();
    await expect(pane.locator('section', { hasText: 'hide, pool · Lantern Fen Trust' })).toHaveCount(boxes.length);
    await page.getByRole('button', { name: /Update master/ }).click();
    await expect(page.getByText(/all changes are in r/)).toBeVisible();
    const file = join(workshop.shelf, 'fen_map_leaflet', link.replace(/\.[^.]*$/, '.xmp'));
    expect(existsSync(file)).toBe(false);

    await page.goto(workshop.url);
    await page.getByRole('button', { name: 'Choose several' }).click();
    await page.getByLabel('Choose Fen map leaflet').check();
    await page.getByRole('button', { name: 'Write descriptions out' }).click();
    await expect.poll(() => existsSync(file) && readSidecar(readFileSync(file, 'utf8')).rights).toBe('Lantern Fen Trust');
    writeFileSync(file, readFileSync(file, 'utf8').replace('Lantern Fen Trust', 'Ines Okoro'));
    const panel = page.locator('twin-outside-panel');
    await expect(panel).toContainText('1 changed in the file');
    await page.getByRole('button', { name: '1 description to settle' }).click();
    await panel.getByRole('button', { name: 'Look at them' }).click();
    const one = panel.getByRole('article', { name: `${name} in Fen map leaflet` });
    await expect(one.getByRole('row', { name: /Rights/ })).toContainText('Ines Okoro');
    await one.getByRole('button', { name: 'Settle as chosen' }).click();
    await expect(panel.locator('section')).toHaveCount(0);
  },
);
