import type { MachineProfile } from '../../base/machines';
import type { Box } from '../../base/geometry/measure';
import type { Sewn } from './sewn';

/** A thread on its needle. */
export interface Thread {
  readonly number: number;
  readonly colour: string;
}

/**
 * Which thread is on which needle: those that somebody named on theirs, each other colour on the next that is free, in the order
 * in which they come.
 * @returns of each that is sewn its thread; null for one that there is no needle for
 */
export function threadsOf(all: readonly Sewn[], { tools }: MachineProfile): (Thread | null)[] {
  const byNumber = new Map<number, string>();
  const byColour = new Map<string, number>();
  for (const { needle, colour } of all)
    if (needle !== undefined && tools.some(({ number }) => number === needle) && !byNumber.has(needle)) {
      byNumber.set(needle, colour);
      if (!byColour.has(colour)) byColour.set(colour, needle);
    }
  return all.map(({ needle, colour }): Thread | null => {
    if (needle !== undefined) return byNumber.has(needle) ? { number: needle, colour: byNumber.get(needle)! } : null;
    let number = byColour.get(colour);
    if (number === undefined) {
      number = tools.find((one) => one.does.includes('stitch') && !byNumber.has(one.number))?.number;
      if (number === undefined) return null;
      byNumber.set(number, colour);
      byColour.set(colour, number);
    }
    return { number, colour };
  });
}

const meets = (a: Box, b: Box): boolean => a.minX <= b.maxX && b.minX <= a.maxX && a.minY <= b.maxY && b.minY <= a.maxY;

/** An order in which threads change seldom: what lies over something else stays behind it. @returns numbers of `all` */
export function fewChanges(all: readonly Sewn[], threads: readonly Thread[]): number[] {
  const left = all.map((_, i) => i);
  const out: number[] = [];
  let now = -1;
  const free = (i: number): boolean => left.every((before) => before >= i || !meets(all[before]!.box, all[i]!.box));
  while (left.length) {
    const next = left.find((i) => threads[i]!.number === now && free(i)) ?? left[0]!;
    now = threads[next]!.number;
    left.splice(left.indexOf(next), 1);
    out.push(next);
  }
  return out;
}
