import type { MachiningBuilder } from '../../contracts/machining';
import { asCircle } from '../../base/geometry/arcs';
import { flatten } from '../../base/geometry/flatten';
import { boxOfOutlines } from '../../base/geometry/measure';
import type { Outline, Segment } from '../../base/geometry/outline';
import { type Point, distance } from '../../base/geometry/point';
import { type Job, isContour } from './jobs';
import { overcutBy, swivelled } from './knife';
import type { PlanSettings } from './settings';
import { type Way, backwards, beginningAt, walk, wayOf } from './walk';

/** How steeply a tool goes down along its way: one in so many. */
const SLOPE = 12;
/** How near to the stock a tool goes through the air, mm. */
const CLOSE = 1;

/** Does one job with a machine that is at its safe height, and leaves it there. */
export class Worker {
  constructor(
    private readonly out: MachiningBuilder,
    private readonly job: Job,
    private readonly settings: PlanSettings,
  ) {}

  private get tool() {
    return this.job.tool!;
  }
  private get isFlat(): boolean {
    return this.settings.machine.area.depth === 0;
  }
  private get safe(): number {
    return this.isFlat ? 0 : this.settings.machine.safeHeight;
  }

  /** How deep each pass goes, from the face of the stock. */
  private passes(depth: number): number[] {
    const count = this.tool.pass > 0 ? Math.max(1, Math.ceil(depth / this.tool.pass - 1e-9)) : 1;
    return Array.from({ length: count }, (_, i) => -(depth * (i + 1)) / count);
  }

  /** Goes through the air to above a place, and down to the face of the stock. */
  private over([x, y]: Point): void {
    const { out } = this;
    if (!this.isFlat) {
      out.go('rapid', { z: this.safe });
      out.go('rapid', { x, y });
      if (this.safe > CLOSE) out.go('rapid', { z: CLOSE });
      out.go('line', { z: 0 }, this.tool.plunge);
      return;
    }
    out.spindle = 0;
    out.go('rapid', { x, y });
    out.spindle = this.tool.speed;
  }
  private up(): void {
    if (!this.isFlat) this.out.go('rapid', { z: this.safe });
  }

  private piece(segment: Segment, z: number | undefined, feed = this.tool.feed): void {
    const { out, settings, isFlat } = this;
    const [fx, fy, fz] = out.at;
    const [x, y] = segment.to;
    const to = z === undefined || isFlat ? { x, y } : { x, y, z };
    if (segment.kind !== 'arc') return out.go('line', to, feed);
    if (settings.arcs === true) return out.go(segment.clockwise ? 'clockwise' : 'anticlockwise', to, feed, segment.centre);
    const flat = flatten({ start: [fx, fy], segments: [segment], closed: false }, settings.arcs);
    const count = flat.length / 2 - 1;
    for (let i = 1; i <= count; i++) {
      const at = { x: flat[2 * i]!, y: flat[2 * i + 1]! };
      out.go('line', to.z === undefined ? at : { ...at, z: fz + ((to.z - fz) * i) / count }, feed);
    }
  }
  private sink(z: number): void {
    if (!this.isFlat) this.out.go('line', { z }, this.tool.plunge);
  }

  /** Does a way, however many passes it takes. @param all whether the last pass is the only one */
  do(outline: Outline, all = false): void {
    const circle = this.job.process === 'drill' ? asCircle(outline, 1e-3) : undefined;
    if (circle) return this.drill(circle.centre);
    const way = wayOf(this.isKnife ? this.byKnife(outline) : outline);
    if (!(way.length > 0)) return;
    const depths = all ? [-this.job.depth] : this.passes(this.job.depth);
    if (way.closed) this.closed(way, depths);
    else this.open(way, depths);
    this.up();
  }

  private get isKnife(): boolean {
    return this.isFlat && this.tool.kind === 'knife';
  }
  /** The way of the axis of a knife along an outline. */
  private byKnife(outline: Outline): Outline {
    const { blade, overcut } = this.settings;
    const whole = overcut > 0 && isContour(this.job.process) ? overcutBy(outline, overcut) : outline;
    return blade > 0 ? swivelled(whole, blade) : whole;
  }

