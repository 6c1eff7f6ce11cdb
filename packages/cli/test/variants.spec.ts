import { existsSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Master, newMaster, writePackage } from '@inkwell-twin/core';
import { Output } from '../src/output';
import { CommandLine } from './command-line';

let folder: string;
const commands = new CommandLine();
const twin = (...args: string[]) => commands.run(folder, args);
const json = (...args: string[]) => {
  const { code, out } = twin(...args, '--json');
  return { code, output: Output.parse(JSON.parse(out)) };
};
const put = (name: string, text: string): string => {
  writeFileSync(join(folder, name), text);
  return name;
};

const plate: Master = {
  ...newMaster('plate-1', 'Door plate', 'Ines Okoro', 'panel', {}),
  parameters: [
    { id: 'p1', name: 'who', value: 'nobody', measure: 'text' },
    { id: 'p2', name: 'plate_width', value: 80, measure: 'length' },
  ],
};
plate.boards[0]!.items = [
  {
    kind: 'text',
    id: 'name',
    layer: plate.layers[0]!.id,
    style: { fill: '#14213a', stroke: null, strokeWidth: 0 },
    text: '{who}',
    slots: true,
    x: 10,
    y: 10,
    size: 6,
    font: 'Commissioner',
    align: 'start',
  },
];

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'inkwell-variants-'));
  const packed = { master: plate, rev: 3, time: '2026-05-04T08:10:00Z', history: null, resources: new Map() };
  writeFileSync(join(folder, 'plate.inkwell'), writePackage(packed));
});
afterAll(async () => {
  await commands.close();
  rmSync(folder, { recursive: true, force: true });
});

