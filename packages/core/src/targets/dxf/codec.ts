import { sealText } from '../../bytes/seal';
import { decodeText } from '../../bytes/text';
import type { Drawing } from '../../content/drawing/drawing';
import { PackingSink } from '../../content/drawing/sink';
import { Budget } from '../../master/limits';
import { type Codec, onlyFile } from '../codec';
import { bringInDxf } from './bring-in';
import { type DxfVersion, dxfDeclaration } from './declare';
import { markOf } from './names';
import { DxfReader } from './reader';
import { parseRecords } from './records';
import { writeDxf } from './write';

export const dxfCodec = {
  declaration: dxfDeclaration,
  write: ({ leaves }, options, mark) =>
    onlyFile(
      writeDxf(
        leaves.map(({ label, body }) => ({ label, drawing: body as Drawing })),
        options['version'] as DxfVersion,
        mark,
      ),
    ),
  seal: sealText,
  read: (files) => {
    const file = parseRecords(decodeText(files[0]!.bytes));
    const sink = new PackingSink();
    const reader = new DxfReader(file, sink, new Budget());
    reader.tell();
    const leaves = sink.drawings().map(({ label, drawing }) => ({
      kind: 'drawing' as const,
      key: '',
      label,
      // The format has no sheet: the page is only there to hold what is drawn.
      body: { ...drawing, sheet: null },
    }));
    return { leaves, mark: markOf(file.comments), notUnderstood: reader.noted };
  },
  bringIn: bringInDxf,
} satisfies Codec;
