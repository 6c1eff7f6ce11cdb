import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type BrowserContext, type Page, chromium, expect, test } from '@playwright/test';
import pg from 'pg';
import { TestWorkshop } from './workshop';

let workshop: TestWorkshop;
test.beforeAll(async () => {
  workshop = await TestWorkshop.open('together_e2e');
});
test.afterAll(() => workshop.close());

async function openMaster(page: Page, title = 'Boardwalk waymarker'): Promise<void> {
  await page.goto(workshop.url);
  await page.getByRole('link', { name: title, exact: true }).click();
  await expect(page.locator('twin-stage canvas.board')).toBeVisible();
}
/** Changes one field of an object, chosen by its name. */
async function change(page: Page, name: string, field: string, value: string): Promise<void> {
  const contents = page.getByRole('button', { name: 'Contents' });
  if ((await contents.getAttribute('aria-pressed')) === 'false') await contents.click();
  await page.locator('twin-contents').getByRole('button', { name }).click();
  await page.getByLabel(field, { exact: true }).fill(value);
  await page.getByLabel(field, { exact: true }).blur();
}

test('two people change one master: each has a draft, and where both changed the same, one says which counts', async ({
  browser,
}) => {
  const people: BrowserContext[] = [];
  const person = async (name: string): Promise<Page> => {
    const context = await browser.newContext();
    people.push(context);
    await context.addInitScript((own) => localStorage.setItem('inkwell-person', own), name);
    const page = await context.newPage();
    await openMaster(page);
    return page;
  };
  const [ines, bram] = [await person('Ines Okoro'), await person('Bram Adler')];
  await change(ines, 'Trail name', 'Wording', 'Otter Run');
  await change(ines, 'Arrow', 'Fill colour', '#2b4180');
  await change(bram, 'Trail name', 'Wording', 'Heron Walk');
  await expect(ines.getByText('2 changes since r6')).toBeVisible();
  await expect(bram.getByText('1 change since r6', { exact: true })).toBeVisible();
  await bram.getByRole('button', { name: 'Update master (r7)' }).click();
  await expect(bram.getByText('all changes are in r7')).toBeVisible();

  await expect(ines.getByText('Someone updated this master to r7')).toBeVisible();
  await expect(ines.getByRole('button', { name: /Update master/ })).toBeDisabled();
  await ines.getByRole('button', { name: 'Carry them over onto r7' }).click();
  const meeting = ines.getByRole('alert', { name: 'Changes that meet' });
  await expect(meeting).toContainText('Trail name: wording');
  await expect(meeting.getByRole('button', { name: 'Go on with these' })).toBeDisabled();
  await meeting.getByLabel('Yours: Otter Run').check();
  await meeting.getByRole('button', { name: 'Go on with these' }).click();
  await bram.route('**/changes/**', async (route) => {
    await new Promise((done) => setTimeout(done, 1500));
    await route.continue();
  });
  await ines.getByRole('button', { name: 'Update master (r8)' }).click();
  await expect(ines.getByText('all changes are in r8')).toBeVisible();
  await expect(ines.locator('.revision')).toContainText('Ines Okoro');
  // What he sees by then is hers, without asking: he had nothing of his own. It is not said before it is here, however slowly
  // it comes.
  await expect(bram.getByText('all changes are in r8')).toBeVisible();
  await change(bram, 'Trail name', 'Wording', 'Otter Run again');
  await expect(ines.getByText('Bram Adler has a draft too')).toBeVisible();
  for (const context of people) await context.close();
});

