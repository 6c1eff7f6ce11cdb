import { type Outline, transformOutline } from '../base/geometry/outline';
import type { Matrix } from '../base/geometry/matrix';
import type { Blend, ClipShape, MaskKind } from '../document/effects';

/** How several things look as one. */
export interface SpanLook {
  readonly opacity: number;
  readonly blend: Blend;
  /** Only what is inside any of these shows, on the board; null for everything. */
  readonly clip: readonly ClipShape[] | null;
  /** What lets through how much, by its name among the drawing's cells; it lies on the board. */
  readonly mask: { readonly kind: MaskKind; readonly cell: string } | null;
}

/** Entries from `first` to before `end` that are painted by themselves and laid down as one. Spans lie in each other or apart. */
export interface Span extends SpanLook {
  readonly first: number;
  readonly end: number;
}

export const PLAIN_SPAN: SpanLook = { opacity: 1, blend: 'normal', clip: null, mask: null };

/** Whether it does nothing but let things show through. */
export const onlyOpacity = ({ blend, clip, mask }: SpanLook): boolean => blend === 'normal' && !clip && !mask;
export const isPlainSpan = (look: SpanLook): boolean => onlyOpacity(look) && look.opacity >= 1;

/** An area somewhere else. */
export const placedClip = ({ outlines, rule }: ClipShape, matrix: Matrix): ClipShape => ({
  rule,
  outlines: outlines.map((one) => transformOutline(one, matrix)) as ClipShape['outlines'],
});

/** Spans that were ended one after the other, inner ones first, in the order in which they begin. */
export const spansInOrder = <S extends { readonly first: number; readonly end: number }>(ended: readonly S[]): S[] =>
  [...ended].reverse().sort((a, b) => a.first - b.first || b.end - a.end);

type Said = (value: number) => number;
const sayOutline = ({ start, segments, closed }: Outline, said: Said): unknown => [
  start.map(said),
  segments.map((segment) =>
    segment.kind === 'line'
      ? segment.to.map(said)
      : segment.kind === 'arc'
        ? [...segment.centre.map(said), ...segment.to.map(said), segment.clockwise]
        : [...segment.c1.map(said), ...segment.c2.map(said), ...segment.to.map(said)],
  ),
  closed,
];

/** A text that is equal for spans that say the same. */
export const spanKey = ({ first, end, opacity, blend, clip, mask }: Span, said: Said): string =>
  JSON.stringify([
    first,
    end,
    said(opacity),
    blend,
    clip?.map(({ outlines, rule }) => [rule, outlines.map((one) => sayOutline(one, said))]) ?? null,
    mask,
  ]);
