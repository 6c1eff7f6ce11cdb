import { sealText } from '../../bytes/seal';
import { decodeText } from '../../bytes/text';
import type { Drawing } from '../../content/drawing/drawing';
import { PackingSink } from '../../content/drawing/sink';
import { Budget } from '../../master/limits';
import type { Means } from '../../content/kind';
import type { Codec, ReadCopy } from '../codec';
import { type ReferredPicture, filesReferred, openReferred } from './image-read';
import { bringInDxf } from './bring-in';
import { type DxfVersion, dxfDeclaration } from './declare';
import { markOf } from './names';
import { DxfReader } from './reader';
import { type DxfFile, parseRecords } from './records';
import { statedInDxf } from './stated';
import { writeDxf } from './write';

export const dxfCodec = {
  declaration: dxfDeclaration,
  write: ({ leaves }, options, mark) =>
    writeDxf(
      leaves.map(({ label, body }) => ({ label, drawing: body as Drawing })),
      options['version'] as DxfVersion,
      mark,
    ),
  seal: sealText,
  read: (files, _hints, { pictures: engine }: Partial<Means> = {}) => {
    const [first, ...parts] = files;
    const file = parseRecords(decodeText(first!.bytes));
    const opened = openReferred(file, parts, engine);
    return opened instanceof Promise ? opened.then((pictures) => readWith(file, pictures)) : readWith(file, opened);
  },
  beside: (first) => filesReferred(parseRecords(decodeText(first))),
  stated: statedInDxf,
  bringIn: bringInDxf,
} satisfies Codec;

function readWith(file: DxfFile, pictures: ReadonlyMap<string, ReferredPicture>): ReadCopy {
  const sink = new PackingSink();
  const reader = new DxfReader(file, sink, new Budget(), { pictures });
  reader.tell();
  const leaves = sink.drawings().map(({ label, drawing }) => ({
    kind: 'drawing' as const,
    key: '',
    label,
    // The format has no sheet: the page is only there to hold what is drawn.
    body: { ...drawing, sheet: null },
  }));
  return { leaves, mark: markOf(file), notUnderstood: reader.noted };
}
