import { createHash } from 'node:crypto';
import { BENCH } from '../src';

const run = (machine: string, text: string) => BENCH[machine]!(new TextEncoder().encode(text));
const words = (machine: string, text: string): string =>
  run(machine, text)
    .alarms.map(({ at, words: why }) => `${at}: ${why}`)
    .join('\n');

const HEAD = 'G21 G17 G90 G40 G54 G94\nT1 M6\nS16000 M3\nG0 Z5.\n';

describe('the router', () => {
  it('runs a program to its end, with its length, its time and its checksum', () => {
    const text = `${HEAD}X100. Y100.\nG1 Z-3. F400.\nX200. F1800.\nG0 Z5.\nM5\nM2\n`;
    const report = run('router', text);
    expect(report).toMatchObject({ runs: true, alarms: [], tools: [1], moves: 5 });
    expect(report.sha256).toBe(createHash('sha256').update(text).digest('hex'));
    // 100 mm at 1,800 mm/min, a second at 400 mm/min and more, and the change of the tool.
    expect(report.seconds).toBeGreaterThan(12 + 100 / 30 + 1);
    expect(report.extents).toMatchObject({ minZ: -3, maxX: 200 });
    expect(report.picture).toMatch(/<polyline/);
  });

  it.each([
    ['out of the bed', `${HEAD}X901. Y0.\nM2\n`, /5: out of the bed/],
    ['into its own bed', `${HEAD}X9. Y9.\nG1 Z-10. F400.\nM2\n`, /6: into the machine’s own bed/],
    ['too deep for the tool', `G21 G90\nT2 M6\nS9000 M3\nG0 X9. Y9. Z5.\nG1 Z-9.1 F300.\nT4 M6\nM2\n`, /while the spindle turns/],
    [
      'deeper than an engraving point',
      `G21 G90\nT4 M6\nS9000 M3\nG0 X9. Y9. Z5.\nG1 Z-5. F300.\nM2\n`,
      /5: 5.000 mm deep with a tool of 4 mm/,
    ],
    ['through the stock', `${HEAD}X9. Y9.\nG1 Z-3. F400.\nG0 X50.\nM2\n`, /7: through the stock/],
    ['down like through the air', `${HEAD}X9. Y9.\nG0 Z-3.\nM2\n`, /6: through the stock/],
    ['without turning', `G21 G90\nT1 M6\nG0 X9. Y9. Z5.\nG1 Z-3. F400.\nM2\n`, /4: into the stock, and the spindle stands still/],
    ['without a tool', `G21 G90\nS9000 M3\nG0 X9. Y9. Z5.\nG1 Z-3. F400.\nM2\n`, /without a tool/],
    ['with a tool that is not there', 'T7 M6\nM2\n', /1: there is no tool 7/],
    ['with a word that it does not know', `${HEAD}G81 X5. Y5. Z-3.\nM2\n`, /5: G81 is not known/],
    ['with a letter that it does not know', `${HEAD}X5. Q3.\nM2\n`, /5: the word Q/],
    ['with what is no word', `${HEAD}hello\nM2\n`, /5: “hello” is not understood/],
    ['an arc that does not close', `${HEAD}X0. Y0.\nG2 X10. Y10. I10. J1. F900.\nM2\n`, /6: an arc that does not close/],
    ['an arc by its radius', `${HEAD}X0. Y0.\nG2 X10. Y10. R10. F900.\nM2\n`, /6: the word R/],
    ['into a clamp', `${HEAD}X200. Y590.\nG1 Z-1. F400.\nM2\n`, /into a clamp/],
    ['sideways with a drill', 'G21 G90\nT3 M6\nS9000 M3\nG0 X9. Y9. Z5.\nG1 Z-3. F300.\nX20.\nM2\n', /6: sideways with a drill/],
    ['without a feed', `${HEAD}X9. Y9.\nG1 Z-3.\nM2\n`, /nobody says how fast/],
    ['without an end', `${HEAD}X9. Y9.\n`, /no end/],
    ['with more behind its end', `${HEAD}M2\nX9.\n`, /behind the end/],
    ['with a line too long', `${HEAD}(${'x'.repeat(300)})\nM2\n`, /5: a line of 302/],
  ])('stops %s', (_, text, why) => expect(words('router', text)).toMatch(why));

  it('reads no further in a line that is longer than it takes, whatever stands there', () => {
    const report = run('router', `${HEAD}${'('.repeat(200_000)}\nG1 X${'9'.repeat(100_000)} F1\nM2\n`);
    expect(report.alarms.map(({ at }) => at)).toEqual([5, 6]);
    expect(Number.isFinite(report.seconds)).toBe(true);
  });

  it('goes by inches and by steps as well', () => {
    const report = run('router', 'G20 G91\nT1 M6\nS9000 M3\nG0 X1 Y1 Z-2.9\nX1\nM2\n');
    expect(report.extents).toMatchObject({ maxX: 50.8, maxY: 25.4 });
  });
});

