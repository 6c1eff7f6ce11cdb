import { Growing } from '../base/bytes/growing';
import { SourceList } from './source-list';

/** How a machine goes to a place: through the air, or working along a line or an arc. */
export const MOTIONS = ['rapid', 'line', 'clockwise', 'anticlockwise'] as const;
export type Motion = (typeof MOTIONS)[number];

/** A tool as a machine file knows it. */
export interface NumberedTool {
  readonly number: number;
  readonly name: string;
  /** Of a thread, `#rrggbb`. */
  readonly colour?: string;
}

/** What a machine with tools that go up and down does, move by move, in order. Lengths in mm, z 0 on the face of the stock. */
export interface Machining {
  readonly tools: readonly NumberedTool[];
  /** Moves. */
  readonly count: number;
  /** Of each move, by its place in `MOTIONS`. */
  readonly motion: Uint8Array;
  /** x, y, z where each move ends; a number that is not known yet is NaN. */
  readonly ends: Float64Array;
  /** x, y of the centre of each arc; NaN for others. */
  readonly centres: Float64Array;
  /** mm/min; NaN for moves through the air. */
  readonly feed: Float64Array;
  /** Turns a minute while it moves; 0 while nothing turns. */
  readonly spindle: Float64Array;
  /** Of each move: its tool, by its place in `tools`. */
  readonly tool: Uint32Array;
  /** Of each move: the master's object, by its place in `sources`; -1 for what is between objects and in what was read. */
  readonly source: Int32Array;
  readonly sources: readonly string[];
  /** What people call each of `sources`, for notes in a file; none in what was read. */
  readonly names: readonly string[];
}

/** A place of a tool, mm. */
export type Place = readonly [x: number, y: number, z: number];

/** Takes in what a machine does, move by move. */
export class MachiningBuilder {
  private readonly tools: NumberedTool[] = [];
  private readonly motion = new Growing(Uint8Array);
  private readonly ends = new Growing(Float64Array);
  private readonly centres = new Growing(Float64Array);
  private readonly feeds = new Growing(Float64Array);
  private readonly spindles = new Growing(Float64Array);
  private readonly toolOf = new Growing(Uint32Array);
  private readonly sourceOf = new Growing(Int32Array);
  private readonly sources = new SourceList();
  private current = 0;
  /** The object that is being worked. */
  source: string | undefined;
  spindle = 0;
  /** Where the last move ended. */
  at: Place = [NaN, NaN, NaN];

  /** @param snap puts a coordinate onto the grid that a file can state */
  constructor(private readonly snap: (value: number) => number = (value) => value) {}

  use(number: number, name: string, colour?: string): void {
    const known = this.tools.findIndex((tool) => tool.number === number);
    this.current = known >= 0 ? known : this.tools.push({ number, name, ...(colour ? { colour } : {}) }) - 1;
  }

  get count(): number {
    return this.motion.length;
  }

  /**
   * Adds a move. Coordinates that are left out stay. One that goes nowhere is none.
   * @param feed mm/min, for all but moves through the air
   * @param centre of an arc
   */
  go(motion: Motion, to: Partial<{ x: number; y: number; z: number }>, feed = NaN, centre?: readonly [number, number]): void {
    const [fx, fy, fz] = this.at;
    const place: Place = [
      to.x === undefined ? fx : this.snap(to.x),
      to.y === undefined ? fy : this.snap(to.y),
      to.z === undefined ? fz : this.snap(to.z),
    ];
    const still = Object.is(place[0], fx) && Object.is(place[1], fy) && Object.is(place[2], fz);
    if (still && !centre) return;
    this.motion.push(MOTIONS.indexOf(motion));
    for (const value of place) this.ends.push(value);
    // Centres are stated from where an arc begins.
    this.centres.push(centre ? fx + this.snap(centre[0] - fx) : NaN);
    this.centres.push(centre ? fy + this.snap(centre[1] - fy) : NaN);
    this.feeds.push(motion === 'rapid' ? NaN : feed);
    this.spindles.push(this.spindle);
    this.toolOf.push(this.current);
    this.sourceOf.push(this.sources.numberOf(this.source));
    this.at = place;
  }

  /** @param nameOf what people call an object */
  finish(nameOf: (source: string) => string = () => ''): Machining {
    const tool = this.toolOf.taken();
    return {
      tools: this.tools.length ? this.tools : [{ number: 0, name: '' }],
      count: this.motion.length,
      motion: this.motion.taken(),
      ends: this.ends.taken(),
      centres: this.centres.taken(),
      feed: this.feeds.taken(),
      spindle: this.spindles.taken(),
      tool,
      source: this.sourceOf.taken(),
      sources: this.sources.names,
      names: this.sources.names.map(nameOf),
    };
  }
}
