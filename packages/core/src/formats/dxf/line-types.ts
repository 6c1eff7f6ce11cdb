import { shortNumber } from '../../base/bytes/numbers';
import type { Drawing } from '../../contracts/drawing';
import type { DxfRecord } from './records';
import type { Pair } from './pairs';

/** A line type of the LTYPE table: dashes and gaps by turns, drawing units. */
export interface LineType {
  readonly name: string;
  readonly dash: readonly number[];
}

const nameOf = (number: number): string => `DASHES_${number}`;
const keyOf = (dash: readonly number[]): string => dash.map((length) => shortNumber(length, 6)).join(' ');

/** Line types for the dashes of drawings, each once. */
export class LineTypes {
  private readonly byKey = new Map<string, LineType>();

  constructor(drawings: Iterable<Drawing>) {
    for (const { looks } of drawings) for (const { line } of looks) if (line?.dash.length) this.nameFor(line.dash);
  }

  get all(): readonly LineType[] {
    return [...this.byKey.values()];
  }

  /** The name of the line type with these dashes. */
  nameFor(dash: readonly number[]): string {
    const key = keyOf(dash);
    let found = this.byKey.get(key);
    if (!found) this.byKey.set(key, (found = { name: nameOf(this.byKey.size + 1), dash }));
    return found.name;
  }
}

/** The groups of a line type after its name and flags (DXF reference, LTYPE): a gap is negative, a dot is zero. */
export function patternPairs({ dash }: LineType): Pair[] {
  const n = (value: number) => shortNumber(value, 6);
  const total = dash.reduce((sum, length) => sum + length, 0);
  return [
    [3, `Dashes ${keyOf(dash)}`.slice(0, 80)],
    [72, 65],
    [73, dash.length],
    [40, n(total)],
    ...dash.map((length, i): Pair => [49, i % 2 ? n(-length) : n(length)]),
  ];
}

/**
 * The dashes that a record of the LTYPE table states, in drawing units, beginning with a dash.
 * @returns null for a whole line, undefined where it says more than dashes (letters, shapes)
 */
export function dashesOf(record: DxfRecord): number[] | null | undefined {
  const parts = record.all(49);
  if (!parts.length) return null;
  if (record.all(74).some((flags) => flags !== 0)) return undefined;
  const dash: number[] = [];
  for (const part of parts) {
    const isDash = part >= 0;
    // Two of a kind one after the other are one; what is missing between is nothing long.
    if (dash.length && isDash === (dash.length % 2 === 1)) dash[dash.length - 1]! += Math.abs(part);
    else {
      if (!dash.length && !isDash) dash.push(0);
      dash.push(Math.abs(part));
    }
  }
  if (dash.length % 2) dash.push(0);
  return dash.some((length, i) => i % 2 === 1 && length > 0) && dash.length <= 64 ? dash : null;
}
