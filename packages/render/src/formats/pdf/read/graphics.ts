import { type Stencil, painted } from './stencils';
import { type CarriedFonts } from './carried';
import {
  type Blend,
  MITER_LIMIT,
  type MaskKind,
  type Matrix,
  Tally,
  identity,
  multiply,
  penUnder,
  translation,
} from '@inkwell-twin/core';
import { BLEND_NAMES } from '../content';
import {
  type Clipping,
  type GroupNode,
  type Node,
  type PathNode,
  type PictureNode,
  type ReadPaint,
  type ReadPattern,
  type ReadStyle,
  type ShadeNode,
  type TextNode,
  group,
} from './nodes';
import { type Args, CAPS, JOINS, matrixOf } from './handlers';
import { NEUTRAL_STATE } from './neutral';
import type { RawInstructions } from './open';
import { PAINTING, closed } from './painting';
import { gradientOf, veiled } from './paints';
import { OpenLine } from './words';
import { type Box, type ReadShading, boxOfPacked, isDrawn, isShading, shadedOver } from './shaded';
import { type State, UNDER_NOTHING, freshState } from './state';

/** What instructions of one file share. */
interface Around {
  readonly tally: Tally;
  readonly nameOf: (operator: number) => string;
  readonly layers: ReadonlyMap<string, { readonly name: string; readonly visible: boolean }>;
  /** Fonts of the file that letters become outlines of; null where they stay text. */
  readonly carried?: CarriedFonts | null;
  /** Fonts of the file whose letters are held against those that they are named after; null where the name is enough. */
  readonly letters?: CarriedFonts | null;
  /** What all of it covers. */
  readonly page: Box;
  /** Fonts, pictures and patterns that the page's instructions name, found before. */
  readonly named: ReadonlyMap<string, unknown>;
}

const BLENDS = Object.keys(BLEND_NAMES) as Blend[];

/** What instructions draw but for texts, as a tree in the axes of the board. */
export abstract class Graphics {
  readonly root: GroupNode = group('mark');
  protected state: State;
  private readonly saved: { readonly state: State; readonly depth: number }[] = [];
  /** Groups that are open, inner ones last. */
  protected open: GroupNode[] = [this.root];
  /** Marks that are open: where each began, and the layer that it means. */
  private readonly marks: { readonly layer: string | null; readonly depth: number }[] = [];
  /** Axes that patterns are laid in. */
  private base: Matrix;
  private readonly bases: Matrix[] = [];
  private clipping: Clipping['rule'] | null = null;
  /** The line of words that may go on, where letters are not held against their fonts. */
  protected words: OpenLine | null = null;
  private readonly styles = new Map<string, ReadStyle>();

  /** @param start from the list's own axes to the board's */
  constructor(
    protected readonly around: Around,
    private readonly start: Matrix,
    state?: State,
  ) {
    this.base = start;
    this.state = state ?? freshState(start);
  }

  /** Draws a list of its own, as the cell of a pattern is one. @param page what it covers */
  protected abstract drawnApart(list: RawInstructions, start: Matrix, page: Box): GroupNode;
  /** Takes a font, as a graphics state can name one. */
  abstract font(name: string, size: number): void;

  protected get layer(): string | null {
    for (let i = this.marks.length - 1; i >= 0; i--) if (this.marks[i]!.layer !== null) return this.marks[i]!.layer;
    return null;
  }

  private add(node: Node): void {
    this.open.at(-1)!.nodes.push(node);
    this.words = null;
  }

  private begin(node: GroupNode): void {
    this.add(node);
    this.open.push(node);
  }

  // Saving and restoring: clips that were begun in between end.

  save(): void {
    this.saved.push({ state: { ...this.state }, depth: this.open.length });
  }

  restore(): void {
    const before = this.saved.pop();
    if (!before) return;
    this.state = before.state;
    this.open.length = Math.min(this.open.length, before.depth);
  }

  set(change: Partial<State>): void {
    Object.assign(this.state, change);
  }

  transform(matrix: Matrix): void {
    this.state.ctm = multiply(this.state.ctm, matrix);
  }

  // Groups and forms

