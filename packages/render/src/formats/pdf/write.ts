import { type Drawing, type Matrix, type Services, isPlain, shortNumber } from '@inkwell-twin/core';
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

const UNSAID = { width: 100, height: 100 };

/** Puts the pictures of a drawing into a file, each once. */
async function takePictures(file: PdfFile, { pictures, cells }: Drawing, names: Map<string, string>): Promise<void> {
  for (const [word, drawn] of Object.entries(pictures))
    if (!names.has(word)) names.set(word, file.put('XObject', await pictureObject(file, drawn)));
  for (const cell of Object.values(cells)) await takePictures(file, cell, names);
}

/**
 * PDF 1.7 bytes: a page for each board, in millimetres under one map to points.
 * @param bleed what is kept around each board, mm
 * @param about the mark of origin, and what the document is called
 */
export async function writePdf(
  sheets: readonly PdfSheet[],
  bleed: number,
  about: { readonly mark: string; readonly title: string },
  services: Services,
): Promise<Uint8Array> {
  const file = new PdfFile(about.mark, about.title, services);
  const pictures = new Map<string, string>();
  for (const { drawing } of sheets) await takePictures(file, drawing, pictures);
  for (const { drawing, label } of sheets) {
    services.signal?.throwIfAborted();
    const { width, height } = drawing.sheet ?? UNSAID;
    const space: Matrix = [POINTS, 0, 0, POINTS, bleed * POINTS, bleed * POINTS];
    let before = `${space.map((value) => value.toFixed(9)).join(' ')} cm\n`;
    const n = (value: number) => shortNumber(value, 6);
    if (drawing.background && isPlain(drawing.background))
      before += `${rgb(drawing.background)} rg ${n(-bleed)} ${n(-bleed)} ${n(width + 2 * bleed)} ${n(height + 2 * bleed)} re f\n`;
    const content = new Content(file, drawing, space, pictures).page(before);
    file.page([width * POINTS, height * POINTS], bleed * POINTS, label, content);
  }
  return file.bytes();
}
