import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import sharp from 'sharp';
import { chooseAct, TestWorkshop } from './workshop';

let workshop: TestWorkshop;
let photo: string;
test.beforeEach(async ({}, info) => {
  workshop = await TestWorkshop.emptyFor(info);
  const [width, height] = [600, 400];
  const data = Buffer.alloc(3 * width * height);
  for (let i = 0; i < data.length; i++) data[i] = 60 + ((i % (3 * width)) / (3 * width)) * 120 + ((i * 31) % 13);
  photo = info.outputPath('north pool.jpg');
  writeFileSync(
    photo,
    await sharp(data, { raw: { width, height, channels: 3 } })
      .jpeg()
      .withMetadata({ density: 200 })
      .toBuffer(),
  );
});
test.afterEach(() => workshop.leave());

test('a picture becomes a master, is corrected on its string, derived, and a copy that someone painted on is found', async ({
  page,
}) => {
  await page.goto(workshop.url);
  // What comes in by then moves what is clicked.
  await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
  await page.locator('input[type=file]').first().setInputFiles(photo);
  await page.getByRole('link', { name: 'north pool', exact: true }).first().click();
  const stage = page.locator('twin-stage canvas.board');
  await expect(stage).toBeVisible();
  await page.getByRole('button', { name: 'Contents' }).click();
  await page
    .locator('twin-contents')
    .getByRole('button', { name: /picture/ })
    .click();

  const string = page.locator('twin-string');
  await expect(string.getByText('as it came')).toBeVisible();
  await expect.poll(async () => (await stage.screenshot()).length).toBeGreaterThan(8000);
  const before = await stage.screenshot();
  await chooseAct(string, 'Put a correction on the string', 'single ink');
  await expect(string.getByRole('button', { name: 'single ink' })).toHaveAttribute('aria-pressed', 'true');
  await expect.poll(async () => before.equals(await stage.screenshot())).toBe(false);
  await chooseAct(string, 'Put a correction on the string', 'levels');
  await expect(string.getByRole('img', { name: /light is spread/ })).toBeVisible();
  await string.getByLabel('Darkest as a number').fill('0,2');
  await string.getByLabel('Darkest as a number').blur();
  await string.getByRole('button', { name: 'Earlier' }).click();
  await expect(string.getByRole('listitem').nth(1)).toContainText('levels');
  // Lifted off it stays on the string, and does nothing.
  await string.getByRole('button', { name: 'Lift off' }).click();
  await expect(string.getByRole('button', { name: 'Put on', exact: true })).toBeVisible();
  await string.getByRole('button', { name: 'Put on', exact: true }).click();

  await page.getByLabel('What this update is about').fill('Light put right');
  await page.getByRole('button', { name: /Update master/ }).click();
  await expect(page.getByText('all changes are in r2')).toBeVisible();
  await page.reload();
  await page.getByRole('button', { name: 'Derive …' }).click();
  const panel = page.locator('twin-derive-panel');
  await panel
    .getByRole('radio', { name: /PNG picture/ })
    .or(panel.getByRole('button', { name: /PNG picture/ }))
    .first()
    .click();
  await expect(panel.getByText(/600 × 400 pixels/)).toBeVisible();
  await page.locator('twin-derive-panel').getByLabel('Name', { exact: true }).fill('pool for the web');
  await panel.getByRole('button', { name: /^Write/ }).click();
  const copies = page.locator('twin-copies-lane');
  await expect(copies.getByText('.png')).toBeVisible();

  const folder = join(workshop.shelf, 'north_pool');
  const file = join(
    folder,
    readdirSync(folder).find((name) => name.endsWith('.png'))!,
  );
  const red = await sharp({ create: { width: 40, height: 30, channels: 3, background: '#c02020' } })
    .png()
    .toBuffer();
  writeFileSync(
    file,
    await sharp(readFileSync(file))
      .composite([{ input: red, left: 100, top: 50 }])
      .keepMetadata()
      .png()
      .toBuffer(),
  );
  const match = page.locator('twin-match-lane');
  await expect(match.getByText('Touched.')).toBeVisible();
  await expect(match.getByRole('button', { name: /region changed/i })).toBeVisible();
  await match.getByText('Map', { exact: true }).click();
  await expect(match.getByText('pixels that differ')).toBeVisible();
});

test(
  'pictures are put onto an open board by button, and what can’t come in is told',
  { tag: '@long' },
  async ({ page }, info) => {
    await page.goto(workshop.url);
    // What comes in by then moves what is clicked.
    await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
    await page.locator('input[type=file]').first().setInputFiles(photo);
    await page.getByRole('link', { name: 'north pool', exact: true }).first().click();
    const bad = info.outputPath('torn.png');
    writeFileSync(bad, readFileSync(photo).subarray(0, 200));
    await page.locator('twin-keep-lane input[type=file]').setInputFiles([photo, bad]);
    await expect(page.locator('twin-keep-lane').getByRole('status')).toContainText('torn.png did not come in');
    await expect(page.locator('twin-slip')).toContainText('north pool');
    await expect(page.getByText('1 change since r1')).toBeVisible();
    await page.reload();
    await page.getByRole('button', { name: 'Go on with it' }).click();
    await page.getByRole('button', { name: 'Contents' }).click();
    await expect(page.locator('twin-contents').getByRole('button', { name: /north pool|picture/ })).toHaveCount(2);
  },
);

