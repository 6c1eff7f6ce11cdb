import type { Box, DrawnShape, Outline, Point, Segment, Way } from '@inkwell-twin/core/web';

const boxBetween = (a: Point, b: Point): Box => ({
  minX: Math.min(a[0], b[0]),
  minY: Math.min(a[1], b[1]),
  maxX: Math.max(a[0], b[0]),
  maxY: Math.max(a[1], b[1]),
});
const mirrored = (about: Point, of: Point): Point => [2 * about[0] - of[0], 2 * about[1] - of[1]];
const apart = (a: Point, b: Point): number => Math.hypot(a[0] - b[0], a[1] - b[1]);

/** A hand that draws one shape: it is told where it is put down, moved and lifted, and says when the shape is done. */
export class DrawingHand {
  private readonly nodes: { at: Point; out: Point | null }[] = [];
  private start: Point | null = null;
  private now: Point | null = null;
  private down = false;

  constructor(readonly way: Way) {}

  press(at: Point): void {
    this.down = true;
    this.now = at;
    if (this.way === 'line' || this.way === 'curve') this.nodes.push({ at, out: null });
    else this.start = at;
  }

  move(at: Point): void {
    this.now = at;
    const last = this.nodes.at(-1);
    if (this.way === 'curve' && this.down && last) last.out = apart(at, last.at) > 1e-6 ? at : null;
  }

  /** @param near how near two places are the same, mm. @returns the shape where it is done by this */
  lift(at: Point, near: number): DrawnShape | null {
    this.down = false;
    if (this.way === 'spot') return { at };
    if (this.way === 'frame') {
      const box = boxBetween(this.start ?? at, at);
      return box.maxX - box.minX > near && box.maxY - box.minY > near ? { box } : { at };
    }
    const [first, last, before] = [this.nodes[0], this.nodes.at(-1), this.nodes.at(-2)];
    if (!first || !last) return null;
    if (this.nodes.length > 2 && apart(first.at, last.at) <= near) {
      const closing = this.nodes.pop()!;
      return { outline: this.outline(true, closing.out) };
    }
    // The second press of a double one ends the line where the first one was.
    if (before && apart(before.at, last.at) <= near / 4) {
      this.nodes.pop();
      return this.finish();
    }
    return null;
  }

  /** Ends a line that is open. */
  finish(): DrawnShape | null {
    return this.nodes.length > 1 ? { outline: this.outline(false, null) } : null;
  }

  private outline(closed: boolean, closing: Point | null): Outline {
    const nodes = this.nodes;
    const piece = (from: { at: Point; out: Point | null }, to: Point, into: Point | null): Segment =>
      from.out || into ? { kind: 'cubic', c1: from.out ?? from.at, c2: into ?? to, to } : { kind: 'line', to };
    const segments = nodes.slice(1).map((node, i) => piece(nodes[i]!, node.at, node.out && mirrored(node.at, node.out)));
    const first = nodes[0]!;
    if (closed) {
      const into = closing ? mirrored(first.at, closing) : first.out && mirrored(first.at, first.out);
      segments.push(piece(nodes.at(-1)!, first.at, into));
    }
    return { start: first.at, segments, closed };
  }

  /** What stands there so far, with what the hand points at. */
  get shown(): DrawnShape | null {
    if (this.way === 'frame' && this.down && this.start && this.now) return { box: boxBetween(this.start, this.now) };
    if (!this.nodes.length || !this.now) return null;
    const { start, segments } = this.outline(false, null);
    const last = this.nodes.at(-1)!;
    const on: Segment[] = this.down
      ? []
      : [last.out ? { kind: 'cubic', c1: last.out, c2: this.now, to: this.now } : { kind: 'line', to: this.now }];
    return { outline: { start, segments: [...segments, ...on], closed: false } };
  }
}
