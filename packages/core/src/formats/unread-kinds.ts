/** A file that says by its first bytes what it is, and is not read here. */
interface UnreadKind {
  /** What it is, as one says it: “a text (RTF)”. */
  readonly what: string;
  /** What it can be asked for as. */
  readonly ask: string;
}

const [DRAWING, PICTURE, TEXT_OR_TABLE] = ['SVG, PDF or DXF', 'PNG, TIFF or JPEG', 'DOCX, XLSX or ODT'];

/** Versions of drawings by the number that they begin with. */
const DRAWINGS: Readonly<Record<string, string>> = {
  '1009': 'R12',
  '1012': 'R13',
  '1014': 'R14',
  '1015': '2000',
  '1018': '2004',
  '1021': '2007',
  '1024': '2010',
  '1027': '2013',
  '1032': '2018',
};

/** A signature: what stands at which byte. */
const at = (place: number, letters: string) => (head: string) => head.startsWith(letters, place);
/** ISO base media files (ISO/IEC 14496-12, 4.3) say by a brand what they hold. */
const brand =
  (...brands: readonly string[]) =>
  (head: string) =>
    head.startsWith('ftyp', 4) && brands.includes(head.slice(8, 12));

/** Kinds by their signatures, from their published descriptions. */
const KINDS: readonly (readonly [is: (head: string) => boolean, kind: UnreadKind])[] = [
  [at(0, '%!PS'), { what: 'a page description (PostScript, EPS)', ask: 'PDF or SVG' }],
  [at(0, '\xc5\xd0\xd3\xc6'), { what: 'a page description with a preview (EPS)', ask: 'PDF or SVG' }],
  [at(40, ' EMF'), { what: 'a drawing as a list of commands (EMF)', ask: DRAWING }],
  [at(0, '\xd7\xcd\xc6\x9a'), { what: 'a drawing as a list of commands (WMF)', ask: DRAWING }],
  [at(0, 'GIF8'), { what: 'a picture of 256 colours at most (GIF)', ask: PICTURE }],
  [at(0, 'BM'), { what: 'a picture without compression (BMP)', ask: PICTURE }],
  [brand('avif', 'avis'), { what: 'a picture (AVIF)', ask: PICTURE }],
  [brand('heic', 'heix', 'mif1', 'msf1'), { what: 'a picture of a camera (HEIF)', ask: PICTURE }],
  [at(4, 'jP  '), { what: 'a picture (JPEG 2000)', ask: PICTURE }],
  [at(0, '\xff\x4f\xff\x51'), { what: 'a picture (JPEG 2000)', ask: PICTURE }],
  [at(0, '\xff\x0a'), { what: 'a picture (JPEG XL)', ask: PICTURE }],
  [at(4, 'JXL '), { what: 'a picture (JPEG XL)', ask: PICTURE }],
  [at(0, 'v/1\x01'), { what: 'a picture of a wide range of light (OpenEXR)', ask: 'TIFF or PNG' }],
  [at(0, '{\\rtf'), { what: 'a text (RTF)', ask: 'DOCX or ODT' }],
  [at(0, '\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1'), { what: 'a document of an office program of before 2007', ask: TEXT_OR_TABLE }],
  [at(0, 'SQLite format 3'), { what: 'a database (SQLite)', ask: 'CSV, XLSX or JSON' }],
  [at(0, 'PAR1'), { what: 'a table in columns (Parquet)', ask: 'CSV, XLSX or JSON' }],
  [at(0, '\x89HDF'), { what: 'measured series (HDF5)', ask: 'CSV, XLSX or JSON' }],
  [at(0, 'Rar!'), { what: 'an archive (RAR)', ask: 'a zip' }],
  [at(0, '7z\xbc\xaf'), { what: 'an archive (7z)', ask: 'a zip' }],
  [(head) => /^.{72}S {6}1/.test(head), { what: 'a part (IGES)', ask: 'STEP' }],
];

const HEAD = 256;

/** What a file says of itself by its first bytes, where it is of a kind that is known and not read; undefined for any other. */
export function unreadKind(bytes: Uint8Array): UnreadKind | undefined {
  const head = String.fromCharCode(...bytes.subarray(0, HEAD));
  const drawing = /^AC(1\d{3})\0/.exec(head)?.[1];
  if (drawing) {
    const version = DRAWINGS[drawing] ?? `of number ${drawing}, newer than those that are known here`;
    const older = DRAWINGS[drawing] ?? '2018';
    return { what: `a drawing in the closed form beside DXF, version ${version}`, ask: `DXF, version ${older} or older` };
  }
  return KINDS.find(([is]) => is(head))?.[1];
}
