import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { type Page, expect, test } from '@playwright/test';
import { choose, TestWorkshop } from './workshop';

let workshop: TestWorkshop;
test.beforeEach(async ({}, info) => {
  workshop = await TestWorkshop.open(`lettering_${info.workerIndex}`);
});
test.afterEach(() => workshop.close());

/** Marks letters of the wording as a person does with the pointer. */
const mark = (page: Page, words: string) =>
  page.getByRole('textbox', { name: 'Wording' }).evaluate((field: HTMLTextAreaElement, marked) => {
    field.focus();
    const from = field.value.indexOf(marked);
    field.setSelectionRange(from, from + marked.length);
    field.dispatchEvent(new Event('select'));
  }, words);

test(
  'a text breaks in its box, is spaced, and a part of it looks otherwise: seen, kept, derived and in step',
  { tag: '@long' },
  async ({ page }) => {
    await page.goto(workshop.url);
    await page.getByRole('link', { name: 'Fen map leaflet', exact: true }).click();
    await page.getByRole('tab', { name: 'Inside' }).click();
    await page.getByRole('button', { name: 'Contents' }).click();
    await page
      .locator('twin-contents')
      .getByRole('button', { name: /Before you set out/ })
      .click();
    const slip = page.locator('twin-slip');
    const stage = page.locator('twin-stage canvas.board');
    const set = async (label: string, value: string) => {
      const before = await stage.screenshot();
      await slip.getByLabel(label, { exact: true }).fill(value);
      await slip.getByLabel(label, { exact: true }).press('Enter');
      await expect.poll(async () => before.equals(await stage.screenshot())).toBe(false);
    };
    await set('Letter spacing', '0.08');
    await set('Lines break at', '50');
    await set('Line distance', '1.6');
    await slip.getByLabel('Line distance').fill('0');
    await slip.getByLabel('Line distance').press('Enter');
    await expect(slip.getByRole('alert')).toContainText('0 is below 0.1, which is the least');

    await expect(slip.getByText('Mark letters to give them a look of their own.')).toBeVisible();
    await mark(page, 'set out');
    const part = slip.getByRole('group', { name: 'Look of “set out”' });
    await choose(part, 'Font of the part', 'Oswald Bold');
    // Two fields one right behind the other, before the browser draws anything: the second goes on from the first.
    await part.evaluate(async (fields) => {
      const say = (label: string, value: string) => {
        const field = fields.querySelector<HTMLInputElement>(`input[aria-label="${label} of the part"]`)!;
        field.value = value;
        field.dispatchEvent(new Event('change'));
      };
      say('Letter size', '14');
      await Promise.resolve();
      say('Colour', '#9a5b2e');
    });
    await expect(part.getByRole('button', { name: 'As the rest' })).toBeVisible();
    // The part keeps its look while the wording around it changes, and an emptied field says nothing again.
    await slip.getByRole('textbox', { name: 'Wording' }).fill('Before you all set out');
    await slip.getByRole('textbox', { name: 'Wording' }).blur();
    await mark(page, 'set out');
    await expect(slip.getByLabel('Letter size of the part')).toHaveValue('14');
    await set('Line distance', '');

    await page.getByLabel('What this update is about').fill('Title set anew');
    await page.getByRole('button', { name: /Update master/ }).click();
    await expect(page.getByText('all changes are in r5')).toBeVisible();
    await page.getByRole('button', { name: 'Derive …' }).click();
    await page.locator('twin-derive-panel').getByLabel('Name', { exact: true }).fill('inside, set anew');
    await page.getByRole('button', { name: 'Write copy' }).click();
    await expect(page.locator('[data-copy="inside, set anew"] twin-verdict-mark')).toHaveAttribute('data-verdict', 'in step');
    const folder = readdirSync(workshop.shelf, { recursive: true }).map(String);
    const file = folder.find((name) => name.includes('inside_set_anew'))!;
    const words = readFileSync(join(workshop.shelf, file), 'utf8');
    expect(words).toMatch(/font-family="Oswald[^>]*font-weight="700" font-size="14"[^>]*fill="#9a5b2e"[^>]*>set out</);
    // Where the box ends, the next line begins.
    expect(words).toContain('>Before<');
    expect(words).toContain('>you all<');
  },
);
