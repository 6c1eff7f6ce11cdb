import fc from 'fast-check';
import { type Master, applyPatches, changesInWords, moveItems, nodeAsItWas, removeItems, setAttribute } from '../src';
import { masterWith, rectangle, text } from './build';
import { actsOn, richMaster } from './rich';
import { runs } from './depth';

const base = () =>
  masterWith([rectangle('a', 0, 0, { name: 'Panel' }), text('t', 'Mere'), { kind: 'use', id: 'u', layer: 'cut', symbol: 's' }], {
    symbols: [{ id: 's', name: 'Reed', anchor: [0, 0], items: [rectangle('in', 1, 1)] }],
  });
const said = (before: Master, after: Master) => changesInWords(before, after).map(({ what, how }) => `${what}: ${how}`);
const after = (master: Master, patches: Parameters<typeof applyPatches>[1]) => applyPatches(master, patches).master;

describe('changes in words', () => {
  it('say what became of each thing, where it is and by how much', () => {
    const master = base();
    expect(said(master, after(master, moveItems(master, ['a'], 4, -2).patches))).toEqual([
      'Panel on Front: moved 4 mm right and 2 mm down',
    ]);
    expect(said(master, after(master, moveItems(master, ['u'], 0, 3).patches))).toEqual(['symbol use on Front: moved 3 mm up']);
    expect(said(master, after(master, setAttribute(master, 'a', 'style.strokeWidth', 0.8).patches))).toEqual([
      'Panel on Front: line width 0.5 → 0.8',
    ]);
    expect(said(master, after(master, setAttribute(master, 't', 'text', 'Fen').patches))).toEqual([
      '“Fen” on Front: wording Mere → Fen',
    ]);
    expect(said(master, after(master, setAttribute(master, 'in', 'width', 7).patches))).toEqual([
      'rectangle on Reed: width 40 → 7',
    ]);
    expect(said(master, after(master, removeItems(master, ['a']).patches))).toEqual(['Panel on Front: taken out']);
    expect(said(after(master, removeItems(master, ['a']).patches), master)).toEqual(['Panel on Front: added']);
    expect(said(master, after(master, setAttribute(master, 'm1', 'title', 'Other').patches))).toEqual([
      'The master: title Test piece → Other',
    ]);
    expect(said(master, master)).toEqual([]);
  });

  it('taken back one by one lead to where one came from, whatever was changed', () => {
    fc.assert(
      fc.property(richMaster, fc.array(fc.nat(1000), { minLength: 1, maxLength: 6 }), (master, picks) => {
        let now = master;
        for (const pick of picks) {
          const acts = actsOn(now, pick);
          now = after(now, [acts[pick % acts.length]!.patch]);
        }
        for (const { node } of changesInWords(master, now)) now = after(now, nodeAsItWas(now, master, node));
        expect(changesInWords(master, now)).toEqual([]);
      }),
      { numRuns: runs(60) },
    );
  });

  it('brings back what was taken out, at the end where what it lay on is gone too', () => {
    const master = base();
    const now = after(master, removeItems(master, ['a', 't']).patches);
    const back = after(now, nodeAsItWas(now, master, 't'));
    expect(back.boards[0]!.items.map(({ id }) => id)).toEqual(['u', 't']);
    expect(nodeAsItWas(now, master, 'u')).toEqual([]);
  });
});
