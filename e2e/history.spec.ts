// The past of a master: compared, taken back, named; another master that goes on from it.
import { expect, test } from '@playwright/test';
import { choose, TestWorkshop } from './workshop';

let workshop: TestWorkshop;
test.beforeAll(async () => {
  workshop = await TestWorkshop.open('e2e_history');
});
test.afterAll(() => workshop.close());

test('a revision is compared in words, taken back line by line or as a whole, and given a name', async ({ page }) => {
  await page.goto(workshop.url);
  await page.getByRole('link', { name: 'Boardwalk waymarker', exact: true }).click();
  await page.locator('twin-thread').getByRole('button', { name: /r2\b/ }).first().click();
  const panel = page.locator('twin-history-panel');
  await expect(panel).toContainText('Arrow on Front');
  await expect(panel).toContainText('moved 4 mm right and 6 mm down');
  await expect(panel).toContainText('value 96 → 94');
  await choose(panel, 'Beside which state', 'r3');
  await expect(panel).toContainText('1 thing is otherwise in r3.');
  await choose(panel, 'Beside which state', 'the master as it is now');

  // Where an object changed, over all revisions.
  await panel.getByRole('button', { name: 'History of Arrow on Front' }).click();
  await expect(panel).toContainText('r3, ');
  await expect(panel).toContainText('Arrow lower, under the second hole');

  await panel.getByRole('button', { name: 'Take back: hole_spacing' }).click();
  await expect(page.getByText('1 change since r6')).toBeVisible();
  await expect(panel).not.toContainText('value 96 → 94');
  await panel.getByRole('button', { name: 'Take all of it back to r2' }).click();
  await expect(panel).toContainText('Nothing is otherwise.');

  await page.getByRole('button', { name: 'Name it' }).click();
  await page.getByLabel('Name of the revision').fill('Before the arrow moved');
  await page.getByLabel('Name of the revision').press('Enter');
  await expect(panel).toContainText('r2, “Before the arrow moved”');
  await page.getByRole('button', { name: 'Back to the draft' }).click();
  await page.getByLabel('What this update is about').fill('As in r2');
  await page.getByRole('button', { name: 'Update master (r7)' }).click();
  await expect(page.getByText('all changes are in r7')).toBeVisible();
});

test(
  'another master is started from this one, which stays as it is; each is called what it is',
  { tag: '@long' },
  async ({ page }) => {
    await page.goto(workshop.url);
    await page.getByRole('link', { name: 'Fen map leaflet', exact: true }).click();
    await page.getByRole('button', { name: 'Start another …' }).click();
    await page.getByLabel('What is the other one?').fill('Fen map, large print');
    await page.getByRole('button', { name: 'Start it' }).click();
    await expect(page.getByRole('heading', { name: 'Fen map, large print' })).toBeVisible();
    await expect(page.locator('twin-thread .tick')).toHaveCount(5);
    await expect(page.locator('.revision').getByText('Started from “Fen map leaflet” at r4')).toBeVisible();
    await page.getByLabel('Title of the master').fill('Fen map in large letters');
    await page.getByLabel('Title of the master').press('Enter');
    await expect(page.getByText('1 change since r5')).toBeVisible();
    await page.getByRole('button', { name: 'Update master (r6)' }).click();
    await expect(page.getByText('all changes are in r6')).toBeVisible();
    await page.goto(workshop.url);
    await expect(page.getByRole('link', { name: 'Fen map in large letters', exact: true })).toBeVisible();
    await expect(page.getByRole('link', { name: 'Fen map leaflet', exact: true })).toBeVisible();
  },
);

test(
  'anything is found by its name from one field, and done by its name; masters that are open are a key away',
  { tag: '@long' },
  async ({ page }) => {
    await page.goto(workshop.url);
    await page.getByRole('link', { name: 'Fen map leaflet', exact: true }).click();
    await expect(page.getByRole('heading', { name: 'Fen map leaflet' })).toBeVisible();
    await page.keyboard.press('/');
    const field = page.getByRole('combobox', { name: 'Find or do something by its name' });
    await field.fill('waymark');
    const found = page.getByRole('listbox', { name: 'What was found' });
    await expect(found.getByRole('option', { name: /Boardwalk waymarker/ }).first()).toBeVisible();
    await found
      .getByRole('option', { name: /Boardwalk waymarker/ })
      .first()
      .click();
    await expect(page.getByRole('heading', { name: 'Boardwalk waymarker' })).toBeVisible();
    // A copy, then an object, an act, and back to the other master by keys alone.
    await page.keyboard.press('/');
    await page.keyboard.type('joiner');
    await expect(found.getByRole('option', { name: /joiner’s drawing/ })).toBeVisible();
    await page.keyboard.press('Enter');
    await expect(page.locator('[data-copy="joiner’s drawing"]')).toBeVisible();
    await page.keyboard.press('/');
    await page.keyboard.type('hole 4');
    await expect(found.getByRole('option', { name: /Hole 4 of 5/ })).toBeVisible();
    await page.keyboard.press('Enter');
    await expect(page.locator('twin-slip')).toContainText('Hole 4 of 5');
    await page.keyboard.press('/');
    await page.keyboard.type('start another');
    await page.keyboard.press('Enter');
    await expect(page.getByLabel('What is the other one?')).toBeVisible();
    await page.keyboard.press('/');
    await expect(found.getByRole('option', { name: /Fen map leaflet/ })).toBeVisible();
    await page.keyboard.type('fen map lea');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('heading', { name: 'Fen map leaflet' })).toBeVisible();
    await page.keyboard.press('/');
    await page.keyboard.type('nothing is called this');
    await expect(found).toContainText('Nothing is called that.');
  },
);

test('undo goes on beyond one’s own changes, revision by revision, and redo comes back', { tag: '@long' }, async ({ page }) => {
  await page.goto(workshop.url);
  await page.getByRole('link', { name: 'Boardwalk waymarker', exact: true }).click();
  const [undo, redo] = [page.getByRole('button', { name: /^Undo/ }), page.getByRole('button', { name: 'Redo' })];
  await expect(undo).toHaveText(/Undo r\d/);
  const head = Number((await undo.innerText()).replace(/\D/g, ''));
  await expect(redo).toBeDisabled();
  for (let rev = head; rev > 1; rev--) {
    await expect(undo).toHaveText(`Undo r${rev}`);
    await undo.click();
    if (rev > 2) await expect(undo).toHaveText(`Undo r${rev - 1}`);
  }
  await expect(undo).toBeDisabled();
  for (let rev = 1; rev < head; rev++) await redo.click();
  await expect(redo).toBeDisabled();
  await expect(page.getByText(`all changes are in r${head}`)).toBeVisible();
  // Two revisions taken back become the next one, and all of them stay in the history.
  await undo.click();
  await expect(undo).toHaveText(`Undo r${head - 1}`);
  await undo.click();
  await expect(undo).toHaveText(`Undo r${head - 2}`);
  await page.getByRole('button', { name: `Update master (r${head + 1})` }).click();
  await expect(page.getByText(`all changes are in r${head + 1}`)).toBeVisible();
  const id = page.url().split('/').at(-1)!.replace(/\?.*/, '');
  const at = async (rev: number): Promise<unknown> =>
    ((await (await page.request.get(`${workshop.url}/api/masters/${id}/revisions/${rev}`)).json()) as { document: unknown })
      .document;
  expect(await at(head + 1)).toEqual(await at(head - 2));
  expect(await at(head)).not.toEqual(await at(head - 2));
});
