import { type Box, joinBoxes } from '../../base/geometry/measure';
import { align } from '../../evaluate/matching/align';
import { type Difference, byImportance, difference } from '../../contracts/difference';
import { type FilledOtherwise, filledOtherwise } from '../../evaluate/matching/fills';
import { type Placing, winding } from '../../evaluate/matching/order';
import {
  type LookPair,
  type NameOf,
  leftoverDifferences,
  lookDifferencesOf,
  matchOutlines,
  wordsFor,
} from '../../evaluate/matching/outlines';
import type { Pair } from '../../evaluate/matching/pair';
import { orAtAnotherScale } from '../../evaluate/matching/scale';
import type { CompareSettings, Comparison } from '../../contracts/kind';
import type { Drawing } from '../../contracts/drawing';
import type { DrawingCarries } from './features';
import { compareSpans } from './compare-spans';
import { joined } from './joined';
import { described, orderOf } from './in-order';
import { withoutLostNames } from './nameless';
import { boxOfEntry, placesOf } from './places';
import { scaled } from './scaled';
import { boxOfOutlinesIn, lookWords, piecesOf } from './pieces';
import { sameEntry } from './same';
import { compareTexts } from './texts';

type Settings = CompareSettings<DrawingCarries>;

/**
 * Compares what the master says with what a copy says, by place and shape, without ids: entry by entry first, and only what is
 * left over by the slower search for what was split, joined, turned into lines or moved.
 */
export function compareDrawings(master: Drawing, copy: Drawing, settings: Settings): Comparison {
  const plain = compareAsIs(master, copy, settings);
  return orAtAnotherScale(
    plain,
    settings.tolerance,
    () => [boxOfDrawing(master), boxOfDrawing(copy)],
    (factor, tolerance) => compareAsIs(master, scaled(copy, factor), { ...settings, tolerance }),
  );
}

/** As they are, or with fills and lines together that one side paints apart, where that leaves less to tell. */
function compareAsIs(master: Drawing, copy: Drawing, settings: Settings): Comparison {
  const plain = compareOnce(master, copy, settings);
  if (!plain.differences.length) return plain;
  const [one, other] = [joined(master, settings.tolerance), joined(copy, settings.tolerance)];
  if (!one && !other) return plain;
  const together = compareOnce(one ?? master, other ?? copy, settings);
  return together.differences.length < plain.differences.length ? together : plain;
}

function compareOnce(master: Drawing, copy: Drawing, { tolerance, carries, nameOf }: Settings): Comparison {
  const same = sameEntry(master, copy, tolerance);
  const [looks, otherLooks] = [lookWords(master), lookWords(copy)];
  const partner = new Int32Array(master.count).fill(-1);
  const taken = new Uint8Array(copy.count);
  const [a, b] = [placesOf(master), placesOf(copy)];
  align(a, b, (i, j) => looks(i) === otherLooks(j) && same(i, j), tolerance, partner, taken);
  // A fill and the line around it have one shape: what paints alike pairs before what only lies alike.
  align(a, b, (i, j) => paintsAlike(master, i, copy, j) && same(i, j), tolerance, partner, taken);
  align(a, b, same, tolerance, partner, taken);
  const otherwise: [number, number][] = [];
  let outlines = 0;
  for (let i = 0; i < master.count; i++) {
    const j = partner[i]!;
    if (j < 0) continue;
    outlines += master.firstOutline[i + 1]! - master.firstOutline[i]!;
    if (looks(i) !== otherLooks(j)) otherwise.push([i, j]);
  }
  const coloured = isColoured(master) || isColoured(copy);
  const leftA = leftOver(master, (i) => partner[i]! < 0 && isSeen(master, i, coloured));
  const leftB = leftOver(copy, (j) => !taken[j] && isSeen(copy, j, coloured));
  const as = piecesOf(master, leftA.paths, tolerance);
  const bs = piecesOf(copy, leftB.paths, tolerance);
  const matched = matchOutlines(as, bs, tolerance);
  const compared = new Map<string, boolean>();
  const sameCell = (one: string, other: string): boolean => {
    if (one === other) return true;
    const key = `${one} ${other}`;
    let same = compared.get(key);
    if (same === undefined)
      compared.set(key, (same = sayTheSame(master.cells[one]!, copy.cells[other]!, { tolerance, carries })));
    return same;
  };
  const texts = compareTexts(master, leftA.texts, copy, leftB.texts, { tolerance, sameCell }, nameOf);
  const refilled = otherwise.filter(([i, j]) => filledByAnotherRule(master, i, copy, j));
  const found = [
    ...compareSheets(master, copy, tolerance),
    ...leftoverDifferences(matched, tolerance, nameOf),
    ...lookDifferencesOf(lookPairs(master, copy, otherwise, matched.pairs, looks, otherLooks), { tolerance, sameCell }, nameOf),
    ...fillDifferences(
      [
        ...filledOtherwise(
          matched.pairs.filter(({ a: { entry } }) => !matched.areas.has(entry)),
          as,
          bs,
          tolerance,
        ),
        ...filledInPairs(master, copy, refilled, tolerance),
      ],
      nameOf,
    ),
    ...(carries.order === 'left out' ? [] : orderOf(master, copy, partner, matched.pairs, texts.placings, nameOf, tolerance)),
    ...compareSpans(master, copy, pairing(partner, matched.pairs, texts.placings), {
      nameOf,
      boxOf: (entry) => boxOfEntry(master, entry, 0.1),
      alike: (one, other) => sayTheSame(one, other, { tolerance, carries }),
    }),
    ...dashesElsewhere(matched.pairs, tolerance, nameOf),
    ...texts.differences,
  ];
  outlines += as.length;
  const { differences, remarks } = withoutLostNames(found, master, copy);
  return {
    differences: differences.sort(byImportance),
    remarks,
    outlines,
    equal: Math.max(0, outlines - matched.onlyA.length),
  };
}

