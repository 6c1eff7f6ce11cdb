import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { choose, TestWorkshop } from './workshop';

let workshop: TestWorkshop;
test.beforeEach(async ({}, info) => {
  workshop = await TestWorkshop.emptyFor(info);
});
test.afterEach(() => workshop.leave());

test('a text is begun, written with lists, a table and a note, taken back and forth, derived, and one changed word is found', async ({
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
  await page.getByLabel('What is it?').fill('Bench notes');
  await page.getByRole('radio', { name: 'Text that flows' }).click();
  await page.getByRole('button', { name: 'Start master' }).click();

  const face = page.locator('twin-prose-face');
  const words = face.getByRole('textbox', { name: 'Text Text' });
  await expect(words).toBeVisible();
  await words.getByText('Heading').click();
  await page.keyboard.press('Home');
  await page.keyboard.press('Shift+End');
  await page.keyboard.type('The second bench');
  await expect(words.locator('h1')).toHaveText('The second bench');
  await page.keyboard.press('Enter');
  await page.keyboard.type('It stands where the view is, ');
  await page.keyboard.press('Control+b');
  await page.keyboard.type('eleven');
  await page.keyboard.press('Control+b');
  await page.keyboard.type(' steps from the pond.');
  await page.keyboard.press('Enter');
  // A line that begins like an item is one; deeper by a key; an empty one ends the list.
  await page.keyboard.type('1. Planks of larch');
  await page.keyboard.press('Enter');
  await page.keyboard.type('Nails');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Tab');
  await page.keyboard.type('of brass');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Shift+Tab');
  await page.keyboard.press('Enter');
  await expect(words.locator('[data-number="2."]')).toHaveText('Nails');
  await expect(words.locator('[data-role="numbered"][data-level="1"]')).toHaveText('of brass');
  await page.keyboard.type('Counted twice');
  await face.getByRole('button', { name: 'Add note …' }).click();
  await face.getByLabel('What the note says').fill('By two people');
  await page.keyboard.press('Enter');
  await expect(words.locator('sup.note')).toHaveAttribute('aria-label', 'Note: By two people');
  await face.getByRole('button', { name: 'Add table' }).click();
  await words.locator('th').first().click();
  await page.keyboard.type('Part');
  await page.keyboard.press('Tab');
  await page.keyboard.type('Count');
  await face.getByLabel('Above the table').fill('What was used');
  await face.getByLabel('Above the table').press('Tab');
  await expect(words.locator('div.table')).toHaveAttribute('data-caption', 'What was used');
  await expect(page.getByText(/changes since r1/)).toBeVisible();

  // Undo and redo go by steps of the draft.
  await words.getByText('Counted twice').click();
  await page.keyboard.press('Control+z');
  await expect(words.locator('div.table')).toHaveAttribute('data-caption', '');
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(words.locator('div.table')).toHaveAttribute('data-caption', 'What was used');

  // What was written is there after the window is closed and opened.
  await page.reload();
  await page.getByRole('button', { name: 'Go on with it' }).click();
  await expect(words.getByText('steps from the pond')).toBeVisible();
  await page.getByRole('button', { name: /Update master/ }).click();
  await expect(page.getByText('all changes are in r2')).toBeVisible();

  await page.getByRole('button', { name: 'Derive …' }).click();
  const panel = page.locator('twin-derive-panel');
  await panel
    .getByRole('radio', { name: /Page \(HTML\)/ })
    .first()
    .click();
  await page.locator('twin-derive-panel').getByLabel('Name', { exact: true }).fill('for the web');
  await panel.getByRole('button', { name: /^Write/ }).click();
  const copy = page.locator('[data-copy="for the web"]');
  await expect(copy).toContainText('.html');
  await copy.click();
  await expect(page.getByText(/words read back, with their looks; each says what it should/)).toBeVisible();

  const folder = join(workshop.shelf, 'bench_notes');
  const file = join(
    folder,
    readdirSync(folder).find((name) => name.endsWith('.html'))!,
  );
  writeFileSync(file, readFileSync(file, 'utf8').replace('eleven', 'seven'));
  await expect(page.getByRole('button', { name: 'words changed' })).toBeVisible();
  const match = page.locator('twin-prose-match');
  await expect(match.locator('del')).toHaveText('eleven');
  await expect(match.locator('ins')).toHaveText('seven');
  await page.getByRole('button', { name: 'words changed' }).click();
  await expect(words.locator('.wanted')).toContainText('steps from the pond');

  // While one edits, the paragraph says whom it outdates.
  await page.getByRole('button', { name: 'Derive again' }).click();
  await expect(page.getByText(/words read back, with their looks/)).toBeVisible();
  await words.getByText('steps from the pond').click();
  await page.keyboard.press('End');
  await page.keyboard.type(' Sit down.');
  await expect(words.locator('.drops')).toHaveAttribute('aria-label', 'would outdate for the web');
  expect(broken).toEqual([]);
});

test(
  'a text is laid out on boards, runs on through more of them, follows its words, and is taken off again',
  { tag: '@long' },
  async ({ page }) => {
    await page.goto(workshop.url);
    // What comes in by then moves what is clicked.
    await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
    const long = Array.from(
      { length: 80 },
      (_, i) => `Paragraph ${i} of a text that is longer than a page of paper can hold.`,
    ).join('\n\n');
    const file = { name: 'long walk.txt', mimeType: 'text/plain', buffer: Buffer.from(long) };
    await page.locator('input[type=file]').first().setInputFiles(file);
    await page.getByRole('link', { name: 'long walk', exact: true }).click();
    const face = page.locator('twin-prose-face');
    const words = face.getByRole('textbox', { name: 'Text long walk' });
    await expect(words).toBeVisible();
    await face.getByRole('button', { name: 'Put on a board' }).click();
    await expect(page.getByRole('tab', { name: 'long walk' }).last()).toHaveAttribute('aria-selected', 'true');
    await page.getByRole('button', { name: /^Add \d+ boards? like this one$/ }).click();
    await expect(page.getByText('The text goes on where this frame ends.')).toHaveCount(0);
    await expect(page.getByRole('tab', { name: 'long walk 2' })).toBeVisible();

    // A copy of the board says the words that run through it.
    await page.getByRole('button', { name: /Update master/ }).click();
    await expect(page.getByText('all changes are in r2')).toBeVisible();
    await page.getByRole('button', { name: 'Derive …' }).click();
    const panel = page.locator('twin-derive-panel');
    await panel.getByRole('radio', { name: /SVG/ }).first().click();
    await expect(panel.getByText(/arrive as lines of words/).first()).toBeVisible();
    await page.locator('twin-derive-panel').getByLabel('Name', { exact: true }).fill('first page');
    await panel.getByRole('button', { name: /^Write/ }).click();
    await expect(page.locator('[data-copy="first page"]')).toContainText('.svg');

    // Its words change: the copy of the page would be outdated.
    await page.getByRole('tab', { name: 'long walk' }).first().click();
    await words.getByText('Paragraph 1 of').click();
    await page.keyboard.type('New words. ');
    await expect(page.getByRole('region', { name: 'What this draft would outdate' })).toContainText('first page');
    await face.getByRole('button', { name: 'Take off the boards' }).click();
    await expect(page.getByRole('tab', { name: 'long walk 2' })).toHaveCount(0);
    await expect(words.getByText('New words.')).toBeVisible();
  },
);

test(
  'two people write in one text: other paragraphs go together, the same one is settled with both wordings',
  { tag: '@long' },
  async ({ browser }) => {
    const person = async (name: string) => {
      const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
      await context.addInitScript((own) => localStorage.setItem('inkwell-person', own), name);
      return context.newPage();
    };
    const ines = await person('Ines Okoro');
    await ines.goto(workshop.url);
    const file = {
      name: 'guide.txt',
      mimeType: 'text/plain',
      buffer: Buffer.from('First words here.\n\nSecond words here.\n\nThird words here.\n'),
    };
    await ines.locator('input[type=file]').first().setInputFiles(file);
    const open = async (page: typeof ines) => {
      await page.getByRole('link', { name: 'guide', exact: true }).click();
      const words = page.getByRole('textbox', { name: 'Text guide' });
      await expect(words).toBeVisible();
      return words;
    };
    const hers = await open(ines);
    const bram = await person('Bram Adler');
    await bram.goto(workshop.url);
    const his = await open(bram);
    const write = async (page: typeof ines, words: typeof hers, at: string, text: string) => {
      await words.getByText(at).click();
      await page.keyboard.press('End');
      await page.keyboard.type(text);
      // What is typed becomes a step when the text is left.
      await words.blur();
    };
    await write(ines, hers, 'First words', ' Hers alone.');
    await write(ines, hers, 'Third words', ' Hers, too.');
    await write(bram, his, 'Second words', ' His alone.');
    await write(bram, his, 'Third words', ' His as well.');
    // What is not kept yet would meet r2 by itself.
    await expect(bram.getByText('since r1', { exact: false }).filter({ hasNotText: 'keeping' })).toBeVisible();
    await ines.getByRole('button', { name: /Update master/ }).click();
    await expect(ines.getByText('all changes are in r2')).toBeVisible();
    await bram.getByRole('button', { name: 'Carry them over onto r2' }).click();
    // What both changed stands side by side, word for word.
    const meeting = bram.getByRole('alert', { name: 'Changes that meet' });
    await expect(meeting).toContainText('“Third words here. Hers, too.”');
    await meeting.getByLabel('Yours: “Third words here. His as well.”').check();
    await meeting.getByRole('button', { name: 'Go on with these' }).click();
    await expect(his.getByText('First words here. Hers alone.')).toBeVisible();
    await expect(his.getByText('Second words here. His alone.')).toBeVisible();
  },
);

test('what was typed just before the window goes is there when one comes back', { tag: '@long' }, async ({ page }) => {
  await page.goto(workshop.url);
  // What comes in by then moves what is clicked.
  await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
  const file = { name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('Some words that stay.\n') };
  await page.locator('input[type=file]').first().setInputFiles(file);
  await page.getByRole('link', { name: 'notes', exact: true }).click();
  const words = page.getByRole('textbox', { name: 'Text notes' });
  await words.getByText('Some words').click();
  await page.keyboard.press('End');
  await page.keyboard.type(' And the last ones.');
  await page.goto('about:blank');
  await page.goto(workshop.url);
  // What comes in by then moves what is clicked.
  await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
  await page.getByRole('link', { name: 'notes', exact: true }).click();
  const offered = page.getByRole('button', { name: 'Go on with it' });
  await offered.click();
  await expect(words.getByText('And the last ones.')).toBeVisible();
});

test('pictures, tables, links and roles of a text are set at its foot', { tag: '@long' }, async ({ page }) => {
  await page.goto(workshop.url);
  // What comes in by then moves what is clicked.
  await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
  const file = { name: 'walk.txt', mimeType: 'text/plain', buffer: Buffer.from('Round the fen\n\nThe map shows the way.\n') };
  await page.locator('input[type=file]').first().setInputFiles(file);
  await page.getByRole('link', { name: 'walk', exact: true }).click();
  const face = page.locator('twin-prose-face');
  const words = face.getByRole('textbox', { name: 'Text walk' });
  await words.getByText('Round the fen').click();
  await choose(face, 'This paragraph is', 'heading 1');
  await expect(words.locator('h1')).toHaveText('Round the fen');
  await choose(face, 'set', 'centre');
  await expect(words.locator('h1')).toHaveAttribute('data-align', 'centre');

  await words.getByText('The map shows').click();
  await page.keyboard.press('Home');
  await page.keyboard.press('Shift+Control+ArrowRight');
  await page.keyboard.press('Shift+Control+ArrowRight');
  await face.getByRole('button', { name: 'italic' }).click();
  await face.getByRole('button', { name: 'link …' }).click();
  await face.getByLabel('The words lead to').fill('https://fen.example/map');
  await page.keyboard.press('Enter');
  await expect(words.locator('a[href="https://fen.example/map"] em, em a[href="https://fen.example/map"]')).toContainText(
    'The map',
  );

  const picture = await page.evaluate(() => {
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [60, 40];
    canvas.getContext('2d')!.fillRect(0, 0, 60, 40);
    return canvas.toDataURL('image/png').split(',')[1]!;
  });
  await face
    .getByLabel('Picture to add')
    .setInputFiles({ name: 'heron.png', mimeType: 'image/png', buffer: Buffer.from(picture, 'base64') });
  await expect(words.locator('figure img')).toHaveAttribute('alt', 'heron');
  await words.locator('figure').click();
  await face.getByLabel('Shows').fill('A heron on one leg');
  await face.getByLabel('Shows').press('Tab');
  await words.locator('figure').click();
  await face.getByLabel('Below it').fill('At the north pool');
  await face.getByLabel('Below it').press('Tab');
  await expect(words.locator('figcaption')).toHaveText('At the north pool');
  await expect(words.locator('figure img')).toHaveAttribute('alt', 'A heron on one leg');

  await face.getByRole('button', { name: 'Add table' }).click();
  await words.locator('td').first().click();
  await face.getByRole('button', { name: 'Add row' }).click();
  await face.getByRole('button', { name: 'Remove column' }).click();
  await expect(words.locator('tr')).toHaveCount(4);
  await expect(words.locator('tr').first().locator('th')).toHaveCount(2);
  await face.getByRole('button', { name: 'Heading on or off' }).click();
  await expect(words.locator('th')).toHaveCount(0);

  // It is all in the master, and a copy of it is true.
  await page.getByRole('button', { name: /Update master/ }).click();
  await expect(page.getByText('all changes are in r2')).toBeVisible();
  await page.getByRole('button', { name: 'Derive …' }).click();
  const panel = page.locator('twin-derive-panel');
  await panel
    .getByRole('radio', { name: /Text document \(DOCX\)/ })
    .first()
    .click();
  await page.locator('twin-derive-panel').getByLabel('Name', { exact: true }).fill('for the editor');
  await panel.getByRole('button', { name: /^Write/ }).click();
  const copy = page.locator('[data-copy="for the editor"]');
  await expect(copy).toContainText('.docx');
  await copy.click();
  await expect(page.getByText(/words read back, with their looks; each says what it should/)).toBeVisible();
});

test(
  'what is selected stays so when the master comes anew before the browser has told of it',
  { tag: '@long' },
  async ({ page }) => {
    // A browser that is slow to tell what is selected, as on a busy machine.
    await page.addInitScript(() => {
      const listen = document.addEventListener.bind(document);
      document.addEventListener = (kind: string, heard: (event: Event) => void, ...rest: []) =>
        listen(kind, kind === 'selectionchange' ? (event: Event) => setTimeout(() => heard(event), 2500) : heard, ...rest);
    });
    await page.goto(workshop.url);
    await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
    const file = { name: 'dyke.txt', mimeType: 'text/plain', buffer: Buffer.from('Along the dyke\n') };
    await page.locator('input[type=file]').first().setInputFiles(file);
    await page.getByRole('link', { name: 'dyke', exact: true }).click();
    const face = page.locator('twin-prose-face');
    const words = face.getByRole('textbox', { name: 'Text dyke' });
    await words.getByText('Along the dyke').click();
    await page.keyboard.press('End');
    await page.keyboard.type(' again');
    await page.keyboard.press('Shift+Control+ArrowLeft');
    // What was typed becomes a step by itself, and the master comes anew.
    await expect(page.getByText('1 change since r1', { exact: true })).toBeVisible();
    await face.getByRole('button', { name: 'italic' }).click();
    await expect(words.locator('em')).toHaveText('again');
  },
);
