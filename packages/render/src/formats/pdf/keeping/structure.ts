import { type Clause, dictOf, entry, has, listOf, nameOf, ofType } from './clause';

const latin = (bytes: Uint8Array, from: number, to: number): string => Buffer.from(bytes.subarray(from, to)).toString('latin1');

/** Filters that may pack a stream (ISO 19005-2, 6.1.7.2: those of ISO 32000-1 but LZW and encryption). */
const FILTERS = new Set([
  'FlateDecode',
  'ASCIIHexDecode',
  'ASCII85Decode',
  'RunLengthDecode',
  'CCITTFaxDecode',
  'JBIG2Decode',
  'DCTDecode',
  'JPXDecode',
]);

/** How a file is laid down (ISO 19005-2, 6.1). */
export const STRUCTURE: readonly Clause[] = [
  {
    number: '6.1.2',
    words: 'The first line names a version up to 1.7, and the second has four bytes that are no letters',
    *broken({ bytes }) {
      const head = latin(bytes, 0, 64);
      if (!/^%PDF-1\.[0-7][\r\n]/.test(head)) yield 'The first line is not %PDF-1.0 to 1.7';
      else if (!/^[^\r\n]+(\r\n|\n|\r)%[\x80-\xff]{4}/.test(head)) yield 'The second line is no comment of four bytes above 127';
    },
  },
  {
    number: '6.1.3',
    words: 'The trailer has an ID, is not encrypted, and nothing stands after the end',
    *broken({ bytes, context }) {
      const { ID, Encrypt } = context.trailerInfo;
      if (!ID) yield 'The trailer has no ID';
      if (Encrypt) yield 'It is encrypted';
      if (!/%%EOF(\r\n|\n|\r)?$/.test(latin(bytes, Math.max(0, bytes.length - 32), bytes.length)))
        yield 'Something stands after the end';
    },
  },
  {
    number: '6.1.7.1',
    words: 'Streams lie in the file itself, and can be unpacked',
    *broken(file) {
      for (const { where, isWhole } of file.drawings)
        if (!isWhole) yield `${where} can’t be unpacked, or is larger than is looked at`;
      for (const { dict, stream, where } of file.all)
        if (stream) for (const key of ['F', 'FFilter', 'FDecodeParms']) if (has(file, dict, key)) yield `${where} has “${key}”`;
    },
  },
  {
    number: '6.1.7.2',
    words: 'Streams are packed in ways that the standard names, LZW not among them',
    *broken(file) {
      for (const { dict, stream, where } of file.all) {
        if (!stream) continue;
        const filters = [nameOf(file, dict, 'Filter'), ...listOf(file, dict, 'Filter').map((one) => String(one).slice(1))];
        for (const filter of filters) if (filter && !FILTERS.has(filter)) yield `${where} is packed by ${filter}`;
      }
    },
  },
  {
    number: '6.1.12',
    words: 'No rights are asked of whoever reads it',
    *broken(file) {
      const keys = dictOf(file, file.catalog, 'Perms')?.keys() ?? [];
      for (const key of keys) if (!['UR3', 'DocMDP'].includes(key.decodeText())) yield `The document has “${key.decodeText()}”`;
    },
  },
  {
    number: '6.1.13',
    words: 'Pages are 3 to 14,400 units long and wide, and names no longer than 127 bytes',
    *broken(file) {
      for (const { dict, where } of ofType(file, 'Page')) {
        const box = listOf(file, dict, 'MediaBox').map((one) =>
          one instanceof file.lib.PDFNumber ? one.asNumber() : Number.NaN,
        );
        const sides = [Math.abs(box[2]! - box[0]!), Math.abs(box[3]! - box[1]!)];
        if (box.length && !sides.every((side) => side >= 3 && side <= 14_400))
          yield `${where} is ${sides.map((side) => side.toFixed(1)).join(' × ')} units large`;
      }
      for (const { dict, where } of file.all)
        for (const key of dict.keys())
          if (key.asBytes().length > 127) yield `${where} has a name of ${key.asBytes().length} bytes`;
    },
  },
  {
    number: '6.3',
    words: 'Notes on pages are such as print, and are seen',
    *broken(file) {
      const BARRED = new Set(['3D', 'Sound', 'Screen', 'Movie']);
      for (const { dict, where } of file.all.filter(({ dict }) => has(file, dict, 'Subtype') && has(file, dict, 'Rect'))) {
        const kind = nameOf(file, dict, 'Subtype');
        if (BARRED.has(kind)) yield `${where} is a note of kind ${kind}`;
        const flags = Number(String(entry(file, dict, 'F') ?? 0));
        if (kind !== 'Popup' && (flags & 4) === 0) yield `${where} would not be printed`;
        if (flags & (1 | 2 | 32 | 256)) yield `${where} is hidden`;
        if (!['Popup', 'Link'].includes(kind) && !has(file, dict, 'AP')) yield `${where} has no look of its own`;
      }
    },
  },
  {
    number: '6.4',
    words: 'Forms neither ask for looks to be made nor are drawn by a program',
    *broken(file) {
      const form = dictOf(file, file.catalog, 'AcroForm');
      if (form && has(file, form, 'XFA')) yield 'The form is drawn by a program';
      if (form && String(entry(file, form, 'NeedAppearances')) === 'true') yield 'The form asks for looks to be made';
      if (has(file, file.catalog, 'NeedsRendering')) yield 'The document asks to be rendered first';
    },
  },
  {
    number: '6.5',
    words: 'Nothing is done when it is opened but to go to a place',
    *broken(file) {
      const ALLOWED = new Set(['GoTo', 'GoToR', 'GoToE', 'Thread', 'URI', 'Named', 'SubmitForm']);
      for (const { dict, where } of file.all) {
        const action = nameOf(file, dict, 'S');
        const isAction =
          nameOf(file, dict, 'Type') === 'Action' || ['JavaScript', 'Launch', 'ResetForm', 'Hide'].includes(action);
        if (isAction && !ALLOWED.has(action)) yield `${where} does ${action || 'something without a name'}`;
        if (has(file, dict, 'AA')) yield `${where} does something by itself`;
      }
    },
  },
  {
    number: '6.8',
    words: 'Part 2 carries no file that is not made for keeping itself; part 3 says of each what it is to the document',
    *broken(file) {
      const related = new Set([
        'Source',
        'Data',
        'Alternative',
        'Supplement',
        'EncryptedPayload',
        'FormData',
        'Schema',
        'Unspecified',
      ]);
      for (const { dict, where } of file.all.filter(({ dict: one }) => has(file, one, 'EF'))) {
        if (file.part === 2) yield `${where} carries a file`;
        if (!has(file, dict, 'F') || !has(file, dict, 'UF')) yield `${where} has no name in both forms`;
        if (file.part === 3 && !related.has(nameOf(file, dict, 'AFRelationship')))
          yield `${where} does not say what the file is to the document`;
        if (file.part === 3 && !nameOf(file, dictOf(file, dictOf(file, dict, 'EF'), 'F'), 'Subtype'))
          yield `${where} does not say of what kind the file is`;
      }
    },
  },
  {
    number: '6.9',
    words: 'Each choice of layers has a name of its own, and nothing switches them by itself',
    *broken(file) {
      const layers = dictOf(file, file.catalog, 'OCProperties');
      if (!layers) return;
      const choices = [entry(file, layers, 'D'), ...listOf(file, layers, 'Configs')];
      const seen = new Set<string>();
      for (const choice of choices) {
        if (!(choice instanceof file.lib.PDFDict)) continue;
        const name = String(entry(file, choice, 'Name') ?? '');
        if (!name) yield 'A choice of layers has no name';
        else if (seen.has(name)) yield `Two choices of layers are called ${name}`;
        seen.add(name);
        if (has(file, choice, 'AS')) yield 'Layers are switched by themselves';
      }
    },
  },
  {
    number: '6.10',
    words: 'No other way to be shown, and no page that turns by itself',
    *broken(file) {
      if (dictOf(file, dictOf(file, file.catalog, 'Names'), 'AlternatePresentations')) yield 'There is another way to show it';
      for (const { dict, where } of ofType(file, 'Page'))
        if (has(file, dict, 'PresSteps')) yield `${where} has steps to be shown in`;
    },
  },
  {
    number: '6.11',
    words: 'It asks nothing of the program that shows it',
    *broken(file) {
      if (has(file, file.catalog, 'Requirements')) yield 'The document has requirements';
    },
  },
];
