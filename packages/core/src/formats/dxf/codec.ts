import { sealText } from '../../contracts/seal';
import type { Drawing } from '../../contracts/drawing';
import { PackingSink } from '../../content/drawing/sink';
import { Budget } from '../../document/limits';
import type { Services } from '../../contracts/services';
import type { Codec, ReadCopy } from '../../contracts/codec';
import { type ReferredPicture, filesReferred, openReferred } from './image-read';
import { bringInDxf } from './bring-in';
import { type DxfVersion, dxfDeclaration } from './declare';
import { markOf } from './names';
import { type OpenedDxf, openDxf } from './open';
import { DxfReader } from './reader';
import { statedInDxf } from './stated';
import { writeDxf } from './write';

export const dxfCodec = {
  declaration: dxfDeclaration,
  write: ({ leaves }, options, mark) =>
    writeDxf(
      leaves.map(({ label, body }) => ({ label, drawing: body as Drawing })),
      options['version'] as DxfVersion,
      options['encoding'] === 'binary',
      mark,
    ),
  seal: sealText,
  read: (files, _hints, { pictures: engine }: Partial<Services> = {}) => {
    const [first, ...parts] = files;
    const opened = openDxf(first!.bytes);
    const referred = openReferred(opened.file, parts, engine);
    return referred instanceof Promise ? referred.then((pictures) => readWith(opened, pictures)) : readWith(opened, referred);
  },
  beside: (first) => filesReferred(openDxf(first).file),
  stated: statedInDxf,
  bringIn: bringInDxf,
} satisfies Codec;

function readWith({ file, told }: OpenedDxf, pictures: ReadonlyMap<string, ReferredPicture>): ReadCopy {
  const sink = new PackingSink();
  const reader = new DxfReader(file, sink, new Budget(), { pictures });
  if (told) reader.tally.add(told);
  reader.emit();
  const leaves = sink.drawings().map(({ label, drawing }) => ({
    kind: 'drawing' as const,
    key: '',
    label,
    // The format has no sheet: the page is only there to hold what is drawn.
    body: { ...drawing, sheet: null },
  }));
  return { leaves, mark: markOf(file), notUnderstood: reader.noted };
}
