import { derive, recipeOf, checkCopy } from '../src';
import { computeTable } from '../src/tables';
import { seriesMaster, seriesTable } from './series';
import { means } from './flat';
import { writeFileSync } from 'node:fs';
it('x', async () => {
  const m = seriesMaster();
  const c = computeTable(m.tables![0]!);
  console.log(c.summaries.map((s) => [s.summary.name, s.value, s.problem]), c.columns.map((x) => [x.column.name, x.problem, [...x.problems].slice(0,2), x.numbers.slice(0, 3), x.words?.slice(0,2)]));
  for (const target of ['csv', 'json', 'html', 'xlsx']) {
    const made = await derive({ master: m, rev: 1, time: '2026-01-01T00:00:00.000Z' }, recipeOf(target, {}), means);
    console.log(target, made.defects, made.report.sentence, made.files.map((f) => [f.part, f.bytes.length]));
    writeFileSync(`/tmp/x.${target}`, made.files[0]!.bytes);
    const r = await checkCopy({ files: made.files, whole: null, says: made.says, recipe: recipeOf(target, {}), now: m, then: m }, means, true);
    console.log(r.verdict, r.proof);
  }
});
