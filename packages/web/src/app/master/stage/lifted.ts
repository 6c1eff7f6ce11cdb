import type { Matrix } from '@inkwell-twin/core/web';
import { type Scene, paintScene } from './scene';
import type { View } from './view';

type Context = CanvasRenderingContext2D;
/** Entries from the first number to before the second. */
type Range = readonly [from: number, to: number];

/** Entries that may be painted one by one in every frame. */
const DIRECT = 800;

/** What all depends on: as long as each is the same, what lies still is painted once. */
interface Held {
  readonly contents: unknown;
  readonly selection: unknown;
  readonly highlighted: unknown;
  readonly view: View;
}

/** Which ranges lie still beneath and above what moves, and which move. */
interface Lift {
  readonly below: readonly Range[];
  readonly moving: readonly Range[];
  readonly above: readonly Range[];
  /** Whether all of what moves moves as one, so that a painting of it can be moved in its place. */
  readonly asOne: boolean;
}

const length = (ranges: readonly Range[]): number => ranges.reduce((sum, [from, to]) => sum + to - from, 0);

/**
 * Takes apart what moves and what lies still. What is laid down as one (a span) stays together. Where more lies between things
 * that move than can be painted in a frame, it counts as beneath them until they are let go.
 */
export function liftOf({ count, spans }: Pick<Scene, 'count' | 'spans'>, moves: (at: number) => boolean): Lift {
  const units: { range: Range; moving: boolean; whole: boolean }[] = [];
  let span = 0;
  for (let at = 0; at < count;) {
    while (span < spans.length && spans[span]!.first < at) span++;
    const end = spans[span]?.first === at ? spans[span]!.end : at + 1;
    let moving = 0;
    for (let i = at; i < end; i++) moving += Number(moves(i));
    const last = units.at(-1);
    const unit = { range: [at, end] as Range, moving: moving > 0, whole: moving === end - at };
    if (last && last.moving === unit.moving && last.whole === unit.whole) last.range = [last.range[0], end];
    else units.push(unit);
    at = end;
  }
  const [first, last] = [units.findIndex(({ moving }) => moving), units.findLastIndex(({ moving }) => moving)];
  const ranges = (some: typeof units) => some.map(({ range }) => range);
  const held = units.slice(first, last + 1);
  const asOne = held.every(({ moving, whole }) => !moving || whole);
  const beneath = ranges(units.slice(0, Math.max(first, 0)));
  const above = ranges(units.slice(last + 1));
  if (length(ranges(held)) <= DIRECT) return { below: beneath, moving: ranges(held), above, asOne: false };
  return {
    below: [...beneath, ...ranges(held.filter(({ moving }) => !moving))],
    moving: ranges(held.filter(({ moving }) => moving)),
    above,
    asOne,
  };
}

/**
 * Paints a board while some of it moves: what lies still beneath and above it is painted once and kept, what moves is painted
 * in every frame, or once too and then moved, where it is much.
 */
export class Lifted {
  private held: Held | null = null;
  private lift: Lift | null = null;
  private readonly paintings = new Map<'below' | 'above' | 'moving', HTMLCanvasElement>();

  /**
   * @param scene the board with what moves under the map given; with none it lies where it lay
   * @param ground paints what is beneath everything
   * @param axes sets the axes of the board
   */
  paint(
    context: Context,
    now: Held,
    scene: (map: Matrix | null) => Scene,
    moves: (at: number) => boolean,
    map: Matrix,
    ground: (own: Context) => void,
    axes: (own: Context) => void,
  ): void {
    const same = this.held && (Object.keys(now) as (keyof Held)[]).every((key) => this.held![key] === now[key]);
    if (!same || this.paintings.get('below')?.width !== context.canvas.width)
      this.keep(context, now, scene(null), moves, ground, axes);
    const { moving, asOne } = this.lift!;
    this.lay(context, 'below');
    if (asOne && length(moving) > DIRECT) {
      axes(context);
      const on = context.getTransform();
      this.lay(context, 'moving', on.multiply(new DOMMatrix([...map])).multiply(on.inverse()));
    } else {
      axes(context);
      const moved = scene(map);
      for (const [from, to] of moving) paintScene(context, moved, from, to);
    }
    this.lay(context, 'above');
  }

  private keep(
    context: Context,
    now: Held,
    scene: Scene,
    moves: (at: number) => boolean,
    ground: (own: Context) => void,
    axes: (own: Context) => void,
  ): void {
    this.held = now;
    this.lift = liftOf(scene, moves);
    const { below, moving, above, asOne } = this.lift;
    const onto = (name: 'below' | 'above' | 'moving', ranges: readonly Range[], before?: (own: Context) => void) => {
      const canvas = this.paintings.get(name) ?? document.createElement('canvas');
      this.paintings.set(name, canvas);
      // Setting its size empties it.
      [canvas.width, canvas.height] = [context.canvas.width, context.canvas.height];
      const own = canvas.getContext('2d')!;
      before?.(own);
      axes(own);
      for (const [from, to] of ranges) paintScene(own, scene, from, to);
    };
    onto('below', below, ground);
    onto('above', above);
    if (asOne) onto('moving', moving);
  }

  private lay(context: Context, name: 'below' | 'above' | 'moving', by = new DOMMatrix()): void {
    const canvas = this.paintings.get(name);
    if (!canvas) return;
    context.setTransform(by);
    context.drawImage(canvas, 0, 0);
  }

  /** Lets go of what was kept. */
  drop(): void {
    this.held = null;
    this.paintings.clear();
  }
}
