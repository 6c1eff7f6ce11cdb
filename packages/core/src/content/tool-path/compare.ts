import { type Box, boxOfPolyline, joinBoxes } from '../../base/geometry/measure';
import { align } from '../../evaluate/matching/align';
import { type Difference, byImportance, difference } from '../../contracts/difference';
import { type Placing, outOfOrder, runsBackwards } from '../../evaluate/matching/order';
import {
  type NameOf,
  leftoverDifferences,
  lookDifferencesOf,
  matchInTurn,
  matchOutlines,
  orderDifferences,
  reordered,
  wordsFor,
} from '../../evaluate/matching/outlines';
import type { Pair } from '../../evaluate/matching/pair';
import { type Piece, pieceOf } from '../../evaluate/matching/pieces';
import { orAtAnotherScale } from '../../evaluate/matching/scale';
import { plainStyle } from '../../contracts/display-list';
import type { CompareSettings, Comparison } from '../../contracts/kind';
import type { ToolPathCarries } from './features';
import { type ToolPath, strokePoints } from './tool-path';

type Settings = CompareSettings<ToolPathCarries>;

/**
 * Compares what a machine should do with what a file makes it do: with which tools, how fast, along which lines, in which order
 * and direction. Stroke by stroke first; only what is left over by the slower search for what was split, joined or moved.
 */
export function compareToolPaths(master: ToolPath, copy: ToolPath, settings: Settings): Comparison {
  const plain = compareAsIs(master, copy, settings);
  return orAtAnotherScale(
    plain,
    settings.tolerance,
    () => [boxOfPath(master), boxOfPath(copy)],
    (factor, tolerance) =>
      compareAsIs(master, { ...copy, points: copy.points.map((value) => value * factor) }, { ...settings, tolerance }),
  );
}

const boxOfPath = ({ points }: ToolPath): Box => boxOfPolyline(points as unknown as readonly number[]);

/** Speeds closer than this share are the same: what three decimals leave over. */
const SPEED = 0.002;
const sameSpeed = (a: number, b: number): boolean =>
  Number.isNaN(a) ? Number.isNaN(b) : Math.abs(a - b) <= SPEED * Math.max(a, b);

function compareAsIs(master: ToolPath, copy: ToolPath, { tolerance, carries, nameOf }: Settings): Comparison {
  const speeds = carries.speed !== 'left out';
  const samePoints = (i: number, j: number): boolean => {
    const [p, q] = [2 * master.firstPoint[i]!, 2 * copy.firstPoint[j]!];
    const size = 2 * master.firstPoint[i + 1]! - p;
    if (size !== 2 * copy.firstPoint[j + 1]! - q) return false;
    for (let k = 0; k < size; k += 2) {
      const [dx, dy] = [master.points[p + k]! - copy.points[q + k]!, master.points[p + k + 1]! - copy.points[q + k + 1]!];
      if (dx * dx + dy * dy > tolerance * tolerance) return false;
    }
    return true;
  };
  const likewise = (i: number, j: number): boolean =>
    numberOf(master, i) === numberOf(copy, j) && (!speeds || sameSpeed(master.speed[i]!, copy.speed[j]!));
  const partner = new Int32Array(master.count).fill(-1);
  const taken = new Uint8Array(copy.count);
  const [a, b] = [placesOf(master), placesOf(copy)];
  align(a, b, (i, j) => likewise(i, j) && samePoints(i, j), tolerance, partner, taken);
  align(a, b, samePoints, tolerance, partner, taken);
  const inTurn = carries.order !== 'left out';
  const [left, over] = [piecesOf(master, (i) => partner[i]! < 0, speeds), piecesOf(copy, (j) => !taken[j], speeds)];
  const matched = inTurn
    ? matchInTurn(goneOn(left, tolerance), goneOn(over, tolerance), tolerance)
    : matchOutlines(left, over, tolerance);
  const pairs: Pair[] = [...matched.pairs];
  for (let i = 0; i < master.count; i++)
    if (partner[i]! >= 0 && !likewise(i, partner[i]!))
      pairs.push({ a: pieceAt(master, i, speeds), b: pieceAt(copy, partner[i]!, speeds) });
  const found = [
    ...leftoverDifferences(matched, tolerance, nameOf),
    ...lookDifferencesOf(
      pairs.map((pair) => ({ ...pair, box: () => joinBoxes([pair.a.box, pair.b.box]) })),
      { tolerance, sameCell: () => true },
      nameOf,
    ),
    ...(speeds ? speedDifferences(master, copy, pairs) : []),
    ...(carries.order === 'left out' ? [] : orderOf(master, partner, matched.pairs, nameOf)),
  ];
  const outlines = master.count;
  return { differences: found.sort(byImportance), outlines, equal: Math.max(0, outlines - matched.onlyA.length) };
}

