import Flatbush from 'flatbush';
import { deviation } from '../../base/geometry/deviation';
import type { Box } from '../../base/geometry/measure';
import type { Difference, DifferenceKind } from '../../contracts/difference';
import { likeLengths } from './pair';
import type { Piece } from './pieces';

/** A finding about one or two pieces, before findings about one object are gathered. */
export interface Finding {
  readonly kind: DifferenceKind;
  readonly a: Piece | null;
  readonly b: Piece | null;
  readonly amount: number;
  readonly unit: Difference['unit'];
}

const size = ({ minX, minY, maxX, maxY }: Box): [number, number] => [maxX - minX, maxY - minY];
const centre = ({ minX, minY, maxX, maxY }: Box): [number, number] => [(minX + maxX) / 2, (minY + maxY) / 2];
const diagonal = (box: Box): number => Math.hypot(...size(box));

/** The points moved and scaled so that their box's centre and size become another's. */
function laidOver(points: readonly number[], from: Box, to: Box, scale: number): number[] {
  const [fx, fy] = centre(from);
  const [tx, ty] = centre(to);
  return points.map((value, i) => (i % 2 ? (value - fy) * scale + ty : (value - fx) * scale + tx));
}

/** How far two boxes' centres are apart. */
const shift = (a: Box, b: Box): number => Math.hypot(centre(a)[0] - centre(b)[0], centre(a)[1] - centre(b)[1]);

function moved(a: Piece, b: Piece, tolerance: number): Finding | undefined {
  const [[aw, ah], [bw, bh]] = [size(a.box), size(b.box)];
  if (Math.abs(aw - bw) > 2 * tolerance || Math.abs(ah - bh) > 2 * tolerance || a.closed !== b.closed) return undefined;
  if (!likeLengths(a.length, b.length, tolerance)) return undefined;
  if (deviation(a.points, laidOver(b.points, b.box, a.box, 1), 2 * tolerance) > 2 * tolerance) return undefined;
  return { kind: 'moved', a, b, amount: shift(a.box, b.box), unit: 'mm' };
}

function resized(a: Piece, b: Piece, tolerance: number): Finding | undefined {
  const [da, db] = [diagonal(a.box), diagonal(b.box)];
  if (!(da > 0 && db > 0) || a.closed !== b.closed || shift(a.box, b.box) > Math.max(da, db)) return undefined;
  const [[aw, ah], [bw, bh]] = [size(a.box), size(b.box)];
  const scale = da / db;
  const within = 2 * tolerance * Math.max(1, scale);
  if (Math.abs(bw * scale - aw) > within || Math.abs(bh * scale - ah) > within) return undefined;
  if (deviation(a.points, laidOver(b.points, b.box, a.box, scale), within) > within) return undefined;
  return { kind: 'resized', a, b, amount: Math.abs(1 / scale - 1) * 100, unit: '%' };
}

const overlap = (a: Box, b: Box): boolean => a.minX <= b.maxX && b.minX <= a.maxX && a.minY <= b.maxY && b.minY <= a.maxY;

/** The free pieces whose boxes are nearest to a piece. */
function neighbours(pieces: readonly Piece[], free: ReadonlySet<Piece>): (a: Piece) => Piece[] {
  if (!pieces.length) return () => [];
  const index = new Flatbush(pieces.length);
  for (const { box } of pieces) index.add(box.minX, box.minY, box.maxX, box.maxY);
  index.finish();
  let left = pieces.length;
  return (a) => {
    if (!left) return [];
    const found = index.neighbors(...centre(a.box), 2 * CANDIDATES, Infinity, (i) => free.has(pieces[i]!));
    left = found.length;
    return found.map((i) => pieces[i]!);
  };
}