  private drill(centre: Point): void {
    this.over(centre);
    const depths = this.passes(this.job.depth);
    depths.forEach((z, i) => {
      this.sink(z);
      if (this.isFlat || i === depths.length - 1) return;
      this.out.go('rapid', { z: this.safe });
      // Back into its own hole at the feed for going down: chips may lie there.
      this.sink(Math.min(0, z));
    });
    this.up();
  }

  private open(way: Way, depths: readonly number[]): void {
    this.over(way.points[0]!);
    const back = wayOf(backwards({ start: way.points[0]!, segments: way.segments, closed: false }));
    let above = 0;
    depths.forEach((z, i) => {
      const [there, again] = i % 2 ? [back, way] : [way, back];
      if (this.settings.entry === 'ramp' && !this.isFlat) {
        const length = Math.min(there.length, (above - z) * SLOPE);
        for (const { segment, to } of walk(there, 0, length)) this.piece(segment, above + ((z - above) * to) / length);
        // Back over what the ramp left standing, and then all of it.
        for (const { segment } of walk(again, again.length - length, again.length)) this.piece(segment, z);
      } else this.sink(z);
      for (const { segment } of walk(there, 0, there.length)) this.piece(segment, z);
      above = z;
    });
  }

  private closed(way: Way, depths: readonly number[]): void {
    const lead = this.leadOf(way);
    if (lead) return this.withLead(way, depths, lead);
    this.over(way.points[0]!);
    const { length } = way;
    const ramps = this.settings.entry === 'ramp' && !this.isFlat;
    let [above, at, left] = [0, 0, 0];
    for (const z of depths) {
      // Round and round where the way is short: never steeper.
      const ramp = ramps ? (above - z) * SLOPE : 0;
      if (ramps) this.along(way, at, at + ramp, above, z);
      else this.sink(z);
      const rest = Math.max(0, length - ramp);
      this.along(way, at + ramp, at + ramp + rest, z, z);
      at += ramp + rest;
      // What a ramp left standing is gone over by the next one; the last goes over it itself.
      left = Math.min(length, ramp);
      above = z;
    }
    this.along(way, at, at + left, above, above);
  }

  /** Goes along a way while the height changes evenly, over the bridges. */
  private along(way: Way, from: number, to: number, z0: number, z1: number): void {
    if (to - from < 1e-9) return;
    const { out } = this;
    const bridges = this.bridges(way);
    const top = -(this.settings.machine.stock.thickness - this.settings.tabHeight);
    const first = Math.floor((from + 1e-9) / way.length);
    const rounds = bridges.length ? Math.ceil((to - from) / way.length) + 1 : 0;
    const cuts = Array.from({ length: rounds }, (_, i) => (first + i) * way.length).flatMap((round) =>
      bridges.flat().map((cut) => round + cut),
    );
    for (const { segment, to: end } of walk(way, from, to, cuts)) {
      const z = z0 + ((z1 - z0) * (end - from)) / (to - from);
      const inside = (((end - 1e-6) % way.length) + way.length) % way.length;
      const isBridge = bridges.some(([first, last]) => inside > first && inside < last);
      const height = isBridge ? Math.max(z, top) : z;
      const [, , before] = out.at;
      if (isBridge && before < height) this.sink(height);
      if (!isBridge && before > height && z0 === z1) this.sink(height);
      this.piece(segment, height);
    }
  }

  /** Where on a closed way bridges stand: from where to where, mm from its beginning. */
  private bridges(way: Way): [number, number][] {
    const { tabLength, tabHeight, machine } = this.settings;
    if (!this.job.tabs || !(tabHeight > 0) || this.isFlat || !isContour(this.job.process)) return [];
    const wide = tabLength + this.tool.diameter;
    // Not more than leave half of the outline cut.
    const count = Math.min(this.job.tabs, Math.floor(way.length / (2 * wide)));
    if (tabHeight >= machine.stock.thickness) return [];
    return Array.from({ length: count }, (_, i) => {
      const middle = ((i + 0.5) * way.length) / count;
      return [middle - wide / 2, middle + wide / 2];
    });
  }

