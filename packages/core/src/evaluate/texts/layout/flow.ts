import type { Measure } from '../../../document/items';
import type { Item } from '../../../document/schema';
import type { Block, BlockOf, Span } from '../../../document/texts/schema';
import { type Note, isNote } from '../../../document/texts/schema';
import { isItem, numbersOf } from '../lists';
import { type Line, type NoteNumbers, linesOf } from './lines';
import { HANG, LEADING, LOOKS, type RoleLook, STEP, type TypeSetting } from './looks';

/** A place for words on a sheet, mm, y upwards: its left and upper edge. */
export interface Frame {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

/** What a frame came to hold. */
export interface Filled {
  readonly frame: Frame;
  readonly items: readonly Item[];
}

interface FlowSetting {
  readonly type: TypeSetting;
  readonly measure: Measure;
  readonly layer: string;
  /** Height by width of a picture that is kept. */
  readonly shapeOf: (picture: string) => number;
}

/** Something of a fixed height that is not parted: a line, a row, a picture with its caption. */
interface Strip {
  readonly height: number;
  /** Above it, unless it stands at the head of a frame, mm. */
  readonly before: number;
  /** How many strips after it must be in the same frame. */
  readonly keeps: number;
  readonly draw: (left: number, top: number) => Item[];
  /** A new frame begins before it. */
  readonly breaks?: boolean;
  /** What is said again at the head of a frame that goes on with it. */
  readonly head?: Strip;
  /** Which block it is of, and how many words of that stand before it. */
  block: number;
  readonly from: number;
}
type Made = Omit<Strip, 'block' | 'from'> & { readonly from?: number };

/** Room about words in a cell, ems. */
const CELL = 0.35;

/** Words of a heading of a table. */
const inBold = (spans: readonly Span[]): Span[] =>
  spans.map((span) => (isNote(span) ? span : { ...span, marks: [...new Set([...(span.marks ?? []), 'bold' as const])] }));

class Flow {
  private readonly strips: Strip[] = [];

  constructor(
    private readonly width: number,
    private readonly setting: FlowSetting,
    private readonly notes: NoteNumbers,
  ) {}

  private get em(): number {
    return this.setting.type.size;
  }

  private lines(spans: readonly Span[], width: number, look: RoleLook, spreads = false, after = 0): Line[] {
    const { type, measure } = this.setting;
    return linesOf(spans, Math.max(width, this.em), spreads, { look, type, measure, notes: this.notes }, after);
  }

  private stroke(id: string, points: [number, number][], width: number): Item {
    const { layer, type } = this.setting;
    return { kind: 'polyline', id, layer, style: { fill: null, stroke: type.colour, strokeWidth: width }, points, closed: false };
  }

  /** A line of words at a place: `top` is the upper edge of its strip. */
  private drawn(id: string, line: Line, left: number, top: number, size: number): Item[] {
    const { layer, type } = this.setting;
    const base = top - 0.5 * (LEADING - 1) * size - 0.78 * size;
    return line.pieces.flatMap((piece): Item[] => {
      const at = { x: left + piece.x, y: base + piece.up };
      const under = (up: number, y: number): Item =>
        this.stroke(
          id,
          [
            [at.x, y + up * size],
            [at.x + piece.width, y + up * size],
          ],
          0.05 * size,
        );
      return [
        {
          kind: 'text',
          id,
          layer,
          style: { fill: type.colour, stroke: null, strokeWidth: 0 },
          text: piece.text,
          ...at,
          size: piece.size,
          font: piece.font,
          align: 'start',
        },
        ...(piece.underlined ? [under(-0.12, base)] : []),
        ...(piece.struck ? [under(0.26, base)] : []),
      ];
    });
  }

