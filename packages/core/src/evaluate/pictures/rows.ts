import type { Pixels, Rows } from '../../contracts/pictures';

/** Pixels of a band; to be set by tests, which need many of them in a small picture. */
export const banding = { pixels: 4_000_000 };

const depthOf = ({ data }: Pixels): 8 | 16 => (data instanceof Uint16Array ? 16 : 8);

/** Pixels that lie in memory. */
export function heldRows(pixels: Pixels): Rows {
  const { width, height, data } = pixels;
  return {
    width,
    height,
    depth: depthOf(pixels),
    held: pixels,
    rows: (top, count) =>
      top === 0 && count === height
        ? pixels
        : { width, height: count, data: data.subarray(4 * width * top, 4 * width * (top + count)) },
  };
}

/** All rows in memory: for what is small, or can't be done otherwise. */
export const wholeOf = (rows: Rows): Pixels => rows.held ?? rows.rows(0, rows.height);

/** Where bands begin, and how many rows each has: one of all rows where all that is read lies in memory. */
export function* bands(...of: readonly [Rows, ...Rows[]]): Generator<readonly [top: number, count: number]> {
  const { width, height } = of[0];
  const step = of.every(({ held }) => held) ? height : Math.max(1, Math.floor(banding.pixels / width));
  for (let top = 0; top < height; top += step) yield [top, Math.min(step, height - top)];
}

/**
 * Rows that are made of others when they are asked for; at once where those lie in memory.
 * @param make changes a band; it must not change what it is given
 * @param reach rows above and below that a row depends on
 */
export function madeRows(source: Rows, make: (band: Pixels) => Pixels, reach = 0): Rows {
  if (source.held) return heldRows(make(source.held));
  const { width, height } = source;
  return {
    width,
    height,
    depth: depthOf(make(source.rows(0, 1))),
    held: null,
    rows: (top, count) => {
      const from = Math.max(0, top - reach);
      const to = Math.min(height, top + count + reach);
      const { data } = make(source.rows(from, to - from));
      return { width, height: count, data: data.subarray(4 * width * (top - from), 4 * width * (top - from + count)) };
    },
  };
}