  beginGroup({ smask }: { smask?: { subtype: string; backdrop?: unknown; transferMap?: unknown } | null }): void {
    this.save();
    const { fillOpacity, strokeOpacity, blend, mask } = this.state;
    if (smask) {
      // What a mask is made of stands before the instruction that puts it on.
      if (smask.transferMap) this.around.tally.add('soft mask with a curve of its own');
      const made = group('form', { tag: smask.subtype });
      this.open.push(made);
      this.state = { ...freshState(this.state.ctm) };
      return;
    }
    if (Math.abs(fillOpacity - strokeOpacity) > 1e-6) this.around.tally.add('group by two shares of opacity');
    this.begin(group('form', { opacity: fillOpacity, blend, mask }));
    this.set(UNDER_NOTHING);
  }

  endGroup({ smask }: { smask?: unknown }): void {
    const made = this.open[this.saved.at(-1)?.depth ?? 0]!;
    this.restore();
    if (smask) this.pending = { kind: made.tag === 'Alpha' ? 'alpha' : 'luminance', nodes: made.nodes };
  }
  private pending: { readonly kind: MaskKind; readonly nodes: readonly Node[] } | null = null;

  beginForm(matrix: unknown, bbox: unknown): void {
    this.save();
    this.bases.push(this.base);
    if (matrix) this.transform(matrixOf(matrix));
    this.base = this.state.ctm;
    this.beginBox(bbox);
  }

  private beginBox(box: unknown): void {
    if (!box) return;
    const [x0, y0, x1, y1] = box as [number, number, number, number];
    // One that is larger than any drawing cuts nothing off.
    if (Math.min(-x0, -y0, x1, y1) < 50_000)
      this.clip(new Float32Array([0, x0, y0, 1, x1, y0, 1, x1, y1, 1, x0, y1, 4]), 'nonzero');
  }

  endForm(): void {
    this.restore();
    this.base = this.bases.pop() ?? this.base;
  }

  // What lies on the page beside its drawing, as it is to look: in the axes of the page, clipped to its place.

  beginNote(rect: unknown, placed: unknown, matrix: unknown): void {
    // A copy of ours has none.
    if (this.around.letters) this.around.tally.add('note that is drawn');
    this.save();
    this.bases.push(this.base);
    this.state = freshState(this.start);
    this.beginBox(rect);
    for (const one of [placed, matrix]) if (one) this.transform(matrixOf(one));
    this.base = this.state.ctm;
  }

  endNote(): void {
    this.endForm();
  }

  graphicsState(parameters: readonly (readonly [string, unknown])[]): void {
    for (const [key, value] of parameters) {
      if (key === 'ca') this.state.fillOpacity = value as number;
      else if (key === 'CA') this.state.strokeOpacity = value as number;
      else if (key === 'BM') {
        const name = value === 'source-over' ? 'normal' : (value as Blend);
        if (BLENDS.includes(name)) this.state.blend = name;
        else this.around.tally.add(`mixing by ${String(value)}`);
      } else if (key === 'SMask') {
        this.state.mask = value ? this.pending : null;
        this.pending = null;
      } else if (key === 'LW') this.state.width = value as number;
      else if (key === 'LC') this.state.cap = CAPS[value as number] ?? 'butt';
      else if (key === 'LJ') this.state.join = JOINS[value as number] ?? 'miter';
      else if (key === 'ML') this.state.miter = value as number;
      else if (key === 'D') [this.state.dash, this.state.dashOffset] = value as [number[], number];
      else if (key === 'Font') this.font((value as [string, number])[0], (value as [string, number])[1]);
      else if (!NEUTRAL_STATE.has(key)) this.around.tally.add(`graphics state ${key}`);
    }
  }

  // Paints

  paint(which: 'fill' | 'stroke', args: Args): void {
    const found = this.paintOf(args);
    if (typeof found === 'string' && !found.startsWith('#')) {
      this.around.tally.add(found);
      this.state[which] = '#808080';
    } else this.state[which] = found;
  }

  private paintOf(args: Args): ReadPaint {
    if (args[0] === 'Shading') {
      const at = args[2] ? multiply(this.base, matrixOf(args[2])) : this.base;
      const found = this.around.named.get(String(args[1])) ?? [];
      const gradient = gradientOf(found, at);
      return typeof gradient === 'string' && isDrawn(found) ? { kind: 'shading', found, at } : gradient;
    }
    if (args[0] !== 'TilingPattern') return 'paint of an unknown kind';
    const [, , list, matrix, bbox, xStep, yStep, paintType] = args as [
      string,
      unknown,
      RawInstructions,
      unknown,
      readonly number[],
      number,
      number,
      number,
    ];
    const [x0, y0, x1, y1] = bbox as [number, number, number, number];
    if (paintType !== 1) return 'pattern without colours of its own';
    if (x1 - x0 > Math.abs(xStep) * 1.001 || y1 - y0 > Math.abs(yStep) * 1.001) return 'pattern whose cells overlap';
    const [width, height] = [Math.abs(xStep), Math.abs(yStep)];
    if (!(width > 0 && height > 0)) return 'pattern without size';
    const page: Box = [0, 0, x1 - x0, y1 - y0];
    const cell = this.drawnApart(list, translation(-x0, -y0), page);
    const at = multiply(multiply(this.base, matrix ? matrixOf(matrix) : identity), translation(x0, y0));
    return { kind: 'pattern', width, height, at, nodes: cell.nodes, key: '' } satisfies ReadPattern;
  }

