import fc from 'fast-check';
import type { Attention } from '@inkwell-twin/api';
import { type Item, itemKind } from '@inkwell-twin/core';
import { needsOf } from '../src/app/desk/needs';
import { type Line, cellWords, rowsOf } from '../src/app/master/derive/ladder';
import { valueOf } from '../src/app/master/board/slip/fields';
import { fitView, toBoard, zoomView } from '../src/app/master/stage/view';
import { counted, sizeInWords } from '../src/app/shared/words';

const trouble = (verdict: Attention['verdict'], copies: number, masters = 1): Attention => ({
  verdict,
  copies,
  masters,
  first: { master: 'm', title: 'Fen gate', copy: 'c', label: 'plan' },
});

describe('the view of a board', () => {
  const size = fc.integer({ min: 100, max: 2000 });
  it('shows the whole box, whatever its shape', () => {
    fc.assert(
      fc.property(size, size, fc.integer({ min: 1, max: 5000 }), fc.integer({ min: 1, max: 5000 }), (width, height, w, h) => {
        const view = fitView({ minX: 0, minY: 0, maxX: w, maxY: h }, width, height, 20);
        const [left, top] = toBoard(view, 0, 0);
        const [right, bottom] = toBoard(view, width, height);
        expect(left).toBeLessThanOrEqual(0);
        expect(right).toBeGreaterThanOrEqual(w);
        expect(bottom).toBeLessThanOrEqual(0);
        expect(top).toBeGreaterThanOrEqual(h);
      }),
    );
  });
  it('keeps the point under the pointer where it is while zooming', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.2, max: 5, noNaN: true }),
        fc.integer({ min: 0, max: 800 }),
        fc.integer({ min: 0, max: 600 }),
        (factor, x, y) => {
          const view = { scale: 2, x: 30, y: 400 };
          const [before, after] = [toBoard(view, x, y), toBoard(zoomView(view, factor, x, y), x, y)];
          expect(after[0]).toBeCloseTo(before[0], 6);
          expect(after[1]).toBeCloseTo(before[1], 6);
        },
      ),
    );
  });
  it('ends somewhere at both ends of the zoom', () => {
    expect(zoomView({ scale: 399, x: 0, y: 0 }, 100, 0, 0).scale).toBe(400);
    expect(zoomView({ scale: 0.03, x: 0, y: 0 }, 0.001, 0, 0).scale).toBe(0.002);
  });
});

describe('what needs someone today', () => {
  it('is said in sentences, the worst first', () => {
    const needs = needsOf([trouble('behind', 9, 4), trouble('gone', 1), trouble('touched', 1), trouble('crossed', 2)]);
    expect(needs.map(({ sentence }) => sentence)).toEqual([
      '2 copies were changed by someone while the master moved on. Fen gate.',
      'Plan was changed on the shelf since it was written. Fen gate.',
      'Plan is gone from the shelf. Fen gate.',
      '9 copies fell behind. 4 masters, Fen gate first.',
    ]);
    expect(needsOf([trouble('behind', 9, 4)])[0]).toMatchObject({
      verdict: 'behind',
      copies: 9,
      copy: 'c',
    });
  });
  it('is nothing when all is in step', () => expect(needsOf([])).toEqual([]));
});

describe('fields of the slip', () => {
  it('name attributes that the object has', () => {
    const item: Item = {
      kind: 'rectangle',
      id: 'r',
      layer: 'cut',
      style: { fill: '#14213a', stroke: null, strokeWidth: 0 },
      x: 1,
      y: 2,
      width: 3,
      height: 4,
      radius: 0,
    };
    // Attributes that may be left away have a value that goes without saying.
    const optional = itemKind(item).fields.filter(({ attribute }) => valueOf(item, attribute) === undefined);
    expect(optional.map(({ attribute }) => attribute)).toEqual(['style.dash', 'style.cap', 'style.join', 'style.opacity']);
    expect(valueOf(item, 'style.fill')).toBe('#14213a');
  });
});

describe('words', () => {
  it('count and size things as one says them', () => {
    expect([counted(1, 'copy', 'copies'), counted(3, 'copy', 'copies')]).toEqual(['1 copy', '3 copies']);
    expect([sizeInWords(999), sizeInWords(1900), sizeInWords(212_000), sizeInWords(3_400_000)]).toEqual([
      '999 B',
      '1.9 kB',
      '212 kB',
      '3.4 MB',
    ]);
  });
});

describe('the ladder of a derivation', () => {
  const line = (feature: string, outcome: Line['outcome'], more: Partial<Line> = {}): Line => ({
    feature,
    outcome,
    what: feature,
    becomes: 'become arcs',
    count: 1,
    objects: [],
    deviation: null,
    ...more,
  });
  const rung = (version: string, ...lines: Line[]) => ({
    version,
    bytes: 1,
    report: { sentence: '', objects: 1, asTheyAre: 1, lines },
  });

  it('has a row for each feature that any version names, the worst first, and a cell for each version', () => {
    const rows = rowsOf({
      words: '',
      occurs: [],
      rungs: [
        rung('a', line('curves', 'approximated'), line('text', 'kept')),
        rung('b', line('fills', 'left out'), line('text', 'kept')),
      ],
    });
    expect(rows.map(({ key, cells }) => [key, cells.map((cell) => cell?.outcome ?? null)])).toEqual([
      ['fills|fills', [null, 'left out']],
      ['curves|curves', ['approximated', null]],
      ['text|text', ['kept', 'kept']],
    ]);
  });
  it.each<[Line | null, string]>([
    [null, 'kept'],
    [line('text', 'kept', { becomes: 'stays text' }), 'kept, stays text'],
    [line('curves', 'approximated', { becomes: 'become arcs', deviation: 0.00612 }), 'approximated, become arcs, 0.0061 mm'],
    [line('fills', 'left out', { becomes: 'the target has none' }), 'left out, the target has none'],
  ])('says %j as “%s”', (cell, words) => expect(cellWords(cell)).toBe(words));
});
