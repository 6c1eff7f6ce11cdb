import { flatten } from '../../base/geometry/flatten';
import { type Box, boxOfPolyline, joinBoxes } from '../../base/geometry/measure';
import { type Piece, FINER, lookOf, pieceOf } from '../../evaluate/matching/pieces';
import { isFillAlone } from '../../evaluate/matching/regions';
import { sourceAt } from './drawing';
import type { Drawing } from '../../contracts/drawing';
import { LINE, outlineAt } from '../../base/geometry/paths';

/** The looks of a drawing's entries in words, layer and style together, each made once. */
export function lookWords(drawing: Drawing): (entry: number) => string {
  const known = new Map<number, string>();
  return (entry) => {
    const [layer, look] = [drawing.layer[entry]!, drawing.look[entry]!];
    const key = layer * 0x100000 + look;
    let words = known.get(key);
    if (words === undefined) known.set(key, (words = lookOf(drawing.layers[layer]!.name, drawing.looks[look]!)));
    return words;
  };
}

/** Outline `o` of a drawing as a polyline, its closing line included. */
export function polylineOf({ paths }: Drawing, o: number, tolerance: number): number[] {
  const { firstVerb, firstCoord, closed, verbs, coords } = paths;
  for (let v = firstVerb[o]!; v < firstVerb[o + 1]!; v++) if (verbs[v] !== LINE) return flatten(outlineAt(paths, o), tolerance);
  const points = Array.from(coords.subarray(firstCoord[o], firstCoord[o + 1]));
  const n = points.length;
  if (closed[o] && (Math.abs(points[n - 2]! - points[0]!) > 1e-9 || Math.abs(points[n - 1]! - points[1]!) > 1e-9))
    points.push(points[0]!, points[1]!);
  return points;
}

/** The box of all outlines of a drawing. @param tolerance how far curves may stand out of it, mm */
export const boxOfOutlinesIn = (drawing: Drawing, tolerance: number): Box =>
  joinBoxes(Array.from({ length: drawing.paths.count }, (_, o) => boxOfPolyline(polylineOf(drawing, o, tolerance))));

/** The outlines of some entries as pieces. */
export function piecesOf(drawing: Drawing, entries: Iterable<number>, tolerance: number): Piece[] {
  const pieces: Piece[] = [];
  const lookWord = lookWords(drawing);
  for (const entry of entries) {
    const origin = {
      entry,
      layer: drawing.layers[drawing.layer[entry]!]!.name,
      style: drawing.looks[drawing.look[entry]!]!,
      look: lookWord(entry),
      source: sourceAt(drawing, entry),
    };
    for (let o = drawing.firstOutline[entry]!; o < drawing.firstOutline[entry + 1]!; o++) {
      const points = polylineOf(drawing, o, tolerance / FINER);
      // What is only filled is filled as if it were closed (SVG 1.1, 11.3).
      if (isFillAlone(origin) && points.length > 4) points.push(points[0]!, points[1]!);
      pieces.push(pieceOf(points, origin));
    }
  }
  return pieces;
}
