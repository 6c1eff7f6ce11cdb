import type { Drawing } from '../../contracts/drawing';
import { ARC, ARC_CLOCKWISE, SIZE } from '../../base/geometry/paths';

/**
 * Whether entry `i` of one drawing is entry `j` of another, piece by piece: the same verbs through the same points, or the same
 * words in the same place. Looks and layers are another matter. What this can't see as equal may be so all the same: split,
 * started elsewhere, curves turned into lines.
 */
export function sameEntry(a: Drawing, b: Drawing, tolerance: number): (i: number, j: number) => boolean {
  const [p, q] = [a.paths, b.paths];

  const samePoints = (at: number, bt: number, numbers: number, within: number): boolean => {
    for (let k = 0; k < numbers; k += 2) {
      const [dx, dy] = [p.coords[at + k]! - q.coords[bt + k]!, p.coords[at + k + 1]! - q.coords[bt + k + 1]!];
      if (dx * dx + dy * dy > within * within) return false;
    }
    return true;
  };

  const sameOutline = (o: number, u: number): boolean => {
    const verbs = p.firstVerb[o + 1]! - p.firstVerb[o]!;
    if (verbs !== q.firstVerb[u + 1]! - q.firstVerb[u]! || p.closed[o] !== q.closed[u]) return false;
    let [at, bt] = [p.firstCoord[o]!, q.firstCoord[u]!];
    if (p.firstCoord[o + 1]! - at !== q.firstCoord[u + 1]! - bt || !samePoints(at, bt, 2, tolerance)) return false;
    at += 2;
    bt += 2;
    for (let v = 0; v < verbs; v++) {
      const verb = p.verbs[p.firstVerb[o]! + v]!;
      if (verb !== q.verbs[q.firstVerb[u]! + v]) return false;
      const size = SIZE[verb]!;
      // Between two arcs the middle can be off by three times as much as centre and ends are.
      const within = verb === ARC || verb === ARC_CLOCKWISE ? tolerance / 4 : tolerance;
      if (!samePoints(at, bt, size, within)) return false;
      at += size;
      bt += size;
    }
    return true;
  };

  return (i, j) => {
    const [one, other] = [a.text[i]!, b.text[j]!];
    if (one >= 0 || other >= 0) return one >= 0 && other >= 0 && sameWords(a.texts[one]!, b.texts[other]!, tolerance);
    const outlines = a.firstOutline[i + 1]! - a.firstOutline[i]!;
    if (outlines !== b.firstOutline[j + 1]! - b.firstOutline[j]!) return false;
    for (let k = 0; k < outlines; k++) if (!sameOutline(a.firstOutline[i]! + k, b.firstOutline[j]! + k)) return false;
    return true;
  };
}

type Words = Drawing['texts'][number];

/** How far two texts' frames turn and slant against each other, as the far end of the line moves, mm. */
export function slantBetween(x: Words, y: Words): number {
  const [a, b] = [x.frame, y.frame];
  const slant = Math.max(Math.abs(a[0] - b[0]), Math.abs(a[1] - b[1]), Math.abs(a[2] - b[2]), Math.abs(a[3] - b[3]));
  // The far end of the line moves by its length times the turn.
  return slant * x.size * Math.max(1, x.text.length * 0.6);
}

/** How far apart two texts stand, mm. */
export const apart = (x: Words, y: Words): number => Math.hypot(x.frame[4] - y.frame[4], x.frame[5] - y.frame[5]);

/** How far the ends of two lines are apart because of the space between their letters, mm. */
export const spacedApart = (x: Words, y: Words): number =>
  Math.abs((x.spacing ?? 0) - (y.spacing ?? 0)) * Math.max(1, x.text.length);

/** How far the ends of two lines are apart because their letters differ in size, mm: six tenths of an em is a fair mean width. */
export const sizedApart = (x: Words, y: Words): number => Math.abs(x.size - y.size) * Math.max(1, x.text.length * 0.6);

function sameWords(x: Words, y: Words, tolerance: number): boolean {
  return (
    x.text === y.text &&
    x.font === y.font &&
    x.align === y.align &&
    apart(x, y) <= tolerance &&
    Math.abs(x.size - y.size) <= tolerance &&
    sizedApart(x, y) <= 4 * tolerance &&
    spacedApart(x, y) <= 4 * tolerance &&
    slantBetween(x, y) <= 4 * tolerance
  );
}
