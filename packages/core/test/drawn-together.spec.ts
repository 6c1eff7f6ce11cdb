// What is computed, when two people change it, and whatever it is computed of.
import fc from 'fast-check';
import {
  type Item,
  type Master,
  type Parameter,
  type Patch,
  type Step,
  addParameter,
  applyPatches,
  drawnMaster,
  footprintHash,
  measureItems,
  project,
  rebaseSteps,
  recipeOf,
  removeItems,
  renameParameter,
  setAttribute,
  setFormula,
  stepOf,
} from '../src';
import { board, lined, masterWith, rectangle, text } from './build';
import { services } from './flat';
import { runs } from './depth';

const parameters: Parameter[] = [
  { id: 'p1', name: 'width', value: 120, measure: 'length' },
  { id: 'p2', name: 'gap', value: 'width / 6', measure: 'length' },
  { id: 'p3', name: 'count', value: 3 },
  { id: 'p4', name: 'trail', value: 'Sedge', measure: 'text' },
  { id: 'p5', name: 'ink', value: '#17796a', measure: 'colour' },
];
const base = (): Master =>
  masterWith(
    [
      rectangle('a', 0, 0, { formulas: { width: 'width - 20' } }),
      rectangle('b', 60, 30, { formulas: { x: 'gap * count' } }),
      text('t', '{trail} {count}', { slots: true }),
    ],
    { parameters },
  );
const step = (master: Master, { label, patches }: { label: string; patches: Patch[] }): Step =>
  stepOf(master, label, patches).step;
/** My change and theirs, both from the same revision, mine carried over onto theirs. */
function together(
  mine: (master: Master) => { label: string; patches: Patch[] },
  theirs: (master: Master) => { label: string; patches: Patch[] },
) {
  const before = base();
  const after = applyPatches(before, theirs(before).patches).master;
  return rebaseSteps(before, after, [step(before, mine(before))]);
}

describe('two people and what is computed', () => {
  it('change a parameter and what is computed of another: both hold, and all follows', () => {
    const { master, clashes } = together(
      (now) => setAttribute(now, 'p1', 'value', 180),
      (now) => setAttribute(now, 'p3', 'value', 2),
    );
    expect(clashes).toEqual([]);
    expect(board(drawnMaster(master).master).items.slice(0, 2)).toMatchObject([{ width: 160 }, { x: 60 }]);
  });

  it('give formulas to different measures of one object', () => {
    const { master, clashes } = together(
      (now) => setFormula(now, 'b', 'width', 'gap'),
      (now) => setFormula(now, 'b', 'height', 'gap / 2'),
    );
    expect(clashes).toEqual([]);
    expect(board(drawnMaster(master).master).items[1]).toMatchObject({ width: 20, height: 10 });
  });

  it('give the same measure two formulas: both sides are shown, and one counts', () => {
    const [mine, theirs] = [
      (now: Master) => setFormula(now, 'a', 'width', 'width / 2'),
      (now: Master) => setFormula(now, 'a', 'width', 'width / 3'),
    ];
    const { clashes } = together(mine, theirs);
    expect(clashes).toMatchObject([{ what: 'rectangle: width', mine: 'width / 2', theirs: 'width / 3' }]);
    const before = base();
    const after = applyPatches(before, theirs(before).patches).master;
    const settled = rebaseSteps(before, after, [step(before, mine(before))], new Map([[clashes[0]!.key, 'mine']]));
    expect(board(settled.master).items[0]).toMatchObject({ formulas: { width: 'width / 2' } });
  });

  it('rename a parameter while the other uses its old name: nothing is lost, and it is said where it stands', () => {
    const { master } = together(
      (now) => setFormula(now, 'b', 'height', 'width / 12'),
      (now) => renameParameter(now, 'p1', 'breadth'),
    );
    expect(board(master).items[1]).toMatchObject({ formulas: { height: 'width / 12' } });
    expect(drawnMaster(master).problems).toEqual([
      { node: 'b', attribute: 'height', message: expect.stringContaining('There is no parameter “width”. There are: breadth') },
    ]);
  });

  it('add parameters of the same name: both are there, and the second says so', () => {
    const { master } = together(
      (now) => addParameter(now, { name: 'depth', value: 4 }, 'mine'),
      (now) => addParameter(now, { name: 'depth', value: 5 }, 'theirs'),
    );
    expect(master.parameters!.map(({ name }) => name).filter((name) => name === 'depth')).toHaveLength(2);
    expect(drawnMaster(master).problems.map(({ message }) => message)).toEqual(['There is a parameter “depth” already.']);
  });

  it('measure what the other takes away: the dimension says so', () => {
    const { master } = together(
      (now) => measureItems(now, board(now), ['b'], 'across', { id: 'd' }),
      (now) => removeItems(now, ['b']),
    );
    expect(drawnMaster(master).problems).toMatchObject([
      { node: 'd', message: expect.stringContaining('not on this board any more') },
    ]);
  });
});

