import * as fc from 'fast-check';
import {
  FONTS,
  type HouseRules,
  type Master,
  NAME_PARTS,
  NO_RULES,
  applyPatches,
  fileName,
  houseBreaches,
  houseRules,
  houseRulesText,
  nameByRule,
  namingOf,
  presetOf,
  setFormula,
  standardsOf,
  tooLargeFor,
  withPreset,
} from '../src';
import { filled, layer, lined, masterWith, rectangle, text } from './build';
import { richMaster } from './rich';
import { runs } from './depth';
import { cpuTime } from './cpu-time';

const names = fc
  .record({
    parts: fc.shuffledSubarray([...NAME_PARTS], { minLength: 1 }),
    letters: fc.constantFrom('lower_underscore', 'CamelParts'),
    separator: fc.constantFrom('_', '-', '.'),
    forbidden: fc.constantFrom('', '-', '0', 'xq'),
    length: fc.integer({ min: 16, max: 120 }),
    ending: fc.constantFrom('lower', 'upper'),
  } as const)
  .filter(({ separator, forbidden }) => !forbidden.includes(separator)) as fc.Arbitrary<HouseRules['names']>;
const words = fc.oneof(fc.string({ unit: 'grapheme', maxLength: 40 }), fc.stringMatching(/^[A-Za-z0-9 _.-]{0,40}$/));

describe('names by the rule of a house', () => {
  it('are what the rule says, whatever they are made of, and are left as they are when asked again', () => {
    fc.assert(
      fc.property(names, words, words, words, fc.nat(500), (rule, title, board, owner, rev) => {
        const naming = namingOf({ names: rule });
        const parts = { title, board, owner, rev, date: '2026-11-27', version: 'R12' };
        const file = fileName(naming.pattern, parts, 'svg', naming.rule);
        expect(file).toMatch(/^[A-Za-z0-9][A-Za-z0-9._-]*\.(svg|SVG)$/);
        expect(file.length).toBeLessThanOrEqual(rule.length);
        expect(file.endsWith(rule.ending === 'upper' ? '.SVG' : '.svg')).toBe(true);
        for (const letter of rule.forbidden) expect(file.slice(0, -4)).not.toContain(letter);
        if (rule.letters === 'lower_underscore' && rule.ending === 'lower') expect(file).toBe(file.toLowerCase());
        // A repair leads to a name that needs none.
        const repaired = nameByRule(file, naming.rule);
        expect(nameByRule(repaired, naming.rule)).toBe(repaired);
      }),
    );
  });

  it('say how a name from elsewhere would be', () => {
    const camel = namingOf({ names: { ...NO_RULES.names, letters: 'CamelParts' } }).rule;
    const lower = namingOf(NO_RULES).rule;
    expect(nameByRule('Plan final (2) NEU.PDF', lower)).toBe('plan_final_2_neu.pdf');
    expect(nameByRule('boardwalk_waymarker_r7.svg', lower)).toBe('boardwalk_waymarker_r7.svg');
    expect(nameByRule('boardwalk waymarker_front_r7.svg', camel)).toBe('BoardwalkWaymarker_Front_r7.svg');
    expect(nameByRule('BoardwalkWaymarker_Front_r7.svg', camel)).toBe('BoardwalkWaymarker_Front_r7.svg');
    expect(nameByRule('Öffnungszeiten straße.svg', lower)).toBe('offnungszeiten_strasse.svg');
    const { pattern, rule } = namingOf({ names: { ...NO_RULES.names, parts: ['owner', 'date', 'title'], separator: '-' } });
    expect(fileName(pattern, { owner: 'Ines Okoro', date: '2026-11-27', title: 'Trail sheet' }, 'PDF', rule)).toBe(
      'ines_okoro-2026-11-27-trail_sheet.pdf',
    );
  });
});

const RULES: HouseRules = {
  ...NO_RULES,
  house: 'Lantern Fen Trust',
  layers: [
    { name: 'Cut', process: 'cut', colour: '#b04a2f' },
    { name: 'Engrave', process: 'engrave', colour: '#2b4180' },
  ],
  widths: [0.1, 0.25, 0.5],
  lines: [
    { name: 'fold', dash: [4, 2] },
    { name: 'centre', dash: [8, 2, 1, 2] },
  ],
  fonts: ['Oswald', 'Oswald Bold'],
  symbols: ['Reed', 'Trail arrow'],
};

