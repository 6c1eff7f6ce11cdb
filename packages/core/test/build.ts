import {
  type Board,
  type DisplayList,
  type Item,
  type Layer,
  type Master,
  type Outline,
  type PathEntry,
  type Style,
  fromPoints,
  plainStyle,
} from '../src';

export const filled = (fill: string): Style => ({ fill, stroke: null, strokeWidth: 0 });
export const lined = (stroke: string, strokeWidth = 0.5): Style => ({ fill: null, stroke, strokeWidth });

export const layer = (id: string, process: Layer['process'] = 'cut', more: Partial<Layer> = {}): Layer => ({
  id,
  name: id,
  colour: '#14213a',
  visible: true,
  locked: false,
  process,
  ...more,
});

/** A master of one board, 200 × 100 mm, with a layer to cut and one to print. */
export function masterWith(items: Item[], more: Partial<Master> = {}): Master {
  return {
    id: 'm1',
    title: 'Test piece',
    owner: 'Ines Okoro',
    purpose: 'panel',
    unit: 'mm',
    layers: [layer('cut'), layer('print', 'print')],
    symbols: [],
    boards: [{ id: 'b1', name: 'Front', width: 200, height: 100, background: null, items }],
    resources: [],
    description: '',
    ...more,
  };
}
export const board = (master: Master): Board => master.boards[0]!;

export const rectangle = (id: string, x = 10, y = 10, more: Partial<Item & { kind: 'rectangle' }> = {}): Item => ({
  kind: 'rectangle',
  id,
  layer: 'cut',
  style: lined('#14213a'),
  x,
  y,
  width: 40,
  height: 20,
  radius: 0,
  ...more,
});
export const text = (id: string, words: string, more: Partial<Item & { kind: 'text' }> = {}): Item => ({
  kind: 'text',
  id,
  layer: 'cut',
  style: filled('#14213a'),
  text: words,
  x: 20,
  y: 50,
  size: 12,
  font: 'Commissioner',
  align: 'start',
  ...more,
});

/** A display list of outlines, one entry each, on one layer. */
export function listOf(outlines: readonly (Outline | PathEntry)[], more: Partial<DisplayList> = {}): DisplayList {
  return {
    kind: 'display-list',
    sheet: null,
    background: null,
    layers: [{ name: 'cut', colour: null }],
    entries: outlines.map((one) => ('kind' in one ? one : { kind: 'path', outlines: [one], layer: 'cut', style: plainStyle })),
    ...more,
  };
}
export const entry = (outline: Outline, more: Partial<PathEntry> = {}): PathEntry => ({
  kind: 'path',
  outlines: [outline],
  layer: 'cut',
  style: plainStyle,
  ...more,
});
export const square = (x: number, y: number, size: number): Outline =>
  fromPoints(
    [
      [x, y],
      [x + size, y],
      [x + size, y + size],
      [x, y + size],
    ],
    true,
  );
