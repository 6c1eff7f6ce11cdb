import {
  ARC,
  ARC_CLOCKWISE,
  ByteWriter,
  CUBIC,
  type ClipShape,
  type DisplayStyle,
  type Drawing,
  LINE,
  type Outline,
  MITER_LIMIT,
  type Matrix,
  PDF_DIGITS,
  type Paths,
  PathStore,
  type PlacedGradient,
  type PlacedPaint,
  type Span,
  type Words,
  apply,
  arcToCubics,
  identity,
  inversePen,
  invert,
  isPicture,
  isPlain,
  outlineAt,
  penMatrix,
  shortNumber,
} from '@inkwell-twin/core';
import type { PdfFile } from './file';
import { isVeiled, patternOf, rgb, shadingOf } from './paints';

/** Names of blends (ISO 32000-1, 11.3.5). */
export const BLEND_NAMES: Readonly<Record<Span['blend'], string>> = {
  normal: 'Normal',
  multiply: 'Multiply',
  screen: 'Screen',
  overlay: 'Overlay',
  darken: 'Darken',
  lighten: 'Lighten',
  'color-dodge': 'ColorDodge',
  'color-burn': 'ColorBurn',
  'hard-light': 'HardLight',
  'soft-light': 'SoftLight',
  difference: 'Difference',
  exclusion: 'Exclusion',
  hue: 'Hue',
  saturation: 'Saturation',
  color: 'Color',
  luminosity: 'Luminosity',
};
/** What is drawn in two steps and is one thing; a picture of which a part is shown. */
export const ONE_SHAPE = 'OneShape';
export const CROPPED = 'Cropped';

const CAPS = { butt: 0, round: 1, square: 2 } as const;
const JOINS = { miter: 0, round: 1, bevel: 2 } as const;

/** States that are kept within each other in one stream, less a few for what is drawn there. */
const DEEPEST = 24;

/** Entries that are seen through at most this much are laid down as one where both fill and line show. */
const through = (style: DisplayStyle): boolean => style.fill !== null && style.stroke !== null && style.opacity < 1;

/**
 * Writes what a drawing says as a content stream: millimetres, y upwards.
 * Pictures must have been put into the file before.
 */
export class Content {
  private out = new ByteWriter();
  /** What the graphics state is known to be: only changes are written. */
  private now: Record<string, string> = {};
  private readonly saved: Record<string, string>[] = [];

  /** @param space from millimetres to the axes that patterns are laid in: those of the page or form */
  constructor(
    private readonly file: PdfFile,
    private readonly drawing: Drawing,
    private readonly space: Matrix,
    /** Names of pictures among the resources. */
    private readonly pictures: ReadonlyMap<string, string>,
    private readonly layered = true,
  ) {}

  /** @param before what the stream begins with */
  page(before: string): Uint8Array {
    this.out.text(before);
    this.entries(0, this.drawing.count, 0, this.layered);
    return this.out.bytes();
  }

  /** A part of a drawing, or something it is painted with. */
  private inside(drawing: Drawing, write: (content: Content) => void): Uint8Array {
    const content = new Content(this.file, drawing, identity, this.pictures, this.layered);
    write(content);
    return content.out.bytes();
  }

  private cell(name: string): Uint8Array {
    const drawing = this.drawing.cells[name]!;
    return this.inside(drawing, (content) => content.entries(0, drawing.count, 0, false));
  }

  private op(text: string): void {
    this.out.text(`${text}\n`);
  }

  private save(): void {
    this.op('q');
    this.saved.push({ ...this.now });
  }

  private restore(): void {
    this.op('Q');
    this.now = this.saved.pop()!;
  }

  private set(what: string, text: string): void {
    if (this.now[what] === text) return;
    this.now[what] = text;
    this.op(text);
  }

