import { scaling } from '../geometry/matrix';
import { type Box, joinBoxes } from '../geometry/measure';
import { transformOutline } from '../geometry/outline';
import type { DisplayEntry, DisplayList } from '../projection/display-list';
import type { Carries } from '../targets/target';
import { chainPieces } from './chain';
import { dropCovered } from './cover';
import { type Difference, byImportance, difference } from './difference';
import { type FilledOtherwise, filledOtherwise } from './fills';
import { type Finding, explain } from './leftovers';
import { type LookDifference, lookDifferences } from './looks';
import { type Placing, coveringOtherwise, outOfOrder, runsBackwards } from './order';
import { type Pair, pairOutlines } from './pair';
import { type Piece, piecesOf } from './pieces';
import { compareTexts } from './texts';

export interface CompareOptions {
  /** Largest deviation that still counts as the same, mm. */
  readonly tolerance: number;
  readonly order: Carries['order'];
  /** Names of the master's objects, by id. */
  readonly nameOf?: (source: string) => string | undefined;
}

export interface Comparison {
  readonly differences: readonly Difference[];
  /** Outlines of the master's side, and how many have their equal in the copy. */
  readonly outlines: number;
  readonly equal: number;
}

/**
 * Compares what the master says with what a copy says, by place and shape, without ids.
 * The same outline split in pieces, started elsewhere or with arcs turned into short lines is the same outline.
 */
export function compare(master: DisplayList, copy: DisplayList, options: CompareOptions): Comparison {
  const plain = compareAsIs(master, copy, options);
  const ratio = plain.equal === 0 && plain.differences.length > 1 ? scaleBetween(master, copy) : undefined;
  if (ratio === undefined) return plain;
  // Nothing is where it should be, but everything would be at another scale: that is one difference, not hundreds.
  const scaled = compareAsIs(master, scaleList(copy, 1 / ratio), {
    ...options,
    tolerance: options.tolerance * Math.max(1, 1 / ratio),
  });
  if (scaled.differences.length >= plain.differences.length) return plain;
  const whole = difference('unit changed', 'Everything', { amount: ratio, unit: '×', place: boxOfList(copy) });
  return { ...scaled, equal: 0, differences: [whole, ...scaled.differences] };
}

function compareAsIs(master: DisplayList, copy: DisplayList, options: CompareOptions): Comparison {
  const { tolerance } = options;
  // What is shorter than the tolerance could be anywhere within it: it is neither missed nor found too much. It may still be
  // the other side of something that is a hair longer, so it takes part in the pairing.
  const worthwhile = ({ length }: Piece) => length > tolerance;
  const pairable = ({ length }: Piece) => length > tolerance / 2;
  const as = piecesOf(master, tolerance).filter(pairable);
  const bs = piecesOf(copy, tolerance).filter(pairable);
  const first = pairOutlines(as, bs, tolerance);
  let { onlyA, onlyB } = first;
  const pairs = [...first.pairs];
  if (onlyA.length && onlyB.length) {
    const second = pairOutlines(chainPieces(onlyA, tolerance), chainPieces(onlyB, tolerance), tolerance);
    pairs.push(...second.pairs);
    ({ onlyA, onlyB } = dropCovered(second.onlyA, second.onlyB, tolerance));
  }
  const texts = compareTexts(master, copy, tolerance, options.nameOf);
  const differences = [
    ...compareSheets(master, copy, tolerance),
    ...gather(explain(onlyA.filter(worthwhile), onlyB.filter(worthwhile), tolerance), options.nameOf),
    ...looksOfPairs(pairs, options.nameOf),
    ...fillsOfPairs(filledOtherwise(pairs, as, bs, tolerance), options.nameOf),
    ...orderOfPairs(pairs, texts.placings, options),
    ...texts.differences,
  ];
  return {
    differences: differences.sort(byImportance),
    outlines: as.length,
    equal: Math.max(0, as.length - onlyA.length),
  };
}

function compareSheets(master: DisplayList, copy: DisplayList, tolerance: number): Difference[] {
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
  if (master.background !== copy.background)
    found.push(
      difference('recoloured', 'Background of the board', {
        master: master.background ?? 'none',
        copy: copy.background ?? 'none',
      }),
    );
  return found;
}

type NameOf = CompareOptions['nameOf'];

function wordsFor(piece: Piece, nameOf: NameOf): string {
  const name = piece.source === null ? undefined : nameOf?.(piece.source);
  return name ?? `${piece.closed ? 'Outline' : 'Line'} on ${piece.layer}`;
}

/** One difference per object and kind, however many outlines it has. */
function gather(findings: readonly Finding[], nameOf: NameOf): Difference[] {
  const groups = new Map<string, Finding[]>();
  findings.forEach((finding) => {
    const { a, b, kind } = finding;
    const key = `${kind}|${a ? (a.source ?? `a${a.entry}`) : `b${b!.entry}`}`;
    const list = groups.get(key);
    if (list) list.push(finding);
    else groups.set(key, [finding]);
  });
  return [...groups.values()].map((list) => {
    const [{ kind, a, b, unit }] = list as [Finding];
    const lengths = kind === 'missing' || kind === 'added';
    const amounts = list.map(({ amount }) => amount);
    return difference(kind, wordsFor((a ?? b)!, nameOf), {
      count: list.length,
      unit,
      amount: lengths ? amounts.reduce((sum, one) => sum + one, 0) : amounts.reduce((most, one) => Math.max(most, one), 0),
      place: joinBoxes(list.flatMap((one) => [one.a, one.b].flatMap((piece) => (piece ? [piece.box] : [])))),
      masterEntries: entriesOf(list.map((one) => one.a)),
      copyEntries: entriesOf(list.map((one) => one.b)),
      source: a?.source ?? null,
    });
  });
}

