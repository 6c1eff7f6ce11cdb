import { type DisplayList, type Verdict, checkCopy, derive, distanceToSegment, flatten, recipeOf } from '../src';
import { shippedFonts } from '../../render/src';
import { masterWith, rectangle, text } from './build';

const fonts = shippedFonts();
const SEED = 20261124;
const ROUNDS = 45;
const time = '2026-11-20T10:00:00.000Z';
const master = masterWith([
  ...Array.from({ length: 12 }, (_, i) =>
    rectangle(`r${i}`, 5 + (i % 6) * 30, 5 + Math.floor(i / 6) * 30, {
      width: 10 + i,
      height: 8 + (i % 3),
      radius: i % 2 ? 2 : 0,
    }),
  ),
  {
    kind: 'ellipse',
    id: 'c',
    layer: 'cut',
    style: { fill: null, stroke: '#14213a', strokeWidth: 0.5 },
    cx: 180,
    cy: 80,
    rx: 9,
    ry: 9,
  },
  {
    kind: 'ellipse',
    id: 'e',
    layer: 'cut',
    style: { fill: null, stroke: '#14213a', strokeWidth: 0.5 },
    cx: 150,
    cy: 80,
    rx: 14,
    ry: 6,
  },
  text('t', 'Sedge Loop', { y: 84 }),
]);

/** A fixed row of numbers between 0 and 1, so that every run tries the same faults. */
function dice(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state * 1664525 + 1013904223) % 4294967296;
    return state / 4294967296;
  };
}

/** How far the farthest of densely sampled points of one polyline is from another, every point against every segment. */
function farthest(a: readonly number[], b: readonly number[]): number {
  let worst = 0;
  for (let i = 0; i + 3 < a.length; i += 2)
    for (let s = 0; s <= 2; s++) {
      const [x, y] = [a[i]! + ((a[i + 2]! - a[i]!) * s) / 2, a[i + 1]! + ((a[i + 3]! - a[i + 1]!) * s) / 2];
      let best = Infinity;
      for (let j = 0; j + 3 < b.length; j += 2)
        best = Math.min(best, distanceToSegment(x, y, b[j]!, b[j + 1]!, b[j + 2]!, b[j + 3]!));
      worst = Math.max(worst, best);
    }
  return worst;
}

interface Format {
  readonly target: string;
  readonly options: Record<string, string>;
  /** Numbers that place something, as they stand in the file; the first group is the number. */
  readonly coordinates: RegExp;
  /** Whole things that can be taken out or doubled. */
  readonly things: RegExp;
  readonly unit: number;
}
const FORMATS: Format[] = [
  {
    target: 'svg',
    options: {},
    coordinates: /(?<=[ML])(\d+(?:\.\d+)?)(?= )/g,
    things: /<(?:path|circle|text)[^\n]*\n/g,
    unit: 1,
  },
  {
    target: 'dxf',
    options: { version: 'R12' },
    coordinates: /(?<=VERTEX\n8\nCUT\n10\n)(-?\d+(?:\.\d+)?)(?=\n)/g,
    things: /0\n(?:CIRCLE|TEXT|POLYLINE)\n(?:(?!0\n(?:CIRCLE|TEXT|POLYLINE|ENDSEC)\n)[\s\S])*/g,
    unit: 1,
  },
  {
    target: 'dxf',
    options: { version: '2000' },
    coordinates: /(?<=\n10\n)(\d+(?:\.\d+)?)(?=\n20\n\d+(?:\.\d+)?\n(?:10|42)\n)/g,
    things: /0\n(?:CIRCLE|TEXT|LWPOLYLINE)\n(?:(?!0\n(?:CIRCLE|TEXT|LWPOLYLINE|SPLINE|ENDSEC)\n)[\s\S])*/g,
    unit: 1,
  },
  {
    target: 'hpgl',
    options: {},
    coordinates: /(?<=PU|PD(?:\d+,\d+,)*)(\d+)(?=,\d+)/g,
    things: /PU\d+,\d+;\nPD[^;]*;\n/g,
    unit: 40,
  },
];