/** Whether two entries are both filled or neither, and both drawn with a line or neither, in whatever colours. */
function paintsAlike(master: Drawing, i: number, copy: Drawing, j: number): boolean {
  const [one, other] = [master.looks[master.look[i]!]!, copy.looks[copy.look[j]!]!];
  return (one.fill === null) === (other.fill === null) && (one.stroke === null) === (other.stroke === null);
}

/** Whether two drawings that others are painted with say the same. */
const sayTheSame = (one: Drawing, other: Drawing, settings: Settings): boolean =>
  compareAsIs(one, other, settings).differences.length === 0;

/** Lines that lie on each other, but whose dashes begin elsewhere or run the other way. */
function dashesElsewhere(pairs: readonly Pair[], tolerance: number, nameOf: NameOf): Difference[] {
  return pairs.flatMap(({ a, b }) => {
    if (!a.style.line?.dash.length || !b.style.line?.dash.length) return [];
    const off = Math.hypot(a.points[0]! - b.points[0]!, a.points[1]! - b.points[1]!);
    const turned = a.closed && b.closed && winding(a.points) > 0 !== winding(b.points) > 0;
    if (off <= 2 * tolerance && !turned) return [];
    return difference('restyled', wordsFor(a, nameOf), {
      ...(off > 2 * tolerance ? { amount: off, unit: 'mm' as const } : {}),
      master: 'dashes from its start',
      copy: turned ? 'dashes the other way' : 'dashes from elsewhere',
      place: a.box,
      masterEntries: [a.entry],
      copyEntries: [b.entry],
      source: a.source,
    });
  });
}

/** All entries that were found again, by whatever way. */
function pairing(partner: Int32Array, matched: readonly Pair[], texts: readonly Placing[]): Int32Array {
  const all = partner.slice();
  for (const { a, b } of [...matched, ...texts]) if (all[a.entry]! < 0) all[a.entry] = b.entry;
  return all;
}

/**
 * Whether an entry shows: with no colour at all, or as see-through as can be, nobody sees it. Where nothing on either side has a
 * colour, colours are not what it is about.
 */
function isSeen(drawing: Drawing, entry: number, coloured: boolean): boolean {
  const { fill, stroke, opacity, fillOpacity = 1, strokeOpacity = 1 } = drawing.looks[drawing.look[entry]!]!;
  if (opacity === 0) return false;
  return !coloured || (fill !== null && fillOpacity > 0) || (stroke !== null && strokeOpacity > 0);
}
const isColoured = ({ looks }: Drawing): boolean => looks.some(({ fill, stroke }) => fill !== null || stroke !== null);

