// Retakes docs/screenshots from the demo data, at 1280 × 800, on a database and shelf of its own.
import { chromium } from '@playwright/test';
import { spawn, spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { freePort, startPostgres } from './lib/postgres.mjs';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const out = join(root, 'docs/screenshots');
mkdirSync(out, { recursive: true });
spawnSync(process.execPath, [join(root, 'scripts/build.mjs'), '--quiet'], { stdio: ['ignore', 'ignore', 'inherit'] });
const folder = mkdtempSync(join(tmpdir(), 'inkwell-shots-'));
const database = await startPostgres(join(folder, 'postgres'), { fast: true });
const port = await freePort();
const url = `http://127.0.0.1:${port}`;
const run = (bundle, env, ...args) =>
  spawn(process.execPath, [join(root, `dist/node/${bundle}.mjs`), ...args], {
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, INKWELL_SHELF: join(folder, 'shelf'), ...env },
  });
await new Promise((done) => run('migrate', { INKWELL_DATABASE: database.owner }).once('exit', done));
const server = run('server', {
  INKWELL_DATABASE: database.url,
  INKWELL_PORT: String(port),
  INKWELL_WORKS: 'yes',
  INKWELL_UPLOADS: join(folder, 'uploads'),
  INKWELL_WEB: join(root, 'dist/web/browser'),
  INKWELL_DEMO: 'yes',
});
const bench = run('bench', { INKWELL_BENCH: join(folder, 'bench') });
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
try {
  for (let i = 0; i < 300 && !(await fetch(`${url}/api/health`).catch(() => null))?.ok; i++)
    await new Promise((done) => setTimeout(done, 100));
  // The demo is there in full, and all that follows from it is done.
  for (let quiet = 0; quiet < 3; await new Promise((done) => setTimeout(done, 1000))) {
    const { total, demo } = await (await fetch(`${url}/api/work`)).json();
    quiet = demo || total ? 0 : quiet + 1;
  }
  const open = async () => {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' });
    await page.addInitScript(() => localStorage.setItem('inkwell-person', 'Ines Okoro'));
    await page.goto(url);
    await page.locator('.rows .title').nth(3).waitFor({ timeout: 120_000 });
    await page.waitForTimeout(1500);
    return page;
  };
  const page = await open();
  await page.screenshot({ path: join(out, 'desk.png') });
  await page.getByRole('link', { name: 'Boardwalk waymarker', exact: true }).click();
  await page.locator('[data-copy="metal shop drawing"]').click();
  await page.locator('twin-match-lane tbody tr').first().click();
  await page.waitForTimeout(800);
  await page.screenshot({ path: join(out, 'master.png') });
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Whole', exact: true }).click();
  await page.getByRole('button', { name: 'Contents' }).click();
  await page.locator('twin-contents').getByRole('button', { name: 'Arrow' }).click();
  await page.getByLabel('Fill colour', { exact: true }).fill('#2b4180');
  await page.getByLabel('Fill colour', { exact: true }).blur();
  await page.getByRole('button', { name: 'Contents' }).click();
  await page.waitForTimeout(800);
  await page.screenshot({ path: join(out, 'editing.png') });
  await page.keyboard.press('1');
  await page.getByRole('button', { name: 'Parameters' }).click();
  await page.getByLabel('Value of hole_spacing').fill('(width - 44) / 4');
  await page.getByLabel('Value of hole_spacing').press('Enter');
  await page.locator('twin-parameters').getByRole('button', { name: '4 uses' }).click();
  await page.locator('twin-parameters li button').nth(1).click();
  await page.waitForTimeout(900);
  await page.screenshot({ path: join(out, 'parameters.png') });
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('button', { name: 'Parameters' }).click();
  await page.keyboard.press('Escape');
  await page
    .locator('twin-thread')
    .first()
    .click({ position: { x: 2, y: 2 } });
  await page.keyboard.press('2');
  await page.getByRole('button', { name: 'Derive …' }).click();
  await page.getByRole('radio', { name: 'For another program' }).click();
  await page.locator('twin-derive-panel').getByLabel('Name', { exact: true }).fill('drawing for the smith');
  await page.waitForTimeout(1000);
  await page.screenshot({ path: join(out, 'derive.png') });
  await page.goto(url);
  const shelf = join(folder, 'shelf/boardwalk_waymarker');
  await page.getByLabel('Files to bring in').setInputFiles(
    join(
      shelf,
      readdirSync(shelf).find((name) => name.startsWith('vinyl_first_trial')),
    ),
  );
  await page.waitForTimeout(1500);
  await page.screenshot({ path: join(out, 'identified.png') });
  // Pictures and pixels.
  await page.goto(url);
  await page.getByRole('link', { name: 'Heron at the north pool', exact: true }).click();
  await page.locator('[data-copy="cut-out"]').click();
  await page.getByText('Region 1').waitFor({ timeout: 60_000 });
  await page.locator('twin-overlay').hover({ position: { x: 238, y: 56 } });
  await page.waitForTimeout(800);
  await page.screenshot({ path: join(out, 'pixels.png') });
  await page.getByRole('tab', { name: 'North pool' }).click();
  await page.getByRole('button', { name: 'Contents' }).click();
  await page.locator('twin-contents').getByRole('button', { name: 'Heron at the pool' }).click();
  await page.getByRole('button', { name: 'Contents' }).click();
  await page.locator('twin-string').getByRole('button', { name: 'levels' }).click();
  await page.waitForTimeout(5000);
  await page.screenshot({ path: join(out, 'pictures.png') });
  // A table, and a copy of it that is false by one digit.
  await page.goto(url);
  await page.getByRole('link', { name: 'Coating weathering series', exact: true }).click();
  await page.locator('[data-copy="readings for the laboratory"]').click();
  await page.locator('twin-match-lane').getByRole('button', { name: 'value changed' }).click();
  await page.waitForTimeout(1500);
  await page.screenshot({ path: join(out, 'table-match.png') });
  await page.keyboard.press('1');
  await page.waitForTimeout(500);
  await page.locator('.tabulator-col', { hasText: 'Gloss kept' }).click();
  await page.waitForTimeout(1000);
  await page.screenshot({ path: join(out, 'table.png') });
  await page.keyboard.press('2');
  // A solid, and a copy of it that is false by one hole.
  await page.goto(url);
  await page.getByRole('link', { name: 'Post bracket', exact: true }).click();
  await page.locator('[data-copy="bracket for the mill"]').click();
  await page.locator('twin-match-lane').getByRole('button', { name: 'hole changed' }).click();
  await page.waitForTimeout(4000);
  await page.screenshot({ path: join(out, 'solid-match.png') });
  await page.keyboard.press('1');
  await page.waitForTimeout(500);
  await page
    .getByRole('button', { name: /Bolt hole⌀|Bolt hole / })
    .first()
    .click();
  await page.waitForTimeout(1500);
  await page.screenshot({ path: join(out, 'solid.png') });
  await page.keyboard.press('2');
  // The solid on its drawing sheet.
  await page.goto(url);
  await page.getByRole('link', { name: 'Post bracket', exact: true }).click();
  await page.getByRole('tab', { name: 'Drawing sheet' }).click();
  await page.locator('[data-copy="drawing as it was"]').click();
  await page.locator('twin-match-lane tbody tr').first().waitFor({ timeout: 60_000 });
  await page.waitForTimeout(4000);
  await page.screenshot({ path: join(out, 'sheet.png') });
  // A flowing text, an edit in it, and a copy that is false by one word.
  await page.goto(url);
  await page.getByRole('link', { name: 'Lantern Fen visitor guide', exact: true }).click();
  await page.getByText('The whole walk takes').click({ position: { x: 2, y: 8 } });
  for (const key of ['Home', ...Array.from({ length: 5 }, () => 'Control+ArrowRight')]) await page.keyboard.press(key);
  await page.keyboard.type(' and a half');
  await page.locator('twin-prose-face .drops').waitFor({ timeout: 20_000 });
  await page.screenshot({ path: join(out, 'text.png') });
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.locator('[data-copy="guide for the web page"]').click();
  await page.getByRole('button', { name: 'words changed' }).click({ timeout: 30_000 });
  await page.waitForTimeout(1000);
  await page.screenshot({ path: join(out, 'text-match.png') });
  // Two people change the same master.
  const person = async (name) => {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' });
    await context.addInitScript((own) => localStorage.setItem('inkwell-person', own), name);
    const own = await context.newPage();
    await own.goto(url);
    await own.getByRole('link', { name: 'Fen map leaflet', exact: true }).click();
    await own.getByRole('button', { name: 'Contents' }).click();
    return own;
  };
  const change = async (own, object, field, value) => {
    await own.locator('twin-contents').getByRole('button', { name: object }).click();
    await own.getByLabel(field).fill(value);
    await own.getByLabel(field).blur();
  };
  const [ines, bram] = [await person('Ines Okoro'), await person('Bram Adler')];
  await change(ines, 'Boardwalk', 'Line width', '3.2');
  await change(ines, '“Lantern Fen”', 'Letter size', '15');
  await change(bram, 'Boardwalk', 'Line width', '2.4');
  await change(bram, '“Lantern Fen”', 'Letter size', '12');
  await bram.waitForTimeout(800);
  await bram.getByRole('button', { name: 'Update master (r5)' }).click();
  await ines.getByRole('button', { name: 'Carry them over onto r5' }).click();
  await ines.getByLabel('Yours: 3.2').check();
  await ines.waitForTimeout(800);
  await ines.screenshot({ path: join(out, 'meeting.png') });
  // A badge as the needle sews it.
  const shop = await browser.newPage({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' });
  await shop.goto(url);
  await shop.getByRole('link', { name: 'Warden badge', exact: true }).first().click();
  await shop.getByRole('button', { name: 'Derive …' }).click();
  await shop.getByRole('radio', { name: 'To a machine' }).check();
  await shop.getByRole('radio', { name: 'Stitches (list)' }).check();
  await shop.locator('twin-job-look').scrollIntoViewIfNeeded();
  const line = await shop.locator('twin-job-look twin-slider').boundingBox();
  await shop.mouse.click(line.x + 0.72 * line.width, line.y + line.height / 2);
  await shop.waitForTimeout(800);
  await shop.screenshot({ path: join(out, 'machine.png') });
  // The bench: one program that is right, and one that is behind.
  for (const [master, copies] of [
    ['Otter trail plaque', ['program for the router', 'program, first plaque']],
    ['Warden badge', ['stitches']],
  ]) {
    await shop.goto(url);
    await shop.getByRole('link', { name: master, exact: true }).first().click();
    for (const copy of copies) {
      await shop.locator(`[data-copy="${copy}"]`).click();
      await shop.locator('twin-machine-row').getByRole('button', { name: 'Send it' }).click();
      await shop.locator('twin-machine-row').getByText('holds').waitFor();
    }
  }
  await shop.getByRole('link', { name: 'Bench' }).click();
  await shop.locator('[data-machine="router"]').getByRole('button', { name: 'Run it', exact: true }).click();
  await shop.getByText('It ran to its end').waitFor();
  await shop.waitForTimeout(800);
  await shop.screenshot({ path: join(out, 'bench.png') });
  // A table of variants, and what each row looks like.
  const rows = [
    ['Sedge Loop', 420, 94, 1.8],
    ['Heron Loop', 420, 94, 2.4],
    ['Bittern Path', 480, 100, 3.1],
    ['Otter Run', 420, 94, 0.9],
    ['Marsh Way', 520, 110, 5.2],
    ['Kingfisher Bend', 460, 98, ''],
    ['Dragonfly Steps', 420, 94, 1.1],
  ];
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' });
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  const trails = await context.newPage();
  await trails.goto(url);
  await trails.getByRole('link', { name: 'Boardwalk waymarker', exact: true }).click();
  await trails.getByRole('button', { name: 'Parameters' }).click();
  await trails.getByRole('button', { name: 'Make a table of variants' }).click();
  await trails.evaluate((text) => navigator.clipboard.writeText(text), rows.map((row) => row.join('\t')).join('\n'));
  await trails.locator('twin-table-face').getByText('Sedge Loop').click();
  await trails.keyboard.press('Control+v');
  await trails.getByRole('button', { name: /^Update master/ }).click();
  await trails.getByText(/all changes are in/).waitFor();
  await trails.getByRole('button', { name: 'Derive …' }).click();
  await trails.locator('twin-contact-sheet .tiles li').nth(4).hover();
  await trails.waitForTimeout(1500);
  await trails.screenshot({ path: join(out, 'variants.png') });
} finally {
  await browser.close();
  server.kill('SIGTERM');
  bench.kill('SIGTERM');
  await new Promise((done) => server.once('exit', done));
  database.stop();
  rmSync(folder, { recursive: true, force: true });
}
