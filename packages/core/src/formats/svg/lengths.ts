import { Failure } from '../../base/failure/failure';

/** Millimetres per CSS pixel (CSS 2.1, 4.3.2: 96 to the inch). */
export const MM_PER_PX = 25.4 / 96;

const UNITS: Record<string, number> = {
  '': 1,
  px: 1,
  pt: 96 / 72,
  pc: 16,
  mm: 96 / 25.4,
  cm: 96 / 2.54,
  in: 96,
};

/**
 * A length in user units.
 * @param whole what 100 % stands for
 * @param em the font size in force
 */
export function parseLength(text: string | undefined, whole: number, em = 16): number | undefined {
  if (text === undefined) return undefined;
  const match = /^([+-]?(?:\d+(?:\.\d*)?|\.\d+)(?:[eE][+-]?\d+)?)\s*(%|[a-zA-Z]*)$/.exec(text.trim());
  const unit = match?.[2]?.toLowerCase() ?? '';
  const value = Number(match?.[1]);
  const factor = unit === '%' ? whole / 100 : unit === 'em' ? em : unit === 'ex' ? em / 2 : unit === 'rem' ? 16 : UNITS[unit];
  if (!match || factor === undefined || !Number.isFinite(value))
    throw new Failure('svg-length', `“${text.slice(0, 40)}” is not a length.`);
  return value * factor;
}

/**
 * Lengths that go by the size of letters in user units; all else as it is.
 * @param size of the letters, in user units
 */
export const inUserUnits = (text: string, size: number): string =>
  text.replace(/([+-]?(?:\d+(?:\.\d*)?|\.\d+)(?:e[+-]?\d+)?)\s*(em|ex|rem)\b/gi, (_, number: string, unit: string) =>
    String(Number(number) * BY_LETTERS[unit.toLowerCase()]!(size)),
  );
const BY_LETTERS: Readonly<Record<string, (size: number) => number>> = {
  em: (size) => size,
  ex: (size) => size / 2,
  rem: () => 16,
};

/**
 * A list of numbers, which blanks, commas or just a sign may part (SVG 1.1, 4.2).
 * @returns undefined where something else stands in it
 */
export function parseNumbers(text: string): number[] | undefined {
  const numbers: number[] = [];
  const rest = text.replace(/[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?/g, (number) => (numbers.push(Number(number)), ' '));
  return /^[\s,]*$/.test(rest) && numbers.every(Number.isFinite) ? numbers : undefined;
}

/** The numbers that a list begins with, up to whatever is none, and whether that is all of it. */
export function numbersUpTo(text: string): { readonly numbers: readonly number[]; readonly whole: boolean } {
  const one = /[\s,]*([+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?)/y;
  const numbers: number[] = [];
  let at = 0;
  for (let found = one.exec(text); found && Number.isFinite(Number(found[1])); found = one.exec(text)) {
    numbers.push(Number(found[1]));
    at = one.lastIndex;
  }
  return { numbers, whole: /^[\s,]*$/.test(text.slice(at)) };
}
