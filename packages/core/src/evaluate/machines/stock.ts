import { sweepOf } from '../../base/geometry/arcs';
import type { MachineProfile } from '../../base/machines';
import type { Mesh } from '../../contracts/mesh';
import { type JobRun, type Needle, placeIn } from './run';
import { MOTIONS, type Place } from '../../contracts/machining';

/** Room around what is worked, mm; and the most cells of a map, and the finest, mm. */
const [ROOM, MOST, FINEST] = [12, 120_000, 0.05];
/** A cut no wider than this is shown as wide, in cells: a line has to be seen. */
const THINNEST = 0.75;
/** How far the chords of an arc are off it, mm. */
const CHORD = 0.02;

/**
 * What is left of the stock while a job runs: how high it still is in each cell of a map that lies on the bed (a height map).
 * Heights are mm from the face of the stock down, as the job states them.
 */
export class Stock {
  readonly cell: number;
  readonly across: number;
  readonly up: number;
  /** mm, the corner of the first cell. */
  readonly at: readonly [number, number];
  readonly thickness: number;
  /** Of each cell, row by row from below. */
  readonly heights: Float32Array;
  private readonly radii: readonly number[];
  /** How much of the job is done: whole moves, and a share of the next. */
  private done = 0;
  private share = 0;

  constructor(
    private readonly run: JobRun,
    machine: MachineProfile,
  ) {
    const { extents, moves } = run;
    const [min, max] = [extents?.min ?? [0, 0, 0], extents?.max ?? [1, 1, 0]];
    const [width, height] = [max[0] - min[0] + 2 * ROOM, max[1] - min[1] + 2 * ROOM];
    this.cell = Math.max(FINEST, Math.sqrt((width * height) / MOST));
    [this.across, this.up] = [Math.ceil(width / this.cell), Math.ceil(height / this.cell)];
    this.at = [min[0] - ROOM, min[1] - ROOM];
    this.thickness = machine.stock.thickness;
    this.heights = new Float32Array(this.across * this.up);
    this.radii = moves.tools.map(({ number }) => (machine.tools.find((one) => one.number === number)?.diameter ?? 0) / 2);
  }

  /** Brings the map to a moment of the job. Forward is quick; back is from the beginning. */
  to({ move, share }: Needle): void {
    if (move < this.done || (move === this.done && share < this.share)) {
      this.heights.fill(0);
      [this.done, this.share] = [0, 0];
    }
    for (; this.done < move; this.done++, this.share = 0) this.carve(this.done, this.share, 1);
    if (share > this.share) this.carve(move, this.share, share);
    this.share = share;
  }

  /** How high the stock is at a place, mm; 0 outside of the map. */
  heightAt(x: number, y: number): number {
    const [i, j] = [Math.floor((x - this.at[0]) / this.cell), Math.floor((y - this.at[1]) / this.cell)];
    return i >= 0 && j >= 0 && i < this.across && j < this.up ? this.heights[j * this.across + i]! : 0;
  }

  private carve(move: number, from: number, to: number): void {
    const { moves } = this.run;
    const radius = Math.max(this.radii[moves.tool[move]!] ?? 0, THINNEST * this.cell);
    const start = placeIn(moves, move, from);
    const end = placeIn(moves, move, to);
    if (Math.min(start[2], end[2]) >= 0 || [...start, ...end].some(Number.isNaN)) return;
    const steps = this.chordsOf(move, to - from);
    let last = start;
    for (let k = 1; k <= steps; k++) {
      const next = k === steps ? end : placeIn(moves, move, from + ((to - from) * k) / steps);
      this.sweep(last, next, radius);
      last = next;
    }
  }

  private chordsOf(move: number, share: number): number {
    const { motion, ends, centres } = this.run.moves;
    if (motion[move]! < 2 || !move) return 1;
    const at = (k: number) => [ends[3 * k]!, ends[3 * k + 1]!] as const;
    const centre = [centres[2 * move]!, centres[2 * move + 1]!] as const;
    const [from, clockwise] = [at(move - 1), MOTIONS[motion[move]!] === 'clockwise'];
    const sweep = Math.abs(sweepOf(from, { kind: 'arc', to: at(move), centre, clockwise })) * share;
    const radius = Math.hypot(from[0] - centre[0], from[1] - centre[1]);
    return Math.max(1, Math.ceil(sweep / (2 * Math.acos(Math.max(0, 1 - CHORD / Math.max(radius, CHORD))))));
  }