test('a picture is cut off at its edges, and what is seen stays where it is', { tag: '@long' }, async ({ page }) => {
  await page.goto(workshop.url);
  // What comes in by then moves what is clicked.
  await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
  await page.locator('input[type=file]').first().setInputFiles(photo);
  await page.getByRole('link', { name: 'north pool', exact: true }).first().click();
  await expect(page.locator('twin-stage canvas.board')).toBeVisible();
  await page.getByRole('button', { name: 'Contents' }).click();
  await page
    .locator('twin-contents')
    .getByRole('button', { name: /picture/ })
    .click();
  const string = page.locator('twin-string');
  await string.getByRole('button', { name: 'as it came' }).click();
  await string.getByLabel('Left edge as a number').fill('25');
  await string.getByLabel('Left edge as a number').press('Tab');
  await expect(string.getByLabel('Left edge', { exact: true })).toHaveValue('25');
  await string.getByRole('button', { name: 'as it came' }).click();
  await expect(page.getByLabel('Frame width')).toHaveValue('57.15');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByLabel('Frame width')).toHaveValue('76.2');
});

test('the corrections of one picture are given to the others of the board in one step', { tag: '@long' }, async ({ page }) => {
  await page.goto(workshop.url);
  await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
  await page.locator('input[type=file]').first().setInputFiles(photo);
  await page.getByRole('link', { name: 'north pool', exact: true }).first().click();
  await expect(page.locator('twin-stage canvas.board')).toBeVisible();
  await page.locator('twin-keep-lane input[type=file]').setInputFiles([photo]);
  await expect(page.getByText('1 change since r1')).toBeVisible();
  const string = page.locator('twin-string');
  await chooseAct(string, 'Put a correction on the string', 'contrast');
  await string.getByRole('button', { name: 'the other pictures of this board (1)' }).click();
  await expect(string.getByRole('button', { name: 'the other pictures' })).toHaveCount(0);
  await expect(page.getByText('3 changes since r1')).toBeVisible();
  await page.getByRole('button', { name: 'Contents' }).click();
  for (const one of await page
    .locator('twin-contents')
    .getByRole('button', { name: /north pool|picture/ })
    .all()) {
    await one.click();
    await expect(string.getByRole('button', { name: 'contrast' })).toBeVisible();
  }
});

test(
  'what is cut out of a picture is pressed on it: from points outwards, and inside of an outline',
  { tag: '@long' },
  async ({ page }) => {
    await page.goto(workshop.url);
    // What comes in by then moves what is clicked.
    await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
    await page.locator('input[type=file]').first().setInputFiles(photo);
    await page.getByRole('link', { name: 'north pool', exact: true }).first().click();
    await expect(page.locator('twin-stage canvas.board')).toBeVisible();
    await page.getByRole('button', { name: 'Contents' }).click();
    await page
      .locator('twin-contents')
      .getByRole('button', { name: /picture/ })
      .click();
    const string = page.locator('twin-string');
    await chooseAct(string, 'Put a correction on the string', 'cut-out');
    const pane = string.locator('twin-cut-pane canvas');
    await expect(string.getByText('Taken away wherever the colour is')).toBeVisible();
    await expect.poll(async () => (await pane.screenshot()).length).toBeGreaterThan(2000);
    const white = await string.getByLabel('Takes away', { exact: true }).inputValue();
    await pane.click({ position: { x: 40, y: 60 } });
    await expect(string.getByText('Taken away from 1 point outwards')).toBeVisible();
    expect(await string.getByLabel('Takes away', { exact: true }).inputValue()).not.toBe(white);
    // Pressed again, the point goes.
    await pane.click({ position: { x: 41, y: 61 } });
    await expect(string.getByText('Taken away wherever the colour is')).toBeVisible();

    await string.getByRole('button', { name: 'An outline stays' }).click();
    await expect(string.getByLabel('Distance as a number')).toHaveCount(0);
    for (const position of [
      { x: 60, y: 40 },
      { x: 240, y: 40 },
      { x: 240, y: 160 },
      { x: 60, y: 160 },
      // On the side between the first two: a corner there.
      { x: 150, y: 41 },
    ])
      await pane.click({ position });
    await expect(string.getByText('Kept inside of an outline of 5 corners')).toBeVisible();
    // Drawn along, the corner of the side stays between its neighbours.
    await pane.hover({ position: { x: 150, y: 41 } });
    await page.mouse.down();
    await pane.hover({ position: { x: 150, y: 20 } });
    await page.mouse.up();
    await expect(string.getByText('Kept inside of an outline of 5 corners')).toBeVisible();
    await string.getByRole('button', { name: 'Take the last away' }).click();
    await expect(string.getByText('Kept inside of an outline of 4 corners')).toBeVisible();
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(string.getByText('Kept inside of an outline of 5 corners')).toBeVisible();
  },
);
