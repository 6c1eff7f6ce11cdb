import type { StandingPicture } from './reading';
import { sealText } from '../../contracts/seal';
import type { Drawing } from '../../contracts/drawing';
import { PackingSink } from '../../content/drawing/sink';
import { Failure } from '../../base/failure/failure';
import { Budget } from '../../document/limits';
import type { Codec, CopyFile, ReadCopy } from '../../contracts/codec';
import type { NotUnderstood } from '../../contracts/not-understood';
import { withPicturesInside } from '../beside';
import type { Options } from '../../contracts/declaration';
import { isDescribed } from '../description-rdf';
import { descriptionInSvg } from './described';
import { bringInSvg } from './bring-in';
import { svgDeclaration } from './declare';
import type { MaybePromise, Services } from '../../contracts/services';
import { measureBy } from '../../evaluate/fonts/font-book';
import { openSvg, emitSvg } from './document';
import { openPictures } from './images';
import { statedInSvg } from './stated';
import { type Sheet, writeSvg } from './write';

const leaf = (drawing: Drawing, label: string) => ({ kind: 'drawing' as const, key: '', label, body: drawing });

type ReadFile = ReadCopy & { readonly title: string; readonly text: string };

function readFile({ bytes, part }: CopyFile, { pictures, fonts }: Partial<Services>): MaybePromise<ReadFile> {
  const guarded = <T>(read: () => T): T => {
    try {
      return read();
    } catch (error) {
      if (part && error instanceof Failure) throw new Failure(error.code, `Part ${part}: ${error.message}`, error.where);
      throw error;
    }
  };
  const opened = guarded(() => openSvg(bytes));
  const width = fonts && measureBy(fonts);
  const emit = (standing: ReadonlyMap<string, StandingPicture>): ReadFile => {
    const sink = new PackingSink(width);
    const { mark, notUnderstood, title } = guarded(() => emitSvg(opened, sink, new Budget(), standing, width));
    const leaves = sink.drawings().map(({ drawing, label }) => leaf(drawing, label));
    return { leaves, mark, notUnderstood, title, text: opened.text };
  };
  const standing = openPictures(opened.root, pictures);
  return standing instanceof Promise ? standing.then(emit) : emit(standing);
}

function together(read: readonly ReadFile[], options: Options | undefined): ReadCopy {
  const described = isDescribed(options, read[0]!.mark) ? descriptionInSvg(read[0]!.text) : undefined;
  return {
    ...(described ? { described } : {}),
    // In a file of its own a sheet is called what the file is; that of a copy of one board has no title.
    leaves: read.flatMap(({ leaves, title }) => leaves.map((one) => ({ ...one, label: one.label || title }))),
    mark: read[0]!.mark,
    notUnderstood: joined(read.map(({ notUnderstood }) => notUnderstood)),
  };
}

/** One list of what was not understood in several files. */
function joined(lists: readonly (readonly NotUnderstood[])[]): NotUnderstood[] {
  const all = new Map<string, NotUnderstood>();
  for (const one of lists.flat()) all.set(one.kind, { ...one, count: one.count + (all.get(one.kind)?.count ?? 0) });
  return [...all.values()];
}

export const svgCodec = {
  declaration: svgDeclaration,
  write: ({ leaves, described }, options, mark) => {
    const sheets = leaves.map(({ label, body }): Sheet => ({ label, drawing: body as Drawing }));
    const digits = Number(options['precision'] ?? 3);
    if (options['sheets'] !== 'a file each' || sheets.length < 2)
      return [{ part: '', bytes: writeSvg(sheets, digits, mark, described) }];
    return sheets.map((sheet, i): CopyFile => ({
      part: i ? String(i + 1) : '',
      bytes: writeSvg([sheet], digits, mark, described),
    }));
  },
  seal: sealText,
  read: (files, { options } = {}, services: Partial<Services> = {}) => {
    const read = files.map((file) => readFile(file, services));
    return read.some((one) => one instanceof Promise)
      ? Promise.all(read).then((all) => together(all, options))
      : together(read as ReadFile[], options);
  },
  stated: statedInSvg,
  withBeside: (bytes, beside) => withPicturesInside(bytes, 'image', '(?:xlink:)?href', beside),
  bringIn: bringInSvg,
} satisfies Codec;
