import { decodeText } from '../../base/bytes/text';
import { Failure } from '../../base/failure/failure';
import { MOTIONS, type Machining, MachiningBuilder } from '../../contracts/machining';
import type { NotUnderstood } from '../../contracts/not-understood';
import { Tally } from '../../contracts/tally';
import { markOfNotes } from './notes';

/** What a program says. */
interface ReadProgram {
  readonly moves: Machining;
  readonly mark: string | null;
  readonly notUnderstood: NotUnderstood[];
}

interface Word {
  readonly letter: string;
  readonly value: number;
}

const damaged = (line: number, why: string) =>
  new Failure('gcode-damaged', `The machine program can’t be read further, line ${line}: ${why}.`, { line });

/** How far an arc’s end may lie off its circle, mm. */
const OFF_CIRCLE = 0.02;
/** G words that set up what the reader takes for given, or change nothing of the ways. */
const PLAIN_G = new Set([17, 40, 49, 54, 64, 61, 80, 94, 91.1]);
/** M words that change nothing of the ways: stops, coolant, a pallet. */
const PLAIN_M = new Set([0, 1, 7, 8, 9]);

/** The words of a line, and the notes in it. */
function wordsOf(text: string, line: number, notes: string[]): Word[] {
  // Most lines have no note: nothing is taken out of them.
  let rest = /[(;]/.test(text) ? '' : text;
  for (let at = rest.length; at < text.length;) {
    if (text[at] === ';') {
      notes.push(text.slice(at + 1));
      break;
    }
    if (text[at] === '(') {
      const end = text.indexOf(')', at);
      if (end < 0) throw damaged(line, 'a note has no end');
      notes.push(text.slice(at + 1, end));
      at = end + 1;
      continue;
    }
    rest += text[at++];
  }
  const words: Word[] = [];
  const plain = /\s/.test(rest) ? rest.replace(/\s+/g, '') : rest;
  const pattern = /([A-Za-z])([+-]?(?:\d+\.?\d*|\.\d+))/y;
  for (let at = 0; at < plain.length; at = pattern.lastIndex) {
    pattern.lastIndex = at;
    const found = pattern.exec(plain);
    if (!found) throw damaged(line, `a letter with a number should stand here, not “${plain.slice(at, at + 12)}”`);
    const value = Number(found[2]);
    if (!Number.isFinite(value) || Math.abs(value) > 1e9) throw damaged(line, `${found[0].slice(0, 20)} is out of all reason`);
    words.push({ letter: found[1]!.toUpperCase(), value });
  }
  return words;
}

/** Cycles of drilling (ISO 6983-1, table 3): G81 in one go, G82 with a rest, G83 and G73 in steps, the last without coming out. */
const CYCLES: Readonly<Record<number, { readonly pecks: boolean; readonly out: boolean }>> = {
  81: { pecks: false, out: true },
  82: { pecks: false, out: true },
  83: { pecks: true, out: true },
  73: { pecks: true, out: false },
};
/** Cycles of taps and bores, which are told and not followed. */
const STRANGE_CYCLES = new Set([84, 85, 86, 87, 88, 89]);
/** How far a drill comes back between steps where it does not come out, mm; and the most steps that are followed. */
const [BACK, MOST_PECKS] = [0.25, 200_000];

/** What a control is set to: words of one line change it, and then it moves. */
class Control {
  readonly builder = new MachiningBuilder();
  private unit = 1;
  private absolute = true;
  private motion = -1;
  private feed = NaN;
  private tool = 0;
  private wanted = 0;
  private speed = 0;
  private turns = false;
  /** The cycle in force, and what was said of it; null for none. */
  private cycle: { readonly number: number; readonly said: Map<string, number> } | null = null;
  /** A cycle is in force that is not followed: where it would go is left out. */
  private isStrange = false;
  /** Drills come back to where they were before the cycle (G98), or to its R (G99). */
  private backToR = false;
  /** Steps of cycles so far. */
  private pecks = 0;
  /** The height before the cycle. */
  private initial = NaN;
  isOver = false;

  constructor(private readonly tally: Tally) {}

  do(words: readonly Word[], line: number): void {
    const given = new Map<string, number>();
    let changes = false;
    for (const { letter, value } of words) {
      if (letter === 'G') this.prepare(value, line);
      else if (letter === 'T') this.wanted = value;
      else if (letter === 'S') this.speed = value;
      else if (letter === 'F') this.feed = value * this.unit;
      else if (letter === 'M') {
        if (value === 6) changes = true;
        else this.switch(value, line);
      } else if ('XYZIJKR'.includes(letter) || (this.cycle && 'QP'.includes(letter))) {
        if (given.has(letter)) throw damaged(line, `${letter} is said twice`);
        given.set(letter, value);
      } else if (letter !== 'N' && letter !== 'O') this.tally.add(`word ${letter}, line ${line}`);
    }
    if (changes) {
      if (this.turns) this.tally.add(`a change of tool while the spindle turns, line ${line}`);
      this.tool = this.wanted;
    }
    this.builder.spindle = this.turns ? this.speed : 0;
    if (!given.size || this.isStrange) return;
    if (this.cycle) this.drill(this.cycle, given, line);
    else this.move(given, line);
  }

  private prepare(value: number, line: number): void {
    const motion = Number.isInteger(value) && value < MOTIONS.length ? value : -1;
    if (motion >= 0 || value === 80) [this.cycle, this.isStrange] = [null, false];
    if (motion >= 0) this.motion = motion;
    else if (value in CYCLES) {
      if (!this.cycle) this.initial = this.builder.at[2];
      this.cycle = { number: value, said: new Map() };
    } else if (value === 98 || value === 99) this.backToR = value === 99;
    else if (value === 20) this.unit = 25.4;
    else if (value === 21) this.unit = 1;
    else if (value === 90) this.absolute = true;
    else if (value === 91) this.absolute = false;
    else if (!PLAIN_G.has(value)) this.tally.add(`G${value}, line ${line}`);
    if (STRANGE_CYCLES.has(value)) this.isStrange = true;
  }

  private switch(value: number, line: number): void {
    if (value === 3) this.turns = true;
    else if (value === 5) this.turns = false;
    else if (value === 2 || value === 30) {
      this.turns = false;
      this.isOver = true;
    } else if (!PLAIN_M.has(value)) this.tally.add(`M${value}, line ${line}`);
  }

  private move(given: ReadonlyMap<string, number>, line: number): void {
    if (this.motion < 0) throw damaged(line, 'a place without G0, G1, G2 or G3 before it');
    const { builder, unit } = this;
    const [x, y, z] = builder.at;
    const to: { x?: number; y?: number; z?: number } = {};
    for (const [letter, key, before] of [
      ['X', 'x', x],
      ['Y', 'y', y],
      ['Z', 'z', z],
    ] as const) {
      const value = given.get(letter);
      if (value !== undefined) to[key] = this.absolute ? value * unit : (before || 0) + value * unit;
    }
    builder.use(this.tool, `Tool ${this.tool}`);
    const motion = MOTIONS[this.motion]!;
    if (this.motion < 2) {
      if (this.motion === 1 && Number.isNaN(this.feed)) this.tally.add(`a move without a feed, line ${line}`);
      builder.go(motion, to, this.feed);
      return;
    }
    if (Number.isNaN(x + y)) throw damaged(line, 'an arc from nowhere: no place was gone to before it');
    const end: [number, number] = [to.x ?? x, to.y ?? y];
    builder.go(motion, to, this.feed, this.centre([x, y], end, given, line));
  }

  /** A hole by a cycle: there, down by its steps, and out again. */
  private drill({ number, said }: NonNullable<Control['cycle']>, given: ReadonlyMap<string, number>, line: number): void {
    for (const [letter, value] of given) said.set(letter, value);
    const { builder, unit } = this;
    const [x, y] = builder.at;
    const height = this.initial;
    const of = (letter: string): number | undefined => (said.has(letter) ? said.get(letter)! * unit : undefined);
    const step = (letter: string, before: number): number | undefined => {
      const value = given.get(letter);
      return value === undefined ? undefined : this.absolute ? value * unit : (before || 0) + value * unit;
    };
    const r = of('R');
    const bottom = of('Z');
    if (r === undefined || bottom === undefined) throw damaged(line, `G${number} without R or Z`);
    const [top, low] = this.absolute ? [r, bottom] : [(height || 0) + r, (height || 0) + r + bottom];
    const peck = CYCLES[number]!.pecks ? Math.abs(of('Q') ?? 0) : 0;
    if (CYCLES[number]!.pecks && !(peck > 0)) throw damaged(line, `G${number} without Q`);
    // Of the whole program: a few lines could ask for more moves than there is memory.
    if (peck > 0) this.pecks += Math.max(0, top - low) / peck;
    if (this.pecks > MOST_PECKS) throw damaged(line, `G${number} in more steps than can be followed`);
    if (Number.isNaN(this.feed)) this.tally.add(`a move without a feed, line ${line}`);
    builder.use(this.tool, `Tool ${this.tool}`);
    const to: { x?: number; y?: number } = {};
    const [toX, toY] = [step('X', x), step('Y', y)];
    if (toX !== undefined) to.x = toX;
    if (toY !== undefined) to.y = toY;
    builder.go('rapid', to);
    builder.go('rapid', { z: top });
    for (let z = top; z > low + 1e-9;) {
      const next = peck > 0 ? Math.max(low, z - peck) : low;
      builder.go('line', { z: next }, this.feed);
      if (next > low) builder.go('rapid', { z: CYCLES[number]!.out ? top : next + BACK });
      if (next > low && CYCLES[number]!.out) builder.go('rapid', { z: Math.min(top, next + BACK) });
      z = next;
    }
    builder.go('rapid', { z: this.backToR || Number.isNaN(height) ? top : Math.max(top, height) });
  }

  private centre(
    from: readonly [number, number],
    to: readonly [number, number],
    given: ReadonlyMap<string, number>,
    line: number,
  ): [number, number] {
    const { unit } = this;
    const radius = given.get('R');
    if (radius !== undefined) return this.byRadius(from, to, radius * unit, line);
    if (!given.has('I') && !given.has('J')) throw damaged(line, 'an arc without I, J or R');
    if (given.has('K')) this.tally.add(`K of an arc, line ${line}`);
    const centre: [number, number] = [from[0] + (given.get('I') ?? 0) * unit, from[1] + (given.get('J') ?? 0) * unit];
    const [a, b] = [Math.hypot(from[0] - centre[0], from[1] - centre[1]), Math.hypot(to[0] - centre[0], to[1] - centre[1])];
    if (Math.abs(a - b) > OFF_CIRCLE)
      this.tally.add(`an arc that ends ${Math.abs(a - b).toFixed(3)} mm off its circle, line ${line}`);
    return centre;
  }

  /** The centre of an arc by its radius; one below 0 is the way round that is longer than half a turn. */
  private byRadius(
    from: readonly [number, number],
    to: readonly [number, number],
    radius: number,
    line: number,
  ): [number, number] {
    const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
    const chord = Math.hypot(dx, dy);
    if (chord < 1e-9) throw damaged(line, 'a full circle can’t be said by its radius');
    const half = chord / 2;
    const size = Math.abs(radius);
    if (size < half - OFF_CIRCLE)
      throw damaged(line, `an arc of radius ${size.toFixed(3)} mm does not reach over ${chord.toFixed(3)} mm`);
    const height = Math.sqrt(Math.max(0, size * size - half * half));
    const clockwise = MOTIONS[this.motion] === 'clockwise';
    const side = clockwise === radius >= 0 ? -1 : 1;
    return [(from[0] + to[0]) / 2 - (side * height * dy) / chord, (from[1] + to[1]) / 2 + (side * height * dx) / chord];
  }
}

/**
 * What a machine does with a program (ISO 6983-1), move by move; words that are not known are told with their lines.
 * @throws Failure `gcode-damaged` with the line at which reading stopped
 */
export function readProgram(bytes: Uint8Array): ReadProgram {
  const lines = decodeText(bytes).split(/\r\n|\r|\n/);
  const tally = new Tally();
  const control = new Control(tally);
  const notes: string[] = [];
  let last = 0;
  let behind = 0;
  lines.forEach((text, i) => {
    const plain = text.trim();
    if (!plain || plain.startsWith('%')) return;
    const skipped = plain.startsWith('/');
    if (skipped) tally.add(`a line that may be skipped, line ${i + 1}`);
    const words = wordsOf(skipped ? plain.slice(1) : plain, i + 1, notes);
    if (!words.length) return;
    if (control.isOver) behind++;
    else control.do(words, i + 1);
    last = i + 1;
  });
  if (behind) tally.add('lines behind the end of the program', behind);
  if (!control.builder.count && !last) throw new Failure('gcode-empty', 'The machine program says nothing.', {});
  if (!control.isOver) tally.add('no end of the program (M2)');
  return { moves: control.builder.finish(), mark: markOfNotes(notes), notUnderstood: tally.list() };
}
