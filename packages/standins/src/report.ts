import { createHash } from 'node:crypto';

/** Why a machine would stop, and at which line or byte of its file. */
export interface Alarm {
  readonly at: number;
  readonly words: string;
}

/** What a machine says to a file. */
export interface RunReport {
  readonly machine: string;
  /** Whether it runs to its end. */
  readonly runs: boolean;
  /** SHA-256 of the bytes that it got. */
  readonly sha256: string;
  readonly alarms: readonly Alarm[];
  readonly moves: number;
  /** mm that it works, and mm that it goes without working. */
  readonly worked: number;
  readonly travelled: number;
  readonly seconds: number;
  readonly tools: readonly number[];
  readonly extents: { minX: number; minY: number; minZ: number; maxX: number; maxY: number; maxZ: number } | null;
  /** What it did, as an SVG drawing. */
  readonly picture: string;
  readonly log: readonly string[];
}

/** Alarms after which a machine says no more. */
const ENOUGH = 20;

/** A stretch that a machine goes: from, to, in mm; how fast, mm/s; whether it works. */
interface Stretch {
  readonly points: readonly (readonly [number, number, number])[];
  readonly speed: number;
  readonly works: boolean;
  readonly tool: number;
}

/** Keeps what a machine does while it does it. */
export class Logbook {
  readonly alarms: Alarm[] = [];
  readonly log: string[] = [];
  private readonly tools = new Set<number>();
  private readonly paths: string[] = [];
  private box: RunReport['extents'] = null;
  private moves = 0;
  private worked = 0;
  private travelled = 0;
  private seconds = 0;
  private speedBefore = 0;
  private heading: readonly number[] | null = null;
  /** The last stretch, which waits to know how fast it may end. */
  private waiting: { length: number; from: number; to: number } | null = null;

  /** @param acceleration mm/s² */
  constructor(
    private readonly machine: string,
    private readonly bytes: Uint8Array,
    private readonly acceleration: number,
    private readonly height: number,
  ) {}

  get isStopped(): boolean {
    return this.alarms.length >= ENOUGH;
  }

  alarm(at: number, words: string): void {
    if (this.isStopped) return;
    this.alarms.push({ at, words });
    this.log.push(`line ${at}: STOP: ${words}`);
  }

  pause(seconds: number, words: string): void {
    this.settle(0);
    this.seconds += seconds;
    if (words) this.log.push(words);
  }

  go({ points, speed, works, tool }: Stretch): void {
    this.moves++;
    let length = 0;
    for (let i = 0; i < points.length; i++) {
      const [x, y, z] = points[i]!;
      this.box ??= { minX: x, minY: y, minZ: z, maxX: x, maxY: y, maxZ: z };
      this.box.minX = Math.min(this.box.minX, x);
      this.box.minY = Math.min(this.box.minY, y);
      this.box.minZ = Math.min(this.box.minZ, z);
      this.box.maxX = Math.max(this.box.maxX, x);
      this.box.maxY = Math.max(this.box.maxY, y);
      this.box.maxZ = Math.max(this.box.maxZ, z);
      if (!i) continue;
      const [px, py, pz] = points[i - 1]!;
      length += Math.hypot(x - px, y - py, z - pz);
    }
    if (works) {
      this.worked += length;
      this.tools.add(tool);
      const at = points.map(([x, y]) => `${x.toFixed(2)},${(this.height - y).toFixed(2)}`);
      this.paths.push(`<polyline points="${at.join(' ')}" class="t${tool}"/>`);
    } else this.travelled += length;
    // What has a time of its own has said it.
    if (length > 0 && speed > 0) this.clock(points, length, speed);
  }

  /** Speeds up and slows down evenly; goes on without slowing where the heading hardly changes. */
  private clock(points: Stretch['points'], length: number, speed: number): void {
    const unit = (a: readonly number[], b: readonly number[]): number[] => {
      const by = a.map((value, i) => b[i]! - value);
      const size = Math.hypot(...by) || 1;
      return by.map((value) => value / size);
    };
    const setsOut = unit(points[0]!, points[1]!);
    const arrives = unit(points.at(-2)!, points.at(-1)!);
    const turn = this.heading ? this.heading.reduce((sum, value, i) => sum + value * setsOut[i]!, 0) : -1;
    const through = turn > Math.cos((10 * Math.PI) / 180) ? Math.min(this.waiting?.to ?? 0, speed) : 0;
    this.settle(through);
    this.waiting = { length, from: this.speedBefore, to: speed };
    this.heading = arrives;
  }

  private settle(end: number): void {
    const { waiting, acceleration: a } = this;
    if (waiting) {
      const { length, from, to } = waiting;
      const reached = Math.min(end, Math.sqrt(from * from + 2 * a * length));
      // Up to `to`, along, and down to the end; without the middle where there is no room for it.
      const room = (2 * to * to - from * from - reached * reached) / (2 * a);
      if (room <= length) this.seconds += (2 * to - from - reached) / a + (length - room) / to;
      else {
        const peak = Math.max(from, reached, Math.sqrt(Math.max(0, a * length + (from * from + reached * reached) / 2)));
        this.seconds += (2 * peak - from - reached) / a;
      }
      this.speedBefore = reached;
    }
    this.waiting = null;
    if (!end) {
      this.speedBefore = 0;
      this.heading = null;
    }
  }

  finish(width: number, height: number): RunReport {
    this.settle(0);
    this.log.push(this.alarms.length ? `stopped: ${this.alarms.length} alarms` : `done after ${this.seconds.toFixed(1)} s`);
    return {
      machine: this.machine,
      runs: !this.alarms.length,
      sha256: createHash('sha256').update(this.bytes).digest('hex'),
      alarms: this.alarms,
      moves: this.moves,
      worked: this.worked,
      travelled: this.travelled,
      seconds: this.seconds,
      tools: [...this.tools].sort((a, b) => a - b),
      extents: this.box,
      picture: `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" fill="none" stroke="#14213a" stroke-width="0.6">${this.paths.join('')}</svg>`,
      log: this.log,
    };
  }
}