  /**
   * Writes entries, span by span.
   * @param span the first span that may begin here
   * @param layered whether layers mean anything
   */
  private entries(first: number, end: number, span: number, layered: boolean): void {
    const { drawing } = this;
    const { spans } = drawing;
    let layer = -1;
    const onLayer = (next: number) => {
      if (!layered || next === layer) return;
      if (layer >= 0) this.op('EMC');
      if (next >= 0) this.op(`/OC /${this.file.layer(drawing.layers[next]!.name)} BDC`);
      layer = next;
    };
    let at = span;
    for (let i = first; i < end;) {
      const next = spans[at];
      if (next && next.first === i && next.end <= end) {
        // What is on one layer is in it; what holds several stands around theirs.
        let one = true;
        for (let k = i; k < next.end && one; k++) one = drawing.layer[k] === drawing.layer[i];
        onLayer(one ? drawing.layer[i]! : -1);
        this.span(next, at + 1, layered && !one);
        i = next.end;
        while (spans[at] && spans[at]!.first < i) at++;
      } else {
        onLayer(drawing.layer[i]!);
        this.entry(i);
        i++;
      }
    }
    onLayer(-1);
  }

  private span(span: Span, inner: number, layered: boolean): void {
    const { opacity, blend, clip, mask, first, end } = span;
    const { spans } = this.drawing;
    const write = (content: Content) => content.entries(first, end, inner, layered);
    this.save();
    if (clip) this.clip(clip);
    // What mixes with what lies under must not do so beyond a clip (CSS Masking Level 1, 5).
    const mixes = spans.slice(inner).some((one) => one.first < end && one.blend !== 'normal');
    if (opacity >= 1 && blend === 'normal' && !mask && !mixes) {
      // States are kept within each other only so deep (ISO 19005-2, 6.1.13): what lies deeper is a drawing of its own.
      if (this.saved.length < DEEPEST) write(this);
      else {
        this.shares(1, 1);
        this.form(write, null);
      }
    } else {
      this.state({ opacity, blend, mask });
      this.form(write);
    }
    this.restore();
  }

  private state({ opacity, blend, mask }: Pick<Span, 'opacity' | 'blend' | 'mask'>): void {
    const soft = mask && {
      Type: 'Mask',
      S: mask.kind === 'alpha' ? 'Alpha' : 'Luminosity',
      G: this.file.form(this.cell(mask.cell), { I: true, CS: 'DeviceRGB' }),
    };
    this.shares(opacity, opacity);
    if (blend === 'normal' && !soft) return;
    const mixed = { ...(blend === 'normal' ? {} : { BM: BLEND_NAMES[blend] }), ...(soft ? { SMask: soft } : {}) };
    this.op(`/${this.file.state(mixed)} gs`);
  }

  /** What is laid down as one. */
  private form(write: (content: Content) => void, group: object | null = { I: true }): void {
    const form = this.file.form(this.inside(this.drawing, write), group);
    this.op(`/${this.file.put('XObject', form)} Do`);
  }

  private clip([shape]: readonly ClipShape[]): void {
    const store = new PathStore();
    for (const outline of shape?.outlines ?? []) store.add(outline);
    for (let o = 0; o < store.count; o++) this.outline(store, o);
    // Without any area nothing shows.
    if (!store.count) this.out.text('0 0 0 0 re\n');
    this.op(shape?.rule === 'evenodd' ? 'W* n' : 'W n');
  }

  private entry(i: number): void {
    const { drawing } = this;
    const style = drawing.looks[drawing.look[i]!]!;
    if (!through(style)) return this.paint(i, style);
    this.save();
    this.state({ opacity: style.opacity, blend: 'normal', mask: null });
    this.form((content) => content.paint(i, { ...style, opacity: 1 }));
    this.restore();
  }

  private paint(i: number, style: DisplayStyle): void {
    const { drawing } = this;
    const words = drawing.texts[drawing.text[i]!];
    const [first, end] = [drawing.firstOutline[i]!, drawing.firstOutline[i + 1]!];
    if (isPicture(style.fill)) return this.picture(first, style);
    const steps = [...this.steps(style)];
    if (steps.length > 1) this.op(`/${ONE_SHAPE} BMC`);
    for (const step of steps) {
      const veil = isVeiled(step.fill) ? step.fill : isVeiled(step.stroke) ? step.stroke : null;
      if (veil || step.line?.pen) this.save();
      if (veil) this.op(`/${this.veil(veil)} gs`);
      this.look(step);
      if (words) this.text(words, step);
      else this.path(first, end, step);
      if (veil || step.line?.pen) this.restore();
    }
    if (steps.length > 1) this.op('EMC');
  }

