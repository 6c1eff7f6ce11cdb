import { encodeText } from '../../base/bytes/text';
import type { Board1, Item1 } from '../../document/native/v1/schema';
import { writeProject } from '../../document/native/v1/write';
import type { Item2, Package2 } from '../../document/native/v2/schema';
import { writePackage2 } from '../../document/native/v2/write';
import { packEntries, unpackEntries } from '../../document/native/zip';
import { ORIGIN } from '../../document/native/origin';

type Stretch = Extract<Item1, { kind: 'path' }>['d'][number];

/** What both are written by, as far as they say so. */
const WRITER = 'inkwell-twin 0.1';
/** The name of a project in its archive: who unpacks it gets an index and a folder of that name. */
const PROJECT = 'project';
const ENDINGS: Readonly<Record<string, string>> = { 'image/png': 'png', 'image/jpeg': 'jpg' };

/** A package of version 2 with its mark of origin as a part of its own, which readers of that age pass over. */
export const writeSecond = (document: Package2, mark: string): Uint8Array =>
  packEntries(
    new Map([...unpackEntries(writePackage2(document, WRITER)), [ORIGIN, encodeText(mark)]]),
    new Set(['mimetype', ORIGIN]),
  );

/** An item of version 1; what version 2 adds was restated before. */
function first(item: Item2, fileOf: (sha: string) => string): Item1 {
  const base = { id: item.id, layer: item.layer! };
  switch (item.kind) {
    case 'path': {
      const { fill, stroke, width, outlines } = item;
      const d = outlines.flatMap(({ start, segments, closed }): Stretch[] => [
        ['M', ...start],
        ...segments.map((segment): Stretch => ('line' in segment ? ['L', ...segment.line] : ['C', ...segment.curve])),
        ...(closed ? [['Z'] satisfies Stretch] : []),
      ]);
      return { kind: 'path', ...base, d, fill, stroke, width };
    }
    case 'text': {
      const { text, x, y, size, bold, fill } = item;
      return { kind: 'text', ...base, text, x, y, size, bold, fill };
    }
    case 'picture': {
      const { x, y, width, height } = item;
      return { kind: 'picture', ...base, file: fileOf(item.picture), x, y, width, height };
    }
    default:
      throw new Error(`${item.kind} in version 1`);
  }
}

/** A folder project of version 1, packed into one archive as it goes by mail, with its mark of origin beside the index. */
export function writeFirst({ document, rev, time, pictures }: Package2, mark: string): Uint8Array {
  const { id, title, owner, layers, boards } = document;
  const files = new Map(document.pictures.map(({ sha256, mediaType }, i) => [sha256, `picture_${i + 1}.${ENDINGS[mediaType]!}`]));
  const project = writeProject(PROJECT, {
    writer: WRITER,
    id,
    title,
    owner,
    rev,
    saved: time,
    layers: layers.map(({ process: _process, ...layer }) => layer),
    boards: boards.map(({ items, ...board }): Board1 => ({
      ...board,
      items: items.map((item) => first(item, (sha) => files.get(sha)!)),
    })),
    pictures: document.pictures.map(({ sha256, mediaType, width, height }) => ({
      file: files.get(sha256)!,
      bytes: pictures.get(sha256)!,
      mediaType,
      width,
      height,
    })),
  });
  return packEntries(new Map([...project, [ORIGIN, encodeText(mark)]]), new Set([ORIGIN]));
}
