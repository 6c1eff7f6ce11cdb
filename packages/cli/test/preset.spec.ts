import { mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type HouseRules, NO_RULES, houseRulesText, newMaster, writePackage } from '@inkwell-twin/core';
import { Output } from '../src/output';
import { CommandLine } from './command-line';

let folder: string;
const commands = new CommandLine();
const twin = (...args: string[]) => commands.run(folder, args);
const rules = (...presets: HouseRules['presets']) => houseRulesText({ ...NO_RULES, house: 'Lantern Fen Trust', presets });

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'inkwell-preset-'));
  const master = newMaster('card-1', 'Card', 'Ines Okoro', 'panel', {});
  const packed = { master, rev: 2, time: '2026-05-04T08:10:00Z', history: null, resources: new Map() };
  mkdirSync(join(folder, 'shelf/card'), { recursive: true });
  writeFileSync(join(folder, 'shelf/card/card.inkwell'), writePackage(packed));
  writeFileSync(
    join(folder, 'shelf/house_rules_fen.json'),
    rules(
      { name: 'To the printer', target: 'pdf', options: { bleed: 3, version: '1.4' }, without: ['pictures'], eachUpdate: false },
      { name: 'Odd', target: 'pdf', options: { gloss: 3 }, without: [], eachUpdate: false },
    ),
  );
});
afterAll(async () => {
  await commands.close();
  rmSync(folder, { recursive: true, force: true });
});

const CARD = 'shelf/card/card.inkwell';
const optionsOf = (file: string): unknown => {
  const output = Output.parse(JSON.parse(twin('info', file, '--json').out));
  const how = output.command === 'info' ? output.mark!.how : '';
  return JSON.parse(how).options;
};

describe('twin derive --preset', () => {
  it('takes target and options from the rules above the master, and lets single ones be said otherwise', () => {
    expect(twin('derive', CARD, '--preset', 'to the printer', '--set', 'bleed=5', '--out', 'a.pdf').code).toBe(0);
    expect(optionsOf('a.pdf')).toMatchObject({ version: '1.4', bleed: 5 });
    expect(twin('carry', CARD, '--preset', 'To the printer').code).toBe(0);
  });

  it('says what is wrong, and writes nothing', () => {
    const wrong = (...args: string[]): string => {
      const { code, err } = twin('derive', ...args);
      expect(code).toBe(2);
      return err;
    };
    expect(wrong(CARD, '--preset', 'Web')).toMatch(/no settings called “Web”. Known: “To the printer”, “Odd”/);
    expect(wrong(CARD, '--preset', 'To the printer', '--to', 'svg')).toMatch(/are for pdf/);
    expect(wrong(CARD, '--preset', 'Odd')).toMatch(/no option “gloss”/);
    expect(wrong(CARD, '--preset', 'Odd', '--rules', 'nowhere.json')).toMatch(/no file nowhere.json/);
    writeFileSync(join(folder, 'torn.json'), '{');
    expect(wrong(CARD, '--preset', 'Odd', '--rules', 'torn.json')).toMatch(/JSON/);
    writeFileSync(join(folder, 'shelf/card/house_rules_a.json'), rules());
    expect(wrong(CARD, '--preset', 'Odd')).toMatch(/They have none/);
    writeFileSync(join(folder, 'shelf/card/house_rules_b.json'), rules());
    expect(wrong(CARD, '--preset', 'Odd')).toMatch(/several files of house rules/);
  });
});

describe('several masters by several settings', () => {
  it('become copies under names that are settled before; one that fails keeps nothing else, and a summary tells all', () => {
    const rules = join(folder, 'shelf/house_rules_fen.json');
    writeFileSync(join(folder, 'torn.inkwell'), 'torn');
    const made = twin(
      'derive',
      CARD,
      'torn.inkwell',
      '--preset',
      'To the printer',
      '--preset',
      'Odd',
      '--rules',
      rules,
      '--out',
      'many',
      '--summary',
      'summary.json',
    );
    expect([made.code, made.out]).toEqual([1, expect.stringMatching(/1 of 4 copies, \d+ bytes/)]);
    const summary = Output.parse(JSON.parse(readFileSync(join(folder, 'summary.json'), 'utf8')));
    expect(summary).toMatchObject({ copies: [{ file: CARD, settings: 'To the printer' }] });
    expect(summary.command === 'several' && summary.failed.map(({ file, settings }) => [file, settings])).toEqual([
      [CARD, 'Odd'],
      ['torn.inkwell', 'To the printer'],
      ['torn.inkwell', 'Odd'],
    ]);
    // The same master twice is two copies, none over the other.
    const twice = twin('derive', CARD, CARD, '--to', 'svg', '--out', 'two');
    expect([twice.code, readdirSync(join(folder, 'two')).sort()]).toEqual([0, ['card_r2.svg', 'card_r2_2.svg']]);
  });
});
