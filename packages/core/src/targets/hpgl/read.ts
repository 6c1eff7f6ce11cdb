import { Failure } from '../../failure/failure';
import { flatten } from '../../geometry/flatten';
import { circleOutline, pointOnArc } from '../../geometry/arcs';
import { type Outline, type Segment, endOf } from '../../geometry/outline';
import { type Point, distance, near } from '../../geometry/point';
import { type PathEntry, plainStyle } from '../../projection/display-list';
import { Tally, decodeText } from '../bytes';
import type { ReadCopy } from '../target';
import { UNITS_PER_MM } from './carries';

/** Instructions that change nothing of what is drawn, or only its speed and force. */
const SILENT = new Set(['IN', 'DF', 'VS', 'FS', 'IP', 'BP', 'PG', 'PS', 'WU', 'PW', 'NP', 'TR', 'SM', 'EC']);
/** Instructions that change nothing without a value: a solid line, no window. */
const PLAIN_WITHOUT_VALUE = new Set(['LT', 'IW']);

/**
 * What a machine sees in an HP-GL file: pen-down moves, in order, pen by pen. Circles and arcs become chords as a plotter draws them.
 * @throws Failure `hpgl-damaged` with the byte at which reading stopped
 */
export function readHpgl(bytes: Uint8Array): ReadCopy {
  const text = decodeText(bytes);
  const tally = new Tally();
  const entries: PathEntry[] = [];
  let mark: string | null = null;
  let [at, pen, down, relative]: [Point, number, boolean, boolean] = [[0, 0], 0, false, false];
  let open: { start: Point; segments: Segment[] } | undefined;
  let known = 0;

  const emit = (outline: Outline) => {
    entries.push({ kind: 'path', outlines: [outline], layer: `Pen ${pen}`, style: plainStyle });
  };
  const lift = () => {
    if (open?.segments.length) {
      const whole: Outline = { ...open, closed: false };
      const closed = whole.segments.length > 2 && near(endOf(whole), whole.start, 1e-9);
      emit(closed ? { start: open.start, segments: open.segments.slice(0, -1), closed } : whole);
    }
    open = undefined;
  };
  const moveTo = (to: Point) => {
    if (!down) lift();
    else if (!near(at, to, 1e-9)) (open ??= { start: at, segments: [] }).segments.push({ kind: 'line', to });
    at = to;
  };
  const damaged = (byte: number, why: string) =>
    new Failure('hpgl-damaged', `The cut file can't be read further: ${why}.`, { byte });

  const numbersOf = (argument: string, byte: number): number[] => {
    const parts = argument.trim() === '' ? [] : argument.trim().split(/[\s,]+/);
    return parts.map((part) => {
      const value = Number(part);
      if (part === '' || !Number.isFinite(value)) throw damaged(byte, `“${part.slice(0, 20)}” is not a number`);
      return value;
    });
  };
  const follow = (numbers: number[], byte: number) => {
    if (numbers.length % 2) throw damaged(byte, 'a point has only one coordinate');
    for (let i = 0; i < numbers.length; i += 2) {
      const [x, y] = [numbers[i]! / UNITS_PER_MM, numbers[i + 1]! / UNITS_PER_MM];
      moveTo(relative ? [at[0] + x, at[1] + y] : [x, y]);
    }
  };
  const arc = (centre: Point, degrees: number) => {
    const radius = distance(at, centre);
    const turn: Point = [centre[0] + radius, centre[1]];
    const sweep = (degrees * Math.PI) / 180;
    const start = Math.atan2(at[1] - centre[1], at[0] - centre[0]);
    const to: Point = [centre[0] + radius * Math.cos(start + sweep), centre[1] + radius * Math.sin(start + sweep)];
    const whole = Math.abs(degrees) >= 360;
    const segment: Segment = { kind: 'arc', to: whole ? at : to, centre, clockwise: degrees < 0 };
    if (radius > 0 && turn) {
      const from = at;
      for (const part of [0.5, 1]) {
        const end = part === 1 ? segment.to : pointOnArc(from, segment, 0.5);
        const points = flatten({ start: at, segments: [{ ...segment, to: end }], closed: false }, 0.01);
        for (let i = 2; i < points.length; i += 2) moveTo([points[i]!, points[i + 1]!]);
      }
    }
  };

  const run = (name: string, argument: string, byte: number) => {
    if (name === 'CO') mark ??= argument.includes('inkwell-twin;') ? argument : null;
    else if (name === 'SP') {
      lift();
      pen = numbersOf(argument, byte)[0] ?? 0;
      down = false;
    } else if (name === 'PU' || name === 'PD') {
      if (name === 'PU') lift();
      down = name === 'PD';
      follow(numbersOf(argument, byte), byte);
    } else if (name === 'PA' || name === 'PR') {
      relative = name === 'PR';
      follow(numbersOf(argument, byte), byte);
    } else if (name === 'AA' || name === 'AR') {
      const [x, y, degrees] = numbersOf(argument, byte);
      if (x === undefined || y === undefined || degrees === undefined) throw damaged(byte, `${name} needs a centre and an angle`);
      arc(name === 'AA' ? [x / UNITS_PER_MM, y / UNITS_PER_MM] : [at[0] + x / UNITS_PER_MM, at[1] + y / UNITS_PER_MM], degrees);
    } else if (name === 'CI') {
      const radius = numbersOf(argument, byte)[0];
      if (!radius) throw damaged(byte, 'CI needs a radius');
      lift();
      emit(circleOutline(at, Math.abs(radius) / UNITS_PER_MM));
    } else if (!SILENT.has(name) && !(PLAIN_WITHOUT_VALUE.has(name) && !argument.trim())) {
      tally.add(`instruction ${name}`);
      return;
    }
    known++;
  };

  let i = 0;
  while (i < text.length) {
    const code = text.charCodeAt(i);
    if (code <= 32 || code === 59) {
      i++;
      continue;
    }
    const name = text.slice(i, i + 2).toUpperCase();
    if (!/^[A-Z]{2}$/.test(name)) throw damaged(i, `an instruction should stand here, not “${text.slice(i, i + 6)}”`);
    const begin = i + 2;
    let end = begin;
    if (name === 'CO' || name === 'LB') {
      const quoted = name === 'CO' ? /^\s*"/.exec(text.slice(begin, begin + 8)) : null;
      end = quoted ? text.indexOf('"', begin + quoted[0].length) : text.indexOf(name === 'LB' ? '\u0003' : ';', begin);
      if (end < 0) throw damaged(i, `${name} has no end`);
      run(name, text.slice(begin + (quoted?.[0].length ?? 0), end), i);
      i = end + 1;
      continue;
    }
    while (end < text.length && !/[A-Za-z;]/.test(text[end]!)) end++;
    run(name, text.slice(begin, end), i);
    i = end;
  }
  lift();
  if (!known) throw new Failure('not-hpgl', 'This is not an HP-GL file: it holds no instruction.', { byte: 0 });
  if (open || (down && text.trimEnd().at(-1) !== ';')) throw damaged(text.length, 'the file ends in the middle of a move');
  const pens = [...new Set(entries.map(({ layer }) => layer))].map((name) => ({ name, colour: null }));
  return {
    list: { kind: 'display-list', sheet: null, background: null, layers: pens, entries },
    mark,
    notUnderstood: tally.list(),
  };
}
