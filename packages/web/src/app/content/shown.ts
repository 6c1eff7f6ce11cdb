import type { Box, FontName, Span } from '@inkwell-twin/core/web';
import type { Scene } from '../master/stage/scene';
import type { View } from '../master/stage/view';

/** How an entry is drawn where its own look is not wanted. */
export interface Manner {
  readonly stroke: string;
  readonly fill: string | null;
  /** Pixels. */
  readonly width: number;
}

/** What a part of a copy says, ready to be looked at. */
export interface Shown {
  readonly sheet: { readonly width: number; readonly height: number } | null;
  readonly background: string | null;
  /** Fonts that it is written in. */
  readonly fonts: readonly FontName[];
  /** What is laid down as one; outer spans first. */
  readonly spans: readonly Span[];
  readonly cell: (name: string) => Scene;
  /** Where it is pixels: those, as they are shown. */
  readonly pixels?: {
    readonly canvas: HTMLCanvasElement;
    /** Red, green, blue and opacity of each. */
    readonly data: Uint8Array;
    readonly width: number;
    readonly height: number;
  };
  /** How many entries there are; differences speak of them by number. */
  readonly count: number;
  /** Draws one entry; the context has the board's axes. Without a manner it looks as it does. */
  readonly paint: (context: CanvasRenderingContext2D, entry: number, view: View, manner?: Manner) => void;
  /** The box of an entry on the board, mm. */
  readonly boxOf: (entry: number) => Box;
  /** Where the lines of an entry begin, end and bend, mm; nothing where that makes no sense. */
  readonly corners?: (entry: number) => Iterable<readonly [number, number]>;
  /** Whether a point of the board is on an entry: inside its fill, or within `reach` mm of its line. */
  readonly isHit: (entry: number, x: number, y: number, reach: number) => boolean;
}

/** A part as it looks in a view. */
export const sceneOf = ({ count, spans, paint, cell }: Shown, view: View): Scene => ({
  count,
  spans,
  paint: (context, at) => paint(context, at, view),
  cell,
});

/** The box of everything shown, its sheet included. */
export function boxOfShown({ sheet, count, boxOf }: Shown): Box {
  const all: Box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
  const grow = (box: Box) => {
    all.minX = Math.min(all.minX, box.minX);
    all.minY = Math.min(all.minY, box.minY);
    all.maxX = Math.max(all.maxX, box.maxX);
    all.maxY = Math.max(all.maxY, box.maxY);
  };
  for (let i = 0; i < count; i++) grow(boxOf(i));
  if (sheet) grow({ minX: 0, minY: 0, maxX: sheet.width, maxY: sheet.height });
  return all.minX <= all.maxX ? all : { minX: 0, minY: 0, maxX: 100, maxY: 100 };
}
