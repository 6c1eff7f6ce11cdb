import { Tally } from '../../bytes/tally';
import { decodeText } from '../../bytes/text';
import { type ToolPath, ToolPathBuilder } from '../../content/tool-path/tool-path';
import { Failure } from '../../failure/failure';
import { circleOutline, pointOnArc } from '../../geometry/arcs';
import { flatten } from '../../geometry/flatten';
import type { Segment } from '../../geometry/outline';
import { type Point, distance } from '../../geometry/point';
import type { NotUnderstood } from '../codec';
import { MM_PER_CM, UNITS_PER_MM, pen as penOf } from './declare';

/** Instructions that change nothing of what is drawn, or only its force. */
const SILENT = new Set(['IN', 'DF', 'FS', 'IP', 'BP', 'PG', 'PS', 'WU', 'PW', 'NP', 'TR', 'SM', 'EC']);
/** Instructions that change nothing without a value: a solid line, no window. */
const PLAIN_WITHOUT_VALUE = new Set(['LT', 'IW']);
/** Arcs become chords as a plotter draws them, this close, mm. */
const CHORD = 0.01;
/** Points closer than this are one, mm. */
const SAME = 1e-9;

const damaged = (byte: number, why: string) =>
  new Failure('hpgl-damaged', `The cut file can't be read further: ${why}.`, { byte });

/** What a pen does, move by move, until it is lifted. */
class Machine {
  readonly builder = new ToolPathBuilder();
  private at: Point = [0, 0];
  private pen = 0;
  private tool = -1;
  private readonly speeds = new Map<number, number>();
  private isDown = false;
  relative = false;

  get down(): boolean {
    return this.isDown;
  }
  speed(value: number | undefined, pen: number | undefined): void {
    if (value === undefined) this.speeds.clear();
    else if (pen === undefined) for (let one = 0; one <= 64; one++) this.speeds.set(one, value * MM_PER_CM);
    else this.speeds.set(pen, value * MM_PER_CM);
  }

  /** Ends the stroke that is being drawn; a stroke is at least one move. */
  lift(): void {
    if (this.builder.begun > 1) this.end();
    else this.builder.drop();
  }

  private end(): void {
    if (this.tool < 0) this.tool = this.builder.tool(this.pen, penOf(this.pen).name);
    this.builder.stroke(this.tool, this.speeds.get(this.pen) ?? NaN);
  }

  select(pen: number): void {
    this.lift();
    this.pen = pen;
    this.tool = -1;
    this.isDown = false;
  }

  setDown(down: boolean): void {
    if (!down) this.lift();
    this.isDown = down;
  }

  moveTo(x: number, y: number): void {
    const [fromX, fromY] = this.at;
    if (!this.isDown) this.lift();
    else if (Math.abs(fromX - x) > SAME || Math.abs(fromY - y) > SAME) {
      if (!this.builder.begun) this.builder.point(fromX, fromY);
      this.builder.point(x, y);
    }
    this.at = [x, y];
  }

  /** Moves to points in plotter units. */
  follow(numbers: readonly number[], byte: number): void {
    if (numbers.length % 2) throw damaged(byte, 'a point has only one coordinate');
    for (let i = 0; i < numbers.length; i += 2) {
      const [x, y] = [numbers[i]! / UNITS_PER_MM, numbers[i + 1]! / UNITS_PER_MM];
      if (this.relative) this.moveTo(this.at[0] + x, this.at[1] + y);
      else this.moveTo(x, y);
    }
  }

  arc(name: string, [x, y, degrees]: readonly number[], byte: number): void {
    if (x === undefined || y === undefined || degrees === undefined) throw damaged(byte, `${name} needs a centre and an angle`);
    const off: Point = [x / UNITS_PER_MM, y / UNITS_PER_MM];
    const centre: Point = name === 'AA' ? off : [this.at[0] + off[0], this.at[1] + off[1]];
    const from = this.at;
    const radius = distance(from, centre);
    if (!(radius > 0)) return;
    const end = Math.atan2(from[1] - centre[1], from[0] - centre[0]) + (degrees * Math.PI) / 180;
    const to: Point = Math.abs(degrees) >= 360 ? from : [centre[0] + radius * Math.cos(end), centre[1] + radius * Math.sin(end)];
    const segment: Segment = { kind: 'arc', to, centre, clockwise: degrees < 0 };
    for (const part of [pointOnArc(from, segment, 0.5), to]) {
      const points = flatten({ start: this.at, segments: [{ ...segment, to: part }], closed: false }, CHORD);
      for (let i = 2; i < points.length; i += 2) this.moveTo(points[i]!, points[i + 1]!);
    }
  }

  /** A circle is drawn with the pen down wherever the pen was, and leaves it in the middle. */
  circle([radius]: readonly number[], byte: number): void {
    if (!radius) throw damaged(byte, 'CI needs a radius');
    this.lift();
    const points = flatten(circleOutline(this.at, Math.abs(radius) / UNITS_PER_MM), CHORD);
    for (let i = 0; i < points.length; i += 2) this.builder.point(points[i]!, points[i + 1]!);
    this.end();
  }
}

