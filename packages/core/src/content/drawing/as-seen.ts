import Flatbush from 'flatbush';
import type { Point } from '../../base/geometry/point';
import type { CopyContent } from '../../contracts/codec';
import type { Drawing } from '../../contracts/drawing';
import type { Alone, SeenCheck } from '../../contracts/seen-check';
import { isPicture } from '../../document/paint';
import { polylineOf } from './pieces';

/** What a program that knows nothing of masters sees of a drawing. */
interface SeenDrawing {
  readonly lines: readonly { readonly layer: string; readonly points: readonly Point[]; readonly closed: boolean }[];
  readonly texts: readonly { readonly layer: string; readonly words: string; readonly at: Point }[];
}

interface Chain {
  readonly layer: string;
  readonly points: readonly Point[];
}

/** How far apart places along a line are that are looked at, mm, and how many of one line at most. */
const [STEP, MOST] = [1, 400];

/** The segments of some lines, to be asked which is the nearest. */
class Segments {
  private readonly index: Flatbush | null;
  private readonly ends: number[] = [];

  constructor(
    chains: readonly Chain[],
    private readonly reach: number,
  ) {
    for (const { points } of chains) for (let i = 1; i < points.length; i++) this.ends.push(...points[i - 1]!, ...points[i]!);
    const count = this.ends.length / 4;
    this.index = count ? new Flatbush(count) : null;
    for (let i = 0; i < count; i++) {
      const [ax, ay, bx, by] = this.ends.slice(4 * i, 4 * i + 4) as [number, number, number, number];
      this.index!.add(Math.min(ax, bx), Math.min(ay, by), Math.max(ax, bx), Math.max(ay, by));
    }
    this.index?.finish();
  }

  /** How far the nearest segment is, as far as it is within reach; else infinity. */
  distance([x, y]: Point): number {
    const { reach, ends } = this;
    let least = Infinity;
    for (const i of this.index?.search(x - reach, y - reach, x + reach, y + reach) ?? []) {
      const [ax, ay, bx, by] = [ends[4 * i]!, ends[4 * i + 1]!, ends[4 * i + 2]!, ends[4 * i + 3]!];
      const [dx, dy] = [bx - ax, by - ay];
      const share = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)));
      least = Math.min(least, Math.hypot(x - ax - share * dx, y - ay - share * dy));
    }
    return least <= reach ? least : Infinity;
  }
}

/** Places along a line: its corners, and what lies far from them. */
function* along(points: readonly Point[]): Generator<Point> {
  if (points[0]) yield points[0];
  let left = MOST;
  for (let i = 1; i < points.length; i++) {
    const [[ax, ay], [bx, by]] = [points[i - 1]!, points[i]!];
    const count = Math.max(1, Math.min(left, Math.ceil(Math.hypot(bx - ax, by - ay) / STEP)));
    left = Math.max(1, left - count);
    for (let k = 1; k <= count; k++) yield [ax + ((bx - ax) * k) / count, ay + ((by - ay) * k) / count];
  }
}

const byLayer = <T extends { readonly layer: string }>(all: readonly T[]): Map<string, T[]> => {
  const groups = new Map<string, T[]>();
  for (const one of all) {
    const group = groups.get(one.layer);
    if (group) group.push(one);
    else groups.set(one.layer, [one]);
  }
  return groups;
};

/** Lines of one side that the other has not, layer by layer, and how far the furthest of those that it has lies off. */
function without(chains: readonly Chain[], others: readonly Chain[], within: number): { alone: Alone[]; furthest: number } {
  const [mine, theirs] = [byLayer(chains), byLayer(others)];
  const alone: Alone[] = [];
  let furthest = 0;
  for (const [layer, some] of mine) {
    const segments = new Segments(theirs.get(layer) ?? [], within);
    for (const { points } of some) {
      let worst = 0;
      let at: Point | null = null;
      for (const point of along(points)) {
        const distance = segments.distance(point);
        if (distance > worst) [worst, at] = [distance, point];
        if (worst === Infinity) break;
      }
      if (worst === Infinity) alone.push({ what: 'line', layer, at: at!, words: '' });
      else furthest = Math.max(furthest, worst);
    }
  }
  return { alone, furthest };
}

/** How far off the chords are that stand for curves here, mm. */
const CHORD = 0.001;

/**
 * Holds what another program sees of a copy against what the copy was to say: every line of each lies on a line of the other,
 * on the same layer, and every text stands where it stood.
 * @param drawing what the copy was to say, of one board
 * @param within how far apart places may be, mm
 */
export function heldAgainstSeen(drawing: Drawing, seen: SeenDrawing, within: number): SeenCheck {
  const wanted: Chain[] = [];
  const words: { layer: string; words: string; at: Point }[] = [];
  for (let i = 0; i < drawing.count; i++) {
    const layer = drawing.layers[drawing.layer[i]!]!.name;
    const text = drawing.texts[drawing.text[i]!];
    if (text) words.push({ layer, words: text.text, at: [text.frame[4], text.frame[5]] });
    if (text || isPicture(drawing.looks[drawing.look[i]!]!.fill)) continue;
    for (let o = drawing.firstOutline[i]!; o < drawing.firstOutline[i + 1]!; o++) {
      const flat = polylineOf(drawing, o, CHORD);
      wanted.push({ layer, points: Array.from({ length: flat.length / 2 }, (_, k): Point => [flat[2 * k]!, flat[2 * k + 1]!]) });
    }
  }
  const there = seen.lines.map(({ layer, points, closed }): Chain => ({
    layer,
    points: closed ? [...points, points[0]!] : points,
  }));
  const reach = within + 2 * CHORD;
  const [gone, added] = [without(wanted, there, reach), without(there, wanted, reach)];
  const left = [...seen.texts];
  const missing: Alone[] = words.flatMap((one): Alone[] => {
    const k = left.findIndex(
      (other) =>
        other.layer === one.layer &&
        other.words === one.words &&
        Math.hypot(other.at[0] - one.at[0], other.at[1] - one.at[1]) <= reach,
    );
    if (k < 0) return [{ what: 'text', ...one }];
    left.splice(k, 1);
    return [];
  });
  return {
    lines: wanted.length,
    texts: words.length,
    furthest: Math.max(gone.furthest, added.furthest),
    missing: [...gone.alone, ...missing],
    more: [...added.alone, ...left.map(({ layer, words: said, at }): Alone => ({ what: 'text', layer, at, words: said }))],
  };
}

/** How near places are to be where a target says nothing, mm. */
const NEAR = 0.01;

/**
 * Holds what another program sees of a copy against what the copy was to say.
 * @param tolerance of the target, by kind
 * @returns null where that is not one drawing: several are laid out by each format in its own way
 */
export function asMeant(
  { leaves }: CopyContent,
  seen: SeenDrawing,
  { drawing = NEAR }: Readonly<Record<string, number>>,
): SeenCheck | null {
  const [leaf, more] = leaves;
  return leaf?.kind === 'drawing' && !more ? heldAgainstSeen(leaf.body as Drawing, seen, drawing) : null;
}
