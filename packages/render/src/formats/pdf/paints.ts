import {
  type Matrix,
  type PlacedGradient,
  type PlacedPaint,
  type PlacedPattern,
  isGradient,
  isPattern,
  multiply,
} from '@inkwell-twin/core';
import type { PdfFile, PdfObject } from './file';

const parts = (colour: string): number[] =>
  [1, 3, 5].map((at) => Number((parseInt(colour.slice(at, at + 2), 16) / 255).toFixed(5)));

/** "0.2 0.4 0.6": a colour as its red, green and blue parts. */
export const rgb = (colour: string): string => parts(colour).join(' ');

/** Length of the shortest piece of a function. */
const LEAST = 1e-5;

type Stop = PlacedGradient['stops'][number];

/** Whether a gradient lets different amounts through. */
export const isVeiled = (paint: PlacedPaint | null): paint is PlacedGradient =>
  isGradient(paint) && paint.stops.some(({ opacity = 1 }) => opacity < 1);

/** A function from 0 to 1 that runs through stops (ISO 32000-1, 7.10.4). */
function through(stops: readonly Stop[], value: (stop: Stop) => readonly number[]): object {
  const all = [...stops];
  const [first, last] = [all[0]!, all.at(-1)!];
  if (first.offset > 0) all.unshift({ ...first, offset: 0 });
  if (last.offset < 1) all.push({ ...last, offset: 1 });
  if (all.length === 1) all.push({ ...last, offset: 1 });
  const pieces = all.slice(1).map((stop, i) => ({
    FunctionType: 2,
    Domain: [0, 1],
    C0: value(all[i]!),
    C1: value(stop),
    N: 1,
  }));
  if (pieces.length === 1) return pieces[0]!;
  // Where a colour changes at once, two stops share a place; pieces must have a length.
  const bounds: number[] = [];
  all.slice(1, -1).forEach(({ offset }, i) => {
    const left = all.length - 2 - i;
    bounds.push(Math.min(1 - left * LEAST, Math.max(offset, (bounds.at(-1) ?? 0) + LEAST)));
  });
  return { FunctionType: 3, Domain: [0, 1], Functions: pieces, Bounds: bounds, Encode: pieces.flatMap(() => [0, 1]) };
}

/** Colours that run along a line or out from a focus (ISO 32000-1, 8.7.4.5.3 and 8.7.4.5.4). @param veil how much shows, as grey */
export function shadingOf(file: PdfFile, { kind, focus, stops }: PlacedGradient, veil = false): PdfObject {
  const [fx, fy] = focus ?? [0, 0];
  const made = file.object({
    ShadingType: kind === 'linear' ? 2 : 3,
    ColorSpace: veil ? 'DeviceGray' : 'DeviceRGB',
    Coords: kind === 'linear' ? [0, 0, 1, 0] : [fx, fy, 0, 0, 0, 1],
    Extend: [true, true],
    Function: through(stops, veil ? ({ opacity = 1 }) => [opacity] : ({ colour }) => parts(colour)),
  });
  made.end();
  return made;
}

/**
 * A gradient or pattern as a resource.
 * @param space from the axes it lies in to those of the page or form
 * @param draw what a cell says, as a content stream
 */
export function patternOf(
  file: PdfFile,
  paint: PlacedGradient | PlacedPattern,
  space: Matrix,
  draw: (cell: string) => Uint8Array,
): string {
  const matrix = multiply(space, paint.at);
  const key = `${JSON.stringify(paint)} ${matrix.join(' ')}`;
  return file.once('Pattern', key, () => {
    if (isPattern(paint)) return file.cell(draw(paint.cell), paint.width, paint.height, matrix);
    const made = file.object({ Type: 'Pattern', PatternType: 2, Shading: shadingOf(file, paint), Matrix: matrix });
    made.end();
    return made;
  });
}
