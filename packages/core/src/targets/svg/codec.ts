import { sealText } from '../../bytes/seal';
import type { Drawing } from '../../content/drawing/drawing';
import { PackingSink } from '../../content/drawing/sink';
import { Failure } from '../../failure/failure';
import { Budget } from '../../master/limits';
import type { Codec, CopyFile, NotUnderstood } from '../codec';
import { bringInSvg } from './bring-in';
import { svgDeclaration } from './declare';
import { tellSvg } from './document';
import { type Sheet, writeSvg } from './write';

const leaf = (drawing: Drawing, label: string) => ({ kind: 'drawing' as const, key: '', label, body: drawing });

function readFile(bytes: Uint8Array) {
  const budget = new Budget();
  const sink = new PackingSink();
  const { mark, notUnderstood, title } = tellSvg(bytes, sink, budget);
  return { leaves: sink.drawings().map(({ drawing, label }) => leaf(drawing, label)), mark, notUnderstood, title };
}

/** One list of what was not understood in several files. */
function joined(lists: readonly (readonly NotUnderstood[])[]): NotUnderstood[] {
  const all = new Map<string, NotUnderstood>();
  for (const one of lists.flat()) all.set(one.kind, { ...one, count: one.count + (all.get(one.kind)?.count ?? 0) });
  return [...all.values()];
}

export const svgCodec = {
  declaration: svgDeclaration,
  write: ({ leaves }, options, mark) => {
    const sheets = leaves.map(({ label, body }): Sheet => ({ label, drawing: body as Drawing }));
    const digits = Number(options['precision'] ?? 3);
    if (options['sheets'] !== 'a file each' || sheets.length < 2) return [{ part: '', bytes: writeSvg(sheets, digits, mark) }];
    return sheets.map((sheet, i): CopyFile => ({ part: i ? String(i + 1) : '', bytes: writeSvg([sheet], digits, mark) }));
  },
  seal: sealText,
  read: (files) => {
    const read = files.map(({ bytes, part }) => {
      try {
        return readFile(bytes);
      } catch (error) {
        if (part && error instanceof Failure) throw new Failure(error.code, `Part ${part}: ${error.message}`, error.where);
        throw error;
      }
    });
    const [first] = read as [ReturnType<typeof readFile>];
    return {
      // In a file of its own a sheet is called what the file is; that of a copy of one board has no title.
      leaves: read.flatMap(({ leaves, title }) => leaves.map((one) => ({ ...one, label: one.label || title }))),
      mark: first.mark,
      notUnderstood: joined(read.map(({ notUnderstood }) => notUnderstood)),
    };
  },
  bringIn: bringInSvg,
} satisfies Codec;
