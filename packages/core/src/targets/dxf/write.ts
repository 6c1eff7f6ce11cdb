import { asCircle, bulgeOf, pointOnArc, sweepOf } from '../../geometry/arcs';
import type { Arc, Cubic, Outline, Segment } from '../../geometry/outline';
import { endOf } from '../../geometry/outline';
import { type Point, distance, near } from '../../geometry/point';
import { CAP_HEIGHT } from '../../fonts/font-book';
import type { DisplayList, PathEntry, TextEntry } from '../../projection/display-list';
import { encodeText } from '../bytes';
import { shortNumber } from '../numbers';
import type { OptionValues } from '../target';
import { numberOfColour } from './colours';
import { STYLE_OF_FONT } from './fonts';
import { framePrologue, frameEpilogue } from './frame';

const n = (value: number) => shortNumber(value, 6);

/** Characters beyond ASCII as \U+XXXX, which readers of either version take. */
const dxfText = (text: string): string =>
  text

    .replace(/[\u0000-\u001f]/g, ' ')
    .replace(/[\u007f-\uffff]/g, (unit) => `\\U+${unit.charCodeAt(0).toString(16).toUpperCase().padStart(4, '0')}`)
    .replace(/%%/g, '%%%%');

/** DXF text bytes, R12 (AC1009) or 2000 (AC1015), in millimetres. The mark stands in a comment (group 999) at the top. */
export function writeDxf(list: DisplayList, options: OptionValues, mark: string): Uint8Array {
  const r12 = options['version'] === 'R12';
  const writer = new EntityWriter(r12, new Map(list.layers.map(({ name, colour }) => [name, colour])));
  for (const entry of list.entries)
    if (entry.kind === 'text') writer.text(entry);
    else writer.path(entry);
  return encodeText(framePrologue(list, r12, mark) + writer.out.join('') + frameEpilogue(r12));
}

class EntityWriter {
  readonly out: string[] = [];
  private handle = 0x100;

  constructor(
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

  private add(type: string, head: string, subclass: string, body: string): void {
    this.out.push(
      this.r12
        ? `0\n${type}\n${head}${body}`
        : `0\n${type}\n5\n${(this.handle++).toString(16).toUpperCase()}\n330\n1F\n${head}100\n${subclass}\n${body}`,
    );
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

  private circle(head: string, [x, y]: Point, radius: number): void {
    this.add('CIRCLE', head, 'AcDbCircle', `10\n${n(x)}\n20\n${n(y)}\n30\n0\n40\n${n(radius)}\n`);
  }

  /** Lines and arcs: a LINE or ARC where there is one piece, else a polyline with bulges. */
  private straight(head: string, outline: Outline): void {
    const [only, more] = outline.segments;
    if (only && !more && !outline.closed) {
      const [x, y] = outline.start;
      if (only.kind === 'line')
        return this.add(
          'LINE',
          head,
          'AcDbLine',
          `10\n${n(x)}\n20\n${n(y)}\n30\n0\n11\n${n(only.to[0])}\n21\n${n(only.to[1])}\n31\n0\n`,
        );
      if (only.kind === 'arc') return this.arc(head, outline.start, only);
    }
    this.polyline(head, outline);
  }

  private arc(head: string, from: Point, arc: Arc): void {
    const degrees = (p: Point) => n(((Math.atan2(p[1] - arc.centre[1], p[0] - arc.centre[0]) * 180) / Math.PI + 360) % 360);
    const [first, last] = arc.clockwise ? [arc.to, from] : [from, arc.to];
    const centre = `10\n${n(arc.centre[0])}\n20\n${n(arc.centre[1])}\n30\n0\n40\n${n(distance(from, arc.centre))}\n`;
    const angles = `50\n${degrees(first)}\n51\n${degrees(last)}\n`;
    this.add('ARC', head, 'AcDbCircle', this.r12 ? centre + angles : `${centre}100\nAcDbArc\n${angles}`);
  }

  private polyline(head: string, outline: Outline): void {
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
    const returns = outline.closed && near(at, outline.start, 1e-6);
    if (!returns) vertices.push({ at, bulge: 0 });
    const points = vertices.map(({ at: [x, y], bulge }) => ({
      xy: `10\n${n(x)}\n20\n${n(y)}\n`,
      bulge: bulge ? `42\n${shortNumber(bulge, 6) === '0' ? '0' : bulge.toPrecision(10)}\n` : '',
    }));
    const flag = outline.closed ? 1 : 0;
    if (this.r12) {
      const layer = head.slice(0, head.indexOf('\n', 2) + 1);
      const body = points.map(({ xy, bulge }) => `0\nVERTEX\n${layer}${xy}30\n0\n${bulge}`).join('');
      this.out.push(`0\nPOLYLINE\n${head}66\n1\n10\n0\n20\n0\n30\n0\n70\n${flag}\n${body}0\nSEQEND\n${layer}`);
    } else
      this.add(
        'LWPOLYLINE',
        head,
        'AcDbPolyline',
        `90\n${points.length}\n70\n${flag}\n${points.map(({ xy, bulge }) => xy + bulge).join('')}`,
      );
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
    const lines = [`70\n8\n71\n3\n72\n${knots.length}\n73\n${points.length}\n74\n0\n42\n0.0000001\n43\n0.0000001\n`];
    lines.push(...knots.map((knot) => `40\n${knot}\n`), ...points.map(([x, y]) => `10\n${n(x)}\n20\n${n(y)}\n30\n0\n`));
    this.add('SPLINE', head, 'AcDbSpline', lines.join(''));
  }

  text(entry: TextEntry): void {
    const [a, b, , , x, y] = entry.frame;
    const turn = ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360;
    const place = `${n(x)}\n20\n${n(y)}\n30\n0\n`;
    const aligned = entry.align === 'start' ? '' : `72\n${entry.align === 'middle' ? 1 : 2}\n11\n${n(x)}\n21\n${n(y)}\n31\n0\n`;
    const height = n(entry.size * CAP_HEIGHT[entry.font]);
    const body = `10\n${place}40\n${height}\n1\n${dxfText(entry.text)}\n${turn ? `50\n${n(turn)}\n` : ''}7\n${STYLE_OF_FONT[entry.font].style}\n${aligned}`;
    this.add('TEXT', this.head(entry), 'AcDbText', this.r12 ? body : `${body}100\nAcDbText\n`);
  }
}
