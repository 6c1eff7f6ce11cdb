import { directedDeviationToAll } from '../../base/geometry/deviation';
import { SHORTEST } from './visits';
import { type Box, joinBoxes } from '../../base/geometry/measure';
import { chainPieces } from './chain';
import { dropCovered } from './cover';
import { type Difference, difference } from '../../contracts/difference';
import { type Finding, explain } from './leftovers';
import { type LookDifference, lookDifferences } from './looks';
import type { Sameness } from './paints';
import { type Placing, coveringOtherwise, outOfOrder } from './order';
import { type Pair, pairOutlines } from './pair';
import type { Piece } from './pieces';
import { filledTheSame, isFillAlone } from './regions';

export type NameOf = ((source: string) => string | undefined) | undefined;

/** What came of matching outlines that no quick way could pair. */
interface Matched {
  readonly pairs: readonly Pair[];
  readonly onlyA: readonly Piece[];
  readonly onlyB: readonly Piece[];
  /** Entries of the master whose area is filled all the same, although their outlines have no equal. */
  readonly areas: ReadonlySet<number>;
}

/**
 * Matches outlines by place and shape, without ids: as they are, then joined where they were split, then as inked lines that
 * lie on each other, then as areas. What is shorter than the tolerance could be anywhere within it: it is neither missed nor
 * found too much, but may be the other side of something that is a hair longer. With a wide line it is a dot that one sees.
 */
export function matchOutlines(a: readonly Piece[], b: readonly Piece[], tolerance: number): Matched {
  const pairable = (piece: Piece) => piece.length > tolerance / 2 || isDot(piece, tolerance);
  const worthwhile = (piece: Piece) => piece.length > tolerance || isDot(piece, tolerance);
  const first = pairOutlines(a.filter(pairable), b.filter(pairable), tolerance);
  let { onlyA, onlyB } = first;
  const pairs = [...first.pairs];
  if (onlyA.length && onlyB.length) {
    const second = pairOutlines(chainPieces(onlyA, tolerance), chainPieces(onlyB, tolerance), tolerance);
    pairs.push(...second.pairs);
    ({ onlyA, onlyB } = dropCovered(second.onlyA, second.onlyB, tolerance));
  }
  [onlyA, onlyB] = [onlyA.filter(worthwhile), onlyB.filter(worthwhile)];
  [onlyA, onlyB] = [withoutJoints(onlyA, b, tolerance), withoutJoints(onlyB, a, tolerance)];
  if (!onlyA.some(isFillAlone) || !onlyB.some(isFillAlone)) return { pairs, onlyA, onlyB, areas: new Set() };
  const inQuestion = (all: readonly Piece[], only: readonly Piece[]) => {
    const entries = new Set(only.map(({ entry }) => entry));
    return all.filter(({ entry }) => entries.has(entry));
  };
  const areas = filledTheSame(inQuestion(a, onlyA), inQuestion(b, onlyB), tolerance);
  return {
    pairs,
    onlyA: onlyA.filter(({ entry }) => !areas.a.has(entry)),
    onlyB: onlyB.filter(({ entry }) => !areas.b.has(entry)),
    areas: areas.a,
  };
}

/**
 * Leaves out what is so short that it is a matter of where lines meet, and lies on a line of the other side: a joint between two
 * others, which were joined past it.
 */
function withoutJoints(only: readonly Piece[], others: readonly Piece[], tolerance: number): Piece[] {
  const isShort = (piece: Piece) => reach(piece) <= SHORTEST * tolerance;
  if (!only.some(isShort)) return [...only];
  const away = directedDeviationToAll(others.map(({ points }) => points));
  return only.filter((piece) => !isShort(piece) || away(piece.points, 2 * tolerance) > 2 * tolerance);
}

/** How far a piece goes along: a line there and back, half of its length. */
const reach = ({ closed, points, length }: Piece): number => (closed && points.length === 6 ? length / 2 : length);

/** Whether what is nearly a point is one that shows: its line is wider than the tolerance, and it is drawn at all (SVG 2, 13.5.4). */
const isDot = ({ length, style: { stroke, strokeWidth, line } }: Piece, tolerance: number): boolean =>
  stroke !== null && strokeWidth > 2 * tolerance && (length > 1e-6 || (line !== undefined && line.cap !== 'butt'));

/** Matches strokes that are done one after the other: half of one that is done later is other work, so nothing is joined or laid together. */
export function matchInTurn(a: readonly Piece[], b: readonly Piece[], tolerance: number): Matched {
  const { pairs, onlyA, onlyB } = pairOutlines(
    a.filter(({ length }) => length > tolerance / 2),
    b.filter(({ length }) => length > tolerance / 2),
    tolerance,
  );
  const worthwhile = ({ length }: Piece) => length > tolerance;
  return {
    pairs,
    onlyA: [...onlyA.filter(worthwhile), ...loneAmong(a, b, tolerance)],
    onlyB: [...onlyB.filter(worthwhile), ...loneAmong(b, a, tolerance)],
    areas: new Set(),
  };
}