function sloppy(): Master {
  const items = [
    rectangle('thin', 10, 10, { style: lined('#000000', 0.12), layer: 'l1' }),
    rectangle('thin2', 30, 10, { style: lined('#000000', 0.12), layer: 'l1' }),
    rectangle('right', 50, 10, { style: lined('#000000', 0.5), layer: 'l1' }),
    rectangle('dashed', 70, 10, { style: { ...lined('#000000', 0.25), dash: [4.1, 2] }, layer: 'l1' }),
    rectangle('filled', 90, 10, { style: filled('#000000'), layer: 'l1' }),
    text('title', 'Lantern Fen', {
      font: 'Zilla Slab Bold',
      layer: 'l1',
      runs: [{ from: 0, to: 3, font: 'Zilla Slab' }],
    } as never),
  ];
  const layers = [
    layer('l1', 'cut', { name: 'cut', colour: '#b04a2f' }),
    layer('l2', 'score', { name: 'Engrave', colour: '#2b4180' }),
    layer('l3', 'note', { name: 'Scribbles' }),
  ];
  const symbols = [
    {
      id: 's1',
      name: 'trail-arrow',
      anchor: [0, 0],
      items: [rectangle('within', 0, 0, { style: lined('#000000', 0.3), layer: null })],
    },
    { id: 's2', name: 'Otter', anchor: [0, 0], items: [] },
  ];
  return masterWith(items, { layers, symbols } as never);
}

describe('a check of a master against the house rules', () => {
  it('says nothing where the house says nothing', () => expect(houseBreaches(sloppy(), NO_RULES)).toEqual([]));

  it('lists each breach once with everything that has it, and a repair where there is one', () => {
    const found = houseBreaches(sloppy(), RULES);
    expect(found.map(({ standard, nodes, repair }) => [standard, nodes, repair?.label ?? null])).toEqual([
      ['layers', ['l1'], 'Layer “cut” called “Cut”'],
      ['layers', ['l2'], 'Layer “Engrave” for engrave'],
      ['layers', ['l3'], null],
      ['widths', ['thin', 'thin2'], 'Lines of 0.12 mm made 0.1 mm'],
      ['widths', ['within'], 'Lines of 0.3 mm made 0.25 mm'],
      ['lines', ['dashed'], 'Dashes 4.1 2 made fold'],
      ['fonts', ['title'], 'Zilla Slab Bold made Oswald Bold'],
      ['fonts', ['title'], 'Zilla Slab made Oswald'],
      ['symbols', ['s1'], 'Symbol “trail-arrow” called “Trail arrow”'],
      ['symbols', ['s2'], null],
    ]);
    expect(found[3]!.words).toBe('2 objects with a line of 0.12 mm; the house draws 0.1, 0.25, 0.5 mm.');
  });

  it('does not touch what is computed: that is for a person', () => {
    const master = sloppy();
    const computed = applyPatches(master, setFormula(master, 'thin', 'style.strokeWidth', '0.1 * 1.3').patches).master;
    const breach = houseBreaches(computed, RULES).find(({ nodes }) => nodes.includes('thin'))!;
    expect([breach.repair, breach.words]).toEqual([null, expect.stringContaining('computed')]);
  });

  it('has nothing to mend any more once every repair was applied, one after the other, in any master', () => {
    fc.assert(
      fc.property(
        fc.oneof(fc.constant(sloppy()), richMaster),
        fc.record({
          widths: fc.uniqueArray(
            fc.integer({ min: 1, max: 40 }).map((n) => n / 20),
            { maxLength: 4 },
          ),
          fonts: fc.uniqueArray(fc.constantFrom(...FONTS), { maxLength: 3 }),
          layers: fc.subarray([...RULES.layers]),
          lines: fc.subarray([...RULES.lines]),
          symbols: fc.subarray([...RULES.symbols]),
        }),
        (before, standards) => {
          const rules = { ...RULES, ...standards };
          let master = before;
          for (let round = 0; ; round++) {
            const breach = houseBreaches(master, rules).find(({ repair }) => repair);
            if (!breach) break;
            expect(round).toBeLessThan(200);
            const done = applyPatches(master, breach.repair!.patches);
            // A repair is an act like any other, and can be taken back.
            expect(applyPatches(done.master, done.inverse).master).toEqual(master);
            master = done.master;
          }
          for (const { repair } of houseBreaches(master, rules)) expect(repair).toBeNull();
        },
      ),
      { numRuns: runs(60) },
    );
  });

  it('checks 20,000 objects at once', () => {
    const items = Array.from({ length: 20_000 }, (_, i) =>
      rectangle(`r${i}`, i % 500, i / 500, { style: lined('#000000', 0.1 + (i % 40) / 100), layer: 'l1' }),
    );
    const master = masterWith(items, { layers: [layer('l1')] } as never);
    // The quickest of several: the rest is what other work on the machine takes.
    const took = Array.from({ length: 3 }, () => {
      const start = cpuTime();
      expect(houseBreaches(master, RULES).length).toBeGreaterThan(30);
      return cpuTime() - start;
    });
    // Some 60 ms where nothing else runs; far below what anything quadratic would take.
    expect(Math.min(...took)).toBeLessThan(2000);
  });
});