function leftOver(drawing: Drawing, isLeft: (entry: number) => boolean): { paths: number[]; texts: number[] } {
  const left: { paths: number[]; texts: number[] } = { paths: [], texts: [] };
  for (let i = 0; i < drawing.count; i++) if (isLeft(i)) left[drawing.text[i]! < 0 ? 'paths' : 'texts'].push(i);
  return left;
}

function compareSheets(master: Drawing, copy: Drawing, tolerance: number): Difference[] {
  const found: Difference[] = [];
  if (master.sheet && copy.sheet) {
    const off = Math.max(Math.abs(master.sheet.width - copy.sheet.width), Math.abs(master.sheet.height - copy.sheet.height));
    const shown = ({ width, height }: { width: number; height: number }) =>
      `${Number(width.toFixed(3))} × ${Number(height.toFixed(3))} mm`;
    if (off > tolerance)
      found.push(
        difference('sheet resized', 'The sheet', {
          amount: off,
          unit: 'mm',
          master: shown(master.sheet),
          copy: shown(copy.sheet),
        }),
      );
  }
  const recoloured = (what: string, one: string | null, other: string | null) =>
    found.push(difference('recoloured', what, { master: one ?? 'none', copy: other ?? 'none' }));
  if (master.background !== copy.background) recoloured('Background of the board', master.background, copy.background);
  const colours = new Map(copy.layers.map(({ name, colour }) => [name, colour]));
  for (const { name, colour } of master.layers) {
    const there = colours.get(name);
    if (colour && there && there !== colour) recoloured(`Layer ${name}`, colour, there);
  }
  return found;
}

const boxOfDrawing = (drawing: Drawing): Box => boxOfOutlinesIn(drawing, 0.1);

function* lookPairs(
  master: Drawing,
  copy: Drawing,
  otherwise: readonly (readonly [number, number])[],
  matched: readonly Pair[],
  looks: (entry: number) => string,
  otherLooks: (entry: number) => string,
): Generator<LookPair> {
  for (const [i, j] of otherwise)
    yield {
      a: { ...described(master, i), look: looks(i) },
      b: { ...described(copy, j), look: otherLooks(j) },
      box: () => joinBoxes([boxOfEntry(master, i, 0.1), boxOfEntry(copy, j, 0.1)]),
    };
  for (const { a, b } of matched) yield { a, b, box: () => joinBoxes([a.box, b.box]) };
}

const filledByAnotherRule = (master: Drawing, i: number, copy: Drawing, j: number): boolean => {
  const [x, y] = [master.looks[master.look[i]!]!, copy.looks[copy.look[j]!]!];
  return x.fill !== null && y.fill !== null && x.fillRule !== y.fillRule && master.text[i]! < 0;
};

/** Of entries with equal outlines and another rule of filling, those that fill another area. */
function filledInPairs(
  master: Drawing,
  copy: Drawing,
  entries: readonly (readonly [number, number])[],
  tolerance: number,
): FilledOtherwise[] {
  const as = piecesOf(
    master,
    entries.map(([i]) => i),
    tolerance,
  );
  const bs = piecesOf(
    copy,
    entries.map(([, j]) => j),
    tolerance,
  );
  return filledOtherwise(
    as.map((a, k) => ({ a, b: bs[k]! })),
    as,
    bs,
    tolerance,
  );
}

function fillDifferences(found: readonly FilledOtherwise[], nameOf: NameOf): Difference[] {
  const groups = new Map<number, FilledOtherwise[]>();
  for (const one of found) {
    const list = groups.get(one.a.entry);
    if (list) list.push(one);
    else groups.set(one.a.entry, [one]);
  }
  return [...groups.values()].map((list) => {
    const { a, filledInMaster } = list[0]!;
    return difference('filled otherwise', wordsFor(a, nameOf), {
      count: list.length,
      master: filledInMaster ? 'filled' : 'hollow',
      copy: filledInMaster ? 'hollow' : 'filled',
      place: joinBoxes(list.map((one) => one.a.box)),
      masterEntries: [a.entry],
      copyEntries: [...new Set(list.map(({ b }) => b.entry))],
      source: a.source,
    });
  });
}
