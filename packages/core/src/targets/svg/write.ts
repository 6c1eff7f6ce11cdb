import { ByteWriter } from '../../bytes/byte-writer';
import { shortNumber } from '../../bytes/numbers';
import type { DisplayStyle } from '../../content/drawing/display-list';
import type { Drawing, Words } from '../../content/drawing/drawing';
import { ARC_CLOCKWISE, CUBIC, LINE, outlineAt } from '../../content/drawing/paths';
import { asCircle, pointOnArc, sweepOf } from '../../geometry/arcs';
import type { Matrix } from '../../geometry/matrix';
import { distance } from '../../geometry/point';

const FAMILIES = {
  Commissioner: ['Commissioner, sans-serif', ''],
  'Commissioner Bold': ['Commissioner, sans-serif', ' font-weight="700"'],
  'Spline Sans Mono': ["'Spline Sans Mono', monospace", ''],
} as const;

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
const UNSAID = { width: 100, height: 100 };
const OPEN = '<?xml version="1.0" encoding="UTF-8"?>\n<svg xmlns="http://www.w3.org/2000/svg" version="1.1"';

/**
 * SVG 1.1 bytes: user units are millimetres, y turned over, one group per layer run with its name as title. Several sheets are
 * named viewports below each other.
 */
export function writeSvg(sheets: readonly Sheet[], digits: number, mark: string): Uint8Array {
  const out = new ByteWriter();
  const n = (value: number) => shortNumber(value, digits);
  const metadata = `<metadata>${escape(mark)}</metadata>\n`;
  const sizes = sheets.map(({ drawing }) => drawing.sheet ?? UNSAID);
  const many = sheets.length > 1;
  const width = Math.max(...sizes.map((size) => size.width));
  const height = sizes.reduce((sum, size) => sum + size.height, (sizes.length - 1) * GAP);
  out.text(`${OPEN} width="${n(width)}mm" height="${n(height)}mm" viewBox="0 0 ${n(width)} ${n(height)}">\n`);
  if (!many && sheets[0]!.label) out.text(`<title>${escape(sheets[0]!.label)}</title>\n`);
  out.text(metadata);
  let top = 0;
  sheets.forEach(({ drawing, label }, i) => {
    const { width: w, height: h } = sizes[i]!;
    if (many)
      out.text(
        `<svg id="sheet-${i + 1}" x="0" y="${n(top)}" width="${n(w)}" height="${n(h)}" viewBox="0 0 ${n(w)} ${n(h)}">\n<title>${escape(label)}</title>\n`,
      );
    new SheetWriter(out, digits, drawing, h).write(many ? '' : ' id="board"');
    if (many) out.text('</svg>\n');
    top += h + GAP;
  });
  out.text('</svg>\n');
  return out.bytes();
}

class SheetWriter {
  private readonly styles: string[] = [];

  constructor(
    private readonly out: ByteWriter,
    private readonly digits: number,
    private readonly drawing: Drawing,
    private readonly height: number,
  ) {}

  write(ground: string): void {
    const { out, drawing } = this;
    if (drawing.background) out.text(`<rect${ground} width="100%" height="100%" fill="${drawing.background}"/>\n`);
    let layer = -1;
    for (let i = 0; i < drawing.count; i++) {
      if (drawing.layer[i] !== layer) {
        if (layer >= 0) out.text('</g>\n');
        layer = drawing.layer[i]!;
        out.text(`<g><title>${escape(drawing.layers[layer]!.name)}</title>\n`);
      }
      const words = drawing.texts[drawing.text[i]!];
      if (words) this.text(words, this.style(i));
      else this.path(drawing.firstOutline[i]!, drawing.firstOutline[i + 1]!, this.style(i));
    }
    if (layer >= 0) out.text('</g>\n');
  }

  private style(entry: number): string {
    const look = this.drawing.look[entry]!;
    return (this.styles[look] ??= styleText(this.drawing.looks[look]!, this.digits));
  }

  private number(value: number): void {
    this.out.number(value, this.digits);
  }

  private point(x: number, y: number): void {
    this.number(x);
    this.out.text(' ');
    this.number(this.height - y);
  }

  private path(first: number, end: number, style: string): void {
    const { out, drawing } = this;
    // Only what begins with an arc can be a circle.
    const { firstVerb, verbs } = drawing.paths;
    const v = firstVerb[first]!;
    if (end - first === 1 && v < firstVerb[end]! && verbs[v] !== LINE && verbs[v] !== CUBIC) {
      const circle = asCircle(outlineAt(drawing.paths, first));
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
    for (let o = first; o < end; o++) this.outline(o);
    out.text(`"${style}/>\n`);
  }

  private outline(o: number): void {
    const { out } = this;
    const { firstVerb, firstCoord, closed, verbs, coords } = this.drawing.paths;
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

  private text({ text, frame, size, font, align }: Words, style: string): void {
    const n = (value: number) => shortNumber(value, this.digits);
    const [family, weight] = FAMILIES[font];
    const [a, b, c, d, e, f] = frame;
    const turned: Matrix = [a, -b, -c, d, e, this.height - f];
    const upright = Math.abs(a - 1) + Math.abs(b) + Math.abs(c) + Math.abs(d - 1) < 1e-9;
    const place = upright
      ? ` x="${n(e)}" y="${n(this.height - f)}"`
      : ` transform="matrix(${turned.map((value) => shortNumber(value, 6)).join(' ')})"`;
    const anchor = align === 'start' ? '' : ` text-anchor="${align}"`;
    this.out.text(
      `<text xml:space="preserve"${place} font-family="${family}"${weight} font-size="${n(size)}"${anchor}${style}>${escape(text)}</text>\n`,
    );
  }
}

function styleText({ fill, fillRule, stroke, strokeWidth, opacity }: DisplayStyle, digits: number): string {
  let text = ` fill="${fill ?? 'none'}"`;
  if (fill && fillRule === 'evenodd') text += ' fill-rule="evenodd"';
  if (stroke) text += ` stroke="${stroke}" stroke-width="${shortNumber(strokeWidth, digits)}"`;
  if (opacity < 1) text += ` opacity="${shortNumber(opacity, 4)}"`;
  return text;
}
