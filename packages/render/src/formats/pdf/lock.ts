import { Failure, type Lock } from '@inkwell-twin/core';
import { markInXmp } from '../xmp';
import { enciphered } from './encipher';
import { isLocked } from './read/images';

/** How a mark of origin begins that stands outside a lock, on a line that says nothing to anyone else (ISO 32000-1, 7.2.4). */
const OUTSIDE = '%inkwell-twin;';
/** How far from its end a file says where its parts are, with that line before it. */
const NEAR_END = 65_536;

const library = () => import('@cantoo/pdf-lib');

const SAVED = { useObjectStreams: false, updateFieldAppearances: false, addDefaultPage: false } as const;

/** The mark of origin where it lies as plain text. */
const markIn = (bytes: Uint8Array): string | null =>
  /^[^()\r\n]*/.exec(markInXmp(Buffer.from(bytes).toString('latin1')) ?? '')![0] || null;

/** A file with a line before where it says its parts are: nothing that counts bytes stands behind. */
function withMark(bytes: Uint8Array, mark: string): Uint8Array {
  const at = Buffer.from(bytes).lastIndexOf('startxref');
  const line = Buffer.from(`%${mark.replace(/[^ -~]/g, '_')}\n`, 'latin1');
  return Buffer.concat([bytes.subarray(0, at), line, bytes.subarray(at)]);
}

/** PDF with a password: AES of 256 bits, revision 6 of the security handler (ISO 32000-2, 7.6). */
export const pdfLock: Lock = {
  isLocked,
  mark: (bytes) => {
    const end = Buffer.from(bytes.subarray(Math.max(0, bytes.length - NEAR_END))).toString('latin1');
    const at = end.lastIndexOf(OUTSIDE);
    return at < 0 ? null : /^[^\r\n]*/.exec(end.slice(at + 1))![0];
  },
  open: async (bytes, password) => {
    const { PDFDocument } = await library();
    try {
      const document = await PDFDocument.load(bytes, { updateMetadata: false, password });
      return await document.save(SAVED);
    } catch (error) {
      if (/password/i.test(String(error))) throw new Failure('password-wrong', 'The file does not open with this password.');
      throw new Failure('pdf-damaged', `The PDF can't be read: ${String(error).slice(0, 160)} Ask its sender for it again.`);
    }
  },
  close: async (bytes, password) => {
    const lib = await library();
    const document = await lib.PDFDocument.load(bytes, { updateMetadata: false });
    enciphered(lib, document.context, password);
    const mark = markIn(bytes);
    const closed = await document.save(SAVED);
    return mark === null ? closed : withMark(closed, mark);
  },
};