  /** Fill and line apart where one is seen through unevenly, or is drawn with a pen of its own. */
  private *steps(style: DisplayStyle): Generator<DisplayStyle> {
    const apart = isVeiled(style.fill) || isVeiled(style.stroke) || style.line?.pen;
    if (!apart || !style.fill || !style.stroke) return yield style;
    const { line: _line, ...filled } = style;
    yield { ...filled, stroke: null, strokeWidth: 0 };
    yield { ...style, fill: null };
  }

  /** A graphics state that lets through what a gradient does. */
  private veil(gradient: PlacedGradient): string {
    const { file } = this;
    return file.once('ExtGState', `veil ${JSON.stringify(gradient)}`, () => {
      const name = file.once('Shading', `veil ${JSON.stringify(gradient)}`, () => shadingOf(file, gradient, true));
      const content = `${gradient.at.map((value) => shortNumber(value, 6)).join(' ')} cm /${name} sh\n`;
      const form = file.form(new TextEncoder().encode(content), { I: true, CS: 'DeviceGray' });
      const made = file.object({ Type: 'ExtGState', SMask: { Type: 'Mask', S: 'Luminosity', G: form } });
      made.end();
      return made;
    });
  }

  /** How much shows of what is filled and of lines: what was never set is whole in a page or form that begins. */
  private shares(ca: number, CA: number): void {
    if ((this.now['shares'] ?? '1 1') === `${ca} ${CA}`) return;
    this.now['shares'] = `${ca} ${CA}`;
    this.op(`/${this.file.state({ ca, CA })} gs`);
  }

  /** Colours, widths and shares. */
  private look(style: DisplayStyle): void {
    const { fill, stroke, strokeWidth, opacity, fillOpacity = 1, strokeOpacity = 1, line } = style;
    this.shares(fill ? opacity * fillOpacity : 1, stroke ? opacity * strokeOpacity : 1);
    if (fill) this.set('fill', this.colour(fill, 'rg', 'scn', '/Pattern cs'));
    if (!stroke) return;
    this.set('stroke', this.colour(stroke, 'RG', 'SCN', '/Pattern CS'));
    const n = (value: number) => shortNumber(value, PDF_DIGITS);
    this.set('width', `${n(strokeWidth)} w`);
    this.set('cap', `${CAPS[line?.cap ?? 'butt']} J`);
    const join = line?.join ?? 'miter';
    this.set('join', `${JOINS[join]} j`);
    this.set('miter', `${n(line?.miterLimit ?? MITER_LIMIT)} M`);
    this.set('dash', `[${(line?.dash ?? []).map(n).join(' ')}] ${n(line?.dashOffset ?? 0)} d`);
  }

  private colour(paint: PlacedPaint, plain: string, pattern: string, space: string): string {
    if (isPlain(paint)) return `${rgb(paint)} ${plain}`;
    if (isPicture(paint)) return '';
    return `${space} /${patternOf(this.file, paint, this.space, (cell) => this.cell(cell))} ${pattern}`;
  }

  private number(value: number): void {
    this.out.number(value, PDF_DIGITS);
    this.out.text(' ');
  }

  private point(x: number, y: number, operator: string): void {
    this.number(x);
    this.number(y);
    this.out.text(operator);
  }

