import { unreadKind } from './unread-kinds';

/** Formats that come in, and files that are not read and could be saved as one of them, by the ends of their names. */
const FAMILIES: readonly { readonly words: string; readonly names: RegExp; readonly save: string }[] = [
  {
    words: 'a picture',
    names: /\.(jp2|j2k|jxl|heic|heif|avif|tga|pcx|ppm|pgm|pnm|ico|exr|hdr|ora)$/i,
    save: 'PNG, TIFF or JPEG',
  },
  { words: 'a drawing', names: /\.(eps|ps|wmf|emf|odg)$/i, save: 'SVG, PDF or DXF' },
  { words: 'a table', names: /\.(xls|xlsb|ods|parquet|feather|dbf|h5)$/i, save: 'XLSX, CSV or JSON' },
  { words: 'a text', names: /\.(doc|rtf|tex|pptx?|odp)$/i, save: 'DOCX, ODT or HTML' },
  { words: 'a part', names: /\.(iges|igs|brep|ply|amf|wrl|x3d)$/i, save: 'STEP, STL or 3MF' },
  { words: 'a machine file', names: /\.(nc|gcode|tap)$/i, save: 'HP-GL, SVG or DXF' },
];

/** Three formats of files of no kind that is guessed. */
const ANY = { text: 'CSV, TXT or SVG', bytes: 'PDF, PNG or STEP' };

/**
 * What to do with a file that is not read: what it is and what to ask for, with the words to send; or by its name the formats that
 * are nearest to it, three at most.
 */
export function wayFor(name: string, bytes: Uint8Array): string {
  const kind = unreadKind(bytes);
  if (kind)
    return `It is ${kind.what}. Ask for it as ${kind.ask}, in these words: “We can't open ${name}. Could you send it as ${kind.ask}?”`;
  const found = FAMILIES.find(({ names }) => names.test(name));
  if (found) return `By its name it is ${found.words}: save it as ${found.save} and bring that in.`;
  return `Save it as another kind, for instance ${bytes.subarray(0, 4096).every((byte) => byte !== 0) ? ANY.text : ANY.bytes}, and bring that in.`;
}
