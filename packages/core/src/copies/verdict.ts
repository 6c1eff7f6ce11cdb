/** What a match check finds about a copy. */
export const VERDICTS = ['in step', 'behind', 'touched', 'crossed', 'gone', 'unreadable', 'accepted'] as const;
export type Verdict = (typeof VERDICTS)[number];

/** The answers that a verdict rests on. */
export interface Answers {
  /** The bytes are those that were written. */
  readonly whole: boolean;
  /** The file says what the master said at the revision it was made from. */
  readonly saysThen: boolean;
  /** The file says what the master says now. */
  readonly saysNow: boolean;
  /** For this copy, the master says now what it said then. */
  readonly nowIsThen: boolean;
}

interface Row {
  readonly when: Partial<Answers>;
  readonly verdict: Verdict;
  readonly remark: string;
}

/** The verdict table of the design, row by row; the first that fits counts. */
const TABLE: readonly Row[] = [
  { when: { whole: true, saysNow: true }, verdict: 'in step', remark: '' },
  { when: { whole: true, saysNow: false }, verdict: 'behind', remark: '' },
  { when: { saysThen: true, saysNow: true }, verdict: 'in step', remark: 're-written elsewhere' },
  { when: { saysThen: true, saysNow: false }, verdict: 'behind', remark: 're-written elsewhere' },
  { when: { saysNow: true }, verdict: 'in step', remark: 'caught up by hand' },
  { when: { nowIsThen: true }, verdict: 'touched', remark: '' },
  { when: {}, verdict: 'crossed', remark: '' },
];

/** The verdict that follows from the answers, and a remark where it needs one. */
export function verdictOf(answers: Answers): { verdict: Verdict; remark: string } {
  const row = TABLE.find(({ when }) => (Object.keys(when) as (keyof Answers)[]).every((key) => when[key] === answers[key]))!;
  return { verdict: row.verdict, remark: row.remark };
}