  private path(first: number, end: number, style: DisplayStyle): void {
    const pen = style.line?.pen;
    let { paths } = this.drawing;
    if (pen) {
      // Drawn with a round pen in axes that make it what it is.
      this.op(
        `${penMatrix(pen)
          .map((value) => shortNumber(value, 6))
          .join(' ')} cm`,
      );
      const store = new PathStore();
      for (let o = first; o < end; o++) store.append(paths, o, inversePen(pen));
      [paths, first, end] = [store, 0, store.count];
    }
    for (let o = first; o < end; o++) this.outline(paths, o);
    const odd = style.fillRule === 'evenodd' ? '*' : '';
    this.op(style.fill ? (style.stroke ? `B${odd}` : `f${odd}`) : style.stroke ? 'S' : 'n');
  }

  private outline(paths: Paths, o: number): void {
    const { firstVerb, firstCoord, closed, verbs, coords } = paths;
    for (let v = firstVerb[o]!; v < firstVerb[o + 1]!; v++)
      if (verbs[v] === ARC || verbs[v] === ARC_CLOCKWISE) return this.outline(withoutArcs(outlineAt(paths, o)), 0);
    let at = firstCoord[o]!;
    this.point(coords[at]!, coords[at + 1]!, 'm\n');
    at += 2;
    for (let v = firstVerb[o]!; v < firstVerb[o + 1]!; v++) {
      const verb = verbs[v]!;
      if (verb === LINE) this.point(coords[at]!, coords[at + 1]!, 'l\n');
      else if (verb === CUBIC) {
        this.point(coords[at]!, coords[at + 1]!, '');
        this.point(coords[at + 2]!, coords[at + 3]!, '');
        this.point(coords[at + 4]!, coords[at + 5]!, 'c\n');
        at += 4;
      }
      at += 2;
    }
    if (closed[o]) this.out.text('h\n');
  }

  private text({ text, frame, size, font, spacing = 0 }: Words, { fill, stroke }: DisplayStyle): void {
    const [a, b, c, d, e, f] = frame;
    const matrix = [a, b, c, d].map((value) => shortNumber(value, 6)).join(' ');
    this.set('Tc', `${shortNumber(spacing, PDF_DIGITS)} Tc`);
    this.out.text(`BT ${fill ? (stroke ? 2 : 0) : stroke ? 1 : 3} Tr ${matrix} `);
    this.point(e, f, 'Tm\n');
    let risen = 0;
    for (const { font: name, shown } of this.file.text(font, text)) {
      const runs = shown.map(({ rise, letters }) => {
        const state = rise === risen ? '' : `${shortNumber(rise * size, PDF_DIGITS)} Ts `;
        risen = rise;
        return `${state}${letters} TJ`;
      });
      this.op(`/${name} ${shortNumber(size, PDF_DIGITS)} Tf ${runs.join(' ')}`);
    }
    // What is set within a text goes on after it (ISO 32000-1, 9.3.1).
    if (risen) this.op('0 Ts');
    this.op('ET');
  }

  private picture(outline: number, { fill, opacity }: DisplayStyle): void {
    if (!isPicture(fill)) return;
    const { start, segments } = outlineAt(this.drawing.paths, outline);
    const back = invert(fill.at)!;
    const shares = [start, ...segments.map(({ to }) => to)].map((corner) => apply(back, corner));
    const cropped = shares.some((corner) => corner.some((share) => Math.min(Math.abs(share), Math.abs(share - 1)) > 1e-9));
    if (cropped) this.op(`/${CROPPED} BMC`);
    this.save();
    this.shares(opacity, opacity);
    if (cropped) {
      this.outline(this.drawing.paths, outline);
      this.op('W n');
    }
    const [a, b, c, d, e, f] = fill.at.map((value) => shortNumber(value, 6));
    this.op(`${a} ${b} ${c} ${d} ${e} ${f} cm /${this.pictures.get(fill.picture)!} Do`);
    this.restore();
    if (cropped) this.op('EMC');
  }
}

/** Areas that clip keep their arcs until they are written. */
function withoutArcs({ start, segments, closed }: Outline): Paths {
  const store = new PathStore();
  let from = start;
  const curved = segments.flatMap((segment) => {
    const made = segment.kind === 'arc' ? arcToCubics(from, segment) : [segment];
    from = segment.to;
    return made;
  });
  store.add({ start, segments: curved, closed });
  return store;
}
