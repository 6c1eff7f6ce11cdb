/** What a match check finds about a copy. */
export const VERDICTS = ['in step', 'behind', 'touched', 'crossed', 'gone', 'unreadable', 'accepted'] as const;
export type Verdict = (typeof VERDICTS)[number];

/** The answers that a verdict rests on. */
export interface Answers {
  /** The bytes are those that were written. */
  readonly intact: boolean;
  /** The file says what the master said at the revision it was made from. */
  readonly matchesBaseline: boolean;
  /** The file says what the master says now. */
  readonly matches: boolean;
  /** For this copy, the master says now what it said then. */
  readonly currentIsBaseline: boolean;
}

interface Row {
  readonly when: Partial<Answers>;
  readonly verdict: Verdict;
  readonly remark: string;
}

/** The verdict table of the design, row by row; the first that fits counts. */
const TABLE: readonly Row[] = [
  { when: { intact: true, matches: true }, verdict: 'in step', remark: '' },
  { when: { intact: true, matches: false }, verdict: 'behind', remark: '' },
  { when: { matchesBaseline: true, matches: true }, verdict: 'in step', remark: 're-written elsewhere' },
  { when: { matchesBaseline: true, matches: false }, verdict: 'behind', remark: 're-written elsewhere' },
  { when: { matches: true }, verdict: 'in step', remark: 'caught up by hand' },
  { when: { currentIsBaseline: true }, verdict: 'touched', remark: '' },
  { when: {}, verdict: 'crossed', remark: '' },
];

/** The verdict that follows from the answers, and a remark where it needs one. */
export function verdictOf(answers: Answers): { verdict: Verdict; remark: string } {
  const row = TABLE.find(({ when }) => (Object.keys(when) as (keyof Answers)[]).every((key) => when[key] === answers[key]))!;
  return { verdict: row.verdict, remark: row.remark };
}