/** Strokes that go on where the one right before them ended, as one: lifting the pen in between changes nothing of the work. */
function goneOn(pieces: readonly Piece[], tolerance: number): Piece[] {
  const done: Piece[] = [];
  let last = -2;
  for (const piece of pieces) {
    const before = done.at(-1);
    const [n, [x, y]] = [before?.points.length ?? 0, piece.points as [number, number]];
    const meets = before && Math.hypot(before.points[n - 2]! - x, before.points[n - 1]! - y) <= tolerance;
    if (before && meets && piece.entry === last + 1 && piece.look === before.look)
      done[done.length - 1] = pieceOf([...before.points, ...piece.points.slice(2)], before);
    else done.push(piece);
    last = piece.entry;
  }
  return done;
}

const numberOf = ({ tools, tool }: ToolPath, i: number): number => tools[tool[i]!]!.number;

const placesOf = ({ count, firstPoint, points }: ToolPath) => ({
  count,
  x: (i: number) => points[2 * firstPoint[i]!]!,
  y: (i: number) => points[2 * firstPoint[i]! + 1]!,
});

function pieceAt(path: ToolPath, entry: number, speeds: boolean): Piece {
  const { name } = path.tools[path.tool[entry]!]!;
  const look = speeds ? `${name}|${path.speed[entry]!.toPrecision(3)}` : name;
  const source = path.sources[path.source[entry]!] ?? null;
  return pieceOf(Array.from(strokePoints(path, entry)), { entry, layer: name, style: plainStyle, look, source });
}

function piecesOf(path: ToolPath, isLeft: (entry: number) => boolean, speeds: boolean): Piece[] {
  const pieces: Piece[] = [];
  for (let i = 0; i < path.count; i++) if (isLeft(i)) pieces.push(pieceAt(path, i, speeds));
  return pieces;
}

const speedInWords = (speed: number): string => (Number.isNaN(speed) ? 'not said' : `${Number(speed.toPrecision(4))} mm/s`);

/** One difference per tool and change of speed, however many strokes are run at it. */
function speedDifferences(master: ToolPath, copy: ToolPath, pairs: readonly Pair[]): Difference[] {
  const groups = new Map<string, Pair[]>();
  for (const pair of pairs) {
    const [x, y] = [master.speed[pair.a.entry]!, copy.speed[pair.b.entry]!];
    if (sameSpeed(x, y)) continue;
    const key = `${pair.a.layer}|${speedInWords(x)}|${speedInWords(y)}`;
    const list = groups.get(key);
    if (list) list.push(pair);
    else groups.set(key, [pair]);
  }
  return [...groups.values()].map((list) => {
    const [{ a, b }] = list as [Pair];
    const [x, y] = [master.speed[a.entry]!, copy.speed[b.entry]!];
    return difference('speed changed', a.layer, {
      count: list.length,
      amount: Number.isNaN(x - y) ? null : Math.abs(x - y),
      unit: Number.isNaN(x - y) ? '' : 'mm/s',
      master: speedInWords(x),
      copy: speedInWords(y),
      place: joinBoxes(list.map((one) => one.a.box)),
      masterEntries: list.map((one) => one.a.entry),
      copyEntries: list.map((one) => one.b.entry),
    });
  });
}

/** Strokes out of turn, and strokes that run the other way. */
function orderOf(master: ToolPath, partner: Int32Array, matched: readonly Pair[], nameOf: NameOf): Difference[] {
  const placed = ({ a, b }: Pair): Placing => ({ a, b, what: () => wordsFor(a, nameOf), source: a.source });
  const placings: Placing[] = matched.map(placed);
  const backwards = matched.flatMap((pair, i) => (runsBackwards(pair) ? [placings[i]!] : []));
  partner.forEach((j, i) => {
    if (j < 0) return;
    const source = master.sources[master.source[i]!] ?? null;
    placings.push({
      a: {
        entry: i,
        get box() {
          return boxOfPolyline(Array.from(strokePoints(master, i)));
        },
      },
      b: {
        entry: j,
        get box() {
          return boxOfPolyline(Array.from(strokePoints(master, i)));
        },
      },
      what: () => wordsFor(pieceAt(master, i, false), nameOf),
      source,
    });
  });
  const suspects = new Set(outOfOrder(placings));
  return [
    ...orderDifferences(placings, 'sequence'),
    ...backwards.filter((one) => !suspects.has(one)).map((one) => reordered(one, 'sequence', 'the other way round')),
  ];
}
