import { type JobRun, type MachineProfile, type Needle } from '@inkwell-twin/core/web';
import { pointsOf } from '../../content/machining/show';

/** What has been worked: the deeper, the darker. */
const DEPTHS = ['#c9d6e8', '#a5b8d3', '#7f97bb', '#5b769f'] as const;
/** How wide a thread is where nobody says, mm. */
const THREAD = 0.4;

/** Threads as they lie: dark at their sides, with a light along their middle. */
function sewn(context: CanvasRenderingContext2D, path: Path2D, colour: string, width: number): void {
  const layers = [
    { colour, share: 1, shade: 'rgba(0,0,0,0.35)' },
    { colour, share: 0.72, shade: null },
    { colour: 'rgba(255,255,255,0.35)', share: 0.2, shade: null },
  ] as const;
  for (const { colour: stroke, share, shade } of layers) {
    context.lineWidth = width * share;
    context.strokeStyle = stroke;
    context.stroke(path);
    if (!shade) continue;
    context.strokeStyle = shade;
    context.stroke(path);
  }
}
/** So many moves are drawn as one, once all of them are made. */
const CHUNK = 400;

/** How one stretch of a job is drawn. */
interface Stroke {
  readonly path: Path2D;
  /** By its place in `DEPTHS`; -1 through the air. */
  readonly depth: number;
  /** How wide the tool cuts, or the thread is, mm. */
  readonly width: number;
  /** Of the thread; undefined of what cuts. */
  readonly colour: string | undefined;
}

interface JobColours {
  readonly ink: string;
  readonly air: string;
  readonly needle: string;
}

/** Draws a job up to a moment: what is taken away by then, the way of the tool, and what is still to come. */
export class JobPainter {
  private readonly deepest: number;
  private readonly chunks: (readonly Stroke[])[] = [];
  private readonly widths: readonly number[];

  constructor(
    private readonly run: JobRun,
    machine: MachineProfile | null,
  ) {
    const { tools } = run.moves;
    this.deepest = Math.min(0, run.extents?.min[2] ?? 0);
    this.widths = tools.map(({ number }) => machine?.tools.find((one) => one.number === number)?.diameter ?? 0);
  }

  /** How wide the tool of a move cuts, mm. */
  widthOf = (move: number): number => this.widths[this.run.moves.tool[move]!] ?? 0;

  private colourOf = (move: number): string | undefined => this.run.moves.tools[this.run.moves.tool[move]!]!.colour;

  private depthOf(move: number): number {
    const { motion, ends } = this.run.moves;
    if (!motion[move]) return -1;
    const low = Math.min(ends[3 * move + 2]!, move ? ends[3 * move - 1]! : 0);
    const share = this.deepest < 0 ? low / this.deepest : 1;
    return Math.min(DEPTHS.length - 1, Math.max(0, Math.floor((share || 0) * DEPTHS.length)));
  }

  /** Moves from one to another as few strokes: those alike that follow each other are one. */
  private strokes(from: number, to: number): Stroke[] {
    const made: Stroke[] = [];
    for (let i = from; i < to; i++) {
      const points = pointsOf(this.run.moves, i);
      const [depth, width, colour] = [this.depthOf(i), this.widthOf(i), this.colourOf(i)];
      let last = made.at(-1);
      if (last?.depth !== depth || last.width !== width || last.colour !== colour) {
        made.push((last = { path: new Path2D(), depth, width, colour }));
        last.path.moveTo(points[0]!, points[1]!);
      }
      for (let p = 2; p < points.length; p += 2) last.path.lineTo(points[p]!, points[p + 1]!);
    }
    return made;
  }

  private chunk(number: number): readonly Stroke[] {
    const first = number * CHUNK;
    return (this.chunks[number] ??= this.strokes(first, Math.min(first + CHUNK, this.run.moves.count)));
  }

  /** All strokes of the moves before one. */
  private *until(move: number): Generator<Stroke> {
    const whole = Math.floor(move / CHUNK);
    for (let i = 0; i < whole; i++) yield* this.chunk(i);
    yield* this.strokes(whole * CHUNK, move);
  }

  /** @param scale pixels of the screen a mm; the context has the axes of the bed */
  paint(context: CanvasRenderingContext2D, needle: Needle, scale: number, { ink, air, needle: point }: JobColours): void {
    const { moves } = this.run;
    const hair = 1 / scale;
    context.lineCap = context.lineJoin = 'round';
    // What is still to come lies under all that is done.
    context.strokeStyle = air;
    context.lineWidth = hair;
    for (let i = 0; i * CHUNK < moves.count; i++)
      for (const { path, depth } of this.chunk(i)) if (depth >= 0) context.stroke(path);
    const done = [...this.until(needle.move), ...this.current(needle)];
    // Shallow first: what is deeper was taken away there as well.
    for (let depth = 0; depth < DEPTHS.length; depth++)
      for (const one of done)
        if (one.depth === depth && one.width > 0 && !one.colour) {
          context.strokeStyle = DEPTHS[depth]!;
          context.lineWidth = Math.max(one.width, hair);
          context.stroke(one.path);
        }
    for (const { path, depth, width, colour } of done) {
      if (colour && depth >= 0) {
        sewn(context, path, colour, Math.max(width || THREAD, hair));
        continue;
      }
      context.globalAlpha = depth >= 0 && width > 0 ? 0.55 : 1;
      context.strokeStyle = depth < 0 ? air : ink;
      context.lineWidth = (depth < 0 || width > 0 ? 0.7 : 1.1) * hair;
      context.setLineDash(depth < 0 ? [3 * hair, 3 * hair] : []);
      context.stroke(path);
    }
    context.setLineDash([]);
    context.globalAlpha = 1;
    this.tip(context, needle, hair, point);
  }

  /** What is made of the move that the needle is in. */
  private current({ move, share, place }: Needle): Stroke[] {
    const points = pointsOf(this.run.moves, move);
    const path = new Path2D();
    path.moveTo(points[0]!, points[1]!);
    const steps = points.length / 2 - 1;
    for (let p = 1; p <= Math.floor(share * steps); p++) path.lineTo(points[2 * p]!, points[2 * p + 1]!);
    path.lineTo(place[0], place[1]);
    return [{ path, depth: this.depthOf(move), width: this.widthOf(move), colour: this.colourOf(move) }];
  }

  /** The tool, as wide as it is, with its middle. */
  private tip(context: CanvasRenderingContext2D, { move, place: [x, y] }: Needle, hair: number, colour: string): void {
    context.strokeStyle = context.fillStyle = colour;
    context.lineWidth = 1.5 * hair;
    context.beginPath();
    context.arc(x, y, Math.max(this.widthOf(move) / 2, 5 * hair), 0, 2 * Math.PI);
    context.stroke();
    context.beginPath();
    context.arc(x, y, 2 * hair, 0, 2 * Math.PI);
    context.fill();
  }
}
