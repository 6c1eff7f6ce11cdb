import * as core from '../src';
import { misjudged } from './faults/misjudged';
import { services } from './flat';
import { seriesMaster } from './series';
import { atDepth } from './depth';
import { judgedBy } from './judged-by';

const seed = Number(process.env['INKWELL_SEED'] ?? 20_261_130);

describe('copies of tables that other hands changed', () => {
  judgedBy('lxml').it.each([
    ['workbooks in the parts of their package', 'workbook', { xlsx: [80, 40] }],
    ['pages element by element', 'table-page', { html: [140, 50] }],
    ['lines of cells and JSON letter by letter', 'values', { csv: [75, 25], json: [70, 25] }],
  ] as const)(`%s: whatever shows is found out, and nothing else alarms (seed ${seed})`, async (_, script, least) => {
    const asked = { targets: Object.keys(least), master: seriesMaster(), services, seed, each: atDepth(1, 5) };
    const { wrong, kinds } = await misjudged(core, { script: `packages/core/test/faults/${script}.py`, ...asked });
    expect(wrong).toEqual([]);
    for (const [target, [faults, harmless]] of Object.entries(least)) {
      expect(kinds[target]!.faults).toBeGreaterThanOrEqual(atDepth(0.3 * faults, faults));
      expect(kinds[target]!.harmless).toBeGreaterThanOrEqual(atDepth(0.3 * harmless, harmless));
    }
  });
});