describe('a file of house rules', () => {
  it('is read back as it was written, and what is wrong in it is said with its place', () => {
    expect(houseRules(JSON.parse(houseRulesText(RULES)))).toEqual(RULES);
    expect(houseRulesText(houseRules(JSON.parse(houseRulesText(RULES))))).toBe(houseRulesText(RULES));
    const wrong = (change: object) => () => houseRules({ ...RULES, ...change });
    expect(wrong({ format: 'other' })).toThrow('These are no house rules');
    expect(() => houseRules(null)).toThrow('These are no house rules');
    expect(wrong({ version: 2 })).toThrow('of version 2');
    expect(wrong({ widths: [0.1, -3] })).toThrow(/House rules: widths 1/);
    expect(wrong({ names: { ...RULES.names, forbidden: '_' } })).toThrow(/names forbidden/);
    expect(wrong({ more: 1 })).toThrow(/House rules/);
    expect(wrong({ fonts: ['Nowhere Sans'] })).toThrow(/fonts 0/);
  });
});

describe('standards as a master has them', () => {
  it('are kept by that master in everything', () => {
    fc.assert(
      fc.property(richMaster, (master) => {
        const rules = houseRules(JSON.parse(houseRulesText({ ...NO_RULES, ...standardsOf(master) })));
        expect(houseBreaches(master, rules)).toEqual([]);
      }),
      { numRuns: runs(40) },
    );
  });
});

describe('settings of copies in house rules', () => {
  const preset = (name: string, bleed: number) => ({ name, target: 'pdf', options: { bleed }, without: [], eachUpdate: false });

  it('are found whatever the case of their names, and replace those of the same name', () => {
    const rules = withPreset(withPreset(withPreset(NO_RULES, preset('Web', 1)), preset('Archive', 2)), preset('WEB', 3));
    expect(rules.presets.map(({ name }) => name)).toEqual(['Archive', 'WEB']);
    expect(presetOf(rules, ' web ').options).toEqual({ bleed: 3 });
    expect(() => presetOf(rules, 'Print')).toThrow(/“Archive”, “WEB”/);
    expect(houseRules(JSON.parse(houseRulesText(rules)))).toEqual(rules);
  });

  it('know the ways to hand over and what is too large for them; rules from before know mail', () => {
    const { channels: _none, ...before } = NO_RULES;
    expect(tooLargeFor(houseRules(before), 20_000_001).map(({ name }) => name)).toEqual(['mail']);
    expect(tooLargeFor(NO_RULES, 20_000_000)).toEqual([]);
    const own = { ...NO_RULES, channels: [{ name: 'stick', megabytes: 0.5 }] };
    expect(tooLargeFor(houseRules(own), 500_001)).toEqual(own.channels);
    expect(() => houseRules({ ...NO_RULES, channels: [{ name: 'mail', megabytes: 0 }] })).toThrow(/channels 0 megabytes/);
  });

  it('are none in rules from before, and no name stands twice', () => {
    const { presets: _none, ...before } = NO_RULES;
    expect(houseRules(before).presets).toEqual([]);
    expect(() => houseRules({ ...NO_RULES, presets: [preset('Web', 1), preset('web', 2)] })).toThrow(/has a name twice/);
  });
});