  /** @param ends whether a list ends with it @param after words of it that stand elsewhere already */
  words(block: BlockOf<'words'>, number: number | null, ends: boolean, after: number): void {
    const { em, width } = this;
    const { id, role, spans, align = 'left' } = block;
    const look = LOOKS[role];
    const deep = isItem(block) ? ((block.level ?? 0) + 1) * STEP * em : look.indent * em;
    const room = width - deep - (role === 'quote' ? deep : 0);
    const lines = this.lines(spans, room, look, align === 'justified', after);
    const size = em * look.size;
    const height = size * LEADING;
    const sign = role === 'bullet' ? '•' : number === null ? '' : `${number}.`;
    lines.forEach((line, i) => {
      const shift = align === 'centre' ? (room - line.width) / 2 : align === 'right' ? room - line.width : 0;
      const last = i === lines.length - 1;
      // No line of a paragraph stands alone at the foot or the head of a frame, and a heading stands with what it is one of.
      const keeps = look.font === 'heading' ? (last ? 2 : 1) : lines.length > 2 && (i === 0 || i === lines.length - 2) ? 1 : 0;
      this.push({
        height,
        before: i || after ? 0 : look.before * em,
        keeps,
        from: line.from,
        draw: (left, top) => [
          ...(i === 0 && sign && !after ? this.sign(id, sign, left + deep, top, size) : []),
          ...this.drawn(id, line, left + deep + shift, top, size),
        ],
      });
    });
    this.gap((ends ? LOOKS.body.after : look.after) * em);
  }

  private sign(id: string, sign: string, left: number, top: number, size: number): Item[] {
    const [line] = this.lines([{ text: sign }], this.width, LOOKS.body);
    return this.drawn(id, line!, left - Math.max(HANG * this.em, line!.width + 0.3 * size), top, size);
  }

  /** Room after something; none at the foot of a frame. */
  private gap(after: number): void {
    this.pending = Math.max(this.pending, after);
  }
  private pending = 0;

  private push({ from = 0, ...strip }: Made): void {
    this.strips.push({ ...strip, block: -1, from });
  }

  picture(block: BlockOf<'picture'>, most: number): void {
    const { id, picture, caption } = block;
    const shape = this.setting.shapeOf(picture);
    const lines = this.lines(caption, this.width, LOOKS.caption);
    const captionHeight = lines.length * this.em * LOOKS.caption.size * LEADING;
    const width = Math.min(block.width, this.width, Math.max(5, (most - captionHeight - this.em) / shape));
    const height = width * shape;
    const { layer } = this.setting;
    this.push({
      height,
      before: 0.6 * this.em,
      keeps: lines.length,
      draw: (left, top) => [
        {
          kind: 'picture',
          id,
          layer,
          style: { fill: null, stroke: null, strokeWidth: 0 },
          resource: picture,
          x: left,
          y: top - height,
          width,
          height,
        },
      ],
    });
    this.caption(id, lines, 0.4);
  }

  private caption(id: string, lines: readonly Line[], before: number): void {
    const size = this.em * LOOKS.caption.size;
    lines.forEach((line, i) =>
      this.push({
        height: size * LEADING,
        before: i ? 0 : before * this.em,
        keeps: lines.length - 1 - i,
        draw: (left, top) => this.drawn(id, line, left, top, size),
      }),
    );
    this.gap(LOOKS.caption.after * this.em);
  }

  /** Columns as wide as what they hold asks for, within the width that there is. */
  private columns({ grid, head }: BlockOf<'table'>): number[] {
    const { em, width } = this;
    const pad = 2 * CELL * em;
    const wish = grid[0]!.map((_, c) =>
      grid
        .slice(0, 60)
        .reduce((most, row, r) => Math.max(most, this.measured(head && r === 0 ? inBold(row[c]!) : row[c]!)), 3 * em),
    );
    const sum = wish.reduce((all, one) => all + one + pad, 0);
    if (sum <= width) return wish.map((one) => one + pad);
    // What asks for little gets it; the rest is shared.
    const fair = width / wish.length;
    const small = wish.filter((one) => one + pad <= fair);
    const left = width - small.reduce((all, one) => all + one + pad, 0);
    const large = wish.length - small.length;
    return wish.map((one) => (one + pad <= fair ? one + pad : left / large));
  }
  private measured(spans: readonly Span[]): number {
    const { type, measure } = this.setting;
    const lines = linesOf(spans, 1e6, false, { look: LOOKS.body, type, measure, notes: this.notes });
    return lines.reduce((most, { width }) => Math.max(most, width), 0);
  }