describe('twin derive --variants', () => {
  it('numbers its rows from where one says, each with its own number whatever becomes of those before it', () => {
    put('numbered.csv', 'Who\nHanne Vik\nHanne Vik\nÓscar Lindqvist\n');
    const made = twin(
      'derive',
      'plate.inkwell',
      '--to',
      'svg',
      '--variants',
      'numbered.csv',
      '--serial',
      '008',
      '--out',
      'numbered',
    );
    expect(made.code).toBe(1);
    expect(readdirSync(join(folder, 'numbered')).sort()).toEqual([
      'door_plate_008_hanne_vik_r3.svg',
      'door_plate_010_oscar_lindqvist_r3.svg',
    ]);
    const wrong = twin('derive', 'plate.inkwell', '--to', 'svg', '--variants', 'numbered.csv', '--serial', 'A1', '--out', 'none');
    expect([wrong.code, wrong.err, existsSync(join(folder, 'none'))]).toEqual([2, expect.stringContaining('“A1”'), false]);
    expect(twin('derive', 'plate.inkwell', '--to', 'svg', '--serial', '1').code).toBe(2);
  });
  it('writes one copy a row, each of which says its own and is in step by itself', () => {
    put('rows.csv', 'Who;Plate width (cm)\nHanne Vik;8,5\nÓscar Lindqvist;9\n');
    const { code, output } = json('derive', 'plate.inkwell', '--to', 'svg', '--variants', 'rows.csv', '--out', 'plates');
    expect(code).toBe(0);
    expect(output).toMatchObject({
      command: 'variants',
      failed: [],
      copies: [
        { row: 1, name: 'Hanne Vik', out: 'plates/door_plate_hanne_vik_r3.svg' },
        { row: 2, name: 'Óscar Lindqvist', out: 'plates/door_plate_oscar_lindqvist_r3.svg' },
      ],
    });
    const files = readdirSync(join(folder, 'plates')).map((name) => `plates/${name}`);
    expect(readFileSync(join(folder, files[0]!), 'utf8')).toContain('Hanne Vik');
    expect(json('check', 'plate.inkwell', ...files)).toMatchObject({
      code: 0,
      output: { copies: [{ verdict: 'in step' }, { verdict: 'in step' }] },
    });
    // One whose name was exchanged for another row’s is no copy of either.
    put(files[0]!, readFileSync(join(folder, files[0]!), 'utf8').replace('Hanne Vik', 'Óscar Lindqvist'));
    expect(json('check', 'plate.inkwell', files[0]!)).toMatchObject({ code: 1, output: { copies: [{ verdict: 'touched' }] } });
  });

  it('goes on past rows that fail, says their numbers, and ends with 1', () => {
    put('some.csv', 'who,plate_width\nA,80\n,80\nC,wide\nA,80\nE,90\n');
    const { code, out } = twin('derive', 'plate.inkwell', '--to', 'svg', '--variants', 'some.csv', '--out', 'some');
    expect(code).toBe(1);
    expect(out).toContain('2 of 5 rows became copies');
    expect(out).toContain('row 2: who is empty');
    expect(out).toContain('row 3: plate_width “wide”');
    expect(out).toContain('row 4: It says the same as row 1.');
    expect(readdirSync(join(folder, 'some'))).toHaveLength(2);
  });

  it('reads a file of one column, and writes nothing where a column is no parameter or there are no rows', () => {
    put('one.csv', 'who\nHanne Vik\nÓscar Lindqvist\n');
    expect(json('derive', 'plate.inkwell', '--to', 'pdf', '--variants', 'one.csv', '--out', 'one')).toMatchObject({ code: 0 });
    put('odd.csv', 'who,colour\nA,b\n');
    const odd = twin('derive', 'plate.inkwell', '--to', 'svg', '--variants', 'odd.csv', '--out', 'odd');
    expect(odd).toMatchObject({
      code: 2,
      err: expect.stringContaining('no parameter of this master is called “colour”. It has: who, plate_width.'),
    });
    expect(existsSync(join(folder, 'odd'))).toBe(false);
    put('none.csv', 'who,plate_width\n');
    expect(twin('derive', 'plate.inkwell', '--to', 'svg', '--variants', 'none.csv').code).toBe(2);
    expect(twin('derive', 'plate.inkwell', '--to', 'svg', '--variants', 'one.csv', '--out', 'one.csv')).toMatchObject({
      code: 2,
      err: expect.stringContaining('--out is a folder'),
    });
  });

  it('says how large a copy will be, and fits one to a size, or says that it can’t be', () => {
    const { output } = json('carry', 'plate.inkwell', '--to', 'jpeg');
    const { bytes } = (output as { forecast: { bytes: number } }).forecast;
    const whole = json('derive', 'plate.inkwell', '--to', 'jpeg', '--out', 'whole.jpg');
    expect([whole.output, readFileSync(join(folder, 'whole.jpg')).length]).toMatchObject([{ bytes, tried: [] }, bytes]);
    const most = Math.round(bytes / 2);
    const fitted = json('derive', 'plate.inkwell', '--to', 'jpeg', '--fit-size', `${most / 1000}kB`, '--out', 'half.jpg');
    expect(fitted.code).toBe(0);
    expect(readFileSync(join(folder, 'half.jpg')).length).toBeLessThanOrEqual(most);
    expect((fitted.output as { tried: unknown[] }).tried.length).toBeGreaterThan(1);
    expect(twin('check', 'plate.inkwell', 'half.jpg').code).toBe(0);
    expect(twin('derive', 'plate.inkwell', '--to', 'jpeg', '--fit-size', '10', '--out', 'none.jpg')).toMatchObject({
      code: 2,
      err: expect.stringContaining('too many'),
    });
    expect(existsSync(join(folder, 'none.jpg'))).toBe(false);
    for (const size of ['huge', '0 MB', '5 stones', ''])
      expect(twin('derive', 'plate.inkwell', '--to', 'jpeg', '--fit-size', size)).toMatchObject({
        code: 2,
        err: expect.stringContaining('is no size'),
      });
  });

  it('writes over no file that another recipe made, and goes on with the other rows', () => {
    put('two.csv', 'who\nHanne Vik\nLone Berg\n');
    put('taken.csv', 'who,plate_width\nHanne Vik,99\nOle Sand,99\n');
    twin('derive', 'plate.inkwell', '--to', 'svg', '--variants', 'two.csv', '--out', 'same');
    const before = readFileSync(join(folder, 'same/door_plate_hanne_vik_r3.svg'), 'utf8');
    const again = json('derive', 'plate.inkwell', '--to', 'svg', '--variants', 'taken.csv', '--out', 'same');
    expect(again).toMatchObject({
      code: 1,
      output: { copies: [{ row: 2 }], failed: [{ row: 1, message: expect.stringContaining('not made by this recipe') }] },
    });
    expect(readFileSync(join(folder, 'same/door_plate_hanne_vik_r3.svg'), 'utf8')).toBe(before);
  });
});
