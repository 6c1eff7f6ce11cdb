import { createRequire } from 'node:module';
import { writeFileSync } from 'node:fs';
import { type Page, expect, test } from '@playwright/test';
import { TestWorkshop } from './workshop';

const axe = createRequire(`${process.cwd()}/`).resolve('axe-core/axe.min.js');
let workshop: TestWorkshop;
test.beforeAll(async () => {
  workshop = await TestWorkshop.open('screens');
});
test.afterAll(() => workshop.close());

interface Violation {
  id: string;
  nodes: { target: string[]; failureSummary: string }[];
}

/** Violations of WCAG 2.2 A and AA on the page as it stands. */
async function violations(page: Page): Promise<string[]> {
  await page.addScriptTag({ path: axe }).catch(() => undefined);
  const found = await page.evaluate(async () => {
    const runner = (
      window as unknown as { axe: { run: (root: Document, options: object) => Promise<{ violations: Violation[] }> } }
    ).axe;
    return (await runner.run(document, { runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] })).violations;
  });
  return found.flatMap(({ id, nodes }) =>
    nodes.map(({ target, failureSummary }) => `${id} ${target.join(' ')} ${failureSummary.replace(/\s+/g, ' ')}`),
  );
}

/** What sticks out of the window to the right. */
const sticksOut = (page: Page) => page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);

for (const scheme of ['light', 'dark'] as const)
  test(
    `Desk and Master pass WCAG 2.2 AA by machine (${scheme})`,
    { tag: scheme === 'light' ? [] : '@long' },
    async ({ browser }) => {
      // The policy that forbids foreign scripts would also forbid the checker.
      const page = await browser.newPage({
        colorScheme: scheme,
        bypassCSP: true,
        viewport: { width: 1280, height: 800 },
      });
      await page.goto(workshop.url);
      await expect(page.getByText('Fen map leaflet', { exact: true })).toBeVisible();
      expect(await violations(page)).toEqual([]);
      await page.getByRole('link', { name: 'Boardwalk waymarker', exact: true }).click();
      await page.locator('[data-copy="metal shop drawing"]').click();
      await expect(page.locator('twin-match-lane tbody tr').first()).toBeVisible();
      await page.getByRole('button', { name: 'Contents' }).click();
      await page.locator('twin-contents').getByRole('button', { name: 'Trail name' }).click();
      expect(await violations(page)).toEqual([]);
      await page.getByRole('button', { name: 'Derive …' }).click();
      await expect(page.locator('table[aria-label="What carries over"]')).toBeVisible();
      expect(await violations(page)).toEqual([]);
      await page.close();
    },
  );

test(
  'tables pass WCAG 2.2 AA by machine, and so does a file of cells that is looked at',
  { tag: '@long' },
  async ({ browser }) => {
    const own = await TestWorkshop.open('screens_tables', 'yes');
    try {
      for (const colorScheme of ['light', 'dark'] as const) {
        const page = await browser.newPage({ colorScheme, bypassCSP: true, viewport: { width: 1280, height: 800 } });
        await page.goto(own.url);
        const series = page.getByRole('link', { name: 'Coating weathering series', exact: true });
        await expect(series).toBeVisible();
        const cells = {
          name: 'rack.csv',
          mimeType: 'text/csv',
          buffer: Buffer.from('Panel;Day;Gloss (GU)\nP-1;03.04.2026;80,5\nP-2;04.05.2026;79,5\n'),
        };
        await page.locator('input[type=file]').first().setInputFiles(cells);
        await expect(page.getByRole('region', { name: 'How the file is read' })).toBeVisible();
        expect(await violations(page)).toEqual([]);
        await series.click();
        await page.locator('[data-copy="readings for the laboratory"]').click();
        await expect(page.locator('twin-table-match td.differs')).toHaveCount(1);
        await page.locator('.tabulator-col', { hasText: 'Coating' }).click();
        await expect(page.locator('twin-table-slip')).toBeVisible();
        expect(await violations(page)).toEqual([]);
        expect(await sticksOut(page)).toBeLessThanOrEqual(0);
        await page.close();
      }
    } finally {
      await own.close();
    }
  },
);

test('a solid and what differs in a copy of it pass WCAG 2.2 AA by machine', { tag: '@long' }, async ({ browser }) => {
  const own = await TestWorkshop.open('screens_solids', 'yes');
  try {
    for (const colorScheme of ['light', 'dark'] as const) {
      const page = await browser.newPage({ colorScheme, bypassCSP: true, viewport: { width: 1280, height: 800 } });
      await page.goto(own.url);
      const bracket = page.getByRole('link', { name: 'Post bracket', exact: true });
      await expect(bracket).toBeVisible();
      await bracket.click();
      await expect(page.locator('twin-solid-face').getByText('cm³')).toBeVisible();
      await page.locator('[data-copy="bracket for the mill"]').click();
      await expect(page.locator('twin-solid-match')).toBeVisible();
      await page.getByRole('button', { name: /Rounded top corners/ }).click();
      await expect(page.locator('twin-solid-slip')).toBeVisible();
      expect(await violations(page)).toEqual([]);
      expect(await sticksOut(page)).toBeLessThanOrEqual(0);
      await page.close();
    }
  } finally {
    await own.close();
  }
});

