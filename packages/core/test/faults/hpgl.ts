import type { Change, Changes, Dice } from './dice';
import { type Line, apart } from './shapes';

/** Units to the millimetre. */
const UNITS = 40;

/** A pen-down move: where it stands in the text, and where it goes. */
interface Stroke {
  readonly at: number;
  readonly text: string;
  readonly spots: [number, number][];
}

function strokesOf(words: string): Stroke[] {
  return [...words.matchAll(/PU(-?\d+),(-?\d+);\s*PD([-\d,]+);/g)].map((match) => {
    const rest = match[3]!.split(',').map(Number);
    const spots: [number, number][] = [[Number(match[1]), Number(match[2])]];
    for (let i = 0; i + 1 < rest.length; i += 2) spots.push([rest[i]!, rest[i + 1]!]);
    return { at: match.index, text: match[0], spots };
  });
}

const textOf = ([first, ...rest]: readonly (readonly [number, number])[]): string => `PU${first!.join()};\nPD${rest.join()};`;
const put = (words: string, { at, text }: Stroke, by: string): string => words.slice(0, at) + by + words.slice(at + text.length);

/** A change to one stroke. */
const onStroke =
  (change: (stroke: Stroke, dice: Dice, tolerance: number) => string | undefined): Change =>
  (words, dice, tolerance) => {
    const stroke = dice.pick(strokesOf(words));
    const by = stroke && change(stroke, dice, tolerance);
    return stroke && by !== undefined && by !== stroke.text ? put(words, stroke, by) : undefined;
  };

export const HPGL_FAULTS: Changes = {
  move: onStroke(({ spots }, dice, tolerance) => {
    const [dx, dy] = dice.shift(dice.size(2.2 * tolerance, 60) * UNITS);
    return textOf(spots.map(([x, y]) => [Math.round(x + dx), Math.round(y + dy)]));
  }),
  delete: onStroke(() => ''),
  'cut twice': onStroke(({ text }) => `${text}\n${text}`),
  add: (words, dice) =>
    words.replace(/PU;\s*SP0;/, (end) => `PU${dice.below(400)},10;\nPD${900 + dice.below(400)},${dice.below(999)};\n${end}`),
  'change a corner': onStroke(({ spots }, dice, tolerance) => {
    const index = dice.below(spots.length);
    const [dx, dy] = dice.shift(dice.size(3 * tolerance, 40) * UNITS);
    const next = spots.map(([x, y], i): [number, number] => (i === index ? [Math.round(x + dx), Math.round(y + dy)] : [x, y]));
    const mm = (line: Line): Line => line.map(([x, y]) => [x / UNITS, y / UNITS]);
    return apart(mm(spots), mm(next)) > 1.3 * tolerance ? textOf(next) : undefined;
  }),
  resize: onStroke(({ spots }, dice, tolerance) => {
    const reach = Math.max(...spots.map(([x, y]) => Math.hypot(x - spots[0]![0], y - spots[0]![1]))) / UNITS;
    const factor = 1 + dice.size((3 * tolerance) / reach, 2);
    return textOf(
      spots.map(([x, y]) => [
        Math.round(spots[0]![0] + (x - spots[0]![0]) * factor),
        Math.round(spots[0]![1] + (y - spots[0]![1]) * factor),
      ]),
    );
  }),
  're-order': (words, dice) => {
    const strokes = strokesOf(words);
    if (strokes.length < 2) return undefined;
    const [i, j] = [dice.below(strokes.length), dice.below(strokes.length)].sort((a, b) => a - b) as [number, number];
    const [one, other] = [strokes[i]!, strokes[j]!];
    // Across a change of pen it would be a change of pen.
    if (i === j || one.text === other.text || /SP/.test(words.slice(one.at, other.at))) return undefined;
    return put(put(words, other, one.text), one, other.text);
  },
  'run backwards': onStroke(({ spots }) => textOf([...spots].reverse())),
  'other pen': (words) => words.replace(/SP[1-8];/, ({ 2: digit }) => `SP${(Number(digit) % 8) + 1};`),
  'scale by 25.4': (words) =>
    words.replace(/-?\d+(?=[,;])/g, (n, at: number) =>
      /SP$/.test(words.slice(0, at)) ? n : String(Math.round(Number(n) * 25.4)),
    ),
  'scale instruction': (words) => words.replace('IN;', 'IN;IP0,0,4000,4000;SC0,2000,0,2000;'),
  'dashed line': (words) => words.replace('IN;', 'IN;LT2,1;'),
  'lose a comma': onStroke(({ text }) => text.replace(/(\d),(\d+);$/, '$1$2;')),
  truncate: (words, dice) => {
    const strokes = strokesOf(words);
    const last = strokes.at(-1)!;
    return words.slice(0, strokes[0]!.at + dice.below(last.at + last.text.length - strokes[0]!.at));
  },
  'change one digit': (words, dice, tolerance) => {
    const stroke = dice.pick(strokesOf(words))!;
    const digits = [...stroke.text.matchAll(/\d/g)];
    const digit = dice.pick(digits)!;
    const changed =
      stroke.text.slice(0, digit.index) +
      String((Number(digit[0]) + 1 + dice.below(9)) % 10) +
      stroke.text.slice(digit.index + 1);
    const [next] = strokesOf(changed);
    if (!next) return undefined;
    const mm = (line: Line): Line => line.map(([x, y]) => [x / UNITS, y / UNITS]);
    return apart(mm(stroke.spots), mm(next.spots)) > 1.3 * tolerance ? put(words, stroke, changed) : undefined;
  },
};

export const HPGL_HARMLESS: Changes = {
  'line ends of another system': (words) => words.replace(/\n/g, '\r\n'),
  'all on one line': (words) => words.replace(/\n/g, ''),
  'small letters': (words) => words.replace(/\b(PU|PD|SP|IN)/g, (name) => name.toLowerCase()),
  'speed and force': (words) => words.replace(/SP1;/, 'SP1;VS20;FS3;'),
  'moves said one by one': (words) =>
    words.replace(/PU(-?\d+,-?\d+);\s*PD([-\d,]+);/g, (_, start: string, rest: string) => `PU;PA${start};PD;PA${rest};`),
  'a stroke in two parts': onStroke(({ text }) =>
    text.replace(/PD((?:-?\d+,-?\d+,)+)(-?\d+,-?\d+);/, (_, first: string, last: string) => `PD${first.slice(0, -1)};PD${last};`),
  ),
  'another comment': (words) => words.replace('IN;', 'IN;CO "seen by another program";'),
  'rounded otherwise': onStroke(({ spots }, dice) =>
    textOf(spots.map(([x, y], i) => (i % 3 === 1 ? [x + (dice.next() < 0.5 ? 1 : -1), y] : [x, y]))),
  ),
};
