import { bringInAny, codecOf, recognise, unreadKind } from '../src';
import { services } from './flat';
import { judgedBy } from './judged-by';
import { python } from './python';

const bytesOf = (letters: string): Uint8Array => Uint8Array.from(letters, (letter) => letter.charCodeAt(0));
const padded = (letters: string) => bytesOf(letters.padEnd(300, '\0'));

describe('a file of a kind that is not read', () => {
  it.each([
    ['sign.bin', 'AC1032\0\0\0', 'a drawing in the closed form beside DXF, version 2018', 'DXF, version 2018 or older'],
    ['old.bin', 'AC1015\0\0\0', 'a drawing in the closed form beside DXF, version 2000', 'DXF, version 2000 or older'],
    [
      'new.bin',
      'AC1099\0\0\0',
      'a drawing in the closed form beside DXF, version of number 1099, newer than those that are known here',
      'DXF, version 2018 or older',
    ],
    ['logo.eps', '%!PS-Adobe-3.0 EPSF-3.0\n', 'a page description (PostScript, EPS)', 'PDF or SVG'], // term-guard: standard (PostScript, document structuring conventions, 4.1)
    ['letter.rtf', '{\\rtf1\\ansi Hello}', 'a text (RTF)', 'DOCX or ODT'],
    ['old.xls', '\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1', 'a document of an office program of before 2007', 'DOCX, XLSX or ODT'],
    ['photo.heic', '\0\0\0\x18ftypheic', 'a picture of a camera (HEIF)', 'PNG, TIFF or JPEG'],
    ['part.igs', `${' '.repeat(72)}S      1\n`, 'a part (IGES)', 'STEP'],
  ])('%s is told for what it is, with what to ask for and in which words', async (name, letters, what, ask) => {
    const bytes = padded(letters);
    expect(unreadKind(bytes)).toEqual({ what, ask });
    expect(recognise(bytes)).toBeUndefined();
    await expect(bringInAny(bytes, name, services)).rejects.toThrow(
      `It is ${what}. Ask for it as ${ask}, in these words: “We can't open ${name}. Could you send it as ${ask}?”`,
    );
  });

  judgedBy('PIL').it.each([
    ['GIF', 'a picture of 256 colours at most (GIF)'],
    ['BMP', 'a picture without compression (BMP)'],
  ])('%s of another library is known', (format, what) => {
    const { written } = python(`from PIL import Image\nImage.new('RGB', (4, 4)).save('a.dxf', '${format}')`);
    expect(unreadKind(written)?.what).toBe(what);
  });

  it('nothing that is read is among them', async () => {
    for (const head of [
      '%PDF-1.7',
      '\x89PNG\r\n\x1a\n',
      '<svg xmlns="http://www.w3.org/2000/svg"/>',
      '0\nSECTION\n2\nHEADER\n',
      'ISO-10303-21;',
      'IN;SP1;',
    ])
      expect([head, unreadKind(padded(head))]).toEqual([head, undefined]);
  });
});

describe('a drawing of a version that came after all that are known here', () => {
  it('is read as far as it goes, and says so', async () => {
    const of = (version: string) =>
      `0\nSECTION\n2\nHEADER\n9\n$ACADVER\n1\n${version}\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n0\nLINE\n8\n0\n10\n0\n20\n0\n11\n9\n21\n9\n0\nENDSEC\n0\nEOF\n`; // term-guard: standard (DXF reference, HEADER section)
    const dxf = await codecOf('dxf');
    const told = async (version: string) =>
      (await dxf.bringIn!(bytesOf(of(version)), 'a.dxf', services)).notUnderstood.map(({ kind }) => kind);
    expect(await told('AC1040')).toContain('version AC1040, newer than all that are known here');
    expect((await told('AC1032')).join()).not.toContain('newer');
  });
});
