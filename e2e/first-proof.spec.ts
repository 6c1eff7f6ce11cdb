import { execFileSync } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Locator, type Page, expect, test } from '@playwright/test';
import { hasJudge } from '../packages/core/test/judged-by';
import { python } from '../packages/core/test/python';
import { TestWorkshop } from './workshop';

let workshop: TestWorkshop;
test.beforeAll(async () => {
  workshop = await TestWorkshop.open('first_proof', false);
});
test.afterAll(() => workshop.close());

const MOST = 5;

/** A plate with a hole, by the mesher's own kernel. */
const PLATE = `SetFactory("OpenCASCADE");
Box(1) = {0, 0, 0, 60, 40, 10};
Cylinder(2) = {30, 20, -1, 0, 0, 12, 6};
BooleanDifference(3) = { Volume{1}; Delete; }{ Volume{2}; Delete; };
Save "plate.step";
`;

/** Files that other programs wrote, by what they are called here. */
const FILES: Readonly<Record<string, { readonly judge?: string; readonly bytes: (folder: string) => Uint8Array }>> = {
  'weathervane.svg': { bytes: () => readFileSync('packages/core/test/fixtures/weathervane.svg') },
  'rack.csv': { bytes: () => Buffer.from('day;gloss\n2026-04-13;81,5\n2026-04-20;79,0\n') },
  'walk.docx': {
    judge: 'docx',
    bytes: () =>
      python(
        "import docx\nd = docx.Document()\nd.add_heading('Round the fen', 1)\nd.add_paragraph('The map shows the way.')\nd.save('walk.docx')",
        undefined,
        'walk.docx',
      ).written,
  },
  'plate.step': {
    judge: 'gmsh',
    bytes: (folder) => {
      mkdirSync(folder, { recursive: true });
      writeFileSync(join(folder, 'plate.geo'), PLATE);
      execFileSync('gmsh', ['-parse_and_exit', 'plate.geo'], { cwd: folder });
      return readFileSync(join(folder, 'plate.step'));
    },
  },
};

/** A person who clicks, and counts it. */
class Hand {
  clicks = 0;
  constructor(readonly page: Page) {}
  async click(what: Locator): Promise<void> {
    await what.click();
    this.clicks++;
  }
}

for (const [name, { judge, bytes }] of Object.entries(FILES))
  test(`from ${name} to a first proof in at most ${MOST} clicks`, { tag: '@long' }, async ({ page }, info) => {
    const missing = judge !== undefined && !hasJudge(judge);
    // Where CI runs, a judge that is missing is a failure.
    if (missing && process.env['CI']) throw new Error(`A judge is missing: ${judge}.`);
    test.skip(missing, `${judge} is not here`);
    const hand = new Hand(page);
    await page.goto(workshop.url);
    await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
    const chooser = page.waitForEvent('filechooser');
    await hand.click(page.getByRole('button', { name: 'Bring in files …' }));
    await (
      await chooser
    ).setFiles({ name, mimeType: 'application/octet-stream', buffer: Buffer.from(bytes(info.outputPath('made'))) });
    const [confirm, open] = [
      page.getByRole('button', { name: 'Bring it in' }),
      page.getByRole('link', { name: 'Open it' }).first(),
    ];
    await expect(confirm.or(open)).toBeVisible();
    if (await confirm.isVisible()) await hand.click(confirm);
    await hand.click(open);
    await hand.click(page.getByRole('button', { name: 'Derive …' }));
    await hand.click(page.getByRole('button', { name: 'Write copy' }));
    await expect(page.locator('[data-copy]').first()).toHaveAttribute('title', /: in step$/);
    expect(hand.clicks).toBeLessThanOrEqual(MOST);
  });
