import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { type Page, expect, test } from '@playwright/test';
import { type Item, newMaster, writePackage } from '../packages/core/src';
import { BENCH } from '../packages/standins/src';
import { choose, TestWorkshop } from './workshop';

let workshop: TestWorkshop;
let file: string;
const on = { layer: 'route', style: { fill: null, stroke: '#14213a', strokeWidth: 0.4 } } as const;
const items: Item[] = [
  { kind: 'rectangle', id: 'plate', name: 'Plate', ...on, x: 20, y: 20, width: 160, height: 90, radius: 8 },
  { kind: 'rectangle', id: 'window', name: 'Window', ...on, x: 60, y: 45, width: 50, height: 30, radius: 0 },
  { kind: 'ellipse', id: 'pin', name: 'Pin hole', ...on, cx: 150, cy: 60, rx: 2, ry: 2 },
];

test.beforeEach(async ({}, info) => {
  workshop = await TestWorkshop.emptyFor(info);
  const made = newMaster('0f1d7c1e-1111-4a1b-9c1d-0000000d0032', 'Latch plate', 'Ines Okoro', 'panel', {});
  const layers = [{ id: 'route', name: 'Route', colour: '#14213a', visible: true, locked: false, process: 'route' as const }];
  const master = { ...made, layers, boards: [{ ...made.boards[0]!, items }] };
  file = info.outputPath('latch plate.inkwell');
  writeFileSync(file, writePackage({ master, rev: 1, time: '2026-05-04T08:10:00Z', history: null, resources: new Map() }));
});
test.afterEach(() => workshop.leave());

const program = (): Buffer => {
  const folder = join(workshop.shelf, 'latch_plate');
  const [name] = readdirSync(folder).filter((one) => one.endsWith('.nc'));
  return readFileSync(join(folder, name!));
};

async function toMachine(page: Page): Promise<ReturnType<Page['locator']>> {
  await page.getByRole('button', { name: 'Derive …' }).click();
  const panel = page.locator('twin-derive-panel');
  await panel.getByRole('radio', { name: 'To a machine' }).check();
  await panel.getByRole('radio', { name: 'Machine program (G-code)' }).check();
  return panel;
}

test('a part is held against its machine, each thing is settled, and the program that is written runs', async ({ page }) => {
  const broken: string[] = [];
  page.on('pageerror', (error) => broken.push(error.message));
  await page.goto(workshop.url);
  await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
  await page.locator('input[type=file]').first().setInputFiles(file);
  await page.getByRole('link', { name: 'Latch plate', exact: true }).first().click();
  const panel = await toMachine(page);
  const fit = panel.locator('twin-machine-fit');
  await expect(fit.getByText('2 things to settle')).toBeVisible();
  await expect(panel.getByRole('button', { name: 'Write copy' })).toBeDisabled();
  await fit.getByRole('button', { name: 'Leave such corners round' }).click();
  await expect(fit.getByText('1 thing to settle')).toBeVisible();
  await expect(fit.getByText('“Pin hole” is too small for End mill 6 mm')).toBeVisible();
  await fit.getByRole('button', { name: 'Leave “Pin hole” out' }).click();
  await expect(fit.getByText('It fits.')).toBeVisible();
  await expect(fit.getByText('Left out by name: Pin hole')).toBeVisible();
  await panel.getByRole('button', { name: 'Close' }).click();

  // In the master it is settled for good: the pin hole gets a tool that goes into it.
  await page.getByRole('button', { name: 'Contents' }).click();
  await page.getByRole('button', { name: /^Pin hole/ }).click();
  await page.getByText('Worked as usual').nth(1).click();
  await choose(page, 'Tool for Pin hole', '2: End mill 3 mm');
  await page.getByRole('button', { name: 'Update master' }).click();
  await expect(page.getByText('all changes are in r2')).toBeVisible();

  await toMachine(page);
  await fit.getByRole('button', { name: 'Leave such corners round' }).click();
  await expect(fit.getByText('It fits.')).toBeVisible();
  await expect(fit.getByText('End mill 3 mm, then End mill 6 mm')).toBeVisible();
  // What the machine sees is shown as soon as it fits: one goes along it, move by move.
  const job = panel.locator('twin-job-look');
  await expect(job.getByText('It works')).toBeVisible();
  await expect(job.getByRole('status')).toContainText('End mill 6 mm');
  await job.getByRole('slider').focus();
  await page.keyboard.press('Home');
  await expect(job.getByRole('status')).toContainText('move 1 of');
  await job.getByRole('button', { name: 'The next move' }).click();
  await expect(job.getByRole('status')).toContainText('move 2 of');
  // And what is left of the stock by then.
  await job.getByRole('radio', { name: 'The stock' }).check();
  await expect(job.getByRole('application', { name: 'What is left of the stock' })).toBeVisible();
  await expect(job.locator('.space')).toHaveAttribute('data-drawn', /\d/);
  await job.getByRole('radio', { name: 'Its ways' }).check();
  await panel.getByLabel('Name', { exact: true }).fill('for the router');
  await panel.getByRole('button', { name: 'Write copy' }).click();
  const mark = page.locator('[data-copy="for the router"] twin-verdict-mark');
  await expect(mark).toHaveAttribute('data-verdict', 'in step');
  expect(BENCH['router']!(program())).toMatchObject({ runs: true, alarms: [], tools: [1, 2] });

  // It goes to the machine, which says what it got, and runs it.
  await page.locator('[data-copy="for the router"]').click();
  const machine = page.locator('twin-machine-row');
  await machine.getByRole('button', { name: 'Send it' }).click();
  await expect(machine).toContainText('The Router holds this.');
  await machine.getByRole('link', { name: 'Router' }).click();
  const router = page.locator('[data-machine="router"]');
  await expect(router).toContainText('In step: it says what the master says.');
  await router.getByRole('button', { name: 'See what the machine does' }).click();
  await expect(router.locator('twin-job-look').getByRole('status')).toContainText('End mill 6 mm');
  await router.getByRole('button', { name: 'Close the look' }).click();
  await router.getByRole('button', { name: 'Run it' }).click();
  await expect(router.getByText('It ran to its end')).toBeVisible();
  await router.getByRole('link', { name: 'Latch plate' }).click();

  // Deeper than it was: the program is behind, and so is what lies on the machine. It is run for a reason only.
  await expect(mark).toHaveAttribute('data-verdict', 'in step');
  await page.getByRole('button', { name: 'Contents' }).click();
  await page.getByText('Worked as usual').first().click();
  await page.getByLabel('Depth of layer Route, mm').fill('6');
  await page.keyboard.press('Tab');
  await expect(mark).toHaveAttribute('data-verdict', 'behind');
  await page.getByRole('button', { name: 'Update master' }).click();
  await expect(page.getByText('all changes are in r3')).toBeVisible();
  await page.getByRole('link', { name: 'Bench' }).click();
  await expect(router).toContainText('Behind: the master is at r3.');
  await router.getByRole('button', { name: 'Run it all the same' }).click();
  await expect(router.getByRole('button', { name: 'Run it', exact: true })).toBeDisabled();
  await router.getByLabel('Why it is run all the same').fill('ordered as it was');
  await router.getByRole('button', { name: 'Run it', exact: true }).click();
  await expect(router.getByText('“ordered as it was”')).toBeVisible();
  await expect(router.getByText('2 runs')).toBeVisible();
  expect(broken).toEqual([]);
});