type Instruction = (machine: Machine, numbers: readonly number[], byte: number) => void;

/** How each instruction moves the machine. */
const INSTRUCTIONS: Readonly<Record<string, Instruction>> = {
  SP: (machine, [pen = 0]) => machine.select(pen),
  PU: (machine, numbers, byte) => {
    machine.setDown(false);
    machine.follow(numbers, byte);
  },
  PD: (machine, numbers, byte) => {
    machine.setDown(true);
    machine.follow(numbers, byte);
  },
  PA: (machine, numbers, byte) => {
    machine.relative = false;
    machine.follow(numbers, byte);
  },
  PR: (machine, numbers, byte) => {
    machine.relative = true;
    machine.follow(numbers, byte);
  },
  AA: (machine, numbers, byte) => machine.arc('AA', numbers, byte),
  AR: (machine, numbers, byte) => machine.arc('AR', numbers, byte),
  CI: (machine, numbers, byte) => machine.circle(numbers, byte),
  VS: (machine, [speed, pen]) => machine.speed(speed, pen),
};

const isLetter = (code: number): boolean => (code >= 65 && code <= 90) || (code >= 97 && code <= 122);
const isBlank = (code: number): boolean => code <= 32 || code === 44;

/** The numbers between two places of a text, put into `into`. */
function numbersIn(text: string, from: number, to: number, into: number[], byte: number): void {
  into.length = 0;
  let i = from;
  for (;;) {
    while (i < to && isBlank(text.charCodeAt(i))) i++;
    if (i >= to) return;
    const start = i;
    const negative = text.charCodeAt(i) === 45;
    if (negative) i++;
    let value = 0;
    let digits = 0;
    for (; i < to; i++, digits++) {
      const code = text.charCodeAt(i);
      if (code < 48 || code > 57) break;
      value = value * 10 + code - 48;
    }
    if (i < to && !isBlank(text.charCodeAt(i))) {
      // Decimals and whatever else a number may be.
      while (i < to && !isBlank(text.charCodeAt(i))) i++;
      value = Number(text.slice(start, i));
      if (!Number.isFinite(value)) throw damaged(byte, `“${text.slice(start, Math.min(i, start + 20))}” is not a number`);
      into.push(value);
    } else if (!digits || digits > 15) throw damaged(byte, `“${text.slice(start, i).slice(0, 20)}” is not a number`);
    else into.push(negative ? -value : value);
  }
}

/**
 * What a machine does with an HP-GL file: strokes with the pen down, in order, pen by pen, and how fast where that is said.
 * @throws Failure `hpgl-damaged` with the byte at which reading stopped
 */
export function readHpgl(bytes: Uint8Array): { path: ToolPath; mark: string | null; notUnderstood: NotUnderstood[] } {
  const text = decodeText(bytes);
  const tally = new Tally();
  const machine = new Machine();
  const numbers: number[] = [];
  let mark: string | null = null;
  let known = 0;
  let i = 0;
  while (i < text.length) {
    const code = text.charCodeAt(i);
    if (code <= 32 || code === 59) {
      i++;
      continue;
    }
    if (!isLetter(code) || !isLetter(text.charCodeAt(i + 1)))
      throw damaged(i, `an instruction should stand here, not “${text.slice(i, i + 6)}”`);
    const name = text.slice(i, i + 2).toUpperCase();
    const begin = i + 2;
    if (name === 'CO' || name === 'LB') {
      const quoted = name === 'CO' ? /^\s*"/.exec(text.slice(begin, begin + 8)) : null;
      const end = quoted ? text.indexOf('"', begin + quoted[0].length) : text.indexOf(name === 'LB' ? '\u0003' : ';', begin);
      if (end < 0) throw damaged(i, `${name} has no end`);
      const words = text.slice(begin + (quoted?.[0].length ?? 0), end);
      if (name === 'LB') tally.add('instruction LB');
      else {
        if (words.includes('inkwell-twin;')) mark ??= words;
        known++;
      }
      i = end + 1;
      continue;
    }
    let end = begin;
    for (let next = text.charCodeAt(end); end < text.length && next !== 59 && !isLetter(next); next = text.charCodeAt(end)) end++;
    const instruction = INSTRUCTIONS[name];
    if (instruction) {
      numbersIn(text, begin, end, numbers, i);
      instruction(machine, numbers, i);
      known++;
    } else if (SILENT.has(name) || (PLAIN_WITHOUT_VALUE.has(name) && !text.slice(begin, end).trim())) known++;
    else tally.add(`instruction ${name}`);
    i = end;
  }
  machine.lift();
  if (!known) throw new Failure('not-hpgl', 'This is not an HP-GL file: it holds no instruction.', { byte: 0 });
  if (machine.down && text.trimEnd().at(-1) !== ';') throw damaged(text.length, 'the file ends in the middle of a move');
  return { path: machine.builder.finish(), mark, notUnderstood: tally.list() };
}