const entriesOf = (pieces: readonly (Piece | null)[]): number[] => [
  ...new Set(pieces.flatMap((piece) => (piece ? [piece.entry] : []))),
];

/** One difference per change of look, however many objects share it. */
function looksOfPairs(pairs: readonly Pair[], nameOf: NameOf): Difference[] {
  const groups = new Map<string, { change: LookDifference; pairs: Pair[] }>();
  for (const pair of pairs) {
    if (pair.a.look === pair.b.look) continue;
    for (const change of lookDifferences(pair.a, pair.b)) {
      const key = `${pair.a.layer}|${change.kind}|${change.master}|${change.copy}`;
      const group = groups.get(key);
      if (group) group.pairs.push(pair);
      else groups.set(key, { change, pairs: [pair] });
    }
  }
  return [...groups.values()].map(({ change: { kind, master, copy, amount }, pairs }) => {
    const first = pairs[0]!.a;
    const objects = new Set(pairs.map(({ a }) => a.source ?? a.entry)).size;
    return difference(kind, objects === 1 ? wordsFor(first, nameOf) : `${objects} objects on ${first.layer}`, {
      count: pairs.length,
      master,
      copy,
      amount,
      unit: amount === null ? '' : 'mm',
      place: joinBoxes(pairs.flatMap(({ a, b }) => [a.box, b.box])),
      masterEntries: entriesOf(pairs.map(({ a }) => a)),
      copyEntries: entriesOf(pairs.map(({ b }) => b)),
      source: objects === 1 ? first.source : null,
    });
  });
}

function fillsOfPairs(found: readonly FilledOtherwise[], nameOf: NameOf): Difference[] {
  const groups = new Map<number, FilledOtherwise[]>();
  for (const one of found) groups.set(one.a.entry, [...(groups.get(one.a.entry) ?? []), one]);
  return [...groups.values()].map((list) => {
    const { a, filledInMaster } = list[0]!;
    return difference('filled otherwise', wordsFor(a, nameOf), {
      count: list.length,
      master: filledInMaster ? 'filled' : 'hollow',
      copy: filledInMaster ? 'hollow' : 'filled',
      place: joinBoxes(list.map((one) => one.a.box)),
      masterEntries: [a.entry],
      copyEntries: entriesOf(list.map((one) => one.b)),
      source: a.source,
    });
  });
}

/** Things out of order, of whatever kind: text covers outlines as outlines cover text. */
function orderOfPairs(pairs: readonly Pair[], texts: readonly Placing[], { order, nameOf }: CompareOptions): Difference[] {
  if (order === 'none') return [];
  const placings: Placing[] = [
    ...pairs.map((pair) => ({ ...pair, what: () => wordsFor(pair.a, nameOf), source: pair.a.source })),
    ...texts,
  ];
  const suspects = new Set(outOfOrder(placings));
  const word = order === 'paint' ? 'place' : 'step';
  const say = ({ a, b, what, source }: Placing, copy: string) =>
    difference('re-ordered', what(), {
      place: a.box,
      master: `${word} ${a.entry + 1}`,
      copy,
      masterEntries: [a.entry],
      copyEntries: [b.entry],
      source,
    });
  const wrong = order === 'paint' ? coveringOtherwise([...suspects], placings) : [...suspects];
  const found = wrong.map((one) => say(one, `${word} ${one.b.entry + 1}`));
  if (order !== 'sequence') return found;
  const backwards = pairs.flatMap((pair, i) =>
    runsBackwards(pair) && !suspects.has(placings[i]!) ? [say(placings[i]!, 'the other way round')] : [],
  );
  return [...found, ...backwards];
}

function boxOfList(list: DisplayList): Box {
  return joinBoxes(piecesOf(list, 0.1).map(({ box }) => box));
}

/** The one factor by which the copy's drawing is larger than the master's, or undefined where there is none. */
function scaleBetween(master: DisplayList, copy: DisplayList): number | undefined {
  const [a, b] = [boxOfList(master), boxOfList(copy)];
  const [aw, ah, bw, bh] = [a.maxX - a.minX, a.maxY - a.minY, b.maxX - b.minX, b.maxY - b.minY];
  if (!(aw > 0 && ah > 0 && bw > 0 && bh > 0)) return undefined;
  const ratio = Math.sqrt((bw / aw) * (bh / ah));
  return Math.abs(bw / aw / ratio - 1) < 0.01 && Math.abs(ratio - 1) > 0.005 ? ratio : undefined;
}

function scaleList(list: DisplayList, factor: number): DisplayList {
  const matrix = scaling(factor);
  const scaled = (entry: DisplayEntry): DisplayEntry => {
    const style = { ...entry.style, strokeWidth: entry.style.strokeWidth * factor };
    if (entry.kind === 'path')
      return { ...entry, style, outlines: entry.outlines.map((outline) => transformOutline(outline, matrix)) };
    const [a, b, c, d, e, f] = entry.frame;
    return { ...entry, style, size: entry.size * factor, frame: [a, b, c, d, e * factor, f * factor] };
  };
  const sheet = list.sheet && { width: list.sheet.width * factor, height: list.sheet.height * factor };
  return { ...list, sheet, entries: list.entries.map(scaled) };
}
