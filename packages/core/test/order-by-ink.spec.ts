import { type Item, type Style, recipeOf } from '../src';
import { filled, lined, masterWith, rectangle } from './build';
import { deriveFlat } from './flat';
import { Trial } from './faults/trial';

/** How a copy fares whose two things come in the other order. */
async function turned(one: Item, other: Item): Promise<string> {
  const [master, swapped] = [masterWith([one, other]), masterWith([other, one])];
  const trial = await Trial.of(master, recipeOf('svg', {}));
  const { bytes } = await deriveFlat({ ...swapped, id: master.id }, recipeOf('svg', {}));
  return trial.verdict(bytes);
}
const line = (id: string, from: [number, number], to: [number, number], style: Style): Item => ({
  kind: 'path',
  id,
  layer: 'print',
  style,
  outlines: [{ start: from, segments: [{ kind: 'line', to }], closed: false }],
});
/** A square with a square hole. */
const frame = (id: string, fill: string): Item => ({
  kind: 'path',
  id,
  layer: 'print',
  style: { ...filled(fill), fillRule: 'evenodd' },
  outlines: [20, 8].map((far) => ({
    start: [50 - far, 50 - far],
    segments: [
      { kind: 'line', to: [50 + far, 50 - far] },
      { kind: 'line', to: [50 + far, 50 + far] },
      { kind: 'line', to: [50 - far, 50 + far] },
    ],
    closed: true,
  })),
});
const square = (id: string, x: number, y: number, style: Style): Item => rectangle(id, x, y, { width: 10, height: 10, style });

describe('order is that of ink', () => {
  it('what lies in a hole of something else may come before or after it', async () => {
    expect(await turned(frame('a', '#14213a'), square('b', 45, 45, filled('#c23b22')))).toBe('in step');
    expect(await turned(frame('a', '#14213a'), square('b', 35, 45, filled('#c23b22')))).toBe('touched');
  });

  it('lines across each other’s boxes that never meet may come in any order', async () => {
    const [red, blue] = [lined('#c23b22', 1), lined('#2b4180', 1)];
    expect(await turned(line('a', [10, 10], [60, 60], red), line('b', [20, 10], [70, 60], blue))).toBe('in step');
    expect(await turned(line('a', [10, 10], [60, 60], red), line('b', [60, 10], [10, 60], blue))).toBe('touched');
  });

  it('lines that are wide lie on each other where their middles are far apart', async () => {
    const [red, blue] = [lined('#c23b22', 8), lined('#2b4180', 8)];
    expect(await turned(line('a', [10, 20], [60, 20], red), line('b', [10, 26], [60, 26], blue))).toBe('touched');
    expect(await turned(line('a', [10, 20], [60, 20], red), line('b', [10, 29], [60, 29], blue))).toBe('in step');
  });

  it('things of one colour may come in any order, and of one colour and another not', async () => {
    const red = filled('#c23b22');
    expect(await turned(square('a', 10, 10, red), square('b', 15, 15, red))).toBe('in step');
    expect(await turned(square('a', 10, 10, red), square('b', 15, 15, { ...red, opacity: 0.5 }))).toBe('in step');
    expect(await turned(square('a', 10, 10, red), square('b', 15, 15, filled('#c23b23')))).toBe('touched');
    expect(await turned(square('a', 10, 10, red), square('b', 15, 15, { ...lined('#2b4180', 1), fill: '#c23b22' }))).toBe(
      'touched',
    );
  });

  it('things that only touch may come in any order', async () => {
    expect(await turned(square('a', 10, 10, filled('#c23b22')), square('b', 20, 10, filled('#2b4180')))).toBe('in step');
  });
});

describe('a see-through fill in parts', () => {
  const through: Style = { ...filled('#c23b22'), opacity: 0.5 };
  const parts = async (one: Item[], other: Item[]): Promise<string> => {
    const [master, cut] = [masterWith(one), masterWith(other)];
    const trial = await Trial.of(master, recipeOf('svg', {}));
    const { bytes } = await deriveFlat({ ...cut, id: master.id }, recipeOf('svg', {}));
    return trial.verdict(bytes);
  };
  const whole = rectangle('a', 10, 10, { width: 20, height: 10, style: through });
  it('says the same where the parts lie side by side, and more where they lie on each other', async () => {
    expect(await parts([whole], [square('a', 10, 10, through), square('b', 20, 10, through)])).toBe('in step');
    const wide = rectangle('b', 18, 10, { width: 12, height: 10, style: through });
    expect(await parts([whole], [square('a', 10, 10, through), wide])).toBe('touched');
  });
});
