import type { TextRun } from './text-item';

/** What may differ in a part of a text; what is undefined is as in the rest. */
export type RunLook = Partial<Omit<TextRun, 'from' | 'to'>>;

const isPlainRun = ({ from: _from, to: _to, ...look }: TextRun): boolean =>
  Object.values(look).every((value) => value === undefined);
const lookKey = ({ from: _from, to: _to, font, size, spacing, colour }: TextRun): string =>
  JSON.stringify([font, size, spacing, colour]);

/** In order, without what says nothing, those that follow on each other and look alike as one. */
function normalise(runs: readonly TextRun[]): TextRun[] {
  const kept: TextRun[] = [];
  for (const run of [...runs].sort((a, b) => a.from - b.from)) {
    if (run.to <= run.from || isPlainRun(run)) continue;
    const last = kept.at(-1);
    if (last?.to === run.from && lookKey(last) === lookKey(run)) kept[kept.length - 1] = { ...last, to: run.to };
    else kept.push(run);
  }
  return kept;
}

/** Gives letters `from` to before `to` another look; undefined values give back that of the rest. */
export function withRun(runs: readonly TextRun[], from: number, to: number, change: RunLook): TextRun[] {
  const cut: TextRun[] = [];
  const inside: TextRun[] = [];
  for (const run of runs) {
    if (run.from < from) cut.push({ ...run, to: Math.min(run.to, from) });
    if (run.to > to) cut.push({ ...run, from: Math.max(run.from, to) });
    const [first, end] = [Math.max(run.from, from), Math.min(run.to, to)];
    if (first < end) inside.push({ ...run, from: first, to: end });
  }
  const changed: TextRun[] = [];
  let at = from;
  for (const run of inside.sort((a, b) => a.from - b.from)) {
    if (run.from > at) changed.push({ ...change, from: at, to: run.from });
    changed.push({ ...run, ...change });
    at = run.to;
  }
  if (at < to) changed.push({ ...change, from: at, to });
  return normalise(
    [...cut, ...changed].map(
      (run) => Object.fromEntries(Object.entries(run).filter(([, value]) => value !== undefined)) as TextRun,
    ),
  );
}

/** The runs of a wording that was changed into another: what is the same before and after the change keeps its look. */
export function runsAfter(before: string, after: string, runs: readonly TextRun[]): TextRun[] {
  const most = Math.min(before.length, after.length);
  let same = 0;
  while (same < most && before[same] === after[same]) same++;
  let ending = 0;
  while (ending < most - same && before[before.length - 1 - ending] === after[after.length - 1 - ending]) ending++;
  const [cut, grown] = [before.length - ending, after.length - before.length];
  // What is typed at the end of a run goes on with it, what is typed before its first letter does not.
  const start = (at: number) => (at >= cut ? at + grown : Math.min(at, same));
  const end = (at: number) => (at < same ? at : at >= cut ? at + grown : Math.min(at, after.length - ending));
  return normalise(runs.map((run) => ({ ...run, from: start(run.from), to: Math.max(start(run.from), end(run.to)) })));
}

/** The look of letters `from` to before `to`, where they have one and the same beside the rest; `mixed` names what they do not share. */
export function lookWithin(
  runs: readonly TextRun[],
  from: number,
  to: number,
): { readonly look: RunLook; readonly mixed: ReadonlySet<keyof RunLook> } {
  const looks: RunLook[] = [];
  let at = from;
  for (const run of [...runs].sort((a, b) => a.from - b.from)) {
    if (run.to <= from || run.from >= to) continue;
    if (run.from > at) looks.push({});
    looks.push(run);
    at = Math.max(at, run.to);
  }
  if (at < to) looks.push({});
  const [first = {}] = looks;
  const mixed = new Set(
    (['font', 'size', 'spacing', 'colour'] as const).filter((name) => looks.some((one) => one[name] !== first[name])),
  );
  const { font, size, spacing, colour } = first;
  return { look: { font, size, spacing, colour }, mixed };
}
