import fc from 'fast-check';
import {
  type Command,
  type Master,
  type Mesh,
  type Solid,
  NO_MESH,
  applyPatches,
  codecOf,
  canBe,
  declarationOf,
  compareMeshes,
  holesOf,
  newMaster,
  partWishes,
  planSolid,
  recipeOf,
  carriesOf,
  seamsOf,
  valuesOf,
  volumeAndArea,
  welded,
} from '../src';
import {
  addFeature,
  addParameter,
  addSolid,
  amountFrom,
  featureInWords,
  moveFeature,
  parameterWords,
  removeFeature,
  renameParameter,
  setInFeature,
} from '../src/solids';
import { services } from './flat';
import { runs } from './depth';

const begun = (): Master => newMaster('part', 'Part', 'Ansa Brook', 'part');
const solidOf = (master: Master): Solid => master.solids![0]!;
const run = (master: Master, command: Command): Master => applyPatches(master, command.patches).master;
const planOf = (master: Master) => planSolid(master, solidOf(master), services.fonts);

/** A part to which features of every kind were added, as the interface adds them. */
function rich(): Master {
  let master = begun();
  for (const op of ['extrude', 'hole', 'row', 'ring', 'revolve', 'fillet', 'chamfer'] as const)
    master = run(master, addFeature(solidOf(master), op, { min: [-50, -30, 0], max: [50, 30, 8] }).command);
  return master;
}

describe('features and parameters', () => {
  it('are added, changed, moved and removed, and every step can be taken back', () => {
    const master = rich();
    const solid = solidOf(master);
    const hole = solid.features.find(({ op }) => op === 'hole')!;
    const commands: Command[] = [
      setInFeature(hole, ['diameter'], 'width / 20', 'diameter'),
      setInFeature(hole, ['at', 1], 3, 'y'),
      setInFeature(hole, ['sink'], { diameter: 9, angle: 90 }, 'sunk'),
      moveFeature(solid, hole.id, -1)!,
      removeFeature(solid, hole.id),
      addParameter(solid),
      renameParameter(solid, solid.parameters[0]!.id, 'Length over all'),
      addSolid(master).command,
    ];
    for (const { patches } of commands) {
      const { master: after, inverse } = applyPatches(master, patches);
      expect(after).not.toEqual(master);
      expect(applyPatches(after, inverse).master).toEqual(master);
    }
    expect(moveFeature(solid, solid.features[0]!.id, -1)).toBeNull();
  });

  it('that are repeated go with what repeats them', () => {
    const solid = solidOf(rich());
    const hole = solid.features.find(({ op }) => op === 'hole')!;
    const { label, patches } = removeFeature(solid, hole.id);
    expect(patches.length).toBeGreaterThan(1);
    expect(label).toMatch(/^Remove Hole, and \d that repeat it$/);
  });

  it('are called in formulas by what they are called now', () => {
    const master = begun();
    const solid = solidOf(master);
    const renamed = run(master, renameParameter(solid, solid.parameters[0]!.id, 'Length over all'));
    expect(parameterWords(solidOf(renamed))).toEqual(['Length_over_all', 'depth', 'height']);
    expect(solidOf(renamed).features[0]).toMatchObject({ outline: { width: 'Length_over_all', height: 'depth' } });
    // A name is no part of what is made.
    expect(planOf(renamed).hash).toBe(planOf(master).hash);
  });

  it('have amounts as people write them', () => {
    expect([amountFrom(' 12,5 '), amountFrom('-3'), amountFrom('width / 2'), amountFrom('1e3')]).toEqual([
      12.5,
      -3,
      'width / 2',
      1000,
    ]);
    expect([amountFrom('12 in'), amountFrom('3/8 in'), amountFrom('1,5 cm'), amountFrom('2 * (1 in + 2 mm)')]).toEqual([
      304.8, 9.525, 15, 54.8,
    ]);
    expect([amountFrom('width / 2 + 1 in'), amountFrom('0.5 rad', 'angle'), amountFrom('3 in', 'number')]).toEqual([
      'width / 2 + 25.4',
      28.647889757,
      '3 in',
    ]);
    // What means nothing stays as it was typed, to be mended.
    expect([amountFrom('12 deg'), amountFrom('in width'), amountFrom('')]).toEqual(['12 deg', 'in width', '']);
  });

  it('are read as sentences', () => {
    const solid = solidOf(rich());
    const words = solid.features.map((feature) =>
      featureInWords(feature, (id) => solid.features.find((one) => one.id === id)?.name),
    );
    expect(words[0]).toBe('width × depth, flat, by height');
    expect(words.find((_, i) => solid.features[i]!.op === 'row')).toMatch(/^“Hole” 2 times, step/);
    expect(words.find((_, i) => solid.features[i]!.op === 'fillet')).toBe('radius 2 at edges along z');
  });

  it('compute parameters in whatever order they name each other', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 50 }), fc.shuffledSubarray([0, 1, 2, 3], { minLength: 4 }), (start, order) => {
        const all = [
          { id: 'a', name: 'a', value: start },
          { id: 'b', name: 'b', value: 'a * 2' },
          { id: 'c', name: 'c', value: 'b + a' },
          { id: 'd', name: 'd', value: 'min(c, b) - 1' },
        ];
        const { words, values } = valuesOf({ parameters: order.map((i) => all[i]!) });
        const worth = Object.fromEntries(words.map((word, i) => [word, values[i]]));
        expect(worth).toEqual({ a: start, b: 2 * start, c: 3 * start, d: 2 * start - 1 });
      }),
    );
  });

  it('of another kind take no attribute that is not theirs', () => {
    const master = begun();
    const [plate] = solidOf(master).features;
    const set = (attribute: string, value: unknown) => () =>
      applyPatches(master, [{ op: 'set', node: plate!.id, attribute, value }]);
    expect(set('diameter', 3)).toThrow(/has no attribute diameter/);
    expect(set('op', 'hole')).toThrow(/can't be set/);
    expect(set('by', Infinity)).toThrow(/by/);
    expect(() => applyPatches(master, [{ op: 'remove', parent: 'part', list: 'solids', node: 'solid-1' }])).toThrow(
      /last of the solids/,
    );
  });
});