/** Strokes shorter than the tolerance with nothing of the other side near them: a tool that comes down there leaves its trace. */
function loneAmong(some: readonly Piece[], others: readonly Piece[], tolerance: number): Piece[] {
  const short = some.filter(({ length }) => length <= tolerance && length > tolerance / 4);
  if (!short.length) return [];
  const away = directedDeviationToAll(others.map(({ points }) => points));
  return short.filter(({ points }) => away(points, 2 * tolerance) > 2 * tolerance);
}

export function wordsFor(piece: Pick<Piece, 'source' | 'closed' | 'layer'>, nameOf: NameOf): string {
  const name = piece.source === null ? undefined : nameOf?.(piece.source);
  return name ?? `${piece.closed ? 'Outline' : 'Line'} on ${piece.layer}`;
}

const entriesOf = (pieces: readonly (Piece | null)[]): number[] => [
  ...new Set(pieces.flatMap((piece) => (piece ? [piece.entry] : []))),
];

/** What became of outlines without an equal: one difference per object and kind, however many outlines it has. */
export function leftoverDifferences(
  { onlyA, onlyB }: Pick<Matched, 'onlyA' | 'onlyB'>,
  tolerance: number,
  nameOf: NameOf,
): Difference[] {
  const groups = new Map<string, Finding[]>();
  for (const finding of explain(onlyA, onlyB, tolerance)) {
    const { a, b, kind } = finding;
    const key = `${kind}|${a ? (a.source ?? `a${a.entry}`) : `b${b!.entry}`}`;
    const list = groups.get(key);
    if (list) list.push(finding);
    else groups.set(key, [finding]);
  }
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

/** Two things of the same shape and place that may look otherwise. */
export interface LookPair {
  readonly a: Pick<Piece, 'entry' | 'layer' | 'style' | 'look' | 'source' | 'closed'>;
  readonly b: Pick<Piece, 'entry' | 'layer' | 'style' | 'look'>;
  /** Where, both sides together; only asked for what differs. */
  readonly box: () => Box;
}

/** One difference per change of look, however many objects share it. */
export function lookDifferencesOf(pairs: Iterable<LookPair>, within: Sameness, nameOf: NameOf): Difference[] {
  const groups = new Map<string, { change: LookDifference; pairs: LookPair[] }>();
  for (const pair of pairs) {
    if (pair.a.look === pair.b.look) continue;
    for (const change of lookDifferences(pair.a, pair.b, pair.box, within)) {
      const key = `${pair.a.layer}|${change.kind}|${change.master}|${change.copy}`;
      const group = groups.get(key);
      if (group) group.pairs.push(pair);
      else groups.set(key, { change, pairs: [pair] });
    }
  }
  return [...groups.values()].map(({ change: { kind, master, copy, amount }, pairs: some }) => {
    const first = some[0]!.a;
    const objects = new Set(some.map(({ a }) => a.source ?? a.entry)).size;
    return difference(kind, objects === 1 ? wordsFor(first, nameOf) : `${objects} objects on ${first.layer}`, {
      count: some.length,
      master,
      copy,
      amount,
      unit: amount === null ? '' : 'mm',
      place: joinBoxes(some.map(({ box }) => box())),
      masterEntries: [...new Set(some.map(({ a }) => a.entry))],
      copyEntries: [...new Set(some.map(({ b }) => b.entry))],
      source: objects === 1 ? first.source : null,
    });
  });
}

/** Things that come in another order: of a painting those that now cover something else, of work all that is out of turn. */
export function orderDifferences(
  placings: readonly Placing[],
  order: 'paint' | 'sequence',
  shows?: (one: Placing, other: Placing) => boolean,
): Difference[] {
  const suspects = outOfOrder(placings);
  return (order === 'paint' ? coveringOtherwise(suspects, placings, shows) : suspects).map((one) =>
    reordered(one, order, turnOf(order, one.b)),
  );
}

/** When something is painted or done, in words. */
const turnOf = (order: 'paint' | 'sequence', { entry }: { readonly entry: number }): string =>
  order === 'paint' ? `place ${entry + 1}` : `step ${entry + 1}`;

export const reordered = ({ a, b, what, source }: Placing, order: 'paint' | 'sequence', copy: string): Difference =>
  difference('re-ordered', what(), {
    place: a.box,
    master: turnOf(order, a),
    copy,
    masterEntries: [a.entry],
    copyEntries: [b.entry],
    source,
  });