  shade(name: string): void {
    const found = this.around.named.get(name) ?? [];
    const gradient = gradientOf(found, this.state.ctm);
    if (typeof gradient === 'string') return this.shadeOver({ kind: 'shading', found, at: this.state.ctm }, gradient);
    const { mask, blend, fillOpacity } = this.state;
    const veil = veilIn(mask);
    const seen = veil && veiled(gradient, veil.gradient);
    const node: Node = { kind: 'shade', gradient: seen || gradient, layer: this.layer };
    const left = seen ? null : mask;
    if (!left && blend === 'normal' && fillOpacity >= 1) this.add(node);
    else this.add(group('form', { mask: left, blend, opacity: fillOpacity, nodes: [node] }));
  }

  /** What no gradient says is a picture, over all that it is clipped to. */
  private shadeOver(shading: ReadShading, words: string): void {
    const clip = this.open.findLast((one) => one.clip)?.clip;
    const area = (clip && boxOfPacked(clip.data, clip.at)) ?? this.around.page;
    const shown = shadedOver(shading, area);
    if (!shown) return this.around.tally.add(words);
    const { picture, at } = shown;
    this.draw({ kind: 'picture', name: '', inline: picture, at, opacity: this.state.fillOpacity, layer: this.layer });
  }

  /** A path that is filled with what no gradient says: the picture of it, clipped to the path, and its line. */
  private drawShaded(node: PathNode, fill: ReadShading): void {
    const area = boxOfPacked(node.data, node.at);
    const shown = area && shadedOver(fill, area);
    if (!shown) return this.around.tally.add('colours over a mesh');
    const { layer, data, at, style } = node;
    const opacity = style.fillOpacity ?? 1;
    const picture: PictureNode = { kind: 'picture', name: '', inline: shown.picture, at: shown.at, opacity, layer };
    this.laid(
      group('clip', { clip: { data, at, rule: style.fillRule ?? 'nonzero' }, nodes: [picture] }),
      this.state.mask,
      this.state.blend,
    );
    if (style.stroke) this.draw<PathNode>({ ...node, style: { ...style, fill: null } });
  }

  /** How something looks now. */
  protected look(filled: boolean, lined: boolean, rule: 'nonzero' | 'evenodd'): ReadStyle {
    const { state } = this;
    const { scale, pen } = lined ? penUnder(state.ctm) : { scale: 1, pen: null };
    const { cap, join, miter, dash, dashOffset, width } = state;
    const dashed = dash.some((length) => length > 0);
    const whole = dash.length % 2 ? [...dash, ...dash] : dash;
    const style: ReadStyle = {
      fill: filled ? state.fill : null,
      ...(filled && rule === 'evenodd' ? { fillRule: rule } : {}),
      ...(filled && state.fillOpacity < 1 ? { fillOpacity: state.fillOpacity } : {}),
      stroke: lined ? state.stroke : null,
      strokeWidth: lined ? width * scale : 0,
      ...(lined && state.strokeOpacity < 1 ? { strokeOpacity: state.strokeOpacity } : {}),
      ...(lined && cap !== 'butt' ? { cap } : {}),
      ...(lined && join !== 'miter' ? { join } : {}),
      ...(lined && miter !== MITER_LIMIT && miter >= 1 ? { miterLimit: miter } : {}),
      ...(lined && dashed ? { dash: whole.map((length) => length * scale), dashOffset: dashOffset * scale } : {}),
      ...(lined && pen ? { pen } : {}),
    };
    // One object for each look: a drawing has few, and many entries.
    if (typeof style.fill === 'object' && style.fill) return style;
    if (typeof style.stroke === 'object' && style.stroke) return style;
    const key = JSON.stringify(style);
    const known = this.styles.get(key);
    if (!known) this.styles.set(key, style);
    return known ?? style;
  }

