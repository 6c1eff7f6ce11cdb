import { type Page, expect, test } from '@playwright/test';
import { choose, chooseAct, TestWorkshop } from './workshop';

let workshop: TestWorkshop;
test.beforeAll(async () => {
  workshop = await TestWorkshop.open('late_answers_e2e');
});
test.afterAll(() => workshop.close());

/** Answers to what matches come late, by as much as is said for each in turn. @returns how many have come so far */
async function late(page: Page, path: string, delay: (url: URL, count: number) => number): Promise<() => number> {
  let [asked, answered] = [0, 0];
  await page.route(
    (url) => url.pathname === path,
    async (route) => {
      const wait = delay(new URL(route.request().url()), (asked += 1));
      const response = await route.fetch();
      await new Promise((done) => setTimeout(done, wait));
      await route.fulfill({ response }).catch(() => undefined);
      answered += 1;
    },
  );
  return () => answered;
}

test('the Desk shows what was asked for last, whichever answer comes last', { tag: '@long' }, async ({ page }) => {
  await page.goto(workshop.url);
  await expect(page.locator('.rows .title')).toHaveText(['Boardwalk waymarker', 'Fen map leaflet']);
  const answered = await late(page, '/api/desk', (url) => (url.searchParams.get('verdict') ? 1500 : 0));
  await choose(page, 'Show', 'a copy gone');
  await choose(page, 'Show', 'all masters');
  await expect.poll(answered).toBeGreaterThanOrEqual(2);
  await expect(page.locator('.rows .title')).toHaveText(['Boardwalk waymarker', 'Fen map leaflet']);
});

test(
  'rules that are written while those of the house are asked for again stay as written',
  { tag: '@long' },
  async ({ page }) => {
    const answered = await late(page, '/api/house', (_, count) => (count > 1 ? 2000 : 0));
    await page.goto(workshop.url);
    await expect(page.locator('.rows .title')).toHaveCount(2);
    await page.getByRole('link', { name: 'House rules' }).click();
    await expect(page.getByLabel('Take standards from a master')).toBeVisible();
    // As another window of this browser says it that listens for all, and had not been heard for a while.
    await page.evaluate(() =>
      new BroadcastChannel('inkwell-events').postMessage({ kind: 'told', event: { kind: 'again', master: '' } }),
    );
    await chooseAct(page, 'Take standards from a master', 'Boardwalk waymarker');
    await expect(page.getByLabel('Name of layer 2')).toHaveValue('Vinyl lettering');
    await expect.poll(answered).toBeGreaterThan(1);
    await expect(page.getByLabel('Name of layer 2')).toHaveValue('Vinyl lettering');
  },
);

test('nothing can be written into rules before those of the house are here', { tag: '@long' }, async ({ page }) => {
  await late(page, '/api/house', (_, count) => (count === 1 ? 1500 : 0));
  await page.goto(`${workshop.url}/house`);
  await expect(page.getByText('The rules of the house are being asked for')).toBeVisible();
  await expect(page.getByLabel('Between parts')).toHaveCount(0);
  await choose(page, 'Between parts', '-');
  await expect(page.getByLabel('Between parts')).toHaveText('-');
  await expect(page.getByRole('button', { name: 'Keep these rules' })).toBeEnabled();
});

test('descriptions outside are asked for again after an answer that failed', { tag: '@long' }, async ({ page }) => {
  let asked = 0;
  await page.route(
    (url) => url.pathname === '/api/descriptions',
    async (route) => {
      asked += 1;
      if (asked === 1) await route.fulfill({ status: 500, contentType: 'application/json', body: '{}' });
      else await route.continue();
    },
  );
  await page.goto(workshop.url);
  await expect.poll(() => asked).toBeGreaterThan(0);
  const choose = async () => {
    await page.getByRole('button', { name: 'Choose several' }).click();
    await page.getByRole('button', { name: 'All 2 shown' }).click();
  };
  await choose();
  await page.getByRole('button', { name: 'Write descriptions out' }).click();
  await expect(page.getByRole('status').filter({ hasText: '2 descriptions written out.' })).toBeVisible();
  await page.getByRole('button', { name: 'Describe them …' }).click();
  await page.getByLabel('Caption').fill('Seen from the hide');
  await page.getByRole('button', { name: /^Say it/ }).click();
  await expect(page.locator('twin-outside-panel')).toContainText('2 not yet written out');
});

test('what can’t be fetched while the server is away is done without: no page throws', { tag: '@long' }, async ({ page }) => {
  const thrown: string[] = [];
  page.on('pageerror', (error) => thrown.push(`${error.name} ${error.message}`));
  await page.addInitScript(() => {
    // A rejected promise of no error has neither name nor words where Playwright hears it.
    addEventListener('unhandledrejection', ({ reason }) => {
      throw new Error(String(reason));
    });
  });
  let lost = 0;
  await page.route(/\.(woff2?|ttf)$/, (route) => {
    lost += 1;
    return route.abort();
  });
  await page.goto(workshop.url);
  await page.getByRole('link', { name: 'Boardwalk waymarker' }).first().click();
  await expect(page.locator('twin-stage canvas').first()).toBeVisible();
  await expect.poll(() => lost).toBeGreaterThan(0);
  // Then nothing at all can be fetched, whatever is asked.
  await page.context().setOffline(true);
  await page.locator('[data-copy="vinyl lettering"]').click();
  await page.getByRole('button', { name: 'Derive again' }).click();
  await expect(page.getByText('The server can’t be reached').first()).toBeVisible();
  await page.context().setOffline(false);
  await page.getByRole('link', { name: 'Desk' }).first().click();
  await expect(page.locator('.rows .title')).toHaveCount(2);
  expect(thrown).toEqual([]);
});