describe('whatever is computed of whatever', () => {
  const names = parameters.map(({ name }) => name);
  const expression: fc.Arbitrary<string> = fc.letrec<{ one: string }>((tie) => ({
    one: fc.oneof(
      { depthSize: 'small', withCrossShrink: true },
      fc.constantFrom(...names),
      fc.integer({ min: -9, max: 99 }).map(String),
      fc.constantFrom('3 mm', '1/4 in', '30 deg', '"#c23b22"', 'pi'),
      fc
        .tuple(tie('one'), fc.constantFrom('+', '-', '*', '/', '^', '<', '=='), tie('one'))
        .map(([a, sign, b]) => `(${a} ${sign} ${b})`),
      fc.tuple(fc.constantFrom('round', 'sqrt', 'sin', 'upper', 'abs'), tie('one')).map(([name, a]) => `${name}(${a})`),
      fc.tuple(tie('one'), tie('one'), tie('one')).map(([a, b, c]) => `(${a} ? ${b} : ${c})`),
    ),
  })).one;
  const attribute = fc.constantFrom('width', 'height', 'x', 'y', 'radius', 'style.strokeWidth', 'style.stroke', 'style.opacity');
  const computed = (formulas: Record<string, string>, values: readonly string[]): Master =>
    masterWith([rectangle('a', 10, 10, { formulas, style: lined('#14213a') })], {
      parameters: parameters.map((one, i) => ({
        ...one,
        value: one.measure === 'text' ? `{${values[i]!}}`.slice(0, 200) : values[i]!.slice(0, 300),
      })),
    });
  const some = fc.record({
    formulas: fc.dictionary(attribute, expression, { minKeys: 1, maxKeys: 4 }),
    values: fc.tuple(...parameters.map(() => fc.oneof(fc.integer({ min: 1, max: 200 }).map(String), expression))),
  });

  it('there is a board to draw and a reason for all that is not, and no copy where there is a reason', async () => {
    await fc.assert(
      fc.asyncProperty(some, async ({ formulas, values }) => {
        const master = computed(formulas, values);
        const { master: drawn, problems } = drawnMaster(master);
        expect(board(drawn).items[0]).not.toHaveProperty('formulas');
        for (const { message } of problems) expect(message).toMatch(/\S.*\.$/);
        const wrong = problems.some(({ node }) => node === 'a');
        const made = await project(master, recipeOf('svg', {}), services).then(
          () => null,
          (error: { code: string }) => error.code,
        );
        expect(made).toBe(wrong ? 'formula' : null);
      }),
      { numRuns: runs(300) },
    );
  });

  it('the same values have the same footprint, however they came about', () => {
    fc.assert(
      fc.property(some, ({ formulas, values }) => {
        const master = computed(formulas, values);
        const { master: drawn } = drawnMaster(master);
        const given: Master = { ...drawn, parameters: [] };
        const item = board(drawn).items[0] as Item;
        const plain: Master = { ...given, boards: [{ ...board(given), items: [JSON.parse(JSON.stringify(item)) as Item] }] };
        for (const target of ['svg', 'dxf', 'hpgl'])
          expect(footprintHash(master, recipeOf(target, {}))).toBe(footprintHash(plain, recipeOf(target, {})));
      }),
      { numRuns: runs(200) },
    );
  });
});