/** A block of so many cells each way, closed, with corners of each triangle apart as STL has them. */
function block(size: number, cells: number): Mesh {
  const corners: number[] = [];
  const step = size / cells;
  for (let axis = 0; axis < 3; axis++)
    for (const side of [0, 1])
      for (let i = 0; i < cells; i++)
        for (let j = 0; j < cells; j++) {
          const at = (u: number, v: number): number[] => {
            const place = [0, 0, 0];
            place[axis] = side * size;
            place[(axis + 1) % 3] = (i + u) * step;
            place[(axis + 2) % 3] = (j + v) * step;
            return place;
          };
          const [a, b, c, d] = [at(0, 0), at(1, 0), at(1, 1), at(0, 1)] as const;
          corners.push(...(side ? [a, b, c, a, c, d] : [a, c, b, a, d, c]).flat());
        }
  return { ...NO_MESH, ...welded(Float64Array.from(corners)) };
}

const settings = { tolerance: 0.01, carries: carriesOf(recipeOf('stl', {})).mesh! };
const kindsOf = (copy: Mesh, master = block(10, 4)): string[] =>
  compareMeshes(master, copy, settings).differences.map(({ kind }) => kind);

describe('comparing triangles', () => {
  it('measures a block', () => {
    const mesh = block(10, 3);
    const { volume, area } = volumeAndArea(mesh);
    expect(volume).toBeCloseTo(1000, 9);
    expect(area).toBeCloseTo(600, 9);
    expect(seamsOf(mesh)).toMatchObject({ open: 0, crowded: 0, bodies: 1 });
    expect(holesOf(mesh)).toEqual([]);
  });

  it('finds the same surface in other triangles', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 9 }), fc.integer({ min: 1, max: 9 }), (one, other) => {
        expect(kindsOf(block(10, other), block(10, one))).toEqual([]);
      }),
      { numRuns: runs(20) },
    );
  });

  it('finds every corner that is off by more than the tolerance, and none that is less', () => {
    const mesh = block(10, 4);
    fc.assert(
      fc.property(
        fc.nat(mesh.positions.length / 3 - 1),
        fc.double({ min: 0.02, max: 3, noNaN: true }),
        fc.boolean(),
        (corner, by, small) => {
          const positions = mesh.positions.slice();
          // Away from the middle: out of every face that the corner stands in.
          for (let k = 0; k < 3; k++)
            positions[3 * corner + k]! += Math.sign(positions[3 * corner + k]! - 5) * (small ? 0.004 : by);
          const found = kindsOf({ ...mesh, positions });
          if (small) expect(found).toEqual([]);
          else expect(found).toContain('reshaped');
        },
      ),
      { numRuns: runs(60) },
    );
  });

  it('says what is open, doubled, inside out, in another unit and elsewhere', () => {
    const mesh = block(10, 4);
    const back = (triangles: Uint32Array) => triangles.map((_, i) => triangles[i - (i % 3) + [0, 2, 1][i % 3]!]!);
    expect(kindsOf({ ...mesh, triangles: mesh.triangles.slice(3) })).toContain('opened');
    expect(kindsOf({ ...mesh, triangles: Uint32Array.from([...mesh.triangles, ...mesh.triangles]) })).toContain('doubled');
    expect(kindsOf({ ...mesh, triangles: back(mesh.triangles) })).toContain('turned inside out');
    expect(kindsOf({ ...mesh, positions: mesh.positions.map((value) => value * 25.4) })).toContain('unit changed');
    expect(kindsOf({ ...mesh, positions: mesh.positions.map((value) => value + 0.5) })).toContain('reshaped');
    expect(kindsOf(NO_MESH)).toContain('missing');
    const worst = compareMeshes(
      mesh,
      { ...mesh, positions: mesh.positions.map((value, i) => (i % 3 ? value : value * 1.1)) },
      settings,
    ).differences.find(({ kind }) => kind === 'reshaped');
    expect(worst).toMatchObject({ kind: 'reshaped', unit: 'mm' });
    expect(worst!.amount).toBeCloseTo(1, 6);
    // On either side: where the master's corner misses the copy, or the copy's the master.
    expect([10, 11]).toContain(Math.round(worst!.spot![0] * 1e6) / 1e6);
  });
});

