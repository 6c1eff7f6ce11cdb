import { ByteWriter } from '../../base/bytes/byte-writer';
import { shortNumber } from '../../base/bytes/numbers';
import type { DrawnUse, Drawing, Words } from '../../contracts/drawing';
import { ARC_CLOCKWISE, CUBIC, LINE, type Paths, PathStore, outlineAt } from '../../base/geometry/paths';
import { faceOf } from '../../document/faces';
import { asCircle, pointOnArc, sweepOf } from '../../base/geometry/arcs';
import { type Matrix, invert, multiply } from '../../base/geometry/matrix';
import { type Pen, inversePen } from '../../base/geometry/pen';
import { isPicture, isPlain } from '../../document/paint';
import { imageText } from './image-text';
import { MARK } from './mark';
import type { Span } from '../../contracts/spans';
import { type Point, distance } from '../../base/geometry/point';
import type { CopyDescription } from '../../contracts/description';
import { describedElement } from './described';
import { Definitions, styleText } from './paints';

const escape = (text: string): string =>
  // XML 1.0, 2.2: control characters other than tab and line ends can't stand in a document at all.

  text.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f]/g, '').replace(/[&<>"]/g, (c) => ENTITIES[c]!);
const ENTITIES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };

/** A board in a file. */
export interface Sheet {
  /** Its name; empty where the copy has only this one. */
  readonly label: string;
  readonly drawing: Drawing;
}

/** Between sheets that stand below each other, mm. */
const GAP = 10;
/** A symbol that is used larger than it is drawn has finer numbers, up to this. */
const MOST_DIGITS = 9;
const UNSAID = { width: 100, height: 100 };
const OPEN = '<?xml version="1.0" encoding="UTF-8"?>\n<svg xmlns="http://www.w3.org/2000/svg" version="1.1"';
const LINKS = ' xmlns:xlink="http://www.w3.org/1999/xlink"';
/** Whether anything in it refers to something else: a picture, or a symbol. */
const refers = ({ pictures, cells, uses }: Drawing): boolean =>
  Object.keys(pictures).length > 0 || uses.length > 0 || Object.values(cells).some(refers);

/**
 * SVG 1.1 bytes: user units are millimetres, y turned over, one group per layer run with its name as title. Several sheets are
 * named viewports below each other.
 */
export function writeSvg(sheets: readonly Sheet[], digits: number, mark: string, described?: CopyDescription): Uint8Array {
  const out = new ByteWriter();
  const n = (value: number) => shortNumber(value, digits);
  const metadata = `<metadata>${escape(mark)}</metadata>\n`;
  const sizes = sheets.map(({ drawing }) => drawing.sheet ?? UNSAID);
  const many = sheets.length > 1;
  const width = Math.max(...sizes.map((size) => size.width));
  const height = sizes.reduce((sum, size) => sum + size.height, (sizes.length - 1) * GAP);
  const open = sheets.some(({ drawing }) => refers(drawing)) ? OPEN + LINKS : OPEN;
  out.text(
    `${open} width="${n(width)}mm" height="${n(height)}mm" viewBox="0 0 ${n(width)} ${n(height)}" ${MARK}="${escape(mark)}">\n`,
  );
  if (!many && sheets[0]!.label) out.text(`<title>${escape(sheets[0]!.label)}</title>\n`);
  out.text(metadata);
  out.text(describedElement(described));
  let top = 0;
  sheets.forEach(({ drawing, label }, i) => {
    const { width: w, height: h } = sizes[i]!;
    if (many)
      out.text(
        `<svg id="sheet-${i + 1}" x="0" y="${n(top)}" width="${n(w)}" height="${n(h)}" viewBox="0 0 ${n(w)} ${n(h)}">\n<title>${escape(label)}</title>\n`,
      );
    new SheetWriter(out, digits, drawing, h, many ? `paint-${i + 1}-` : 'paint-').write(many ? '' : ' id="board"');
    if (many) out.text('</svg>\n');
    top += h + GAP;
  });
  out.text('</svg>\n');
  return out.bytes();
}

class SheetWriter {
  private readonly styles: string[] = [];
  private readonly definitions: Definitions;
  /** From the board to the sheet, where y runs down. */
  private readonly down: Matrix;

  private digits: number;

  /** @param scale how much larger than written the largest use of it is, from the sheet inwards */
  constructor(
    private out: ByteWriter,
    private readonly base: number,
    private readonly drawing: Drawing,
    private readonly height: number,
    prefix: string,
    definitions?: Definitions,
    private readonly scale = 1,
  ) {
    this.digits = Math.min(MOST_DIGITS, base + Math.max(0, Math.ceil(Math.log10(scale) - 1e-9)));
    this.definitions = definitions ?? new Definitions(prefix);
    this.down = [1, 0, 0, -1, 0, height];
  }

  write(ground: string): void {
    const { out, drawing } = this;
    if (drawing.background) out.text(`<rect${ground} width="100%" height="100%" fill="${drawing.background}"/>\n`);
    this.entries(true);
    this.definitions.write(out);
  }

  /**
   * Writes what is drawn, span by span. A layer is a group with its name; one that holds several layers stands around theirs.
   * @param layered whether layers mean anything
   */
  private entries(layered: boolean): void {
    const { out, drawing } = this;
    const { spans } = drawing;
    let layer = -1;
    const onLayer = (next: number) => {
      if (!layered || next === layer) return;
      if (layer >= 0) out.text('</g>\n');
      if (next >= 0) out.text(`<g><title>${escape(drawing.layers[next]!.name)}</title>\n`);
      layer = next;
    };
    const open: { readonly end: number; readonly around: boolean }[] = [];
    let at = 0;
    let used = 0;
    for (let i = 0; i < drawing.count; i++) {
      const use = drawing.uses[used]?.first === i ? drawing.uses[used++] : undefined;
      for (; spans[at]?.first === i; at++) {
        const span = spans[at]!;
        // Those of a symbol stand in the symbol.
        if (use && span.end <= use.end) continue;
        const own = drawing.layer[i]!;
        let one = true;
        for (let k = i; k < span.end && one; k++) one = drawing.layer[k] === own;
        onLayer(one ? own : -1);
        out.text(`<g${this.spanText(span)}>\n`);
        open.push({ end: span.end, around: !one });
      }
      onLayer(drawing.layer[i]!);
      if (use) {
        this.use(use);
        i = use.end - 1;
        while (spans[at] && spans[at]!.first <= i) at++;
      } else this.entry(i);
      for (; open.at(-1)?.end === i + 1; open.pop()) {
        if (open.at(-1)!.around) onLayer(-1);
        out.text('</g>\n');
      }
    }
    onLayer(-1);
  }

  /** A symbol, drawn once and used here. */
  private use({ cell, at, name }: DrawnUse): void {
    // Drawn as finely as its largest use needs.
    const scale = this.scale * (this.scales.get(cell) ?? this.scaleOf(cell));
    const shapes = this.aside((out) =>
      new SheetWriter(out, this.base, this.drawing.cells[cell]!, 0, '', this.definitions, scale).entries(false),
    );
    const id = this.definitions.idOf(`<g>\n<title>${escape(name)}</title>\n${shapes}</g>`);
    const map = multiply(multiply(this.down, at), [1, 0, 0, -1, 0, 0]);
    this.out.text(`<use xlink:href="#${id}" transform="${matrixText(map)}"/>\n`);
  }

  private readonly scales = new Map<string, number>();
  /** How much larger than drawn the largest use of a symbol is. */
  private scaleOf(cell: string): number {
    let most = 1;
    for (const { cell: other, at } of this.drawing.uses)
      if (other === cell) most = Math.max(most, Math.hypot(at[0], at[1]), Math.hypot(at[2], at[3]));
    this.scales.set(cell, most);
    return most;
  }

  private entry(i: number): void {
    const { out, drawing } = this;
    const words = drawing.texts[drawing.text[i]!];
    const [first, end] = [drawing.firstOutline[i]!, drawing.firstOutline[i + 1]!];
    const { fill, line, opacity } = drawing.looks[drawing.look[i]!]!;
    const pen = line?.pen;
    if (isPicture(fill)) out.text(imageText(fill, cornersOf(drawing.paths, first), opacity, drawing, this.down, this.digits));
    else if (words) this.text(words, i);
    else if (pen) this.underPen(pen, first, end, i);
    else this.path(drawing.paths, first, end, this.style(i), this.isDashed(i));
  }

  /** What a group does to what is in it, as attributes. */
  private spanText({ opacity, blend, clip, mask }: Span): string {
    let text = opacity < 1 ? ` opacity="${shortNumber(opacity, 4)}"` : '';
    if (blend !== 'normal') text += ` style="mix-blend-mode:${blend}"`;
    if (clip) {
      const shapes = this.aside((out) => {
        for (const { outlines, rule } of clip) {
          const store = new PathStore();
          for (const outline of outlines) store.add(outline);
          out.text('<path d="');
          for (let o = 0; o < store.count; o++) this.outline(store, o);
          out.text(`"${rule === 'evenodd' ? ' clip-rule="evenodd"' : ''}/>\n`);
        }
      });
      text += ` clip-path="${this.definitions.add(`<clipPath>\n${shapes}</clipPath>`)}"`;
    }
    if (mask) {
      // Where nothing is said, a mask ends a little outside of what it masks: that would cut wide lines.
      const all = 'maskUnits="userSpaceOnUse" x="-100000" y="-100000" width="200000" height="200000"';
      const kind = mask.kind === 'alpha' ? ' style="mask-type:alpha"' : '';
      text += ` mask="${this.definitions.add(`<mask ${all}${kind}>\n${this.inside(mask.cell, this.height)}</mask>`)}"`;
    }
    return text;
  }

  /** What is written meanwhile, as a text of its own. */
  private aside(write: (out: ByteWriter) => void): string {
    const before = this.out;
    this.out = new ByteWriter();
    write(this.out);
    const text = new TextDecoder().decode(this.out.bytes());
    this.out = before;
    return text;
  }

  /** What a pattern repeats or a mask is made of, laid out on a height of its own. */
  private inside(name: string, height: number): string {
    return this.aside((out) => {
      const cell = new SheetWriter(out, this.digits, this.drawing.cells[name]!, height, '', this.definitions);
      cell.entries(false);
    });
  }

  /** @param toUser from the board to the axes of the element, where those are not the sheet's */
  private style(entry: number, toUser?: Matrix): string {
    const look = this.drawing.look[entry]!;
    const make = (to: Matrix) =>
      styleText(this.drawing.looks[look]!, this.digits, (paint) =>
        isPicture(paint) ? 'none' : this.definitions.paint(paint, to, ({ cell, height }) => this.inside(cell, height)),
      );
    return toUser ? make(toUser) : (this.styles[look] ??= make(this.down));
  }

  /** A path whose pen is not round: drawn with a round one in axes that make it what it is. */
  private underPen(pen: Pen, first: number, end: number, entry: number): void {
    const [p, q, r] = pen;
    // In axes where y runs down the pen leans the other way.
    const axes: Matrix = [p, -q, -q, r, 0, 0];
    const toUser = multiply(inversePen([p, -q, r]), this.down);
    // Laid out upright again, because that is how paths are written here.
    const upright = multiply(this.down, toUser);
    const store = new PathStore();
    for (let o = first; o < end; o++) store.append(this.drawing.paths, o, upright);
    const { digits } = this;
    this.digits = Math.min(6, digits + Math.ceil(Math.log10(p + r)));
    this.path(store, 0, store.count, `${this.style(entry, toUser)} transform="${matrixText(axes)}"`, this.isDashed(entry));
    this.digits = digits;
  }

  private number(value: number): void {
    this.out.number(value, this.digits);
  }

  private point(x: number, y: number): void {
    this.number(x);
    this.out.text(' ');
    this.number(this.height - y);
  }

  /** @param asPath says where it begins, which a circle does not */
  private path(paths: Paths, first: number, end: number, style: string, asPath: boolean): void {
    const { out } = this;
    // Only what begins with an arc can be a circle.
    const { firstVerb, verbs } = paths;
    const v = firstVerb[first]!;
    if (!asPath && end - first === 1 && v < firstVerb[end]! && verbs[v] !== LINE && verbs[v] !== CUBIC) {
      const circle = asCircle(outlineAt(paths, first));
      if (circle) {
        out.text('<circle cx="');
        this.number(circle.centre[0]);
        out.text('" cy="');
        this.number(this.height - circle.centre[1]);
        out.text('" r="');
        this.number(circle.radius);
        return out.text(`"${style}/>\n`);
      }
    }
    out.text('<path d="');
    for (let o = first; o < end; o++) this.outline(paths, o);
    out.text(`"${style}/>\n`);
  }

  private outline({ firstVerb, firstCoord, closed, verbs, coords }: Paths, o: number): void {
    const { out } = this;
    let at = firstCoord[o]!;
    out.text('M');
    this.point(coords[at]!, coords[at + 1]!);
    at += 2;
    for (let v = firstVerb[o]!; v < firstVerb[o + 1]!; v++) {
      const verb = verbs[v]!;
      if (verb === LINE) {
        out.text('L');
        this.point(coords[at]!, coords[at + 1]!);
        at += 2;
      } else if (verb === CUBIC) {
        for (let k = 0; k < 3; k++, at += 2) {
          out.text(k ? ' ' : 'C');
          this.point(coords[at]!, coords[at + 1]!);
        }
      } else {
        this.arc(coords, at, verb === ARC_CLOCKWISE);
        at += 4;
      }
    }
    if (closed[o]) out.text('Z');
  }

  /** @param at where the arc's centre and end stand; before them is where it comes from */
  private arc(coords: Float64Array, at: number, clockwise: boolean): void {
    const from = [coords[at - 2]!, coords[at - 1]!] as const;
    const to = [coords[at + 2]!, coords[at + 3]!] as const;
    const arc = { kind: 'arc', centre: [coords[at]!, coords[at + 1]!] as const, to, clockwise } as const;
    // An arc is given by its ends and radius, and near half a turn the least rounding of those throws its middle far off:
    // parts of at most a third of a turn keep that below twice the rounding.
    const parts = Math.max(1, Math.ceil(Math.abs(sweepOf(from, arc)) / ((2 / 3) * Math.PI) - 1e-9));
    const radius = distance(from, arc.centre);
    for (let part = 1; part <= parts; part++) {
      this.out.text('A');
      this.number(radius);
      this.out.text(' ');
      this.number(radius);
      // With y turned over, a clockwise arc has sweep-flag 1 (SVG 1.1, 8.3.8).
      this.out.text(clockwise ? ' 0 0 1 ' : ' 0 0 0 ');
      this.point(...(part === parts ? to : pointOnArc(from, arc, part / parts)));
    }
  }

  private text({ text, frame, size, font, align, spacing }: Words, entry: number): void {
    const n = (value: number) => shortNumber(value, this.digits);
    const { family, generic, bold, italic } = faceOf(font);
    const called = family.includes(' ') ? `'${family}'` : family;
    const weight = `${bold ? ' font-weight="700"' : ''}${italic ? ' font-style="italic"' : ''}`;
    const [a, b, c, d, e, f] = frame;
    const turned: Matrix = [a, -b, -c, d, e, this.height - f];
    const upright = Math.abs(a - 1) + Math.abs(b) + Math.abs(c) + Math.abs(d - 1) < 1e-9;
    const place = upright ? ` x="${n(e)}" y="${n(this.height - f)}"` : ` transform="${matrixText(turned)}"`;
    const anchor = align === 'start' ? '' : ` text-anchor="${align}"`;
    const apart = spacing ? ` letter-spacing="${shortNumber(spacing, this.digits + 2)}"` : '';
    const style = upright || !this.hasPlane(entry) ? this.style(entry) : this.style(entry, multiply(invert(turned)!, this.down));
    this.out.text(
      `<text xml:space="preserve"${place} font-family="${called}, ${generic}"${weight} font-size="${shortNumber(size, this.digits + 2)}"${apart}${anchor}${style}>${escape(text)}</text>\n`,
    );
  }

  private isDashed(entry: number): boolean {
    return (this.drawing.looks[this.drawing.look[entry]!]!.line?.dash.length ?? 0) > 0;
  }

  private hasPlane(entry: number): boolean {
    const { fill, stroke } = this.drawing.looks[this.drawing.look[entry]!]!;
    return !isPlain(fill) || !isPlain(stroke);
  }
}

/** The corners of an outline of straight lines. */
const cornersOf = (paths: Paths, o: number): Point[] => {
  const { start, segments } = outlineAt(paths, o);
  return [start, ...segments.map(({ to }) => to)];
};

const matrixText = (matrix: Matrix): string => `matrix(${matrix.map((value) => shortNumber(value, 6)).join(' ')})`;
