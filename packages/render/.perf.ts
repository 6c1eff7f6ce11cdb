import { compareAs, derive, project, recipeOf, codecOf, applyPatches, footprintHash, type Master, type Row } from '@inkwell-twin/core';
import { computeTable } from '../core/src/tables';
import { shippedFonts } from './src';
const means = { fonts: shippedFonts() };
const N = 100_000;
const cols = Array.from({ length: 12 }, (_, i) => i === 0 ? { id: 'c0', name: 'Key', type: 'text' as const } : i === 1 ? { id: 'c1', name: 'Kind', type: 'category' as const } : i === 11 ? { id: 'c11', name: 'Ratio', type: 'number' as const, decimals: 3, formula: '(C5 - C6) / mean(C7) * 100' } : { id: `c${i}`, name: `C${i}`, type: 'number' as const, decimals: 2 });
const rows: Row[] = Array.from({ length: N }, (_, r) => { const cells: Record<string, string | number> = { c0: `K-${r}`, c1: ['a', 'b', 'c'][r % 3]! }; for (let i = 2; i < 11; i++) cells[`c${i}`] = Math.round(Math.sin(r * i) * 1e5) / 1e3; return { id: `r${r}`, cells }; });
const m: Master = { id: 'm', title: 'x', owner: '', purpose: 'series', unit: 'mm', layers: [{ id: 'l', name: 'l', colour: '#000000', visible: true, locked: false, process: 'print' }], symbols: [], boards: [], tables: [{ id: 't', name: 'T', key: 'c0', columns: cols, rows, summaries: [{ id: 's', name: 'M', formula: 'mean(Ratio)' }] }], resources: [], description: '' };
const t = async <T>(name: string, f: () => T | Promise<T>): Promise<T> => { const a = performance.now(); const r = await f(); console.log(name, Math.round(performance.now() - a), 'ms', Math.round(process.memoryUsage().rss / 1e6), 'MB'); return r; };
const first = await t('compute', () => computeTable(m.tables![0]!));
const m2 = await t('patch', () => applyPatches(m, [{ op: 'set', node: 'r500', attribute: 'cells.c5', value: 3 }]).master);
await t('recompute', () => computeTable(m2.tables![0]!, first));
const m3 = applyPatches(m2, [{ op: 'set', node: 'r501', attribute: 'cells.c7', value: 3 }]).master;
await t('recompute mean', () => computeTable(m3.tables![0]!, computeTable(m2.tables![0]!, first)));
await t('footprint', () => footprintHash(m, recipeOf('csv', {})));
await t('footprint2', () => footprintHash(m2, recipeOf('csv', {})));
for (const target of ['csv', 'xlsx', 'json', 'html']) {
  const recipe = recipeOf(target, {});
  const { projection } = await t(target + ' project', () => project(m, recipe, means));
  const files = await t(target + ' write', () => codecOf(target).write(projection, recipe.options, 'inkwell-twin; says=' + '0'.repeat(40), means));
  console.log(files[0]!.bytes.length / 1e6);
  const back = await t(target + ' read', () => codecOf(target).read(files, { options: recipe.options }, means));
  const c = await t(target + ' compare', () => compareAs(recipe, projection, back));
  console.log(c.differences.length);
}
await t('derive csv', () => derive({ master: m, rev: 1, time: '2026-01-01T00:00:00.000Z' }, recipeOf('csv', {}), means));
await t('derive xlsx', () => derive({ master: m, rev: 1, time: '2026-01-01T00:00:00.000Z' }, recipeOf('xlsx', {}), means));
