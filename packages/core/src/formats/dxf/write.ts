import { ByteWriter } from '../../base/bytes/byte-writer';
import type { DisplayStyle } from '../../contracts/display-list';
import type { Drawing, Words } from '../../contracts/drawing';
import { LINE, type Paths, outlineAt } from '../../base/geometry/paths';
import { capHeight } from '../../document/faces';
import { asCircle, bulgeOf, pointOnArc, sweepOf } from '../../base/geometry/arcs';
import { type Matrix, translation } from '../../base/geometry/matrix';
import type { Arc, Cubic, Outline, Segment } from '../../base/geometry/outline';
import { endOf } from '../../base/geometry/outline';
import { type Point, distance, near } from '../../base/geometry/point';
import { meanColour } from '../../evaluate/gradients/gradient';
import { type BoxGradient, offBox } from '../../evaluate/gradients/gradient-box';
import { type LineFamily, familyOfPaint } from '../../content/drawing/line-families';
import { type PlacedPicture, isGradient, isPattern, isPicture } from '../../document/paint';
import type { CopyFile } from '../../contracts/codec';
import { ImageFiles } from './image-write';
import { pairsText } from './pairs';
import { escaped, inCodePage } from './code-pages';
import { colourGroups } from './colours';
import { textAsBinary } from './binary';
import { type DxfVersion, hasSince } from './declare';
import { styleOfFont } from './fonts';
import { hatchGroups } from './hatch-write';
import { SymbolBlocks } from './blocks';
import { LineTypes } from './line-types';
import { type Sheet, frameEpilogue, frameOf, placesOf } from './frame';

/** Decimals of every number: a millionth of a millimetre. */
const DECIMALS = 6;

/** Letters beyond ASCII as \U+XXXX up to 2004, whatever the code page: readers of any age take them so in a text. */
const dxfText = (text: string, unicode: boolean): string => {
  const line = text.replace(/[\u0000-\u001f\u007f-\u009f]/g, ' ').replace(/%%/g, '%%%%');
  return unicode ? line : line.replace(/[\u0080-\uffff]/g, escaped);
};

/**
 * DXF bytes of a version, in millimetres, as text or in the binary form of the same groups. The mark stands in comments (group 999) at the top of text, and in the data of a layer. Several
 * sheets are a block each, inserted beside each other; so is a symbol, inserted where it is used. Pictures are files of their own.
 */
export function writeDxf(sheets: readonly Sheet[], version: DxfVersion, binary: boolean, mark: string): readonly CopyFile[] {
  const r12 = version === 'R12';
  const out = new ByteWriter();
  const drawings = sheets.map(({ drawing }) => drawing);
  const symbols = new SymbolBlocks(drawings, r12);
  const types = new LineTypes([...drawings, ...symbols.all.map(({ drawing }) => drawing)]);
  const images = new ImageFiles([...drawings, ...symbols.all.map(({ drawing }) => drawing)]);
  const frame = frameOf(sheets, symbols.all, types, images, version, mark);
  const writer = new EntityWriter(out, types, symbols, images, version, frame.firstHandle);
  out.text(frame.start);
  frame.blocks.forEach(({ begin, end, owner }, i) => {
    out.text(begin);
    writer.drawing((symbols.all[i] ?? sheets[i - symbols.all.length]!).drawing, owner);
    out.text(end);
  });
  out.text(frame.entities);
  const { offsets } = placesOf(sheets);
  const ofSheets = frame.blocks.slice(symbols.all.length);
  ofSheets.forEach(({ name }, i) => writer.insert(name, translation(offsets[i]!, 0), MODEL_SPACE));
  if (!ofSheets.length) writer.drawing(sheets[0]!.drawing, MODEL_SPACE);
  out.text(frameEpilogue(r12, images));
  const text = hasSince(version, '2007') ? out.bytes() : inCodePage(out.bytes());
  return [{ part: '', bytes: binary ? textAsBinary(text, r12) : text }, ...images.files];
}

const MODEL_SPACE = '1F';
/** Stands before a share in group 440, which says of itself that it is one (DXF reference, common group codes). */
const THROUGH = 0x02000000;

class EntityWriter {
  private owner = MODEL_SPACE;

  constructor(
    private readonly out: ByteWriter,
    private readonly types: LineTypes,
    private readonly symbols: SymbolBlocks,
    private readonly images: ImageFiles,
    version: DxfVersion,
    private handle: number,
  ) {
    this.r12 = version === 'R12';
    this.exact = hasSince(version, '2004');
    this.unicode = hasSince(version, '2007');
  }