test('a text and what differs in a copy of it pass WCAG 2.2 AA by machine', { tag: '@long' }, async ({ browser }) => {
  const own = await TestWorkshop.open('screens_texts', 'yes');
  try {
    for (const colorScheme of ['light', 'dark'] as const) {
      const page = await browser.newPage({ colorScheme, bypassCSP: true, viewport: { width: 1280, height: 800 } });
      await page.goto(own.url);
      const guide = page.getByRole('link', { name: 'Lantern Fen visitor guide', exact: true });
      await expect(guide).toBeVisible();
      await guide.click();
      const words = page.getByRole('textbox', { name: 'Text Visitor guide' });
      await expect(words).toBeVisible();
      await page.locator('[data-copy="guide for the web page"]').click();
      await expect(page.locator('twin-prose-match ins')).toHaveText('three');
      expect(await violations(page)).toEqual([]);
      for (const place of ['The whole walk takes', 'January, February', 'The boardwalk and its ten posts']) {
        await words.getByText(place).first().click();
        expect(await violations(page)).toEqual([]);
      }
      expect(await sticksOut(page)).toBeLessThanOrEqual(0);
      await page.close();
    }
  } finally {
    await own.close();
  }
});

for (const [width, height] of [
  [1024, 768],
  [1280, 800],
  [1920, 1080],
] as const)
  test(`nothing sticks out at ${width} × ${height}`, { tag: width === 1280 ? [] : '@long' }, async ({ page }) => {
    await page.setViewportSize({ width, height });
    await page.goto(workshop.url);
    await expect(page.getByText('Fen map leaflet', { exact: true })).toBeVisible();
    expect(await sticksOut(page)).toBeLessThanOrEqual(0);
    await page.getByRole('link', { name: 'Boardwalk waymarker', exact: true }).click();
    await page.locator('[data-copy="vinyl lettering"]').click();
    await expect(page.getByText('each has its equal')).toBeVisible();
    expect(await sticksOut(page)).toBeLessThanOrEqual(0);
  });

test('a picture of each way to look at a match differs from the others', { tag: '@long' }, async ({ page }) => {
  await page.goto(workshop.url);
  await page.getByRole('link', { name: 'Boardwalk waymarker', exact: true }).click();
  await page.locator('[data-copy="proof for the reserve"]').click();
  const overlay = page.locator('twin-overlay canvas');
  await expect(page.locator('twin-match-lane tbody tr').first()).toBeVisible();
  const shots: string[] = [];
  for (const way of ['Over', 'Beside']) {
    await page.getByRole('button', { name: way, exact: true }).click();
    await page.waitForTimeout(300);
    shots.push((await overlay.screenshot()).toString('base64'));
  }
  expect(shots[0]).not.toBe(shots[1]);
});

test(
  'a new master from a purpose opens with an empty board; a file that is no drawing is refused in words',
  { tag: '@long' },
  async ({ page }, info) => {
    await page.goto(workshop.url);
    await page.getByRole('button', { name: 'New master …' }).click();
    await page.getByLabel('What is it?').fill('Gate sign');
    await page.getByRole('button', { name: 'Start master' }).click();
    await expect(page.getByRole('heading', { name: 'Gate sign' })).toBeVisible();
    await expect(page.getByText('Nothing is derived from this master yet.')).toBeVisible();
    await page.getByRole('button', { name: 'Contents' }).click();
    await page.getByRole('button', { name: 'rectangle', exact: true }).click();
    await page.keyboard.press('Enter');
    await page.getByLabel('Width', { exact: true }).fill('120,5');
    await page.getByLabel('Width', { exact: true }).blur();
    await page.getByRole('button', { name: 'text', exact: true }).click();
    await page.keyboard.press('Enter');
    await expect(page.getByLabel('Wording')).toHaveValue('Words');
    await page.getByLabel('Letter size').fill('tall');
    await page.getByLabel('Letter size').blur();
    await expect(page.getByRole('alert')).toContainText('There is no parameter “tall”');
    await page.getByRole('button', { name: 'Update master (r2)' }).click();
    await expect(page.getByText('all changes are in r2')).toBeVisible();
    await page.goto(workshop.url);
    const bad = info.outputPath('letter.svg');
    writeFileSync(bad, '<svg xmlns="http://www.w3.org/2000/svg">\n<g><path d="M0 0 L 4 4"/>&boom;</g></svg>');
    await page.getByLabel('Files to bring in').setInputFiles(bad);
    await expect(page.getByRole('alert')).toContainText('undefined entity');
    await expect(page.getByRole('alert')).toContainText('line 2');
  },
);