  /** Takes away what a flat tool passes over on a straight way. */
  private sweep([ax, ay, az]: Place, [bx, by, bz]: Place, radius: number): void {
    const { cell, across, up, heights } = this;
    const [dx, dy] = [bx - ax, by - ay];
    const length = Math.hypot(dx, dy);
    const [ux, uy] = length > 0 ? [dx / length, dy / length] : [1, 0];
    const [x0, y0] = this.at;
    const first = (low: number, origin: number) => Math.max(0, Math.floor((low - radius - origin) / cell));
    const last = (high: number, origin: number, most: number) => Math.min(most - 1, Math.ceil((high + radius - origin) / cell));
    const right = last(Math.max(ax, bx), x0, across);
    const top = last(Math.max(ay, by), y0, up);
    for (let j = first(Math.min(ay, by), y0); j <= top; j++) {
      const y = y0 + (j + 0.5) * cell - ay;
      for (let i = first(Math.min(ax, bx), x0); i <= right; i++) {
        const x = x0 + (i + 0.5) * cell - ax;
        const beside = x * uy - y * ux;
        const left = radius * radius - beside * beside;
        if (left < 0) continue;
        const [along, half] = [x * ux + y * uy, Math.sqrt(left)];
        // The stretch of the way on which the tool stands over the cell; the lowest of it counts.
        const [begin, end] = [Math.max(0, along - half), Math.min(length, along + half)];
        if (begin > end) continue;
        const z = length > 0 ? Math.min(az + ((bz - az) * begin) / length, az + ((bz - az) * end) / length) : Math.min(az, bz);
        const k = j * across + i;
        if (z < heights[k]!) heights[k] = z;
      }
    }
  }

  /** As a solid to be looked at: what is cut through is open. */
  mesh(colour: string): Mesh {
    const { cell, across, up, heights, thickness, at } = this;
    const floor = -thickness;
    const [columns, rows] = [across + 1, up + 1];
    const positions: number[] = [];
    const triangles: number[] = [];
    const quad = (a: number, b: number, c: number, d: number): void => void triangles.push(a, b, c, a, c, d);
    const corner = (i: number, j: number, z: number): number => {
      positions.push(at[0] + i * cell, at[1] + j * cell, z);
      return positions.length / 3 - 1;
    };
    const height = (i: number, j: number): number =>
      i < 0 || j < 0 || i >= across || j >= up ? floor : Math.max(floor, heights[j * across + i]!);
    // Stretches of a row that are as high are one.
    for (let j = 0; j < up; j++)
      for (let i = 0; i < across;) {
        const z = height(i, j);
        let end = i + 1;
        while (end < across && height(end, j) === z) end++;
        if (z > floor) {
          quad(corner(i, j, z), corner(end, j, z), corner(end, j + 1, z), corner(i, j + 1, z));
          quad(corner(i, j, floor), corner(i, j + 1, floor), corner(end, j + 1, floor), corner(end, j, floor));
        }
        i = end;
      }
    // Walls between cells, each as long as it is as high on both sides.
    const wall = (
      lines: number,
      steps: number,
      sides: (line: number, step: number) => readonly [number, number],
      upright: boolean,
    ) => {
      for (let line = 0; line < lines; line++)
        for (let step = 0; step < steps;) {
          const [a, b] = sides(line, step);
          let end = step + 1;
          while (end < steps && sides(line, end)[0] === a && sides(line, end)[1] === b) end++;
          if (a !== b) {
            const place = (k: number, z: number) => (upright ? corner(line, k, z) : corner(k, line, z));
            quad(place(step, a), place(end, a), place(end, b), place(step, b));
          }
          step = end;
        }
    };
    wall(columns, up, (i, j) => [height(i - 1, j), height(i, j)], true);
    wall(rows, across, (j, i) => [height(i, j - 1), height(i, j)], false);
    return {
      positions: Float64Array.from(positions),
      triangles: Uint32Array.from(triangles),
      colour,
      chord: cell,
      exact: null,
      source: '',
    };
  }
}