describe.each(FORMATS)('faults in $target $options', ({ target, options, coordinates, things, unit }) => {
  const recipe = recipeOf(target, options);
  const tolerance = recipe.target.tolerance;
  const made = derive({ master, rev: 1, time }, recipe, fonts);
  const words = new TextDecoder().decode(made.bytes);
  const verdict = (changed: string): Verdict =>
    checkCopy(
      { bytes: new TextEncoder().encode(changed), whole: changed === words, says: made.says, recipe, now: master, then: master },
      fonts,
    ).verdict;
  const replaceOne = (matches: RegExpMatchArray[], pick: number, change: (found: string) => string): string => {
    const match = matches[Math.floor(pick * matches.length)]!;
    return words.slice(0, match.index!) + change(match[0]) + words.slice(match.index! + match[0].length);
  };
  const numbers = [...words.matchAll(coordinates)];
  const whole = [...words.matchAll(things)];

  /** Every outline of the file as dense points. */
  const outlinesOf = (changed: string): number[][] =>
    recipe.target
      .read(new TextEncoder().encode(changed))
      .list.entries.flatMap((entry) => (entry.kind === 'path' ? entry.outlines.map((one) => flatten(one, tolerance / 3)) : []));

  it('has things to spoil', () => {
    expect(numbers.length).toBeGreaterThan(20);
    expect(whole.length).toBeGreaterThan(9);
  });

  it(`finds every coordinate moved so that an outline is off by more than the tolerance (seed ${SEED})`, () => {
    const next = dice(SEED);
    const before = outlinesOf(words);
    let faults = 0;
    for (let round = 0; round < ROUNDS; round++) {
      const by = tolerance * (1 + 400 * next() ** 3) * (next() < 0.5 ? -1 : 1);
      const changed = replaceOne(numbers, next(), (found) =>
        String(unit === 1 ? Number((Number(found) + by).toFixed(4)) : Math.round(Number(found) + by * unit)),
      );
      // A corner that slides along its own line moves nothing: what counts is how far the outline is off, measured by brute force.
      const after = outlinesOf(changed);
      const off = Math.max(
        ...before.map((one, i) =>
          String(one) === String(after[i]) ? 0 : Math.max(farthest(one, after[i]!), farthest(after[i]!, one)),
        ),
      );
      if (off > 1.2 * tolerance) {
        faults++;
        expect({ round, by, off, verdict: verdict(changed) }).toEqual({ round, by, off, verdict: 'touched' });
      }
    }
    expect(faults).toBeGreaterThan(ROUNDS / 3);
  });

  it('finds everything taken out, and everything doubled', () => {
    for (const index of whole.keys()) {
      const pick = index / whole.length;
      expect({ index, gone: verdict(replaceOne(whole, pick, () => '')) }).toEqual({ index, gone: 'touched' });
      expect({ index, twice: verdict(replaceOne(whole, pick, (found) => found + found)) }).toEqual({ index, twice: 'touched' });
    }
  });

  it('finds a drawing scaled by 25.4, whole and by half', () => {
    const scaled = (factor: number): DisplayList => {
      const { list } = recipe.target.read(made.bytes);
      return {
        ...list,
        entries: list.entries.map((entry) =>
          entry.kind === 'path'
            ? {
                ...entry,
                outlines: entry.outlines.map((one) => ({
                  ...one,
                  start: [one.start[0] * factor, one.start[1] * factor] as const,
                  segments: one.segments.map((s) => ({
                    ...s,
                    kind: 'line' as const,
                    to: [s.to[0] * factor, s.to[1] * factor] as const,
                  })),
                })),
              }
            : entry,
        ),
      };
    };
    for (const factor of [25.4, 1 / 25.4, 0.5])
      expect(verdict(new TextDecoder().decode(recipe.target.write(scaled(factor), recipe.options, '')))).toBe('touched');
  });

  it('raises no false alarm on what was only re-written', () => {
    const next = dice(SEED + 1);
    for (let round = 0; round < ROUNDS / 3; round++) {
      // Each coordinate nudged by far less than the tolerance, as another program's rounding would.
      const changed =
        unit === 1
          ? words.replace(coordinates, (found) => String(Number(found) + tolerance * 0.3 * (next() - 0.5)))
          : words.replace(/;\n/g, () => (next() < 0.5 ? ';' : ';\r\n'));
      expect({ round, verdict: verdict(changed) }).toEqual({ round, verdict: 'in step' });
    }
  });
});
