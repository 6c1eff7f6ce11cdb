import {
  type Fonts,
  type Outline,
  type Point,
  type Segment,
  areaOfPolyline,
  deviation,
  flatten,
  scaling,
  transformOutline,
} from '@inkwell-twin/core';
import { packOutlines } from './carried';
import type { PathNode, TextNode } from './nodes';

/** A letter of a page: what the font in the file draws for it, ems, and where, as the size is given. */
export interface PageLetter {
  readonly outlines: readonly Outline[];
  readonly x: number;
  /** Over the line that the first of them stands on. */
  readonly y: number;
}

/** The letters of a line as the page has them. */
export interface PageLine {
  readonly letters: PageLetter[];
  readonly at: PathNode['at'];
  readonly size: number;
  /** Space after each letter that is stated beside what stands between them. */
  readonly spacing: number;
}

/** How far a point of a letter may be off, ems: what fonts round. */
const SHAPE = 0.002;
/** How far outlines of other pieces may be apart, ems: readers do not agree where one begins that has no corner. */
const OUTLINE = 0.004;
/** How far a letter may stand off, mm; and what the widths in a file round for every letter before it, ems. */
const [PLACE, ROUNDED] = [0.02, 0.00006];

const near = ([ax, ay]: Point, [bx, by]: Point): boolean => Math.abs(ax - bx) <= SHAPE && Math.abs(ay - by) <= SHAPE;

/** The segments of an outline all round: where it begins is nothing that shows. */
function ring({ start, segments }: Outline): readonly Segment[] {
  const last = segments.at(-1)?.to ?? start;
  return near(last, start) ? segments : [...segments, { kind: 'line', to: start }];
}

function sameRing(a: readonly Segment[], b: readonly Segment[]): boolean {
  if (a.length !== b.length) return false;
  const same = (segment: Segment, beside: Segment): boolean => {
    if (segment.kind !== beside.kind || !near(segment.to, beside.to)) return false;
    return segment.kind !== 'cubic' || (beside.kind === 'cubic' && near(segment.c1, beside.c1) && near(segment.c2, beside.c2));
  };
  return b.some((_, turn) => a.every((segment, i) => same(segment, b[(i + turn) % b.length]!)));
}

/** Thousandths of an em: geometry is exact to one of them. */
const FINE = 1000;
const flat = ({ start, segments }: Outline): number[] =>
  flatten(transformOutline({ start, segments, closed: true }, scaling(FINE, FINE)), SHAPE * FINE * 0.1);

/** Whether two outlines run around the same area the same way, however many pieces they are made of. */
function alike(one: Outline, other: Outline): boolean {
  if (sameRing(ring(one), ring(other))) return true;
  const [a, b] = [flat(one), flat(other)];
  return areaOfPolyline(a) > 0 === areaOfPolyline(b) > 0 && deviation(a, b, OUTLINE * FINE) <= OUTLINE * FINE;
}

const isInk = ({ outlines }: { readonly outlines: readonly Outline[] }): boolean => outlines.length > 0;

/**
 * Whether a line inks what its words ink in the shipped font that it is named after: the same outlines at the same places. The
 * name of a font, the widths and the meanings of letters in a file may say anything; what is inked is what people see.
 */
function isAsNamed({ text, font }: TextNode, { letters, at, size, spacing }: PageLine, fonts: Fonts): boolean {
  const named = fonts.inked(font, text);
  // A letter without a shape is told elsewhere.
  if (!named) return true;
  const wanted = named.map((letter, i) => ({ ...letter, x: letter.x * size + i * spacing })).filter(isInk);
  const found = letters.filter(isInk);
  if (wanted.length !== found.length) return false;
  const scale = Math.max(Math.hypot(at[0], at[1]), Math.hypot(at[2], at[3]));
  return wanted.every(({ outlines, x, y }, i) => {
    const beside = found[i]!;
    const off = Math.max(Math.abs(beside.x - x), Math.abs(beside.y - y * size)) * scale;
    if (off > PLACE + ROUNDED * letters.length * Math.abs(size) * scale) return false;
    const own = beside.outlines;
    return own.length === outlines.length && own.every((outline, o) => alike(outline, outlines[o]!));
  });
}

/** A line that inks something else than its words do in the font that it is named after, as what it inks. Null for any other. */
export function asInked(node: TextNode, fonts: Fonts | undefined): PathNode | null {
  const { line, style, layer } = node;
  if (!line || !fonts || isAsNamed(node, line, fonts)) return null;
  const data: number[] = [];
  for (const { outlines, x, y } of line.letters) packOutlines(outlines, line.size, [x, y], data);
  return { kind: 'path', data: Float32Array.from(data), at: line.at, style, layer };
}