  private readonly r12: boolean;
  /** Whether colours are stated as they are, and what lets through. */
  private readonly exact: boolean;
  private readonly unicode: boolean;

  /** Whether what is being written is dashed: then it says where it begins and which way it runs. */
  private dashed = false;

  drawing(drawing: Drawing, owner: string): void {
    this.owner = owner;
    const heads: string[] = [];
    const { layers, looks, layer, look, texts, text, firstOutline } = drawing;
    let used = 0;
    for (let i = 0; i < drawing.count; i++) {
      const use = drawing.uses[used]?.first === i ? drawing.uses[used++]! : null;
      if (use) {
        this.insert(this.symbols.nameOf(use), use.at, owner);
        i = use.end - 1;
        continue;
      }
      const key = layer[i]! * looks.length + look[i]!;
      const head = (heads[key] ??= this.head(layers[layer[i]!]!, hatchLook(looks[look[i]!]!, drawing)));
      const words = texts[text[i]!];
      this.dashed = (looks[look[i]!]!.line?.dash.length ?? 0) > 0;
      if (words) this.text(words, head);
      else if (looks[look[i]!]!.fill) {
        const { fill } = looks[look[i]!]!;
        if (isPicture(fill)) {
          this.image(fill, outlineAt(drawing.paths, firstOutline[i]!), head);
          continue;
        }
        const lines = isPattern(fill) ? familyOfPaint(fill, drawing.cells[fill.cell]!) : null;
        const by = isGradient(fill) ? offBox(fill) : lines;
        this.hatch(drawing.paths, firstOutline[i]!, firstOutline[i + 1]!, head, by);
      } else for (let o = firstOutline[i]!; o < firstOutline[i + 1]!; o++) this.outline(drawing.paths, o, head);
    }
  }

  /** What every entity on a layer with a look starts with, after its type. */
  private head(layer: Drawing['layers'][number], { fill, stroke, strokeWidth, line, opacity }: DisplayStyle): string {
    // What a program that shades nothing shows.
    const own = isGradient(fill) ? meanColour(fill) : isPicture(fill) ? null : (fill ?? stroke);
    const colour = typeof own === 'string' && own !== layer.colour ? colourGroups(own, this.exact) : '';
    const through = this.exact && opacity < 1 ? `440\n${THROUGH + Math.round(opacity * 255)}\n` : '';
    const type = line?.dash.length ? `6\n${this.types.nameFor(line.dash)}\n` : '';
    if (this.r12) return `8\n${layer.name}\n${type}${colour}`;
    const width = strokeWidth > 0 ? `370\n${Math.round(strokeWidth * 100)}\n` : '';
    return `100\nAcDbEntity\n8\n${layer.name}\n${type}${colour}${width}${through}`;
  }

  /** Puts a block somewhere, moved and turned. On layer 0: what is on others in the block stays there. */
  insert(name: string, [a, b, , , x, y]: Matrix, owner: string): void {
    this.owner = owner;
    this.begin('INSERT', this.r12 ? '8\n0\n' : '100\nAcDbEntity\n8\n0\n', 'AcDbBlockReference');
    this.out.text(`2\n${name}\n`);
    this.point([x, y]);
    this.out.text('30\n0\n');
    const turn = ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360;
    if (turn) this.value('50\n', turn);
  }

  private begin(type: string, head: string, subclass: string): void {
    if (this.r12) this.out.text(`0\n${type}\n${head}`);
    else
      this.out.text(
        `0\n${type}\n5\n${(this.handle++).toString(16).toUpperCase()}\n330\n${this.owner}\n${head}100\n${subclass}\n`,
      );
  }

  /** A group whose value is a number. */
  private value(code: string, value: number): void {
    this.out.text(code);
    this.out.number(value, DECIMALS);
    this.out.text('\n');
  }

  private point([x, y]: Point): void {
    this.value('10\n', x);
    this.value('20\n', y);
  }

  /** What is filled, all its outlines together. */
  private hatch(paths: Paths, first: number, end: number, head: string, by: BoxGradient | LineFamily | null): void {
    this.begin('HATCH', head, 'AcDbHatch');
    hatchGroups(
      paths,
      first,
      end,
      by,
      (code, value) => this.value(`${code}\n`, value),
      (code, words) => this.out.text(`${code}\n${words}\n`),
    );
  }

