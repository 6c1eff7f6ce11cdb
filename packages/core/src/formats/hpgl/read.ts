import { Tally } from '../../contracts/tally';
import { decodeText } from '../../base/bytes/text';
import { type ToolPath, ToolPathBuilder } from '../../content/tool-path/tool-path';
import { Failure } from '../../base/failure/failure';
import { circleOutline } from '../../base/geometry/arcs';
import { flatten } from '../../base/geometry/flatten';
import { type Point, distance } from '../../base/geometry/point';
import type { NotUnderstood } from '../../contracts/not-understood';
import { MM_PER_CM, pen as penOf } from './declare';
import { escapeAt } from './escapes';
import { PLAIN_SCALE, scaleOf } from './scale';

/**
 * Instructions that nobody sees (HP-GL/2 reference): force, acceleration, widths of pens, letters and fills that are set up before
 * anything is drawn by them, and questions to the machine.
 */
const SILENT = new Set(
  `FS AS VA VN AP BP PS WU PW NP TR EC EN CV CR PC MC
  SA SS SD SI SR SL SB CA CS CP DI DR DT DV ES LO AD TD
  FT PT UL AC CT
  OA OC OD OE OF OG OH OI OK OL OO OP OS OT OW`.split(/\s+/),
);
/** Instructions that change nothing without a value, or with one of these: a solid line, no window, no turn, no scale, no symbols. */
const PLAIN: Readonly<Record<string, RegExp>> = {
  LT: /^$/,
  IW: /^$/,
  SM: /^$/,
  RO: /^(0|)$/,
  QL: /^(0|)$/,
  MG: /^$/,
};
/** Instructions after which a machine goes on on another sheet. */
const NEXT_SHEET = new Set(['PG', 'AF', 'AH', 'FR']);
/** Circles become chords as a plotter draws them, this close, mm. */
const CHORD = 0.01;
/** Arcs become chords of so many degrees, where none is said (HP-GL/2 reference, AA). */
const CHORD_ANGLE = 5;
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
  /** Whether it moved since the pen was put down. */
  private moved = false;
  /** Whether it goes on on another sheet. */
  private fed = false;
  relative = false;
  private scale = PLAIN_SCALE;
  /** P1 and P2 where the file says them, plotter units: else they are where the machine has them. */
  private places: readonly number[] = [];
  /** What SC says; empty where nothing is scaled. */
  private scaling: readonly number[] = [];

  constructor(private readonly note: (kind: string) => void) {}

  /** As it is when it is switched on: at its origin, with the pen up. */
  initialize(): void {
    this.setDown(false);
    this.at = [0, 0];
    this.places = [];
    this.default();
  }
  /** Settings as they are when it is switched on; the pen stays where and what it is. */
  default(): void {
    this.relative = false;
    this.speeds.clear();
    this.scaleTo([]);
  }
  /** Puts P1 and P2 somewhere; with P1 alone, P2 follows. */
  placeAt(places: readonly number[]): void {
    const [x, y] = places;
    const [x1, y1, x2, y2] = this.places;
    const follows = places.length === 2 && x2 !== undefined;
    this.places = follows ? [x!, y!, x! + x2 - x1!, y! + y2! - y1!] : [...places];
    this.scaleTo(this.scaling);
  }
  /** Units of its own from now on; none by no values. */
  scaleTo(said: readonly number[]): void {
    this.scaling = [...said];
    const scale = said.length ? scaleOf(this.places, said) : PLAIN_SCALE;
    if (!scale) this.note('scale to places of the machine');
    this.scale = scale ?? PLAIN_SCALE;
  }
  private toMm(x: number, y: number): Point {
    const { factor, offset } = this.scale;
    return [x * factor[0] + offset[0], y * factor[1] + offset[1]];
  }
  private get atInUnits(): Point {
    const { factor, offset } = this.scale;
    return [(this.at[0] - offset[0]) / factor[0], (this.at[1] - offset[1]) / factor[1]];
  }
  feed(): void {
    this.setDown(false);
    this.fed = true;
  }

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
    this.setDown(false);
  }

  setDown(down: boolean): void {
    if (!down) this.lift();
    // A pen that goes down and up in one place leaves a dot.
    if (!down && this.isDown && !this.moved) this.note('dot');
    if (down && !this.isDown) this.moved = false;
    this.isDown = down;
  }

  moveTo(x: number, y: number): void {
    const [fromX, fromY] = this.at;
    if (!this.isDown) this.lift();
    if (this.isDown && this.fed) this.note('another sheet');
    if (this.isDown && (Math.abs(fromX - x) > SAME || Math.abs(fromY - y) > SAME)) this.moved = true;
    if (!this.isDown) this.at = [x, y];
    else if (Math.abs(fromX - x) > SAME || Math.abs(fromY - y) > SAME) {
      if (!this.builder.begun) this.builder.point(fromX, fromY);
      this.builder.point(x, y);
    }
    this.at = [x, y];
  }

  /** Moves to points in the units in force. */
  follow(numbers: readonly number[], byte: number): void {
    if (numbers.length % 2) throw damaged(byte, 'a point has only one coordinate');
    const { factor, offset } = this.scale;
    for (let i = 0; i < numbers.length; i += 2) {
      const [x, y] = [numbers[i]! * factor[0], numbers[i + 1]! * factor[1]];
      if (this.relative) this.moveTo(this.at[0] + x, this.at[1] + y);
      else this.moveTo(x + offset[0], y + offset[1]);
    }
  }

  arc(name: string, [x, y, degrees, chord = CHORD_ANGLE]: readonly number[], byte: number): void {
    if (x === undefined || y === undefined || degrees === undefined) throw damaged(byte, `${name} needs a centre and an angle`);
    const from = this.atInUnits;
    const centre: Point = name === 'AA' ? [x, y] : [from[0] + x, from[1] + y];
    const radius = distance(from, centre);
    if (!(radius > 0)) return;
    const start = Math.atan2(from[1] - centre[1], from[0] - centre[0]);
    // As many equal chords as are no longer than the angle that is said.
    const chords = Math.ceil(Math.abs(degrees) / Math.min(180, Math.max(0.1, Math.abs(chord))) - 1e-9);
    for (let k = 1; k <= chords; k++) {
      const angle = start + ((degrees * Math.PI) / 180) * (k / chords);
      this.moveTo(...this.toMm(centre[0] + radius * Math.cos(angle), centre[1] + radius * Math.sin(angle)));
    }
  }

  /** A circle is drawn with the pen down wherever the pen was, and leaves it in the middle. */
  circle([radius]: readonly number[], byte: number): void {
    if (!radius) throw damaged(byte, 'CI needs a radius');
    this.lift();
    const largest = Math.max(...this.scale.factor.map(Math.abs));
    const points = flatten(circleOutline(this.atInUnits, Math.abs(radius)), CHORD / largest);
    for (let i = 0; i < points.length; i += 2) this.builder.point(...this.toMm(points[i]!, points[i + 1]!));
    this.end();
  }
}

