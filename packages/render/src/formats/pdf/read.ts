import {
  type Drawing,
  type DrawingSink,
  type DrawnPicture,
  type Enclosed,
  Failure,
  type Fonts,
  type Matrix,
  type Services,
  type NotUnderstood,
  type OpenFont,
  PackingSink,
  Tally,
  identity,
  multiply,
} from '@inkwell-twin/core';
import { markInXmp } from '../xmp';
import type { PdfEdges } from './edges';
import { CarriedFonts } from './read/carried';
import type { Clipping, GroupNode, Node } from './read/nodes';
import { type OpenPage, type OpenPdf, type RawInstructions, openPdf } from './read/open';
import { enclosedIn, nativeIn } from './read/enclosed';
import { isLocked, standIn } from './read/images';
import { unreadInPdf } from './read/known';
import type { Stencil } from './read/stencils';
import { PictureFinder } from './read/pictures';
import { Emitter } from './read/emit';
import type { Box } from './read/shaded';
import { TreeReader } from './read/tree';
import { unfolded } from './read/unfolded';
import { listed } from './read/whole';
import { POINTS } from './write';

interface ReadPdf {
  readonly sheets: readonly { readonly label: string; readonly drawing: Drawing }[];
  readonly mark: string | null;
  readonly notUnderstood: readonly NotUnderstood[];
  readonly enclosed: Enclosed | null;
  /** The packet of its metadata. */
  readonly xmp: string | null;
}

/** Which instructions name something that is to be found first, and where the name stands. */
const NAMING: Readonly<Record<string, (args: readonly unknown[]) => unknown>> = {
  setFont: ([name]) => name,
  shadingFill: ([name]) => name,
  paintImageXObject: ([name]) => name,
  paintImageMaskXObject: ([image]) => (image as Stencil).data,
  paintImageMaskXObjectRepeat: ([image]) => (image as Stencil).data,
  setFillColorN: (args) => (args[0] === 'Shading' ? args[1] : undefined),
  setStrokeColorN: (args) => (args[0] === 'Shading' ? args[1] : undefined),
};

/** Everything that instructions name, cells of patterns included. */
function namesIn({ fnArray, argsArray }: RawInstructions, pdf: OpenPdf, found: Set<string>): Set<string> {
  for (let i = 0; i < fnArray.length; i++) {
    const operator = pdf.nameOf(fnArray[i]!);
    const args = argsArray[i] ?? [];
    const name = NAMING[operator]?.(args);
    if (typeof name === 'string') found.add(name);
    if (operator === 'paintImageMaskXObjectGroup')
      for (const { data } of args[0] as Stencil[]) if (typeof data === 'string') found.add(data);
    if (args[0] === 'TilingPattern') namesIn(args[2] as RawInstructions, pdf, found);
    if (operator === 'setGState')
      for (const [key, value] of args[0] as [string, unknown][]) if (key === 'Font') found.add(String((value as unknown[])[0]));
  }
  return found;
}

/** The pictures that nodes show. */
function* picturesIn(nodes: readonly Node[]): Generator<{ name: string; inline: unknown }> {
  for (const node of nodes)
    if (node.kind === 'picture') yield node;
    else if (node.kind === 'group') {
      yield* picturesIn(node.nodes);
      if (node.mask) yield* picturesIn(node.mask.nodes);
    } else if ('style' in node)
      for (const paint of [node.style.fill, node.style.stroke])
        if (typeof paint === 'object' && paint?.kind === 'pattern') yield* picturesIn(paint.nodes);
}

/** mm that a ground may be off its page. */
const NEAR = 0.02;

/** What holds the first thing that is drawn: marks around it do nothing. */
function firstHolder(holder: GroupNode): GroupNode {
  const [first] = holder.nodes;
  return first?.kind === 'group' && first.by === 'mark' ? firstHolder(first) : holder;
}

/** The colour of a page's ground, which is taken out: something plain that fills all of the page before any layer begins. */
function groundOf(root: GroupNode, [x0, y0, x1, y1]: Box): string | null {
  const { nodes } = firstHolder(root);
  const [first] = nodes;
  if (first?.kind !== 'path' || first.layer !== null) return null;
  const { style, at, data } = first;
  if (typeof style.fill !== 'string' || style.stroke || (style.fillOpacity ?? 1) < 1 || data.length > 16) return null;
  const corners: [number, number][] = [];
  for (let i = 0; i < data.length;)
    if (data[i] === 0 || data[i] === 1) {
      const [x, y] = [data[i + 1]!, data[i + 2]!];
      corners.push([at[0] * x + at[2] * y + at[4], at[1] * x + at[3] * y + at[5]]);
      i += 3;
    } else if (data[i] === 4) i++;
    else return null;
  const near = (a: number, b: number) => Math.abs(a - b) <= NEAR;
  const fits = corners.every(([x, y]) => (near(x, x0) || near(x, x1)) && (near(y, y0) || near(y, y1)));
  const all = [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
  ].every(([x, y]) => corners.some(([a, b]) => near(a, x!) && near(b, y!)));
  if (!fits || !all) return null;
  nodes.shift();
  return style.fill;
}

/**
 * Tells a sink what a PDF says, a board for each page.
 * @param edges around each board: what is kept, and that with room for marks, mm
 * @param openFont opens fonts that the file carries: text in them becomes outlines
 * @param strict whether boxes on the pages are to lie where the bleed says, and letters to be those of the fonts they are named after
 * @throws Failure `pdf-encrypted`, `pdf-damaged`, `pdf-too-large`
 */
