import { mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { linkedIn, readPackage } from '../packages/core/src';
import { TestWorkshop } from './workshop';

/** A picture of two by one pixels (PNG 2nd edition), made by other hands. */
const PNG = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAIAAAABCAIAAAB7QOjdAAAACXBIWXMAAA7EAAAOxAGVKw4bAAAAD0lEQVR4nGM4IScnJ3cCAAcjAgnukg5ZAAAAAElFTkSuQmCC',
  'base64',
);

let workshop: TestWorkshop;
test.beforeAll(async () => {
  workshop = await TestWorkshop.open('files_e2e');
});
test.afterAll(() => workshop.close());

test(
  'a kept file is taken out, linked, missed, found elsewhere and put in again; one on the shelf is put on the board',
  { tag: '@long' },
  async ({ page }) => {
    const at = (...path: string[]) => join(workshop.shelf, ...path);
    await page.goto(workshop.url);
    await page.getByRole('link', { name: 'Fen map leaflet', exact: true }).click();
    await page.getByRole('button', { name: 'Files', exact: true }).click();
    const pane = page.locator('twin-files');
    const file = pane.locator('section').first();
    const name = await file.locator('strong').innerText();

    const taken = page.waitForEvent('download');
    await file.getByRole('link', { name: 'Take out' }).click();
    const bytes = readFileSync(await (await taken).path());
    await file.getByRole('button', { name: 'Link instead' }).click();
    await expect(file).toContainText('linked to linked/');
    const link = (await file.locator('.state').innerText()).replace('linked to ', '');
    expect(readFileSync(at('fen_map_leaflet', link)).equals(bytes)).toBe(true);
    await page.getByLabel('What this update is about').fill('Picture linked');
    await page.getByRole('button', { name: /Update master/ }).click();
    await expect(page.getByText('all changes are in r5')).toBeVisible();

    // Somebody moves it: that is told without asking, and the same bytes are found.
    mkdirSync(at('Pictures of the fen'));
    renameSync(at('fen_map_leaflet', link), at('Pictures of the fen', 'moved.png'));
    await expect(file).toContainText('linked, missing');
    await expect(page.getByRole('button', { name: /Files/ })).toContainText('1');
    await file.getByRole('button', { name: 'Found at Pictures of the fen/moved.png' }).click();
    await expect(file).toContainText('linked to Pictures of the fen/moved.png');
    // It changes there: the master keeps what it saw until it is told to take the other.
    writeFileSync(at('Pictures of the fen', 'moved.png'), PNG);
    await page.getByRole('button', { name: /Update master/ }).click();
    await expect(page.getByText('all changes are in r6')).toBeVisible();
    await expect(file).toContainText('linked, changed');
    await file.getByRole('button', { name: 'Put into the master' }).click();
    await expect(file).toContainText('in the master');

    await pane.getByRole('button', { name: 'Link a picture on the shelf …' }).click();
    await pane.getByLabel('Find among files on the shelf').fill('moved');
    await pane.getByRole('button', { name: /moved\.png/ }).click();
    await expect(page.locator('twin-slip')).toContainText('moved');
    await expect(pane.locator('section', { hasText: 'moved.png' })).toContainText('linked to Pictures of the fen/moved.png');
    await page.getByRole('button', { name: /Update master/ }).click();
    await expect(page.getByText('all changes are in r7')).toBeVisible();
    rmSync(at('Pictures of the fen'), { recursive: true });
    await expect(pane.locator('section.wrong')).toContainText('linked, missing');
    for (const [form, links] of [
      ['light', 1],
      ['whole', 0],
    ] as const) {
      const along = page.waitForEvent('download');
      await pane.getByRole('link', { name: form }).click();
      const found = readPackage(readFileSync(await (await along).path()));
      expect(linkedIn(found.master).length).toBe(links);
      expect(found.master.resources.filter(({ id }) => !found.resources.has(id)).length).toBe(links);
    }
    await pane.locator('section.wrong').getByRole('button', { name: 'Put it back there' }).click();
    await expect(pane.locator('section.wrong')).toHaveCount(0);
    expect(name).not.toBe('');
  },
);
