import { asFailure } from '../../base/failure/failure';
import type { Matrix } from '../../base/geometry/matrix';
import type { Crop } from '../../document/corrections';
import { type PictureEngine, drawnPicture } from '../../contracts/pictures';
import type { DrawnPicture } from '../../contracts/drawn-picture';
import type { CopyFile } from '../../contracts/codec';
import { ownFile } from './image-write';
import type { DxfFile, DxfRecord } from './records';

/** A picture that a file refers to, or why it can't be shown. */
export type ReferredPicture = DrawnPicture | string;
const ELSEWHERE = 'picture in another file';

/** References to files, by the handles of what refers to them. */
function references(file: DxfFile): Map<string, string> {
  const found = new Map<string, string>();
  for (const record of file.sections.get('OBJECTS') ?? [])
    if (record.type === 'IMAGEDEF') found.set(handleOf(record, 5), record.text(1) ?? '');
  return found;
}
const handleOf = (record: DxfRecord, code: number): string => (record.text(code) ?? '').trim().toUpperCase();

/** The files of pictures that belong to a file: those that a copy of ours has beside it. No other file is ever opened. */
export const filesReferred = (file: DxfFile): string[] => [
  ...new Set([...references(file).values()].flatMap((reference) => ownFile(reference) ?? [])),
];

/** Opens the pictures that are beside a file. @returns at once where there are none; by the handles of what refers to them */
export function openReferred(
  file: DxfFile,
  parts: readonly CopyFile[],
  engine: PictureEngine | undefined,
): ReadonlyMap<string, ReferredPicture> | Promise<ReadonlyMap<string, ReferredPicture>> {
  const all = references(file);
  const opened = new Map<string, ReferredPicture>();
  if (!all.size || !engine) return opened;
  return (async () => {
    const known = new Map<string, ReferredPicture>();
    for (const [handle, reference] of all) {
      const name = ownFile(reference);
      const part = name === null ? undefined : parts.find((one) => one.part === name);
      if (!part) {
        opened.set(handle, ELSEWHERE);
        continue;
      }
      if (!known.has(part.part))
        known.set(
          part.part,
          await drawnPicture(engine, part.bytes).catch(
            (error: unknown) => `picture that can’t be opened (${asFailure(error).code})`,
          ),
        );
      opened.set(handle, known.get(part.part)!);
    }
    return opened;
  })();
}

/** A picture as an entity places it. */
interface PlacedImage {
  readonly picture: DrawnPicture;
  /** From the square of 1 that is all of it to the axes of the drawing. */
  readonly at: Matrix;
  readonly crop: Crop;
  readonly notes: readonly string[];
}

const SHOWN = 1;

/** Reads an IMAGE (DXF reference, IMAGE). @returns words for why it is not shown, or null where it is switched off */
export function readImage(record: DxfRecord, pictures: ReadonlyMap<string, ReferredPicture>): PlacedImage | string | null {
  if (!(record.number(70, SHOWN) & SHOWN)) return null;
  const picture = pictures.get(handleOf(record, 340)) ?? ELSEWHERE;
  if (typeof picture === 'string') return picture;
  const vector = (code: number) => [record.number(code, 0), record.number(code + 10, 0)] as const;
  const [[x, y], [ux, uy], [vx, vy], [width, height]] = [vector(10), vector(11), vector(12), vector(13)];
  const at: Matrix = [ux * width, uy * width, vx * height, vy * height, x, y];
  if (!(width > 0 && height > 0) || Math.abs(at[0] * at[3] - at[1] * at[2]) < 1e-12) return 'picture without an extent';
  const notes: string[] = [];
  if (record.number(281, 50) !== 50 || record.number(282, 50) !== 50 || record.number(283, 0) !== 0)
    notes.push('picture made lighter, duller or paler');
  let crop: Crop = { left: 0, bottom: 0, right: 1, top: 1 };
  if (record.number(280, 0) === 1) {
    const [xs, ys] = [record.all(14), record.all(24)];
    const corners = xs.map((px, i) => [px, ys[i] ?? 0] as const);
    const [left, right, above, below] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
    const straight = corners.every(([px, py]) => (px === left || px === right) && (py === above || py === below));
    if (!straight || record.number(290, 0) === 1 || corners.length < 2) notes.push('picture cut out by an outline');
    else {
      const near = (share: number) => (Math.abs(share) < 1e-9 ? 0 : Math.abs(share - 1) < 1e-9 ? 1 : share);
      crop = {
        left: near((left + 0.5) / width),
        right: near((right + 0.5) / width),
        top: near(1 - (above + 0.5) / height),
        bottom: near(1 - (below + 0.5) / height),
      };
    }
  }
  return { picture, at, crop, notes };
}
