import type { Box } from '../../../base/geometry/measure';
import { type Matrix, apply, invert } from '../../../base/geometry/matrix';
import { joinBoxes } from '../../../base/geometry/measure';
import type { Job, Prepared } from '../jobs';
import type { LaidOut } from '../lay-out';
import type { PlanSettings } from '../settings';
import type { Finding, Mend } from '../../../contracts/finding';

/** What the looks at a part have to go by. */
export interface FitContext {
  readonly prepared: Prepared;
  /** Several of it on the bed, and the marks around them. */
  readonly laid: LaidOut;
  readonly marks: readonly Job[];
  readonly settings: PlanSettings;
  /** What people call an object. */
  readonly nameOf: (source: string) => string;
}

/** One kind of what can be wrong. */
export type Look = (context: FitContext) => readonly Finding[];

/** A box on the machine as it lies on the board. @param back from the machine to the board */
export function boxOnBoard({ minX, minY, maxX, maxY }: Box, back: Matrix): Box {
  const corners = (
    [
      [minX, minY],
      [maxX, minY],
      [minX, maxY],
      [maxX, maxY],
    ] as const
  ).map((point) => apply(back, point));
  const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)];
  return { minX: Math.min(...xs), minY: Math.min(...ys), maxX: Math.max(...xs), maxY: Math.max(...ys) };
}

export const mm = (value: number): string => `${Number(value.toFixed(value < 1 ? 3 : 2))} mm`;

/** The settings that leave an object out, beside those left out already. */
export const leaveOut = ({ settings }: FitContext, source: string, name: string): Mend => ({
  words: `Leave “${name}” out`,
  options: { leftOut: [...settings.leftOut, source].join(' ') },
});

interface One {
  readonly job: Job;
  readonly place: Box;
  readonly amount: number | null;
}

/** Findings of one kind, one for each object: its places joined, its largest amount. */
export function byObject(
  context: FitContext,
  all: readonly One[],
  say: (name: string, amount: number, count: number, job: Job) => Pick<Finding, 'kind' | 'words' | 'mends'> & { unit?: string },
): Finding[] {
  const groups = new Map<string, One[]>();
  for (const one of all) {
    const group = groups.get(one.job.source);
    if (group) group.push(one);
    else groups.set(one.job.source, [one]);
  }
  return [...groups].map(([source, group]) => {
    const amounts = group.flatMap(({ amount }) => (amount === null ? [] : [amount]));
    const amount = amounts.length ? Math.max(...amounts) : null;
    const { unit = 'mm', ...said } = say(context.nameOf(source), amount ?? 0, group.length, group[0]!.job);
    return {
      ...said,
      objects: [source],
      place: boxOnBoard(joinBoxes(group.map(({ place }) => place)), invert(context.prepared.at)!),
      amount,
      unit: amount === null ? '' : unit,
    };
  });
}