test(
  'one person in two windows has one draft: each follows the other, and both know of it',
  { tag: '@long' },
  async ({ browser }) => {
    const context = await browser.newContext();
    const [left, right] = [await context.newPage(), await context.newPage()];
    await openMaster(left, 'Fen map leaflet');
    await openMaster(right, 'Fen map leaflet');
    await expect(left.getByText('open in another window of yours')).toBeVisible();
    await change(left, 'Boardwalk', 'Line width', '3.1');
    await expect(right.getByText('1 change since r4', { exact: true })).toBeVisible();
    await change(right, 'Sedge Loop', 'Line width', '1.1');
    await expect(left.getByText('2 changes since r4')).toBeVisible();
    await left.getByRole('button', { name: 'Undo' }).click();
    await expect(right.getByText('1 change since r4', { exact: true })).toBeVisible();
    await right.close();
    await expect(left.getByText('open in another window of yours')).toBeHidden();

    const other = await browser.newContext();
    await other.addInitScript(() => localStorage.setItem('inkwell-person', 'Bram Adler'));
    const bram = await other.newPage();
    await openMaster(bram, 'Fen map leaflet');
    await expect(left.getByText('Bram Adler is here')).toBeVisible();
    await expect(bram.getByText('Ines Okoro has a draft too')).toBeVisible();
    await left.getByRole('button', { name: 'Undo' }).click();
    await expect(bram.getByText('Ines Okoro has a draft too')).toBeHidden();

    // Whoever leaves with changes says what becomes of them.
    await change(left, 'Boardwalk', 'Line width', '3.2');
    const desk = () => left.getByRole('link', { name: 'Desk', exact: true }).click();
    await desk();
    await left.getByRole('button', { name: 'Stay here' }).click();
    await expect(left.getByText('1 change since r4', { exact: true })).toBeVisible();
    await desk();
    await left.getByRole('button', { name: 'Leave it as a draft' }).click();
    await left.getByRole('link', { name: 'Fen map leaflet', exact: true }).click();
    await left.getByRole('button', { name: 'Go on with it' }).click();
    await desk();
    await left.getByRole('button', { name: 'Throw the changes away' }).click();
    await left.getByRole('link', { name: 'Fen map leaflet', exact: true }).click();
    await expect(left.getByText('all changes are in r4')).toBeVisible();
    await change(left, 'Boardwalk', 'Line width', '3.4');
    await desk();
    await left.getByRole('dialog').getByRole('button', { name: 'Update master (r5)' }).click();
    await left.getByRole('link', { name: 'Fen map leaflet', exact: true }).click();
    await expect(left.getByText('all changes are in r5')).toBeVisible();
    await Promise.all([context.close(), other.close()]);
  },
);

test(
  'many windows of one browser are all told of what others do, and go on being told when the one that listens closes',
  { tag: '@long' },
  async ({ browser }) => {
    const [context, other] = [await browser.newContext(), await browser.newContext()];
    await other.addInitScript(() => localStorage.setItem('inkwell-person', 'Bram Adler'));
    // More than a browser keeps connections to one server.
    const windows = [];
    for (let i = 0; i < 8; i++) {
      windows.push(await context.newPage());
      await openMaster(windows[i]!, 'Fen map leaflet');
    }
    const [first, second, ...more] = windows as [Page, Page, ...Page[]];
    const bram = await other.newPage();
    await openMaster(bram, 'Fen map leaflet');
    for (const page of windows) await expect(page.getByText('Bram Adler is here')).toBeVisible();
    await expect(bram.getByText('Ines Okoro is here')).toBeVisible();
    await first.close();
    await change(second, 'Boardwalk', 'Line width', '3.7');
    for (const page of more) await expect(page.getByText('1 change since r', { exact: false })).toBeVisible();
    await bram.close();
    for (const page of [second, ...more]) await expect(page.getByText('Bram Adler is here')).toBeHidden();
    await second.getByRole('button', { name: 'Undo' }).click();
    for (const page of more) await expect(page.getByText('1 change since r', { exact: false })).toBeHidden();
    await Promise.all([context.close(), other.close()]);
  },
);

test(
  'a file that another program changed is a third party: what meets is settled, the rest goes together',
  { tag: '@long' },
  async ({ page }) => {
    const client = new pg.Client(workshop.ownerUrl);
    await client.connect();
    const { rows } = await client.query<{ folder: string }>("select folder from master where title = 'Fen map leaflet'");
    await client.end();
    const file = join(workshop.shelf, rows[0]!.folder, 'fen_map_leaflet.inkwell');
    await openMaster(page, 'Fen map leaflet');
    await change(page, 'Boardwalk', 'Line width', '2.2');
    // Python's own zip and JSON: nothing of ours writes this file.
    execFileSync('python3', [
      '-c',
      `import hashlib, json, sys, zipfile
path = sys.argv[1]
parts = {one.filename: zipfile.ZipFile(path).read(one) for one in zipfile.ZipFile(path).infolist()}
master = json.loads(parts['master.json'])
items = {item.get('name'): item for item in master['boards'][0]['items']}
items['Boardwalk']['style']['strokeWidth'] = 1.1
items['Sedge Loop']['style']['strokeWidth'] = 1.7
parts['master.json'] = json.dumps(master).encode()
manifest = json.loads(parts['manifest.json'])
for entry in manifest['entries']:
    if entry['path'] == 'master.json':
        entry.update(size=len(parts['master.json']), sha256=hashlib.sha256(parts['master.json']).hexdigest())
parts['manifest.json'] = json.dumps(manifest).encode()
with zipfile.ZipFile(path, 'w') as out:
    for name in ['mimetype'] + [name for name in parts if name != 'mimetype']:
        out.writestr(name, parts[name], zipfile.ZIP_STORED if name == 'mimetype' else zipfile.ZIP_DEFLATED)`,
      file,
    ]);
    await expect(page.getByText('Another program changed fen_map_leaflet.inkwell on the shelf')).toBeVisible();
    await page.getByRole('button', { name: 'Take its changes into my draft' }).click();
    const meeting = page.getByRole('alert', { name: 'Changes that meet' });
    await expect(meeting).toContainText('Boardwalk: line width');
    await meeting.getByLabel('In the file: 1.1').check();
    await meeting.getByRole('button', { name: 'Go on with these' }).click();
    await expect(page.getByText('2 changes since r5')).toBeVisible();
    await expect(page.getByText('Another program changed fen_map_leaflet.inkwell')).toBeHidden();
    await page.getByRole('button', { name: 'Update master (r6)' }).click();
    await expect(page.getByText('all changes are in r6')).toBeVisible();
    await expect
      .poll(() => readdirSync(join(workshop.shelf, rows[0]!.folder)).filter((name) => name.endsWith('.inkwell')))
      .toEqual(['fen_map_leaflet.inkwell']);
    await page.locator('twin-contents').getByRole('button', { name: 'Sedge Loop' }).click();
    await expect(page.getByLabel('Line width')).toHaveValue(/^1\.7/);
  },
);

