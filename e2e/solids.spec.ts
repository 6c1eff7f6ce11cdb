import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { chooseAct, TestWorkshop } from './workshop';

let workshop: TestWorkshop;
test.beforeEach(async ({}, info) => {
  workshop = await TestWorkshop.emptyFor(info);
});
test.afterEach(() => workshop.leave());

test('a part is begun, given holes and a fillet, turned by keys, derived, and a copy with one wrong hole is found and pointed at', async ({
  page,
}) => {
  const broken: string[] = [];
  page.on('pageerror', (error) => broken.push(error.message));
  // A machine that is never at rest.
  await page.addInitScript(() => (window.requestIdleCallback = () => 0));
  await page.goto(workshop.url);
  // What comes in by then moves what is clicked.
  await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
  await page.getByRole('button', { name: 'New master' }).click();
  await page.getByLabel('What is it?').fill('Rail clip');
  await page.getByRole('radio', { name: 'Part in three dimensions' }).click();
  await page.getByRole('button', { name: 'Start master' }).click();

  const face = page.locator('twin-solid-face');
  await expect(face.getByText('100 × 60 × 8 mm')).toBeVisible();
  await expect(face.getByText('48 cm³')).toBeVisible();
  // A parameter is changed, and the solid follows; what can't be made is said, and what was there stays.
  await face.getByLabel('height', { exact: true }).fill('width / 10');
  await face.getByLabel('height', { exact: true }).press('Enter');
  await expect(face.getByText('100 × 60 × 10 mm')).toBeVisible();
  await face.getByLabel('height', { exact: true }).fill('wide / 10');
  await face.getByLabel('height', { exact: true }).press('Enter');
  await expect(face.getByRole('alert')).toContainText('no parameter “wide”');
  await expect(face.getByText('100 × 60 × 10 mm')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(face.getByRole('alert')).toHaveCount(0);

  await chooseAct(face, 'Add a feature', 'Hole');
  const slip = face.locator('twin-solid-slip');
  await slip.getByLabel('Diameter, mm').fill('6');
  await slip.getByLabel('Diameter, mm').press('Enter');
  await slip.getByLabel('x, mm', { exact: true }).fill('-30');
  await slip.getByLabel('x, mm', { exact: true }).press('Enter');
  await chooseAct(face, 'Add a feature', 'Row');
  await slip.getByLabel('Count').fill('3');
  await slip.getByLabel('Count').press('Enter');
  await slip.getByLabel('Step x, mm').fill('width * 0.3');
  await slip.getByLabel('Step x, mm').press('Enter');
  await expect(face.locator('.facts')).toContainText('Holes3');
  await chooseAct(face, 'Add a feature', 'Fillet');
  await expect(slip.getByText('edges along z')).toBeVisible();
  await expect(face.locator('.state')).toHaveCount(0);
  await expect(face.getByRole('alert')).toHaveCount(0);

  // The keys turn it: it is drawn again.
  const space = face.getByRole('application');
  await space.focus();
  const drawn = async () => Number(await space.getAttribute('data-drawn'));
  const before = await drawn();
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('+');
  await expect.poll(drawn).toBeGreaterThan(before);

  await page.getByRole('button', { name: /Update master/ }).click();
  await expect(page.getByText('all changes are in r2')).toBeVisible();
  await page.getByRole('button', { name: 'Derive …' }).click();
  const panel = page.locator('twin-derive-panel');
  await expect(panel.getByText(/Exact solids/).first()).toBeVisible();
  await panel
    .getByRole('radio', { name: /Shared triangles/ })
    .first()
    .click();
  await expect(panel.getByText(/become triangles/).first()).toBeVisible();
  await page.locator('twin-derive-panel').getByLabel('Name', { exact: true }).fill('for the mill');
  await panel.getByRole('button', { name: /^Write/ }).click();
  const copy = page.locator('[data-copy="for the mill"]');
  await expect(copy).toContainText('.obj');
  await copy.click();
  await expect(page.getByText(/triangles read back; the surfaces agree within/)).toBeVisible();

  // Somebody widens the hole at x = -30 by half a millimetre.
  const folder = join(workshop.shelf, 'rail_clip');
  const file = join(
    folder,
    readdirSync(folder).find((name) => name.endsWith('.obj'))!,
  );
  const spoiled = readFileSync(file, 'utf8').replace(/^v (\S+) (\S+) (\S+)$/gm, (line, x: string, y: string, z: string) => {
    const off = Math.hypot(Number(x) + 30, Number(y));
    return Math.abs(off - 3) > 0.01 ? line : `v ${-30 + ((Number(x) + 30) * 3.25) / off} ${(Number(y) * 3.25) / off} ${z}`;
  });
  writeFileSync(file, spoiled);
  await expect(page.getByRole('button', { name: 'hole changed' })).toBeVisible();
  await expect(page.locator('twin-match-lane')).toContainText('0.50 mm');
  await page.getByRole('button', { name: 'hole changed' }).click();
  await expect(page.locator('twin-solid-match')).toBeVisible();
  await page.locator('twin-solid-match').getByRole('button', { name: 'Copy' }).click();
  // Pressing on the hole as it is seen from above goes to its line in the list.
  await page.locator('twin-match-lane').getByRole('button', { name: 'volume changed' }).click();
  await page.locator('twin-solid-match').getByRole('button', { name: 'top' }).click();
  const seen = (await page.locator('twin-solid-match').getByRole('application').boundingBox())!;
  await page.waitForTimeout(500);
  // Pixels of a millimetre: the whole is seen, with a little room around it.
  const scale = seen.height / 2 / (1.18 * (Math.hypot(100, 60, 10) / 2));
  await page.mouse.click(seen.x + seen.width / 2 - 36 * scale, seen.y + seen.height / 2);
  await expect(page.locator('twin-match-lane tr.on')).toContainText('Hole');
  expect(broken).toEqual([]);
});
