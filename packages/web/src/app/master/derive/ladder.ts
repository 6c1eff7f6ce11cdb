import type { AnswerOf } from '@inkwell-twin/api';

type Carry = AnswerOf<'carry'>;
export type Line = Carry['rungs'][number]['report']['lines'][number];

/** One feature of the document, and what becomes of it in each version. */
interface LadderRow {
  readonly key: string;
  readonly what: string;
  readonly count: number;
  /** One for each version; none where nothing of the feature needs a word. */
  readonly cells: readonly (Line | null)[];
}

const ORDER = ['left out', 'approximated', 'restated', 'kept'];

/** The reports of all versions side by side: what fares worst anywhere comes first. */
export function rowsOf({ rungs }: Carry): LadderRow[] {
  const rows = new Map<string, LadderRow & { cells: (Line | null)[] }>();
  rungs.forEach(({ report }, i) => {
    for (const line of report.lines) {
      const key = `${line.feature}|${line.what}`;
      const row = rows.get(key) ?? { key, what: line.what, count: line.count, cells: rungs.map(() => null) };
      // Of two outcomes of one feature the worse comes first in the report.
      row.cells[i] ??= line;
      rows.set(key, row);
    }
  });
  const worst = ({ cells }: LadderRow) => Math.min(...cells.map((cell) => ORDER.indexOf(cell?.outcome ?? 'kept')));
  return [...rows.values()].sort((a, b) => worst(a) - worst(b) || b.count - a.count);
}

/** What fares worst comes first, of two that fare alike the more frequent. */
export const worstFirst = <R extends { readonly cell: Line | null; readonly count: number }>(rows: readonly R[]): R[] => {
  const rank = ({ cell }: R): number => ORDER.indexOf(cell?.outcome ?? 'kept');
  return [...rows].sort((a, b) => rank(a) - rank(b) || b.count - a.count);
};

/** What becomes of a thing, beside its pill: "approximated, arcs and lines, 0.0061 mm". */
export function cellWords(line: Line | null): string {
  if (!line) return 'kept';
  const { outcome, becomes, deviation } = line;
  const words = becomes ? `${outcome}, ${becomes}` : outcome;
  return deviation === null || deviation < 0.00005 ? words : `${words}, ${deviation.toFixed(4)} mm`;
}
