import type { CopyView, VerdictName } from '@inkwell-twin/api';
import { counted } from './words';

/** A copy by itself, or the variants that were asked for together. */
export interface Line {
  readonly id: string;
  readonly series: CopyView['series'];
  readonly copies: readonly CopyView[];
}

/** Variants of one series stand together, where the first of them is. */
export function linesOf(copies: readonly CopyView[]): Line[] {
  const lines = new Map<string, { id: string; series: CopyView['series']; copies: CopyView[] }>();
  for (const copy of copies) {
    const id = copy.series?.id ?? copy.id;
    const line = lines.get(id);
    if (line) line.copies.push(copy);
    else lines.set(id, { id, series: copy.series, copies: [copy] });
  }
  return [...lines.values()];
}

/** What has to be seen to comes first. */
const WORST: readonly VerdictName[] = [
  'crossed',
  'touched',
  'unreadable',
  'gone',
  'behind',
  'not checked',
  'accepted',
  'in step',
];
type VerdictOf = (copy: CopyView) => VerdictName;

/** The verdict of a line: that of the copy in it that has to be seen to most. */
export const worstOf = ({ copies }: Line, verdictOf: VerdictOf = (copy) => copy.verdict): VerdictName =>
  WORST[Math.min(...copies.map((copy) => WORST.indexOf(verdictOf(copy))))] ?? 'not checked';

/** "12 variants: 1 behind, 11 in step". */
export function sumOf({ copies }: Line, verdictOf: VerdictOf = (copy) => copy.verdict): string {
  const tally = new Map<VerdictName, number>();
  for (const copy of copies) tally.set(verdictOf(copy), (tally.get(verdictOf(copy)) ?? 0) + 1);
  const parts = WORST.filter((one) => tally.has(one)).map((one) => `${tally.get(one)!} ${one}`);
  return `${counted(copies.length, 'variant')}: ${parts.join(', ')}`;
}
