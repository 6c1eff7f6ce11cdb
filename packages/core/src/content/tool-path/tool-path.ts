import { SourceList } from '../../contracts/source-list';
import { Growing } from '../../base/bytes/growing';

/** A pen, a knife, a needle of a machine. */
export interface Tool {
  readonly number: number;
  /** "Pen 1". */
  readonly name: string;
}

/**
 * What a machine does, in order: strokes with a tool down, each along a polyline. Between strokes the tool is up.
 * A stroke that comes back to its start ends in the very point it began in.
 */
export interface ToolPath {
  readonly tools: readonly Tool[];
  /** Strokes. */
  readonly count: number;
  /** Of each stroke: its tool, by its place in `tools`. */
  readonly tool: Uint32Array;
  /** Of each stroke: how fast, mm/s; NaN where nothing is said. */
  readonly speed: Float64Array;
  /** count + 1: number of each stroke's first point. */
  readonly firstPoint: Uint32Array;
  /** x, y, x, y … mm. */
  readonly points: Float64Array;
  /** Of each stroke: the master's object, by its place in `sources`; -1 in what was read from a file. */
  readonly source: Int32Array;
  readonly sources: readonly string[];
}

/** Takes in what a machine does, move by move. */
export class ToolPathBuilder {
  private readonly tools: Tool[] = [];
  private readonly toolOf = new Growing(Uint32Array);
  private readonly speedOf = new Growing(Float64Array);
  private readonly first = new Growing(Uint32Array);
  private readonly points = new Growing(Float64Array, 1024);
  private readonly sourceOf = new Growing(Int32Array);
  private readonly sources = new SourceList();

  constructor() {
    this.first.push(0);
  }

  tool(number: number, name: string): number {
    const known = this.tools.findIndex((tool) => tool.number === number);
    return known >= 0 ? known : this.tools.push({ number, name }) - 1;
  }

  /** Adds a point to the stroke that is being made. */
  point(x: number, y: number): void {
    this.points.reserve(this.points.length + 2);
    this.points.data[this.points.length++] = x;
    this.points.data[this.points.length++] = y;
  }

  /** How many points the stroke that is being made has. */
  get begun(): number {
    return this.points.length / 2 - this.first.data[this.first.length - 1]!;
  }

  /** Ends the stroke of the points that came since the last one. @param speed mm/s, NaN where nothing is said */
  stroke(tool: number, speed: number, source?: string): void {
    this.toolOf.push(tool);
    this.speedOf.push(speed);
    this.first.push(this.points.length / 2);
    this.sourceOf.push(this.sources.numberOf(source));
  }

  /** Forgets the points of the stroke that is being made. */
  drop(): void {
    this.points.length = 2 * this.first.data[this.first.length - 1]!;
  }

  finish(): ToolPath {
    const tool = this.toolOf.taken();
    const used = [...new Set(tool)].sort((a, b) => a - b);
    const renumbered = new Map(used.map((old, i) => [old, i]));
    tool.forEach((old, i) => (tool[i] = renumbered.get(old)!));
    return {
      tools: used.map((i) => this.tools[i]!),
      count: tool.length,
      tool,
      speed: this.speedOf.taken(),
      firstPoint: this.first.taken(),
      points: this.points.taken(),
      source: this.sourceOf.taken(),
      sources: this.sources.names,
    };
  }
}

/** The points of a stroke, as they lie. */
export const strokePoints = ({ firstPoint, points }: ToolPath, i: number): Float64Array =>
  points.subarray(2 * firstPoint[i]!, 2 * firstPoint[i + 1]!);
