import { type Matrix, identity } from '@inkwell-twin/core';
import { ONE_PIXEL, type Stencil } from './stencils';
import type { TreeReader } from './tree';

export type Args = readonly unknown[];
export const matrixOf = (value: unknown): Matrix => Array.from(value as ArrayLike<number>) as unknown as Matrix;
export const CAPS = ['butt', 'round', 'square'] as const;
export const JOINS = ['miter', 'round', 'bevel'] as const;
/** Tags are given as names or as plain words. */
const tagOf = (tag: unknown): string => (typeof tag === 'object' && tag && 'name' in tag ? String(tag.name) : String(tag));
const numbers = (args: Args): number[] => args as number[];

/** What each instruction does, by its name in the library's list. */
export const HANDLERS: Readonly<Record<string, (reader: TreeReader, args: Args) => void>> = {
  save: (reader) => reader.save(),
  restore: (reader) => reader.restore(),
  transform: (reader, args) => reader.transform(matrixOf(args)),
  setLineWidth: (reader, [width]) => reader.set({ width: width as number }),
  setLineCap: (reader, [cap]) => reader.set({ cap: CAPS[cap as number] ?? 'butt' }),
  setLineJoin: (reader, [join]) => reader.set({ join: JOINS[join as number] ?? 'miter' }),
  setMiterLimit: (reader, [miter]) => reader.set({ miter: miter as number }),
  setDash: (reader, [dash, offset]) => reader.set({ dash: [...(dash as number[])], dashOffset: offset as number }),
  setGState: (reader, [parameters]) => reader.graphicsState(parameters as [string, unknown][]),
  setFillRGBColor: (reader, [colour]) => reader.set({ fill: colour as string }),
  setStrokeRGBColor: (reader, [colour]) => reader.set({ stroke: colour as string }),
  setFillTransparent: (reader) => reader.unknown('fill without colour'),
  setStrokeTransparent: (reader) => reader.unknown('line without colour'),
  setFillColorN: (reader, args) => reader.paint('fill', args),
  setStrokeColorN: (reader, args) => reader.paint('stroke', args),
  shadingFill: (reader, [name]) => reader.shade(String(name)),
  clip: (reader) => reader.clipNext('nonzero'),
  eoClip: (reader) => reader.clipNext('evenodd'),
  beginGroup: (reader, [what]) => reader.beginGroup(what as never),
  endGroup: (reader, [what]) => reader.endGroup(what as never),
  paintFormXObjectBegin: (reader, [matrix, bbox]) => reader.beginForm(matrix, bbox),
  paintFormXObjectEnd: (reader) => reader.endForm(),
  beginAnnotation: (reader, [, rect, placed, matrix]) => reader.beginNote(rect, placed, matrix),
  endAnnotation: (reader) => reader.endNote(),
  paintImageXObject: (reader, [name]) => reader.picture(String(name), null),
  paintImageMaskXObject: (reader, [image]) => reader.stencil(image as Stencil, identity),
  paintImageMaskXObjectGroup: (reader, [images]) => {
    for (const one of images as (Stencil & { transform: unknown })[]) reader.stencil(one, matrixOf(one.transform));
  },
  paintImageMaskXObjectRepeat: (reader, [image, a, b, c, d, places]) => {
    const list = places as Float32Array;
    for (let i = 0; i + 1 < list.length; i += 2)
      reader.stencil(image as Stencil, [a, b, c, d, list[i], list[i + 1]] as unknown as Matrix);
  },
  paintSolidColorImageMask: (reader) => reader.stencil(ONE_PIXEL, identity),
  paintInlineImageXObject: (reader, [data]) => reader.picture('', data),
  beginMarkedContent: (reader, [tag]) => reader.beginMark(tagOf(tag), null),
  beginMarkedContentProps: (reader, [tag, properties]) => reader.beginMark(tagOf(tag), properties),
  endMarkedContent: (reader) => reader.endMark(),
  beginText: (reader) => reader.beginText(),
  endText: (reader) => reader.endText(),
  setCharSpacing: (reader, [spacing]) => reader.set({ spacing: spacing as number }),
  setWordSpacing: (reader, [space]) => reader.set({ wordSpacing: space as number }),
  setHScale: (reader, [across]) => reader.set({ across: (across as number) / 100 }),
  setLeading: (reader, [leading]) => reader.set({ leading: leading as number }),
  setTextRise: (reader, [rise]) => reader.set({ rise: rise as number }),
  setTextRenderingMode: (reader, [mode]) => reader.set({ mode: mode as number }),
  setFont: (reader, [name, size]) => reader.font(String(name), size as number),
  setTextMatrix: (reader, [matrix]) => reader.textMatrix(matrixOf(matrix)),
  moveText: (reader, args) => reader.moveText(numbers(args)[0]!, numbers(args)[1]!),
  setLeadingMoveText: (reader, args) => {
    reader.set({ leading: -numbers(args)[1]! });
    reader.moveText(numbers(args)[0]!, numbers(args)[1]!);
  },
  nextLine: (reader) => reader.nextLine(),
  showText: (reader, [glyphs]) => reader.show(glyphs as never),
  // Paths are put together by the library; what paints them is said in the same instruction.
  constructPath: (reader, [operator, data]) => reader.path(operator as number, (data as [Float32Array | null])[0]),
};
