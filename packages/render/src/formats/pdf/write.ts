import {
  type CopyDescription,
  type Drawing,
  type Enclosed,
  type Matrix,
  NATIVE_EXTENSION,
  NATIVE_MEDIA_TYPE,
  type PdfVersion,
  type Services,
  isPlain,
  shortNumber,
} from '@inkwell-twin/core';
import { profileBytes } from '../../engines/profiles';
import type { PdfEdges } from './edges';
import { GRADES } from './grades';
import { Content } from './content';
import { PdfFile } from './file';
import { rgb } from './paints';
import { pictureObject } from './pictures';

/** Points to a millimetre. */
export const POINTS = 72 / 25.4;

/** A board as a page. */
interface PdfSheet {
  readonly label: string;
  readonly drawing: Drawing;
}

/** What a master is called inside: the same whatever it is called, so that equal masters make equal files. */
const ENCLOSED_FILE = `master.${NATIVE_EXTENSION}`;

const UNSAID = { width: 100, height: 100 };

/** Puts the pictures of a drawing into a file, each once. */
async function takePictures(file: PdfFile, { pictures, cells }: Drawing, names: Map<string, string>): Promise<void> {
  for (const [word, drawn] of Object.entries(pictures))
    if (!names.has(word)) names.set(word, file.put('XObject', await pictureObject(file, drawn)));
  for (const cell of Object.values(cells)) await takePictures(file, cell, names);
}

/**
 * PDF bytes: a page for each board, in millimetres under one map to points.
 * @param edges what is kept around each board, and that with room for marks, mm
 * @param about the mark of origin, what the document is called, and the native master that travels inside
 */
export async function writePdf(
  sheets: readonly PdfSheet[],
  { bleed, around }: PdfEdges,
  version: PdfVersion,
  about: {
    readonly mark: string;
    readonly title: string;
    readonly enclosed?: Enclosed | undefined;
    readonly described?: CopyDescription | undefined;
  },
  services: Services,
): Promise<Uint8Array> {
  const grade = GRADES[version];
  const file = new PdfFile(about.mark, about.title, grade, services, about.described);
  if (grade.keeping) file.meansColours(await profileBytes('sRGB'));
  if (about.enclosed) file.encloses(ENCLOSED_FILE, NATIVE_MEDIA_TYPE, about.enclosed.bytes);
  const pictures = new Map<string, string>();
  for (const { drawing } of sheets) await takePictures(file, drawing, pictures);
  for (const { drawing, label } of sheets) {
    services.signal?.throwIfAborted();
    const { width, height } = drawing.sheet ?? UNSAID;
    const space: Matrix = [POINTS, 0, 0, POINTS, around * POINTS, around * POINTS];
    let before = `${space.map((value) => value.toFixed(9)).join(' ')} cm\n`;
    const n = (value: number) => shortNumber(value, 6);
    if (drawing.background && isPlain(drawing.background))
      before += `${rgb(drawing.background)} rg ${n(-bleed)} ${n(-bleed)} ${n(width + 2 * bleed)} ${n(height + 2 * bleed)} re f\n`;
    const content = new Content(file, drawing, space, pictures, version !== '1.4').page(before);
    file.page([width * POINTS, height * POINTS], { bleed: bleed * POINTS, around: around * POINTS }, label, content);
  }
  return file.bytes();
}
