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
  await expect(page.locator('twin-stage canvas')).toBeVisible();
}
/** Changes one field of an object, chosen by its name. */
async function change(page: Page, name: string, field: string, value: string): Promise<void> {
  const contents = page.getByRole('button', { name: 'Contents' });
  if ((await contents.getAttribute('aria-pressed')) === 'false') await contents.click();
  await page.locator('twin-contents').getByRole('button', { name }).click();
  await page.getByLabel(field).fill(value);
  await page.getByLabel(field).blur();
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
  await ines.getByRole('button', { name: 'Update master (r8)' }).click();
  await expect(ines.getByText('all changes are in r8')).toBeVisible();
  await expect(ines.locator('.revision')).toContainText('Ines Okoro');
  // What he sees by then is hers, without asking: he had nothing of his own.
  await expect(bram.getByText('all changes are in r8')).toBeVisible();
  await change(bram, 'Trail name', 'Wording', 'Otter Run again');
  await expect(ines.getByText('Bram Adler has a draft too')).toBeVisible({ timeout: 20_000 });
  for (const context of people) await context.close();
});

test('what was not acknowledged survives a killed browser, and is sent when the server is back', async () => {
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
  await expect(again.getByText('1 change since r4', { exact: true })).toBeVisible();
  // By now the server has it: another window of the same person is offered it too.
  const other = await second.newPage();
  await openMaster(other, 'Fen map leaflet');
  await expect(other.getByText('A draft with 1 change was kept')).toBeVisible();
  await second.close();
  rmSync(profile, { recursive: true, force: true });
});

test('a master that can’t be opened is set aside, waits there, and comes back', async ({ page }) => {
  const client = new pg.Client(workshop.ownerUrl);
  await client.connect();
  const { rows } = await client.query<{ id: string; document: unknown }>(
    "select master.id, document from master join revision on master = id and rev = 1 where title = 'Fen map leaflet'",
  );
  await workshop.kill();
  await client.query("update revision set document = '{}' where master = $1 and rev = 1", [rows[0]!.id]);
  await workshop.start();
  await page.goto(workshop.url);
  await page.getByRole('link', { name: 'Fen map leaflet', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('The record of “Fen map leaflet” is damaged at r1');
  await page.getByRole('button', { name: 'Set this master aside' }).click();
  await expect(page.locator('.rows .title')).toHaveCount(1);
  await page.getByRole('button', { name: '1 set aside' }).click();
  await expect(page.locator('.rows .title')).toHaveText(['Fen map leaflet']);
  await client.query('update revision set document = $2 where master = $1 and rev = 1', [
    rows[0]!.id,
    JSON.stringify(rows[0]!.document),
  ]);
  await client.end();
  await page.getByRole('button', { name: 'Delete …' }).click();
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await page.getByRole('button', { name: 'Bring back' }).click();
  await expect(page.locator('.rows .title')).toHaveCount(2);
});
