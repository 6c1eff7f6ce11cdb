import { type CarryReport, type Outcome, ladderInWords, oldestThatKeeps, recipeOf } from '../src';

import { lined, masterWith, rectangle } from './build';
import { project } from './flat';

const report = (...lines: [feature: string, outcome: Outcome, what: string][]): CarryReport => ({
  sentence: '',
  objects: 1,
  asTheyAre: 1,
  lines: lines.map(([feature, outcome, what]) => ({
    feature,
    outcome,
    what,
    becomes: '',
    count: 1,
    objects: [],
    deviation: null,
  })),
});
const rungs = (...reports: CarryReport[]) => reports.map((one, i) => ({ version: `v${i + 1}`, report: one }));

describe('a ladder of versions', () => {
  const curves = (outcome: Outcome): [string, Outcome, string] => ['curves', outcome, 'Curves'];
  const widths: [string, Outcome, string] = ['widths', 'left out', 'Line widths'];

  it('finds the oldest that loses nothing which a newer one keeps', () => {
    expect(oldestThatKeeps(rungs(report(), report()))).toBe(0);
    expect(
      oldestThatKeeps(rungs(report(curves('left out')), report(curves('approximated')), report(curves('kept')), report())),
    ).toBe(2);
    expect(oldestThatKeeps(rungs(report(curves('restated')), report(curves('restated'))))).toBe(0);
  });
  it('takes the newest where each version loses something of its own', () =>
    expect(oldestThatKeeps(rungs(report(widths), report(curves('left out'))))).toBe(1));
  it('counts the worst outcome of a feature', () =>
    expect(oldestThatKeeps(rungs(report(curves('kept'), curves('left out')), report(curves('kept'))))).toBe(1));
  it('says what the version before would cost, the worst first', () => {
    expect(ladderInWords(rungs(report()))).toBe('');
    expect(ladderInWords(rungs(report(widths), report(widths)))).toBe(
      'v1 is old enough: a newer version keeps no more of this document.',
    );
    expect(ladderInWords(rungs(report(curves('approximated'), widths), report()))).toBe(
      'v2 is the oldest that keeps all that can be kept; v1 leaves out line widths and approximates curves.',
    );
  });
  it('speaks of this document: the same format is old enough for one and not for another', () => {
    const ladder = (width: number) => {
      const master = masterWith([rectangle('a', 10, 10, { style: lined('#ff0000', width), radius: 0 })]);
      return ladderInWords(
        ['R12', '2000'].map((version) => ({
          version,
          report: project(master, recipeOf('dxf', { version })).report,
        })),
      );
    };
    expect(ladder(0.5)).toContain('R12 leaves out line widths');
    expect(ladder(0)).toContain('R12 leaves out line widths');
  });
});