  /** @param after rows of it that stand elsewhere already */
  table(block: BlockOf<'table'>, most: number, after: number): void {
    const { id, caption, grid, head } = block;
    const { em } = this;
    const above = after ? [] : this.lines(caption, this.width, LOOKS.caption);
    const size = em * LOOKS.caption.size;
    above.forEach((line, i) =>
      this.push({
        height: size * LEADING,
        before: i ? 0 : 0.6 * em,
        keeps: above.length - i + 1,
        draw: (left, top) => this.drawn(id, line, left, top, size),
      }),
    );
    const columns = this.columns(block);
    const pad = CELL * em;
    const height = em * LEADING;
    const perFrame = Math.max(1, Math.floor((most - 4 * pad) / height));
    const total = columns.reduce((sum, one) => sum + one, 0);
    let heading: Made | undefined;
    grid.forEach((row, r) => {
      const isHead = head && r === 0;
      const cells = row.map((cell, c) => this.lines(isHead ? inBold(cell) : cell, columns[c]! - 2 * pad + 1e-6, LOOKS.body));
      const lines = Math.max(1, ...cells.map(({ length }) => length));
      // A row that is higher than a frame goes on in the next.
      for (let from = 0; from < lines; from += perFrame) {
        const count = Math.min(perFrame, lines - from);
        const last = from + count >= lines;
        const strip: Made = {
          height: count * height + pad * (last ? 2 : 1),
          before: r === 0 && from === 0 ? 0.4 * em : 0,
          keeps: isHead && last ? 1 : 0,
          draw: (left, top) => {
            let x = left;
            const items = cells.flatMap((cell, c) => {
              const at = x + pad;
              x += columns[c]!;
              return cell.slice(from, from + count).flatMap((line, i) => this.drawn(id, line, at, top - pad - i * height, em));
            });
            const y = top - count * height - 2 * pad;
            return last
              ? [
                  ...items,
                  this.stroke(
                    id,
                    [
                      [left, y],
                      [left + total, y],
                    ],
                    isHead ? 0.35 : 0.15,
                  ),
                ]
              : items;
          },
          ...(heading && !isHead ? { head: { ...heading, block: -1, from: 0 } } : {}),
        };
        if (isHead && last && from === 0) heading = strip;
        if (r >= after) this.push({ ...strip, from: r });
      }
    });
    this.gap(1.1 * em);
  }

  breaks({ id, of }: BlockOf<'break'>): void {
    if (of === 'page') this.push({ height: 0, before: 0, keeps: 0, draw: () => [], breaks: true });
    else {
      const { width, em } = this;
      this.push({
        height: em,
        before: 0.6 * em,
        keeps: 0,
        draw: (left, top) => [
          this.stroke(
            id,
            [
              [left, top - em / 2],
              [left + width, top - em / 2],
            ],
            0.2,
          ),
        ],
      });
      this.gap(0.6 * em);
    }
  }

  /** Strips of a block with the room before them settled: what follows on something stands off by the larger of what both ask for. */
  take(block: number, add: () => void): void {
    const [at, before] = [this.strips.length, this.pending];
    this.pending = 0;
    add();
    const first = this.strips[at];
    if (first) this.strips[at] = { ...first, before: Math.max(first.before, before) };
    else this.pending = before;
    for (let k = at; k < this.strips.length; k++) this.strips[k]!.block = block;
  }