describe('files of triangles', () => {
  const text = (words: string) => new TextEncoder().encode(words);
  it('are known by their bytes', () => {
    const head = (target: string, words: string, entries: readonly string[] = []) =>
      canBe(declarationOf(target), text(words), entries);
    expect(head('stl', 'solid x\nfacet normal 0 0 1\n')).toBe(true);
    expect(head('stl', 'solid wood is fine')).toBe(false);
    expect(head('obj', '# note\nv 0 0 0\nv 1 0 0\nf 1 2 1\n')).toBe(true);
    expect(head('obj', 'version 1\nfoo')).toBe(false);
    expect(head('gltf', '{"asset":{"version":"2.0"}}')).toBe(true);
    expect(head('3mf', '', ['3D/3dmodel.model'])).toBe(true);
    // One that was cut off, or holds what is no number, is known for what it is: then it can be told what is wrong.
    const binary = (count: number, numbers: readonly number[]): Uint8Array => {
      const view = new DataView(new ArrayBuffer(84 + 50));
      view.setUint32(80, count, true);
      numbers.forEach((value, i) => view.setFloat32(84 + 4 * i, value, true));
      return new Uint8Array(view.buffer);
    };
    const known = (head: Uint8Array) => canBe(declarationOf('stl'), head);
    expect(known(binary(900, [0, 0, 1, 0, 0, 0, 5, 0, 0, 0, 5, 0]))).toBe(true);
    expect(known(binary(1, [0, 0, 1, 0, 0, NaN, 5, 0, 0, 0, 5, 0]))).toBe(true);
    expect(known(binary(900, [7, 7, 7, 1e30, 0, 0]))).toBe(false);
    // A picture without a head of its own is not triangles.
    expect(known(new Uint8Array(4096).fill(200))).toBe(false);
  });

  it('that do not hang together say so, and where, when they come in', async () => {
    const open = text('v 0 0 0\nv 9 0 0\nv 0 9 0\nf 1 2 3\n');
    const { notUnderstood, master } = await (await codecOf('obj')).bringIn!(open, 'a.obj', services, partWishes());
    expect(notUnderstood).toEqual([{ kind: 'open edge (the first at 3, 3, 0 mm)', count: 3, shows: true }]);
    expect(master.solids!.length).toBe(1);
  });
});
