import { digest } from '../../base/bytes/hasher';
import type { Drawing } from '../../contracts/drawing';
import { apply, invert } from '../../base/geometry/matrix';
import type { Point } from '../../base/geometry/point';
import type { PlacedPicture } from '../../document/paint';
import type { DrawnPicture } from '../../contracts/drawn-picture';
import type { CopyFile } from '../../contracts/codec';
import { type Pair, pairsText } from './pairs';

const EXTENSIONS: Readonly<Record<string, string>> = { 'image/png': 'png', 'image/jpeg': 'jpg' };

/** The file of a picture: named by what is in it, so that copies may share one and it does not matter what they are called. */
const fileOf = ({ bytes, mediaType }: DrawnPicture): string =>
  `picture_${digest(bytes).slice(0, 16)}.${EXTENSIONS[mediaType] ?? 'png'}`;
const OURS = /^picture_[0-9a-f]{16}\.(png|jpg)$/;

/** The name of a picture's file as a reference has it, whatever folder other programs put before it; null where it is not one of ours. */
export function ownFile(reference: string): string | null {
  const name = reference
    .trim()
    .replace(/^.*[\\/]/, '')
    .toLowerCase();
  return OURS.test(name) ? name : null;
}

/** Handles of pictures and what belongs to them: above all entities, below blocks. */
const FIRST = 0xd0000;
const [DICTIONARY, DEFINITIONS] = [FIRST, FIRST + 1];
const hex = (handle: number): string => handle.toString(16).toUpperCase();
/** Bits of group 70: shown, also where it does not lie straight; cut off; what is see-through is. */
const [SHOWN, CUT, THROUGH] = [1 | 2, 4, 8];

/** The pictures of drawings, each once, as files beside and as what refers to them. */
export class ImageFiles {
  private readonly numbers = new Map<string, number>();
  private readonly found: DrawnPicture[] = [];

  constructor(drawings: Iterable<Drawing>) {
    for (const { pictures } of drawings)
      for (const [word, picture] of Object.entries(pictures)) {
        if (this.numbers.has(word)) continue;
        this.numbers.set(word, this.found.length);
        this.found.push(picture);
      }
  }

  get any(): boolean {
    return this.found.length > 0;
  }

  get files(): readonly CopyFile[] {
    return this.found.map((picture) => ({ part: fileOf(picture), bytes: picture.bytes }));
  }

  /**
   * The groups of an IMAGE after its subclass.
   * @param corners of what is seen of it
   */
  groups({ picture, at }: PlacedPicture, corners: readonly Point[]): Pair[] {
    const number = this.numbers.get(picture)!;
    const { width, height } = this.found[number]!;
    const [a, b, c, d, e, f] = at;
    const back = invert(at)!;
    const shares = corners.map((corner) => apply(back, corner));
    // Pixels run down, and their middles are whole numbers (DXF reference, IMAGE).
    const xs = shares.map(([x]) => x * width - 0.5);
    const ys = shares.map(([, y]) => (1 - y) * height - 0.5);
    const cut = shares.some((corner) => corner.some((share) => Math.min(Math.abs(share), Math.abs(share - 1)) > 1e-9));
    const point = (code: number, x: number, y: number, flat = false): Pair[] => [
      [code, exact(x)],
      [code + 10, exact(y)],
      ...(flat ? [] : ([[code + 20, 0]] as const)),
    ];
    return [
      [90, 0],
      ...point(10, e, f),
      ...point(11, a / width, b / width),
      ...point(12, c / height, d / height),
      ...point(13, width, height, true),
      [340, hex(DEFINITIONS + number)],
      [70, SHOWN | THROUGH | (cut ? CUT : 0)],
      [280, cut ? 1 : 0],
      [281, 50],
      [282, 50],
      [283, 0],
      [71, 1],
      [91, 2],
      ...point(14, cut ? Math.min(...xs) : -0.5, cut ? Math.min(...ys) : -0.5, true),
      ...point(14, cut ? Math.max(...xs) : width - 0.5, cut ? Math.max(...ys) : height - 0.5, true),
    ];
  }

  /** What the root dictionary has of them. */
  get inRoot(): Pair[] {
    if (!this.any) return [];
    return [
      [3, 'ACAD_IMAGE_DICT'], // term-guard: standard (DXF reference, OBJECTS section: IMAGEDEF)
      [350, hex(DICTIONARY)],
    ];
  }

  /** The objects that name their files. @param root handle of the root dictionary */
  objects(root: string): string {
    if (!this.any) return '';
    const names = this.found.map(fileOf);
    return pairsText([
      [0, 'DICTIONARY'],
      [5, hex(DICTIONARY)],
      [330, root],
      [100, 'AcDbDictionary'],
      [281, 1],
      ...names.flatMap((name, i): Pair[] => [
        [3, name.replace(/\..*/, '')],
        [350, hex(DEFINITIONS + i)],
      ]),
      ...this.found.flatMap(({ width, height }, i): Pair[] => [
        [0, 'IMAGEDEF'],
        [5, hex(DEFINITIONS + i)],
        [330, hex(DICTIONARY)],
        [100, 'AcDbRasterImageDef'],
        [90, 0],
        [1, names[i]!],
        [10, width],
        [20, height],
        [11, 1],
        [21, 1],
        [280, 1],
        [281, 0],
      ]),
    ]);
  }

  /** What of them is no part of the format's first versions (DXF reference, CLASSES section). */
  get classes(): Pair[] {
    if (!this.any) return [];
    const one = (name: string, kind: string, may: number, entity: 0 | 1): Pair[] => [
      [0, 'CLASS'],
      [1, name],
      [2, kind],
      [3, 'ISM'],
      [90, may],
      [280, 0],
      [281, entity],
    ];
    return [...one('IMAGE', 'AcDbRasterImage', 2175, 1), ...one('IMAGEDEF', 'AcDbRasterImageDef', 0, 0)];
  }
}

/** Twelve digits: a pixel of a large picture is small. */
const exact = (value: number): number => Number(value.toPrecision(12));