  /** A picture, of which is seen what an outline of straight lines holds. */
  private image(placed: PlacedPicture, { start, segments }: Outline, head: string): void {
    this.begin('IMAGE', head, 'AcDbRasterImage');
    this.out.text(pairsText(this.images.groups(placed, [start, ...segments.map(({ to }) => to)])));
  }

  private outline(paths: Paths, o: number, head: string): void {
    const { firstVerb, verbs } = paths;
    let plain = true;
    for (let v = firstVerb[o]!; v < firstVerb[o + 1]! && plain; v++) plain = verbs[v] === LINE;
    if (plain) return this.lines(paths, o, head);
    const outline = outlineAt(paths, o);
    const circle = this.dashed ? undefined : asCircle(outline);
    if (circle) this.circle(head, circle.centre, circle.radius);
    else if (outline.segments.some(({ kind }) => kind === 'cubic')) this.mixed(head, outline);
    else this.straight(head, outline);
  }

  /** An outline of straight lines only, written as it lies. */
  private lines({ firstVerb, firstCoord, closed, coords }: Paths, o: number, head: string): void {
    const count = firstVerb[o + 1]! - firstVerb[o]!;
    const at = firstCoord[o]!;
    if (count === 1 && !closed[o]) {
      this.begin('LINE', head, 'AcDbLine');
      this.value('10\n', coords[at]!);
      this.value('20\n', coords[at + 1]!);
      this.value('30\n0\n11\n', coords[at + 2]!);
      this.value('21\n', coords[at + 3]!);
      return this.out.text('31\n0\n');
    }
    const end = at + 2 * count;
    // Where the last point is the first, `closed` says it.
    const back = closed[o] === 1 && Math.hypot(coords[end]! - coords[at]!, coords[end + 1]! - coords[at + 1]!) <= 1e-6;
    const corners = count + (back ? 0 : 1);
    const layer = this.beginPolyline(head, corners, closed[o] === 1);
    for (let k = at; k < at + 2 * corners; k += 2) {
      if (this.r12) this.out.text(`0\nVERTEX\n${layer}`);
      this.value('10\n', coords[k]!);
      this.value('20\n', coords[k + 1]!);
      if (this.r12) this.out.text('30\n0\n');
    }
    if (this.r12) this.out.text(`0\nSEQEND\n${layer}`);
  }

  /** @returns the layer as the corners of an R12 polyline state it */
  private beginPolyline(head: string, corners: number, closed: boolean): string {
    if (!this.r12) {
      this.begin('LWPOLYLINE', head, 'AcDbPolyline');
      this.out.text(`90\n${corners}\n70\n${this.polylineFlags(closed)}\n`);
      return '';
    }
    this.out.text(`0\nPOLYLINE\n${head}66\n1\n10\n0\n20\n0\n30\n0\n70\n${this.polylineFlags(closed)}\n`);
    return head.slice(0, head.indexOf('\n', 2) + 1);
  }

  /** 128: dashes run on over the corners. */
  private polylineFlags(closed: boolean): number {
    return (closed ? 1 : 0) | (this.dashed ? 128 : 0);
  }

  private circle(head: string, centre: Point, radius: number): void {
    this.begin('CIRCLE', head, 'AcDbCircle');
    this.point(centre);
    this.value('30\n0\n40\n', radius);
  }

  /** Lines and arcs: a LINE or ARC where there is one piece, else a polyline with bulges. */
  private straight(head: string, outline: Outline): void {
    const [only, more] = outline.segments;
    if (!only || more || outline.closed || only.kind === 'cubic' || (this.dashed && only.kind === 'arc'))
      this.polyline(head, outline);
    else if (only.kind === 'arc') this.arc(head, outline.start, only);
    else {
      this.begin('LINE', head, 'AcDbLine');
      this.point(outline.start);
      this.value('30\n0\n11\n', only.to[0]);
      this.value('21\n', only.to[1]);
      this.out.text('31\n0\n');
    }
  }

  private arc(head: string, from: Point, arc: Arc): void {
    const degrees = (p: Point) => ((Math.atan2(p[1] - arc.centre[1], p[0] - arc.centre[0]) * 180) / Math.PI + 360) % 360;
    const [first, last] = arc.clockwise ? [arc.to, from] : [from, arc.to];
    this.begin('ARC', head, 'AcDbCircle');
    this.point(arc.centre);
    this.value('30\n0\n40\n', distance(from, arc.centre));
    if (!this.r12) this.out.text('100\nAcDbArc\n');
    this.value('50\n', degrees(first));
    this.value('51\n', degrees(last));
  }