  get all(): readonly Strip[] {
    return this.strips;
  }
}

/** A text with its notes as blocks at its end, and the numbers of those. */
function withNotes(blocks: readonly Block[]): { all: readonly Block[]; notes: NoteNumbers } {
  const notes = new Map<Note, number>();
  for (const block of blocks) {
    const spans =
      block.block === 'words'
        ? block.spans
        : block.block === 'table'
          ? [block.caption, ...block.grid.flat()].flat()
          : 'caption' in block
            ? block.caption
            : [];
    for (const span of spans) if (isNote(span)) notes.set(span, notes.size + 1);
  }
  if (!notes.size) return { all: blocks, notes };
  const own = [...notes].map(([{ note }, number]): Block => ({
    id: `note-${number}`,
    block: 'words',
    role: 'body',
    spans: [{ text: `${number}  ` }, ...note],
  }));
  return { all: [...blocks, { id: 'notes', block: 'break', of: 'line' }, ...own], notes };
}

/** What found its place, and what did not. */
export interface Flowed {
  readonly filled: Filled[];
  /** Lines, rows and pictures that found no place. */
  readonly left: number;
}

/**
 * Fills frames with a text, one after the other; notes stand at its end. Where a frame is wider or narrower than the one before, lines
 * are broken anew from there.
 * @param frames in the order in which they are filled; as many as are asked for
 */
export function flowText(blocks: readonly Block[], frames: Iterable<Frame>, setting: FlowSetting): Flowed {
  const source = frames[Symbol.iterator]();
  const first = source.next();
  if (first.done) return { filled: [], left: blocks.length };
  const { all, notes } = withNotes(blocks);
  const numbers = numbersOf(all);
  /** Strips for a frame, from a place in the text on. */
  const stripsFor = ({ width, height }: Frame, from: number, words: number): readonly Strip[] => {
    const flow = new Flow(width, setting, notes);
    for (let i = from; i < all.length; i++)
      flow.take(i, () => {
        const [block, next] = [all[i]!, all[i + 1]];
        if (block.block === 'words')
          flow.words(block, numbers[i]!, isItem(block) && !(next && isItem(next)), i === from ? words : 0);
        else if (block.block === 'picture') flow.picture(block, height);
        else if (block.block === 'table') flow.table(block, height, i === from ? words : 0);
        else flow.breaks(block);
      });
    return flow.all;
  };
  let strips = stripsFor(first.value, 0, 0);
  const filled: { frame: Frame; items: Item[] }[] = [{ frame: first.value, items: [] }];
  let { width } = first.value;
  let down = 0;
  let [fresh, at] = [true, 0];
  for (; at < strips.length; at++) {
    let strip = strips[at]!;
    let { frame, items } = filled.at(-1)!;
    let need = strip.before + strip.height;
    for (let k = 1; k <= strip.keeps && at + k < strips.length; k++) need += strips[at + k]!.before + strips[at + k]!.height;
    if (fresh) need -= strip.before;
    const room = frame.height - down + 1e-9;
    const together = need <= frame.height;
    if (!fresh && (strip.breaks || (together ? need : strip.before + strip.height) > room)) {
      const next = source.next();
      if (next.done) break;
      filled.push({ frame: next.value, items: [] });
      ({ frame, items } = filled.at(-1)!);
      down = 0;
      fresh = true;
    }
    if (strip.breaks) continue;
    const begins = at === 0 || strips[at - 1]!.block !== strip.block;
    const goesOn = all[strip.block]!.block === 'words' || (all[strip.block]!.block === 'table' && strip.from > 0);
    if (Math.abs(frame.width - width) > 1e-6 && (begins || goesOn)) {
      strips = stripsFor(frame, strip.block, begins ? 0 : strip.from);
      width = frame.width;
      at = 0;
      if (!strips.length) break;
      strip = strips[0]!;
    }
    if (fresh && strip.head && filled.length > 1) {
      items.push(...strip.head.draw(frame.left, frame.top));
      down += strip.head.height;
      fresh = false;
    }
    down += fresh || down === strip.head?.height ? 0 : strip.before;
    items.push(...strip.draw(frame.left, frame.top - down));
    down += strip.height;
    fresh = false;
  }
  return { filled, left: Math.max(0, strips.length - at) };
}