test('what was not acknowledged survives a killed browser, and is sent when the server is back', { tag: '@long' }, async () => {
  const profile = mkdtempSync(join(tmpdir(), 'inkwell-profile-'));
  const launch = () =>
    chromium.launchPersistentContext(profile, {
      executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--no-first-run'],
    });
  const first = await launch();
  const page = await first.newPage();
  await openMaster(page, 'Fen map leaflet');
  await workshop.kill();
  await change(page, 'Boardwalk', 'Line width', '3.3');
  await expect(page.getByText('not kept yet: the server is away')).toBeVisible();
  // The browser of this profile, all of it, at once.
  const mine = readdirSync('/proc').filter((pid) => {
    try {
      return /^\d+$/.test(pid) && readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(profile);
    } catch {
      return false;
    }
  });
  expect(mine.length).toBeGreaterThan(0);
  for (const pid of mine)
    try {
      process.kill(Number(pid), 'SIGKILL');
    } catch {
      /* it went with another */
    }
  // It can't be closed any more: what drove it learns of that by itself.
  void first.close().catch(() => undefined);
  await workshop.start();
  rmSync(join(profile, 'SingletonLock'), { force: true });
  const second = await launch();
  const again = await second.newPage();
  await openMaster(again, 'Fen map leaflet');
  await expect(again.getByText('A draft with 1 change was kept')).toBeVisible();
  await again.getByRole('button', { name: 'Go on with it' }).click();
  await expect(again.getByText('1 change since r6', { exact: true })).toBeVisible();
  // By now the server has it: another window of the same person is offered it too.
  const other = await second.newPage();
  await openMaster(other, 'Fen map leaflet');
  await expect(other.getByText('A draft with 1 change was kept')).toBeVisible();
  await second.close();
  rmSync(profile, { recursive: true, force: true });
});

test('a master that can’t be opened is archived, waits there, and comes back', { tag: '@long' }, async ({ page }) => {
  const client = new pg.Client(workshop.ownerUrl);
  await client.connect();
  const { rows } = await client.query<{ id: string; document: unknown }>(
    "select master.id, document from master join revision on master = id and rev = 1 where title = 'Fen map leaflet'",
  );
  await workshop.kill();
  await client.query("update revision set document = '{}' where master = $1 and rev = 1", [rows[0]!.id]);
  await workshop.start();
  await page.goto(workshop.url);
  // A job may have met the damage before, and told of it with a link of its own.
  await page.locator('.rows').getByRole('link', { name: 'Fen map leaflet', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('The record of “Fen map leaflet” is damaged at r1');
  await page.getByRole('button', { name: 'Archive this master' }).click();
  await expect(page.locator('.rows .title')).toHaveCount(1);
  await page.getByRole('button', { name: '1 archived' }).click();
  await expect(page.locator('.rows .title')).toHaveText(['Fen map leaflet']);
  await client.query('update revision set document = $2 where master = $1 and rev = 1', [
    rows[0]!.id,
    JSON.stringify(rows[0]!.document),
  ]);
  await client.end();
  await page.getByRole('button', { name: 'Delete for good …' }).click();
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await page.getByRole('button', { name: 'Bring back' }).click();
  await expect(page.locator('.rows .title')).toHaveCount(2);
});