describe('the cutter', () => {
  it('runs a cut file', () => {
    expect(run('cutter', 'IN;CO "a note";SP1;PU400,400;PD800,400,800,800;PU;SP0;')).toMatchObject({
      runs: true,
      tools: [1],
      worked: 20,
    });
    expect(run('cutter', 'IN;SP2;PU400,400;PD;PR400,0,0,400;PU;').extents).toMatchObject({ maxX: 20, maxY: 20 });
  });

  it.each([
    ['out of the sheet', 'IN;SP1;PU24001,0;', /out of the sheet/],
    ['below its corner', 'IN;SP1;PU-1,0;', /out of the sheet/],
    ['with a tool that is not there', 'IN;SP4;PU0,0;', /no tool 4/],
    ['without a tool', 'IN;PU0,0;PD40,40;', /without a tool/],
    ['with a word that it does not know', 'IN;SP1;CI400;', /CI is not known/],
    ['with half a place', 'IN;SP1;PU400;', /half a place/],
    ['with what is no number', 'IN;SP1;PU4.0.0,1;', /no number/],
  ])('stops %s', (_, text, why) => expect(words('cutter', text)).toMatch(why));
});

describe('the needle machine', () => {
  const list = (...lines: string[]): string =>
    ['inkwell-stitches,1', 'thread,1,#2f6f8f', 'thread,2,#14213a', 'op,x,y,thread', ...lines, 'end,,,', ''].join('\n');
  const begun = ['jump,0,0,1', 'stitch,0,0,1', 'stitch,25,0,1'];

  it('sews a list to its end, in the time that stitches, cuts and changes take', () => {
    const report = run('needle', list(...begun, 'cut,,,1', 'jump,100,0,2', 'stitch,100,0,2', 'stitch,100,25,2', 'cut,,,2'));
    expect(report).toMatchObject({ runs: true, alarms: [], tools: [1, 2] });
    // Two needles, two cuts, four stitches at 800 a minute, 7.5 mm of jump at 100 mm/s.
    expect(report.seconds).toBeCloseTo(2 * 8 + 2 * 1.5 + 4 * 0.075 + 0.075, 6);
    expect(report.worked).toBeCloseTo(5, 6);
    expect(run('needle', list(...begun, 'cut,,,1').replaceAll('\n', '\r')).runs).toBe(true);
  });

  it.each([
    [
      'out of its hoop',
      list(...begun, 'cut,,,1', 'jump,501,0,1', 'stitch,501,0,1', 'cut,,,1'),
      /9: out of the hoop: x 50.1, y 0/,
    ],
    ['with a needle that it has not', list('jump,0,0,7'), /5: there is no needle 7/],
    ['with a needle without a thread', list('jump,0,0,3'), /5: needle 3 has no thread/],
    ['with a stitch that is too long', list(...begun, 'stitch,147,0,1', 'cut,,,1'), /8: a stitch of 12.2 mm/],
    ['with a jump while its thread is not cut', list(...begun, 'jump,90,0,1', 'cut,,,1'), /8: it jumps with a thread/],
    ['with a change while its thread is not cut', list(...begun, 'stitch,30,0,2', 'cut,,,2'), /8: the needle is changed/],
    ['with a thread that is not cut at the end', list(...begun), /the last thread is not cut/],
    ['with nothing to cut', list('cut,,,1'), /5: there is no thread to cut/],
    ['with a word that it does not know', list('whip,0,0,1'), /5: “whip” is not known/],
    ['with half a place', list('stitch,5,,1'), /5: stitch to no place/],
    ['without an end', list(...begun, 'cut,,,1').replace('end,,,\n', ''), /the list has no end/],
    ['with another list', list(...begun).replace('stitches,1', 'stitches,2'), /1: this is no list of stitches of version 1/],
    ['with more than it holds', list(...Array.from({ length: 120_001 }, (_, i) => `stitch,${i % 20},0,1`)), /more than 120000/],
  ])('stops %s', (_, text, why) => {
    expect(words('needle', text)).toMatch(why);
  });
});