  /** Where a closed way is come to and left by an arc; null where there is no room, or none is wanted. */
  private leadOf(way: Way): { from: Point; to: Point; ins: Segment; outs: Segment } | null {
    const { lead } = this.settings;
    if (!(lead > 0) || this.job.side === 'on the line' || !isContour(this.job.process)) return null;
    const start = way.points[0]!;
    const [tx, ty] = headingOf(start, way.segments[0]!);
    const clockwise = isClockwise(way);
    // Away from the part: outside of it, or into its hole.
    const left = (this.job.side === 'outside') === clockwise;
    const [nx, ny] = left ? [-ty, tx] : [ty, -tx];
    const centre: Point = [start[0] + nx * lead, start[1] + ny * lead];
    const from: Point = [centre[0] - tx * lead, centre[1] - ty * lead];
    const to: Point = [centre[0] + tx * lead, centre[1] + ty * lead];
    if (this.job.side === 'inside') {
      const room = boxOfOutlines([{ start, segments: way.segments, closed: true }]);
      if (Math.min(room.maxX - room.minX, room.maxY - room.minY) < 3 * lead) return null;
    }
    return {
      from,
      to,
      ins: { kind: 'arc', to: start, centre, clockwise: !left },
      outs: { kind: 'arc', to, centre, clockwise: !left },
    };
  }

  private withLead(way: Way, depths: readonly number[], { from, ins, outs }: NonNullable<ReturnType<Worker['leadOf']>>): void {
    this.over(from);
    depths.forEach((z, i) => {
      if (i) this.piece({ kind: 'line', to: from }, undefined);
      this.sink(z);
      this.piece(ins, z);
      this.along(way, 0, way.length, z, z);
      this.piece(outs, z);
    });
  }

  /** Clears a pocket, level by level, from its middle outwards. */
  rings(outlines: readonly Outline[]): void {
    const near = this.tool.diameter;
    let above = 0;
    for (const z of this.passes(this.job.depth)) {
      let last: Point | null = null;
      for (const outline of outlines) {
        const start = last;
        const next = start ? beginningAt(outline, nearestNode(outline, start)) : outline;
        const way = wayOf(next);
        if (!(way.length > 0)) continue;
        if (start && distance(start, way.points[0]!) <= near) this.piece({ kind: 'line', to: way.points[0]! }, z);
        else {
          this.up();
          this.over(way.points[0]!);
          if (above < 0) this.sink(above);
          const ramp = this.settings.entry === 'ramp' ? (above - z) * SLOPE : 0;
          if (ramp > 0) this.along(way, 0, ramp, above, z);
          else this.sink(z);
          this.along(way, ramp, ramp + way.length, z, z);
          last = endOf(way, ramp);
          continue;
        }
        this.along(way, 0, way.length, z, z);
        last = way.points[0]!;
      }
      above = z;
    }
    this.up();
  }
}

const endOf = (way: Way, ramp: number): Point => {
  let at = way.points[0]!;
  for (const { segment } of walk(way, 0, ramp)) at = segment.to;
  return at;
};

/** The point of a closed outline that is nearest to another. */
export function nearestNode(outline: Outline, to: Point): number {
  let [best, least] = [0, distance(outline.start, to)];
  outline.segments.forEach((segment, i) => {
    const far = distance(segment.to, to);
    if (far < least - 1e-9) [best, least] = [i + 1, far];
  });
  return best;
}

/** The direction in which a way sets out. */
function headingOf(from: Point, segment: Segment): Point {
  let [dx, dy] = [segment.to[0] - from[0], segment.to[1] - from[1]];
  if (segment.kind === 'arc') {
    const [rx, ry] = [from[0] - segment.centre[0], from[1] - segment.centre[1]];
    [dx, dy] = segment.clockwise ? [ry, -rx] : [-ry, rx];
  }
  const length = Math.hypot(dx, dy) || 1;
  return [dx / length, dy / length];
}

function isClockwise({ points, segments }: Way): boolean {
  let twice = 0;
  for (let i = 1; i < points.length; i++) twice += points[i - 1]![0] * points[i]![1] - points[i]![0] * points[i - 1]![1];
  if (Math.abs(twice) > 1e-6) return twice < 0;
  const arc = segments.find((one): one is Extract<Segment, { kind: 'arc' }> => one.kind === 'arc');
  return arc?.clockwise ?? false;
}