test('a program that somebody else wrote is looked at in its order, on a bed that one picks, and becomes no master', async ({
  page,
}) => {
  const lines = [
    '%',
    'O0007 (GATE LATCH)',
    'G90 G21 G17',
    'T2 M6',
    'S18000 M3',
    'G0 X20 Y20 Z5',
    'G1 Z-3 F300',
    'X140 F1200',
    'G3 X160 Y40 J20',
  ];
  const rest = ['G1 Y80', 'X20', 'Y20', 'G0 Z5', 'G81 X60 Y60 Z-5 R2 F300', 'G80', 'G85 X9', 'M5', 'M30', '%', ''];
  const other = join(dirname(file), 'somebody.nc');
  writeFileSync(other, [...lines, ...rest].join('\r\n'));
  await page.goto(workshop.url);
  await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
  await page.locator('input[type=file]').first().setInputFiles(other);
  await expect(page.getByText('“somebody.nc” tells a machine what to do (ISO 6983-1), and is of nobody here')).toBeVisible();
  await page.getByRole('button', { name: 'See what the machine does' }).click();
  const panel = page.locator('twin-job-panel');
  await expect(panel.getByRole('status')).toContainText('Tool 2');
  await expect(panel.getByText('Not understood, and so not shown: G85, line 16.')).toBeVisible();
  await expect(panel.getByText('down to 5.00 mm')).toBeVisible();
  await choose(page, 'The machine whose bed is shown', 'Router');
  await expect(panel.getByRole('status')).toContainText('End mill 3 mm');
  await expect(panel.getByRole('radio', { name: 'The stock' })).toBeVisible();
  await panel.getByRole('button', { name: 'Close', exact: true }).click();
  await expect(panel).toHaveCount(0);
  await expect(page.getByRole('link', { name: 'somebody' })).toHaveCount(0);
});

