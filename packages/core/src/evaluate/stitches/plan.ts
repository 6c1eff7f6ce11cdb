import { type Machining, MachiningBuilder } from '../../contracts/machining';
import { type Point, distance } from '../../base/geometry/point';
import type { Sewn } from './sewn';
import type { StitchSettings } from './settings';
import { type Thread, fewChanges } from './threads';
import { evenly } from './ways/along';

/** How far a thread is sewn in where it begins, and before it is cut, mm; and how high a needle is whose thread is cut. */
const [HOLD, CUT] = [0.6, 1];
/** Two stitches in one place hold nothing, mm. */
const SAME = 0.05;

/** A point beside another, towards a third. */
function towards([x, y]: Point, [tx, ty]: Point, by: number): Point {
  const far = Math.hypot(tx - x, ty - y) || 1;
  return [x + (by * (tx - x)) / far, y + (by * (ty - y)) / far];
}

/** Tells a needle what to do: stitch by stitch. */
class Sewer {
  private at: Point | null = null;
  /** The stitch before the last, towards which a thread is sewn in before it is cut. */
  private before: Point | null = null;

  constructor(private readonly out: MachiningBuilder) {}

  private stitch(to: Point): void {
    if (this.at && distance(this.at, to) < SAME) return;
    this.out.go('line', { x: to[0], y: to[1], z: 0 });
    this.before = this.at;
    this.at = to;
  }

  /** The thread is sewn in and cut. */
  cut(): void {
    const { at, before } = this;
    if (!at) return;
    if (before) {
      this.stitch(towards(at, before, HOLD));
      this.stitch(at);
    }
    this.out.go('rapid', { z: CUT });
    this.at = this.before = null;
  }

  /** A chain of stitches; what lies between it and the last is sewn over where it is near. */
  chain(points: readonly Point[], { trimOver, length }: StitchSettings): void {
    const [first, second] = points as [Point, Point];
    if (this.at && distance(this.at, first) > trimOver) this.cut();
    if (this.at) for (const point of evenly([this.at, first], length).slice(1)) this.stitch(point);
    else {
      this.out.go('rapid', { x: first[0], y: first[1], z: CUT });
      this.out.go('line', { x: first[0], y: first[1], z: 0 });
      this.at = first;
      this.stitch(towards(first, second, HOLD));
      this.stitch(first);
    }
    for (const point of points.slice(1)) this.stitch(point);
  }
}

/**
 * What a needle is told to do, stitch by stitch. A move through the air goes to where the next stitch is; a thread that is cut is
 * said by a needle that goes up. Pure.
 * @param threads of each that is sewn
 * @param snap puts a coordinate onto the grid of the file
 */
export function planStitches(
  all: readonly Sewn[],
  threads: readonly Thread[],
  settings: StitchSettings,
  snap: (value: number) => number,
  nameOf: (source: string) => string,
): Machining {
  const out = new MachiningBuilder(snap);
  const sewer = new Sewer(out);
  let now = 0;
  for (const i of settings.order === 'as drawn' ? all.map((_, k) => k) : fewChanges(all, threads)) {
    const { number, colour } = threads[i]!;
    if (number !== now) {
      sewer.cut();
      out.use(number, `Thread ${number}`, colour);
      now = number;
    }
    out.source = all[i]!.source;
    for (const run of all[i]!.runs) sewer.chain(run, settings);
  }
  sewer.cut();
  return out.finish(nameOf);
}