type Instruction = (machine: Machine, numbers: readonly number[], byte: number) => void;

/** How each instruction moves the machine. */
const INSTRUCTIONS: Readonly<Record<string, Instruction>> = {
  IN: (machine) => machine.initialize(),
  DF: (machine) => machine.default(),
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
  IP: (machine, numbers) => machine.placeAt(numbers),
  SC: (machine, numbers) => machine.scaleTo(numbers),
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
  const machine = new Machine((kind) => tally.add(kind));
  const numbers: number[] = [];
  let mark: string | null = null;
  let known = 0;
  let i = 0;
  while (i < text.length) {
    const code = text.charCodeAt(i);
    const escaped = escapeAt(text, i);
    if (escaped) {
      if (escaped.words) tally.add(escaped.words);
      i = escaped.end;
      continue;
    }
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
    } else if (SILENT.has(name) || PLAIN[name]?.test(text.slice(begin, end).trim())) known++;
    else if (NEXT_SHEET.has(name)) {
      machine.feed();
      known++;
    } else tally.add(`instruction ${name}`);
    i = end;
  }
  const wasDown = machine.down;
  machine.setDown(false);
  if (!known) throw new Failure('not-hpgl', 'This is not an HP-GL file: it holds no instruction.', { byte: 0 });
  if (wasDown && text.trimEnd().at(-1) !== ';') throw damaged(text.length, 'the file ends in the middle of a move');
  return { path: machine.builder.finish(), mark, notUnderstood: tally.list() };
}