export async function emitPdf(
  bytes: Uint8Array,
  edges: PdfEdges,
  sink: DrawingSink,
  { pictures: engine, fonts, signal }: Pick<Services, 'pictures' | 'signal'> & Partial<Pick<Services, 'fonts'>>,
  openFont?: OpenFont,
  strict = false,
): Promise<Omit<ReadPdf, 'sheets'> & { readonly asOutlines: number }> {
  if (!engine) throw new Failure('no-pictures', 'PDF can’t be read here.');
  const whole = await listed(bytes);
  const odd = whole ? unfolded(whole) : [];
  // One that is locked with no password says the same without its lock, and its pictures can be taken as they lie.
  const stood = await standIn(whole && isLocked(bytes) ? await whole.unlocked() : bytes);
  const pdf = await openPdf(stood.bytes);
  const tally = new Tally();
  for (const words of odd) tally.addBeyondSight(words);
  const { enclosed, others } = enclosedIn(whole);
  for (const words of others) tally.addBeyondSight(words);
  for (const { words, seen } of await unreadInPdf(whole, strict ? edges : null))
    if (seen) tally.add(words);
    else tally.addBeyondSight(words);
  const finder = new PictureFinder(stood, engine);
  const carried = openFont ? new CarriedFonts(openFont) : null;
  const letters = strict && fonts ? new CarriedFonts(fonts.carried) : null;
  try {
    for await (const page of pdf.pages) {
      signal?.throwIfAborted();
      await readPage(page, pdf, { sink, tally, finder, edges, carried, letters, fonts, strict });
    }
    const mark = markInXmp(pdf.xmp) ?? markInXmp(pdf.info);
    return { mark, enclosed, xmp: pdf.xmp, notUnderstood: tally.list(), asOutlines: carried?.count.texts ?? 0 };
  } finally {
    await pdf.close();
  }
}

/** Reads a PDF, a drawing for each page. @throws as `tellPdf` */
export async function readPdf(bytes: Uint8Array, edges: PdfEdges, services: Services): Promise<ReadPdf> {
  const sink = new PackingSink();
  const told = await emitPdf(bytes, edges, sink, services, undefined, true);
  return { sheets: sink.drawings(), ...told };
}

/** The native package that travels inside a PDF; null where none does. */
export const nativeInPdf = async (bytes: Uint8Array): Promise<Uint8Array | null> => nativeIn(await listed(bytes));

interface PdfReading {
  readonly sink: DrawingSink;
  readonly tally: Tally;
  readonly finder: PictureFinder;
  readonly edges: PdfEdges;
  readonly carried: CarriedFonts | null;
  readonly letters: CarriedFonts | null;
  readonly fonts: Fonts | undefined;
  readonly strict: boolean;
}

/** A page as it is looked at: how large, and from its own axes to those. @param turn degrees clockwise (ISO 32000-1, table 30) */
function turnedBox([left, bottom, right, top]: Box, turn: number): { width: number; height: number; at: Matrix } {
  const [width, height] = [right - left, top - bottom];
  if (turn === 90) return { width: height, height: width, at: [0, -1, 1, 0, -bottom, right] };
  if (turn === 180) return { width, height, at: [-1, 0, 0, -1, right, top] };
  if (turn === 270) return { width: height, height: width, at: [0, 1, -1, 0, top, -left] };
  return { width, height, at: [1, 0, 0, 1, -left, -bottom] };
}

/** A box as an area. */
const areaOf = ([left, bottom, right, top]: Box): Clipping => ({
  data: new Float32Array([0, left, bottom, 1, right, bottom, 1, right, top, 1, left, top, 4]),
  at: identity,
  rule: 'nonzero',
});

async function readPage(page: OpenPage, pdf: OpenPdf, reading: PdfReading): Promise<void> {
  const { sink, tally, finder, edges, carried, letters, fonts, strict } = reading;
  const { bleed, around: outer } = edges;
  const { view, instructions, label } = page;
  if (page.turn && strict) tally.add('turned page');
  for (const { kind, drawn, leads } of page.notes)
    if (drawn) tally.addBeyondSight(`note on the page (${kind})`);
    else if (strict) tally.add(`note on the page (${kind})`);
    else if (leads) tally.addUnseen('link');
  const named = new Map<string, unknown>();
  for (const name of namesIn(instructions, pdf, new Set())) named.set(name, await page.named(name));
  const turned = turnedBox(view as Box, strict ? 0 : page.turn);
  const [across, up] = [turned.width / POINTS, turned.height / POINTS];
  const toBoard = multiply([1 / POINTS, 0, 0, 1 / POINTS, -outer, -outer], turned.at);
  const [width, height] = [across - 2 * outer, up - 2 * outer];
  const boxOf = (beyond: number): Box => [-beyond, -beyond, width + beyond, height + beyond];
  const box = boxOf(outer);
  const around = { tally, nameOf: pdf.nameOf, layers: pdf.layers, named, carried, letters, page: box };
  const root = new TreeReader(around, toBoard).read(instructions);
  const ground = groundOf(root, boxOf(bleed));
  const drawn = new Map<unknown, DrawnPicture>();
  for (const { name, inline } of picturesIn(root.nodes)) {
    const key = inline ?? name;
    const found = drawn.has(key) ? null : await finder.find(inline ?? named.get(name));
    if (found) drawn.set(key, found);
  }
  sink.page(label, width, height, ground);
  new Emitter(sink, pdf.layers, drawn, (kind) => tally.add(kind), areaOf(box), fonts).emit(root.nodes);
}
