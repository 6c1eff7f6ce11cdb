import { set } from '../../../document/commands';
import type { Master, Style } from '../../../document/schema';
import { allNodes } from '../../../document/tree';
import { type Breach, type Standard, nearest, objects, together } from '../breach';

interface DrawnLine {
  readonly id: string;
  readonly style: Style;
  readonly computed: boolean;
}

/** Everything that draws a line, on boards and in symbols. */
function* drawn(master: Master): Generator<DrawnLine> {
  for (const node of allNodes(master)) {
    const { style, formulas } = node as { style?: Style; formulas?: Readonly<Record<string, string>> };
    if (style?.stroke && style.strokeWidth > 0) yield { id: node.id, style, computed: 'style.strokeWidth' in (formulas ?? {}) };
  }
}
const number = (value: number): string => String(Number(value.toFixed(4)));
const SAME = 1e-6;

/** Lines have the widths of the house. */
export const widths: Standard = {
  id: 'widths',
  breaches: (master, { widths: wanted }) => {
    if (!wanted.length) return [];
    const wrong = [...drawn(master)].filter(({ style }) => !wanted.some((one) => Math.abs(one - style.strokeWidth) < SAME));
    const said = wanted.map(number).join(', ');
    return together(wrong.map((one) => [`${number(one.style.strokeWidth)} ${one.computed}`, one] as const)).map(
      ([, same]): Breach => {
        const { style, computed } = same[0]!;
        const width = nearest(wanted, style.strokeWidth);
        const words = `${objects(same.length)} with a line of ${number(style.strokeWidth)} mm${computed ? ', computed' : ''}; the house draws ${said} mm.`;
        const patches = same.map(({ id }) => set(id, 'style.strokeWidth', width));
        return {
          standard: 'widths',
          nodes: same.map(({ id }) => id),
          words,
          repair: computed ? null : { label: `Lines of ${number(style.strokeWidth)} mm made ${number(width)} mm`, patches },
        };
      },
    );
  },
};

const isSame = (a: readonly number[], b: readonly number[]): boolean => {
  // An odd list goes on with gaps and dashes changed about.
  const [one, two] = [a, b].map((list) => (list.length % 2 ? [...list, ...list] : list)) as [
    readonly number[],
    readonly number[],
  ];
  return one.length === two.length && one.every((value, i) => Math.abs(value - two[i]!) < SAME);
};
/** How far two patterns of dashes are from one another: of their length, and of the share of it that is drawn. */
function apart(a: readonly number[], b: readonly number[]): number {
  const [one, two] = [a, b].map((list) => (list.length % 2 ? [...list, ...list] : list)) as [
    readonly number[],
    readonly number[],
  ];
  const sum = (list: readonly number[]) => list.reduce((all, value) => all + value, 0);
  const ink = (list: readonly number[]) => sum(list.filter((_, i) => i % 2 === 0)) / Math.max(sum(list), SAME);
  return (
    Math.abs(Math.log(Math.max(sum(one), SAME) / Math.max(sum(two), SAME))) +
    2 * Math.abs(ink(one) - ink(two)) +
    (one.length === two.length ? 0 : 1)
  );
}

/** Lines that are not whole have a pattern of the house. */
export const dashes: Standard = {
  id: 'lines',
  breaches: (master, { lines }) => {
    if (!lines.length) return [];
    const wrong = [...drawn(master)].filter(
      ({ style: { dash } }) => dash?.length && !lines.some((one) => isSame(one.dash, dash)),
    );
    return together(wrong.map((one) => [one.style.dash!.map(number).join(' '), one] as const)).map(([said, same]): Breach => {
      const { dash } = same[0]!.style;
      const best = lines.reduce((one, two) => (apart(two.dash, dash!) < apart(one.dash, dash!) ? two : one));
      return {
        standard: 'lines',
        nodes: same.map(({ id }) => id),
        words: `${objects(same.length)} with a line of dashes ${said} mm; the house has ${lines.map(({ name }) => name).join(', ')}.`,
        repair: {
          label: `Dashes ${said} made ${best.name}`,
          patches: same.map(({ id }) => set(id, 'style.dash', [...best.dash])),
        },
      };
    });
  },
};