  /** Adds what is drawn now, under the mask and the blend that are in force. */
  protected draw<N extends PathNode | TextNode | PictureNode>(node: N): N {
    const { mask, blend } = this.state;
    const veil = veilIn(mask);
    if (veil && node.kind !== 'picture') {
      const seen = (paint: ReadPaint | null) =>
        paint && typeof paint === 'object' && paint.kind !== 'pattern' && paint.kind !== 'shading'
          ? veiled(paint, veil.gradient)
          : null;
      const { fill, stroke } = node.style;
      const [inFill, inStroke] = [seen(fill), seen(stroke)];
      if ((inFill || !fill) && (inStroke || !stroke))
        return this.laid({ ...node, style: { ...node.style, fill: inFill, stroke: inStroke } }, null, blend);
    }
    return this.laid(node, mask, blend);
  }

  private laid<N extends Node>(node: N, mask: State['mask'], blend: Blend): N {
    this.add(mask || blend !== 'normal' ? group('form', { mask, blend, nodes: [node] }) : node);
    return node;
  }

  // Paths and clips

  clipNext(rule: Clipping['rule']): void {
    this.clipping = rule;
  }

  private clip(data: Float32Array, rule: Clipping['rule']): void {
    this.begin(group('clip', { clip: { data, at: this.state.ctm, rule } }));
  }

  path(number: number, data: Float32Array | null): void {
    const operator = this.around.nameOf(number);
    const how = PAINTING[operator];
    if (how?.stroke && isShading(this.state.stroke)) this.around.tally.add('line painted with colours over a mesh');
    if (how && data?.length) {
      const style = this.look(how.fill, how.stroke, how.rule);
      const node: PathNode = {
        kind: 'path',
        data: how.close ? closed(data) : data,
        at: this.state.ctm,
        style,
        layer: this.layer,
      };
      if (isShading(style.fill)) this.drawShaded(node, style.fill);
      else this.draw(node);
    } else if (!how && operator !== 'endPath') this.around.tally.add(`instruction ${operator}`);
    if (this.clipping && data) this.clip(data, this.clipping);
    this.clipping = null;
  }

  // Pictures

  picture(name: string, inline: unknown): void {
    const { ctm, fillOpacity } = this.state;
    this.draw({ kind: 'picture', name, inline, at: ctm, opacity: fillOpacity, layer: this.layer });
  }

  private readonly stencils = new Map<string, object | null>();
  /** A stencil, painted through with the colour of areas. @param at where it stands besides */
  stencil(image: Stencil, at: Matrix): void {
    const { ctm, fill, fillOpacity } = this.state;
    if (typeof fill !== 'string') return this.around.tally.add('stencil that more than a colour is painted through');
    const isNamed = typeof image.data === 'string';
    const key = `${isNamed ? String(image.data) : ''} ${fill}`;
    let inline = isNamed ? this.stencils.get(key) : undefined;
    if (inline === undefined) {
      inline = painted(image, isNamed ? this.around.named.get(image.data as string) : image.data, fill);
      if (isNamed) this.stencils.set(key, inline);
    }
    if (!inline) return this.around.tally.add('stencil that can’t be opened');
    this.draw({ kind: 'picture', name: '', inline, at: multiply(ctm, at), opacity: fillOpacity, layer: this.layer });
  }

  unknown(what: string): void {
    this.around.tally.add(what);
  }

  // Marks

  beginMark(tag: string, properties: unknown): void {
    const { type, id } = (properties ?? {}) as { type?: string; id?: string };
    let layer: string | null = null;
    if (tag === 'OC' && type === 'OCG' && id) layer = id;
    else if (tag === 'OC') this.around.tally.add('layers that depend on each other');
    const own = tag === 'OC' ? null : group('mark', { tag });
    if (own) this.begin(own);
    this.marks.push({ layer, depth: own ? this.open.length - 1 : -1 });
  }

  endMark(): void {
    const mark = this.marks.pop();
    if (mark && mark.depth >= 0) this.open.length = Math.min(this.open.length, mark.depth);
  }
}

/** What a mask lets through, where that is one gradient over everything. */
function veilIn(mask: State['mask']): ShadeNode | null {
  const only = mask?.kind === 'luminance' && mask.nodes.length === 1 ? mask.nodes[0]! : null;
  return only?.kind === 'shade' ? only : null;
}
