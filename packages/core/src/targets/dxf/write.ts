import { asCircle, bulgeOf, pointOnArc, sweepOf } from '../../geometry/arcs';
import type { Arc, Cubic, Outline, Segment } from '../../geometry/outline';
import { endOf } from '../../geometry/outline';
import { type Point, distance, near } from '../../geometry/point';
import { CAP_HEIGHT } from '../../fonts/font-book';
import type { DisplayList, PathEntry, TextEntry } from '../../projection/display-list';
import { ByteWriter } from '../byte-writer';
import type { OptionValues } from '../target';
import { numberOfColour } from './colours';
import { STYLE_OF_FONT } from './fonts';
import { framePrologue, frameEpilogue } from './frame';

/** Decimals of every number: a millionth of a millimetre. */
const DECIMALS = 6;

/** Characters beyond ASCII as \U+XXXX, which readers of either version take. */
const dxfText = (text: string): string =>
  text

    .replace(/[\u0000-\u001f]/g, ' ')
    .replace(/[\u007f-\uffff]/g, (unit) => `\\U+${unit.charCodeAt(0).toString(16).toUpperCase().padStart(4, '0')}`)
    .replace(/%%/g, '%%%%');

/** DXF text bytes, R12 (AC1009) or 2000 (AC1015), in millimetres. The mark stands in a comment (group 999) at the top. */
export function writeDxf(list: DisplayList, options: OptionValues, mark: string): Uint8Array {
  const r12 = options['version'] === 'R12';
  const out = new ByteWriter();
  out.text(framePrologue(list, r12, mark));
  const writer = new EntityWriter(out, r12, new Map(list.layers.map(({ name, colour }) => [name, colour])));
  for (const entry of list.entries)
    if (entry.kind === 'text') writer.text(entry);
    else writer.path(entry);
  out.text(frameEpilogue(r12));
  return out.bytes();
}

class EntityWriter {
  private handle = 0x100;

  constructor(
    private readonly out: ByteWriter,
    private readonly r12: boolean,
    private readonly layerColours: ReadonlyMap<string, string | null>,
  ) {}

  /** What every entity of an entry starts with, after its type. */
  private head(entry: PathEntry | TextEntry): string {
    const { stroke, strokeWidth } = entry.style;
    const colour = stroke !== null && stroke !== this.layerColours.get(entry.layer) ? `62\n${numberOfColour(stroke)}\n` : '';
    if (this.r12) return `8\n${entry.layer}\n${colour}`;
    const width = strokeWidth > 0 ? `370\n${Math.round(strokeWidth * 100)}\n` : '';
    return `100\nAcDbEntity\n8\n${entry.layer}\n${colour}${width}`;
  }

  private begin(type: string, head: string, subclass: string): void {
    if (this.r12) this.out.text(`0\n${type}\n${head}`);
    else this.out.text(`0\n${type}\n5\n${(this.handle++).toString(16).toUpperCase()}\n330\n1F\n${head}100\n${subclass}\n`);
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

  path(entry: PathEntry): void {
    const head = this.head(entry);
    for (const outline of entry.outlines) {
      const circle = asCircle(outline);
      if (circle) this.circle(head, circle.centre, circle.radius);
      else if (outline.segments.some(({ kind }) => kind === 'cubic')) this.mixed(head, outline);
      else this.straight(head, outline);
    }
  }

  private circle(head: string, centre: Point, radius: number): void {
    this.begin('CIRCLE', head, 'AcDbCircle');
    this.point(centre);
    this.value('30\n0\n40\n', radius);
  }

  /** Lines and arcs: a LINE or ARC where there is one piece, else a polyline with bulges. */
  private straight(head: string, outline: Outline): void {
    const [only, more] = outline.segments;
    if (!only || more || outline.closed || only.kind === 'cubic') this.polyline(head, outline);
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
    const flag = outline.closed ? 1 : 0;
    if (this.r12) {
      const layer = head.slice(0, head.indexOf('\n', 2) + 1);
      this.out.text(`0\nPOLYLINE\n${head}66\n1\n10\n0\n20\n0\n30\n0\n70\n${flag}\n`);
      for (const { at, bulge } of vertices) {
        this.out.text(`0\nVERTEX\n${layer}`);
        this.point(at);
        this.out.text(bulge ? `30\n0\n42\n${bulge.toPrecision(10)}\n` : '30\n0\n');
      }
      this.out.text(`0\nSEQEND\n${layer}`);
    } else {
      this.begin('LWPOLYLINE', head, 'AcDbPolyline');
      this.out.text(`90\n${vertices.length}\n70\n${flag}\n`);
      for (const { at, bulge } of vertices) {
        this.point(at);
        if (bulge) this.out.text(`42\n${bulge.toPrecision(10)}\n`);
      }
    }
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

  text(entry: TextEntry): void {
    const [a, b, , , x, y] = entry.frame;
    const turn = ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360;
    this.begin('TEXT', this.head(entry), 'AcDbText');
    this.point([x, y]);
    this.value('30\n0\n40\n', entry.size * CAP_HEIGHT[entry.font]);
    this.out.text(`1\n${dxfText(entry.text)}\n`);
    if (turn) this.value('50\n', turn);
    this.out.text(`7\n${STYLE_OF_FONT[entry.font].style}\n`);
    if (entry.align !== 'start') {
      this.value(`72\n${entry.align === 'middle' ? 1 : 2}\n11\n`, x);
      this.value('21\n', y);
      this.out.text('31\n0\n');
    }
    if (!this.r12) this.out.text('100\nAcDbText\n');
  }
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