/** The free pieces whose boxes have nearly the size of a piece's box, the nearest of them, wherever they are. */
function sameSizes(pieces: readonly Piece[], tolerance: number, free: ReadonlySet<Piece>): (a: Piece) => Piece[] {
  const cell = 4 * tolerance;
  const cellOf = (box: Box) => size(box).map((value) => Math.floor(value / cell)) as [number, number];
  const cells = new Map<string, Piece[]>();
  for (const piece of pieces) {
    const key = cellOf(piece.box).join();
    const list = cells.get(key);
    if (list) list.push(piece);
    else cells.set(key, [piece]);
  }
  // Of many alike each knows its neighbours; looking at all of them for each would be quadratic.
  const around = new Map([...cells].map(([key, list]) => [key, neighbours(list, free)]));
  return (a) => {
    const [w, h] = cellOf(a.box);
    return [-1, 0, 1].flatMap((i) => [-1, 0, 1].flatMap((j) => around.get(`${w + i},${h + j}`)?.(a) ?? []));
  };
}

/** So many pieces of one size and look are told apart by their order, not by where they are. */
const MANY = 200;

function grouped(pieces: Iterable<Piece>, key: (piece: Piece) => string): Map<string, Piece[]> {
  const groups = new Map<string, Piece[]>();
  for (const piece of pieces) {
    const name = key(piece);
    const list = groups.get(name);
    if (list) list.push(piece);
    else groups.set(name, [piece]);
  }
  return groups;
}

/** Most candidates that one piece is measured against. */
const CANDIDATES = 24;

/**
 * Says what became of the outlines that have no equal on the other side: moved, resized, reshaped, missing or added.
 * Larger outlines choose first.
 */
export function explain(as: readonly Piece[], bs: readonly Piece[], tolerance: number): Finding[] {
  const findings: Finding[] = [];
  const freeA = new Set([...as].sort((p, q) => q.length - p.length));
  const freeB = new Set(bs);
  const settle = (finding: Finding) => {
    findings.push(finding);
    freeA.delete(finding.a!);
    freeB.delete(finding.b!);
  };
  const closest = (a: Piece, some: readonly Piece[]) =>
    some
      .filter((b) => freeB.has(b))
      .sort((p, q) => Number(q.look === a.look) - Number(p.look === a.look) || shift(p.box, a.box) - shift(q.box, a.box))
      .slice(0, CANDIDATES);
  const key = (piece: Piece) =>
    `${piece.look}|${size(piece.box)
      .map((value) => Math.round(value / (4 * tolerance)))
      .join()}`;
  const groupsB = grouped(freeB, key);
  for (const [name, list] of grouped(as, key)) {
    // Of very many that look alike and all moved, those that come in the same place of the order are the same.
    const others = groupsB.get(name);
    if (list.length < MANY || others?.length !== list.length) continue;
    const findings = list.map((a, i) => moved(a, others[i]!, tolerance));
    if (findings.every((finding) => finding !== undefined)) findings.forEach(settle);
  }
  const alike = sameSizes(bs, tolerance, freeB);
  for (const [test, candidates] of [
    [moved, () => alike],
    [resized, () => neighbours([...freeB], freeB)],
  ] as const) {
    const near = candidates();
    for (const a of freeA) {
      for (const b of closest(a, near(a))) {
        const finding = test(a, b, tolerance);
        if (!finding) continue;
        settle(finding);
        break;
      }
    }
  }
  const around = neighbours([...freeB], freeB);
  for (const a of freeA) {
    let best: Finding | undefined;
    for (const b of closest(a, around(a))) {
      if (!overlap(a.box, b.box)) continue;
      const amount = deviation(a.points, b.points);
      if (amount < 0.5 * Math.max(diagonal(a.box), diagonal(b.box)) && amount < (best?.amount ?? Infinity))
        best = { kind: 'reshaped', a, b, amount, unit: 'mm' };
    }
    if (best) settle(best);
  }
  for (const a of freeA) findings.push({ kind: 'missing', a, b: null, amount: a.length, unit: 'mm' });
  for (const b of freeB) findings.push({ kind: 'added', a: null, b, amount: b.length, unit: 'mm' });
  return findings;
}
