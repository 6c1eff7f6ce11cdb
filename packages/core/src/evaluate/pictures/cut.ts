import type { Services } from '../../contracts/services';
import { apply, invert, multiply } from '../../base/geometry/matrix';
import { fromPoints, type Outline } from '../../base/geometry/outline';
import { type PlacedPicture, isPicture } from '../../document/paint';
import type { ResolvedEntry, ResolvedPart } from '../resolve';
import { type Pixels, drawnPicture } from '../../contracts/pictures';
import type { DrawnPicture } from '../../contracts/drawn-picture';
import type { MadePictures } from './made';

/** A picture of which the part that shows was cut out. */
export interface CutPicture {
  readonly drawn: DrawnPicture;
  readonly fill: PlacedPicture;
  readonly outlines: readonly Outline[];
  /** How far an edge had to move to lie between two pixels, mm. */
  readonly off: number;
}
export type CutPictures = ReadonlyMap<ResolvedEntry, CutPicture>;

/** All entries of a part, those of its cells and of the symbols that it uses among them. */
function* entriesIn({ entries, cells, uses }: ResolvedPart): Generator<ResolvedEntry> {
  yield* entries;
  for (const cell of cells.values()) yield* entriesIn(cell);
  for (const use of uses) yield* entriesIn(use.part(1));
}

function cropped({ data, width }: Pixels, x: number, y: number, across: number, up: number): Pixels {
  const cut = new (data.constructor as Uint8ArrayConstructor)(4 * across * up);
  for (let row = 0; row < up; row++) {
    const from = 4 * ((y + row) * width + x);
    cut.set(data.subarray(from, from + 4 * across), 4 * across * row);
  }
  return { width: across, height: up, data: cut };
}

const NONE = 1e-6;

async function cutOne(
  entry: ResolvedEntry,
  fill: PlacedPicture,
  made: MadePictures,
  services: Services,
): Promise<CutPicture | null> {
  const [back, whole] = [invert(fill.at), made.get(fill.picture)?.drawn];
  if (!back || !whole || entry.kind !== 'path' || !entry.outlines[0]) return null;
  const [{ start, segments }] = entry.outlines as [Outline];
  const corners = [start, ...segments.map(({ to }) => to)].map((point) => apply(back, point));
  const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)];
  const [left, right, bottom, top] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  if (left < NONE && bottom < NONE && right > 1 - NONE && top > 1 - NONE) return null;
  const { width, height } = whole;
  // Rows run down, shares run up. At least the pixel that an edge goes through is there.
  const [x0, x1] = [Math.floor(left * width + NONE), Math.ceil(right * width - NONE)];
  const [y0, y1] = [Math.floor((1 - top) * height + NONE), Math.ceil((1 - bottom) * height - NONE)];
  const [across, up] = [x1 - x0, y1 - y0];
  const engine = services.pictures!;
  const pixels = await engine.pixels(whole.bytes, 8);
  const drawn = await drawnPicture(engine, await engine.png(cropped(pixels, x0, y0, across, up)));
  const at = multiply(fill.at, [across / width, 0, 0, up / height, x0 / width, 1 - y1 / height]);
  const square = (
    [
      [0, 0],
      [1, 0],
      [1, 1],
      [0, 1],
    ] as const
  ).map((corner) => apply(at, corner));
  const [a, b, c, d] = fill.at;
  const off = Math.max(
    Math.hypot(a, b) * Math.max(left - x0 / width, x1 / width - right),
    Math.hypot(c, d) * Math.max(1 - top - y0 / height, y1 / height - (1 - bottom)),
  );
  return { drawn, fill: { ...fill, at }, outlines: [fromPoints(square, true)], off };
}

/** The pictures of a part that are cropped, cut off at whole pixels. */
export async function cutPictures(part: ResolvedPart, made: MadePictures, services: Services): Promise<CutPictures> {
  const cuts = new Map<ResolvedEntry, CutPicture>();
  for (const entry of entriesIn(part)) {
    const { fill } = entry.style;
    const cut = isPicture(fill) && !cuts.has(entry) ? await cutOne(entry, fill, made, services) : null;
    if (cut) cuts.set(entry, cut);
  }
  return cuts;
}