test('a machine of the house is made on the page of its rules, and parts are held against it', async ({ page }) => {
  await page.goto(workshop.url);
  await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
  await page.getByRole('link', { name: 'House rules' }).first().click();
  const section = page.locator('twin-machines-section');
  await section.getByRole('button', { name: 'Add a machine' }).click();
  await page.getByRole('menuitem', { name: 'Router' }).click();
  await section.getByLabel('Name of machine 1').fill('Small router');
  await section.getByLabel('Width of Router of ours').fill('120');
  await page.keyboard.press('Tab');
  await section.getByLabel('A pass of tool 1 of Small router').fill('30');
  await page.keyboard.press('Tab');
  await expect(section.getByText('is deeper (30 mm) than its flute (22 mm)')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Keep these rules' })).toBeDisabled();
  await section.getByLabel('A pass of tool 1 of Small router').fill('2');
  await page.keyboard.press('Tab');
  await page.getByRole('button', { name: 'Keep these rules' }).click();
  await expect(page.locator('main .said')).toContainText('Kept');

  await page.goto(workshop.url);
  await page.locator('input[type=file]').first().setInputFiles(file);
  await page.getByRole('link', { name: 'Latch plate', exact: true }).first().click();
  const panel = await toMachine(page);
  await choose(page, 'Machine', 'Small router');
  await expect(panel.getByText('“Plate” goes 63 mm beyond the right of the Small router (120 × 600 mm)')).toBeVisible();
});

test('a badge is sewn: how is said in the master, it is looked at stitch by stitch, and the needle machine sews it', async ({
  page,
}, info) => {
  const made = newMaster('0f1d7c1e-1111-4a1b-9c1d-0000000d0052', 'Sewn badge', 'Ines Okoro', 'panel', {});
  const layers = [{ id: 'sewn', name: 'Sewn', colour: '#14213a', visible: true, locked: false, process: 'stitch' as const }];
  const look = { layer: 'sewn', style: { fill: '#2f6f8f', stroke: null, strokeWidth: 0 } } as const;
  const badge: Item[] = [
    { kind: 'ellipse', id: 'pond', name: 'Pond', ...look, cx: 40, cy: 50, rx: 30, ry: 18 },
    {
      kind: 'text',
      id: 'word',
      name: 'Word',
      ...look,
      text: 'Fen',
      x: 40,
      y: 10,
      size: 5,
      font: 'Commissioner',
      align: 'middle',
    },
  ];
  const master = { ...made, layers, boards: [{ ...made.boards[0]!, items: badge }] };
  const path = info.outputPath('sewn badge.inkwell');
  writeFileSync(path, writePackage({ master, rev: 1, time: '2026-05-04T08:10:00Z', history: null, resources: new Map() }));
  await page.goto(workshop.url);
  await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
  await page.locator('input[type=file]').first().setInputFiles(path);
  await page.getByRole('link', { name: 'Sewn badge', exact: true }).first().click();
  await page.getByRole('button', { name: 'Contents' }).click();
  await page.getByRole('button', { name: /^Pond/ }).click();
  await page.getByText('Worked as usual').nth(1).click();
  await page.getByLabel('Angle of Pond, °').fill('45');
  await page.keyboard.press('Tab');
  await expect(page.getByText('Worked at 45°')).toBeVisible();
  await page.getByLabel('Rows of Pond, mm').fill('0.05');
  await page.keyboard.press('Tab');
  await expect(page.getByText('Rows: at least 0.2 mm')).toBeVisible();
  await page.getByLabel('Rows of Pond, mm').fill('0.5');
  await page.keyboard.press('Tab');
  await expect(page.getByText('Worked rows 0.5 mm apart, at 45°')).toBeVisible();
  await page.getByRole('button', { name: 'Update master' }).click();
  await expect(page.getByText('all changes are in r2')).toBeVisible();

  await page.getByRole('button', { name: 'Derive …' }).click();
  const panel = page.locator('twin-derive-panel');
  await panel.getByRole('radio', { name: 'To a machine' }).check();
  await panel.getByRole('radio', { name: 'Stitches (list)' }).check();
  const fit = panel.locator('twin-machine-fit');
  await expect(fit.getByText('“Word” is 0.55 mm wide: satin holds from 0.8 mm on.')).toBeVisible();
  await fit.getByRole('button', { name: 'Sew such lines along' }).click();
  await expect(fit.getByText('It fits.')).toBeVisible();
  await expect(panel.locator('twin-job-look')).toContainText('thread 1 (#2f6f8f)');
  await panel.getByLabel('Name', { exact: true }).fill('for the needle');
  await panel.getByRole('button', { name: 'Write copy' }).click();
  await expect(page.locator('[data-copy="for the needle"] twin-verdict-mark')).toHaveAttribute('data-verdict', 'in step');
  await page.locator('[data-copy="for the needle"]').click();
  await page.locator('twin-machine-row').getByRole('button', { name: 'Send it' }).click();
  await page.getByRole('link', { name: 'Bench' }).click();
  const needle = page.locator('[data-machine="needle"]');
  await needle.getByRole('button', { name: 'Run it' }).click();
  await expect(needle.getByText('It ran to its end')).toBeVisible();
});