  private polyline(head: string, outline: Outline): void {
    const vertices = verticesOf(outline);
    const layer = this.beginPolyline(head, vertices.length, outline.closed);
    for (const { at, bulge } of vertices) {
      if (this.r12) this.out.text(`0\nVERTEX\n${layer}`);
      this.point(at);
      if (this.r12) this.out.text('30\n0\n');
      if (bulge) this.out.text(`42\n${bulge.toPrecision(10)}\n`);
    }
    if (this.r12) this.out.text(`0\nSEQEND\n${layer}`);
  }

  /** An outline with free curves: each run of curves is one SPLINE, what lies between stays a polyline. */
  private mixed(head: string, outline: Outline): void {
    const segments: Segment[] = [...outline.segments];
    if (outline.closed && !near(endOf(outline), outline.start, 1e-6)) segments.push({ kind: 'line', to: outline.start });
    let start = outline.start;
    let run: Segment[] = [];
    const flush = () => {
      if (!run.length) return;
      if (run[0]!.kind === 'cubic') this.spline(head, start, run as Cubic[]);
      else this.straight(head, { start, segments: run, closed: false });
      start = run.at(-1)!.to;
      run = [];
    };
    for (const segment of segments) {
      if (run.length && (run[0]!.kind === 'cubic') !== (segment.kind === 'cubic')) flush();
      run.push(segment);
    }
    flush();
  }

  /** Joined cubics as one B-spline of degree 3 whose inner knots are triple: the same curve exactly. */
  private spline(head: string, start: Point, cubics: readonly Cubic[]): void {
    const points = [start, ...cubics.flatMap(({ c1, c2, to }) => [c1, c2, to])];
    const knots = [0, ...Array.from({ length: cubics.length + 1 }, (_, i) => [i, i, i]).flat(), cubics.length];
    this.begin('SPLINE', head, 'AcDbSpline');
    this.out.text(`70\n8\n71\n3\n72\n${knots.length}\n73\n${points.length}\n74\n0\n42\n0.0000001\n43\n0.0000001\n`);
    this.out.text(knots.map((knot) => `40\n${knot}\n`).join(''));
    for (const point of points) {
      this.point(point);
      this.out.text('30\n0\n');
    }
  }

  private text({ text, frame, size, font, align }: Words, head: string): void {
    const [a, b, , , x, y] = frame;
    const turn = ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360;
    this.begin('TEXT', head, 'AcDbText');
    this.point([x, y]);
    this.value('30\n0\n40\n', size * capHeight(font));
    this.out.text(`1\n${dxfText(text, this.unicode)}\n`);
    if (turn) this.value('50\n', turn);
    this.out.text(`7\n${styleOfFont(font)}\n`);
    if (align !== 'start') {
      this.value(`72\n${align === 'middle' ? 1 : 2}\n11\n`, x);
      this.value('21\n', y);
      this.out.text('31\n0\n');
    }
    if (!this.r12) this.out.text('100\nAcDbText\n');
  }
}

/** The look of an entity: a hatch by lines has that of its lines. */
function hatchLook(look: DisplayStyle, { cells }: Drawing): DisplayStyle {
  if (!isPattern(look.fill)) return look;
  const { stroke, strokeWidth } = cells[look.fill.cell]!.looks[0]!;
  return { ...look, fill: null, stroke, strokeWidth };
}

/** The corners of an outline of lines and arcs, each with the bulge of what follows it. */
function verticesOf(outline: Outline): { at: Point; bulge: number }[] {
  const vertices: { at: Point; bulge: number }[] = [];
  let at = outline.start;
  for (const segment of outline.segments) {
    if (segment.kind === 'arc' && Math.abs(sweepOf(at, segment)) > 1.9 * Math.PI) {
      // A bulge can't state a full turn: two halves can.
      const middle = pointOnArc(at, segment, 0.5);
      vertices.push({ at, bulge: bulgeOf(at, { ...segment, to: middle }) }, { at: middle, bulge: bulgeOf(middle, segment) });
    } else vertices.push({ at, bulge: segment.kind === 'arc' ? bulgeOf(at, segment) : 0 });
    at = segment.to;
  }
  if (!outline.closed || !near(at, outline.start, 1e-6)) vertices.push({ at, bulge: 0 });
  return vertices;
}
