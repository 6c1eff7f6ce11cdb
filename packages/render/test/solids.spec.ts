import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import {
  type Mesh,
  type Patch,
  type Solid,
  addFormats,
  applyPatches,
  bringInAny,
  carriesOf,
  checkCopy,
  changesBetween,
  codecOf,
  derive,
  footprintHash,
  holesOf,
  partWishes,
  planSolid,
  recipeOf,
  seamsOf,
  volumeAndArea,
} from '@inkwell-twin/core';
import { nodeFormats, solidEngine } from '../src';
import { dropKernel } from '../src/engines/solids/kernel';
import { knob, masterOf, services, plate, time } from './part';
import { judgedBy } from '../../core/test/judged-by';
import { formatsOf, lawRecipes } from '../../core/test/law-recipes';
import { atDepth, runs } from '../../core/test/depth';

addFormats(nodeFormats);
const LOOK = { chord: 0.05, angle: 12 };
const master = masterOf(plate(), knob());
const make = (solid: Solid, around = masterOf(solid)) => solidEngine.mesh(planSolid(around, solid, services.fonts), LOOK);
const withFeatures = (features: Solid['features'], parameters: Solid['parameters'] = []): Solid => ({
  id: 's',
  name: 'S',
  parameters,
  features,
});
const box = (by: number | string = 5): Solid['features'][number] => ({
  id: 'box',
  op: 'extrude',
  name: 'Block',
  plane: 'xy',
  offset: 0,
  outline: { shape: 'rectangle', x: 0, y: 0, width: 20, height: 10 },
  by,
  join: 'add',
});

/** Every target of solids, under the options that it names for the laws. */
const RECIPES = lawRecipes('solids').filter((recipe) => 'mesh' in carriesOf(recipe));

describe('making solids', () => {
  it('computes parameters, drills, rounds and bevels, exactly', async () => {
    const mesh = await make(plate(), master);
    const { volume, area, holes, bodies } = mesh.exact!;
    expect(bodies).toBe(1);
    expect(holes.map(({ diameter }) => Number(diameter.toFixed(6))).sort()).toEqual([4, 5, 6.5, 7]);
    // Triangles found without the kernel agree with it.
    expect(
      holesOf(mesh)
        .map(({ diameter }) => Number(diameter.toFixed(4)))
        .sort(),
    ).toEqual([4, 5, 6.5, 7]);
    const own = volumeAndArea(mesh);
    expect(Math.abs(own.volume - volume) / volume).toBeLessThan(2e-3);
    expect(Math.abs(own.area - area) / area).toBeLessThan(2e-3);
    expect(seamsOf(mesh)).toMatchObject({ open: 0, crowded: 0, bodies: 1 });
  });

  it('has the volume that geometry says', async () => {
    const wall = (by: number) => ({ ...(box(by) as object), plane: 'xz', offset: 3 }) as Solid['features'][number];
    for (const [solid, volume, low] of [
      [withFeatures([box('2 * high')], [{ id: 'p', name: 'high', value: '1 + 1' }]), 800, [-10, -5, 0]],
      [withFeatures([wall(2)]), 400, [-10, 3, -5]],
      [withFeatures([{ ...(box(2) as object), plane: 'yz', offset: -1 } as Solid['features'][number]]), 400, [-1, -10, -5]],
      [withFeatures([box(), { id: 'r', name: 'R', op: 'row', of: 'box', count: 3, step: [0, 30, 0] }]), 3000, [-10, -5, 0]],
      [
        withFeatures([
          {
            ...(box() as object),
            op: 'revolve',
            angle: 180,
            outline: { shape: 'rectangle', x: 5, y: 0, width: 2, height: 10 },
          } as never,
        ]),
        (Math.PI * (36 - 16) * 10) / 2,
        null,
      ],
      [
        withFeatures([
          box(),
          { id: 'h', name: 'H', op: 'hole', axis: 'z', at: [0, 0, 5], diameter: 4, depth: 2, sink: { diameter: 6, angle: 90 } },
        ]),
        1000 - Math.PI * 4 * 2 - (Math.PI * (9 + 6 + 4)) / 3 + Math.PI * 4,
        null,
      ],
    ] as const) {
      const { exact, positions } = await make(solid);
      expect(exact!.volume).toBeCloseTo(volume, 3);
      if (low) low.forEach((value, k) => expect(Math.min(...positions.filter((_, i) => i % 3 === k))).toBeCloseTo(value, 4));
    }
  });

  it('drills many holes in one go, and the same triangles come of it whatever was made before', async () => {
    const holes = Array.from({ length: 9 }, (_, i) => ({
      id: `h${i}`,
      name: `H ${i}`,
      op: 'hole' as const,
      axis: 'z' as const,
      at: [-8 + 2 * i, 0, 5] as [number, number, number],
      diameter: 1,
    }));
    // Bit by bit first, so that shapes of all the steps before are at hand.
    for (const count of [3, 5, 7]) await make(withFeatures([box(), ...holes.slice(0, count)]));
    const after = await make(withFeatures([box(), ...holes]));
    expect(after.exact!.holes.length).toBe(9);
    expect(after.exact!.volume).toBeCloseTo(1000 - 9 * Math.PI * 0.25 * 5, 3);
    dropKernel();
    const alone = await solidEngine.mesh(planSolid(master, withFeatures([box(), ...holes]), services.fonts), {
      ...LOOK,
      chord: 0.0500001,
    });
    expect(alone.triangles).toEqual(after.triangles);
    // Holes that touch each other are cut one after the other.
    const touching = holes.map((one) => ({ ...one, diameter: 3 }));
    expect((await make(withFeatures([box(), ...touching]))).exact!.bodies).toBeGreaterThan(0);
  });

  it('takes the outline of an object on a board, and follows it', async () => {
    const solid = withFeatures([{ ...(box() as object), outline: { shape: 'object', object: 'tile', x: 1, y: 0 } } as never]);
    const tile = {
      kind: 'rectangle',
      id: 'tile',
      layer: 'layer-1',
      style: { fill: '#14213a', stroke: null, strokeWidth: 0 },
      x: 0,
      y: 0,
      width: 6,
      height: 4,
      radius: 0,
    };
    const around = {
      ...masterOf(solid),
      boards: [{ id: 'b', name: 'B', width: 50, height: 50, background: null, items: [tile as never] }],
    };
    expect((await make(solid, around)).exact!.volume).toBeCloseTo(120, 4);
    const recipe = recipeOf('stl', {});
    const wider = applyPatches(around, [{ op: 'set', node: 'tile', attribute: 'width', value: 9 }]).master;
    expect(footprintHash(wider, recipe)).not.toBe(footprintHash(around, recipe));
    expect((await make(solid, wider)).exact!.volume).toBeCloseTo(180, 4);
  });

  it.each([
    ['unknown parameter', withFeatures([box('tall')]), /Block, by: There is no parameter “tall”/],
    [
      'circle',
      withFeatures(
        [box('a')],
        [
          { id: 'a', name: 'a', value: 'b + 1' },
          { id: 'b', name: 'b', value: 'a' },
        ],
      ),
      /computed of itself: a → b → a/,
    ],
    ['no number', withFeatures([box('1 / 0')]), /is Infinity, and a number/],
    ['nothing', withFeatures([]), /no feature yet/],
    ['cut first', withFeatures([{ ...(box() as object), join: 'cut' } as never]), /comes first/],
    [
      'fillet too large',
      withFeatures([box(), { id: 'f', name: 'Rounding', op: 'fillet', radius: 30, edges: [{ along: 'z' }] }]),
      /Rounding: 30 mm does not fit/,
    ],
    [
      'no such edge',
      withFeatures([box(), { id: 'f', name: 'Rounding', op: 'fillet', radius: 1, edges: [{ on: { axis: 'z', value: 77 } }] }]),
      /no edge fits/,
    ],
    [
      'nothing left',
      withFeatures([box(), { ...(box(9) as object), id: 'b2', name: 'All', join: 'cut' } as never]),
      /All: nothing is left/,
    ],
    [
      'repeats nothing',
      withFeatures([box(), { id: 'r', name: 'R', op: 'row', of: 'gone', count: 2, step: [1, 0, 0] }]),
      /what it repeats is not there/,
    ],
  ])('says what is wrong and where: %s', async (_, solid, words) => {
    await expect((async () => make(solid))()).rejects.toThrow(words);
  });
});

describe('copies of solids', () => {
  it('are tried of every format that can hold them', () => {
    expect(new Set(RECIPES.map(({ target }) => target))).toEqual(
      new Set([...formatsOf('solids')].filter((target) => 'mesh' in carriesOf(recipeOf(target, {})))),
    );
  });

  it.each(RECIPES.map((recipe) => [`${recipe.target} ${JSON.stringify(recipe.options)}`, recipe] as const))(
    'are written, read back as they are, and the same each time: %s',
    async (_, recipe) => {
      const one = await derive({ master, rev: 1, time }, recipe, services);
      expect(one.defects).toEqual([]);
      const again = await derive({ master, rev: 1, time }, recipe, services);
      expect(Buffer.from(again.files[0]!.bytes).equals(Buffer.from(one.files[0]!.bytes))).toBe(true);
    },
  );

  it('say names and colours as people write them, in any letters', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.string({ unit: 'grapheme', minLength: 1, maxLength: 12 }),
        fc.integer({ min: 0, max: 0xffffff }),
        async (raw, value) => {
          const name = raw.replace(/[\u0000-\u001f\u007f\ufffe\uffff\ud800-\udfff\s]+/g, ' ').trim() || 'x';
          const solid: Solid = { ...withFeatures([box()]), name, colour: `#${value.toString(16).padStart(6, '0')}` };
          for (const target of ['3mf', 'gltf', 'obj', 'step']) {
            const { defects } = await derive(
              { master: masterOf(solid, knob()), rev: 1, time },
              recipeOf(target, {}, { of: 'master' }),
              services,
            );
            expect(defects).toEqual([]);
          }
        },
      ),
      // What starts a remark, joins lines or closes something in one format or another.
      {
        numRuns: runs(12),
        // The last is longer than a line of an exchange file.
        examples: ['#', 'a # b', 'end\\', '/', '<&">', "it's', (", '%s', '\u2010A\u0300E\u0304\u0300 \u00a1 \u00a1\u00a1'].map(
          (name) => [name, 7] as [string, number],
        ),
      },
    );
  });

  it('have footprints that change with all that a copy carries, and with nothing else', async () => {
    const patches: { patch: Patch; carried: boolean | 'colours' | 'names' }[] = [
      { patch: { op: 'set', node: 'p1', attribute: 'value', value: 61 }, carried: true },
      { patch: { op: 'set', node: 'hole-1', attribute: 'diameter', value: 5.2 }, carried: true },
      { patch: { op: 'set', node: 'hole-1', attribute: 'name', value: 'Other' }, carried: false },
      { patch: { op: 'set', node: 'plate', attribute: 'colour', value: '#112233' }, carried: 'colours' },
      { patch: { op: 'set', node: 'plate', attribute: 'name', value: 'Renamed' }, carried: 'names' },
      { patch: { op: 'remove', parent: 'plate', list: 'features', node: 'bevel' }, carried: true },
      { patch: { op: 'set', node: master.id, attribute: 'description', value: 'else' }, carried: false },
    ];
    for (const recipe of RECIPES)
      for (const { patch, carried } of patches) {
        const { master: after, inverse } = applyPatches(master, [patch]);
        const carries = carriesOf(recipe).mesh!;
        const expected = typeof carried === 'boolean' ? carried : carries[carried] !== 'left out';
        expect([recipe.target, patch, footprintHash(after, recipe) !== footprintHash(master, recipe)]).toEqual([
          recipe.target,
          patch,
          expected,
        ]);
        expect(footprintHash(applyPatches(after, inverse).master, recipe)).toBe(footprintHash(master, recipe));
        expect(applyPatches(master, changesBetween(master, after)).master).toEqual(after);
      }
  });

  it('come in again as masters whose copies are the same', async () => {
    for (const target of ['stl', 'obj', '3mf', 'gltf', 'step']) {
      const { files } = await derive(
        { master, rev: 1, time },
        recipeOf(target, {}, target === 'stl' ? '' : { of: 'master' }),
        services,
      );
      const brought = await bringInAny(files[0]!.bytes, `part.${target}`, services, partWishes());
      const kept = new Map(brought.kept.map(({ resource, bytes }) => [resource.id, bytes]));
      const own = { ...services, resource: (sha: string) => kept.get(sha)! };
      expect(brought.master.solids!.length).toBe(target === 'stl' ? 1 : 2);
      const again = await derive({ master: brought.master, rev: 1, time }, recipeOf('stl', {}), own);
      expect(again.defects).toEqual([]);
      const mesh = again.projection.leaves[0]!.body as Mesh;
      expect(volumeAndArea(mesh).volume).toBeCloseTo(
        volumeAndArea(await make(plate(), master)).volume,
        target === 'step' ? -1 : 0,
      );
    }
  });
});

describe('files that are not as they should be', () => {
  const read = async (target: string, bytes: Uint8Array) => (await codecOf(target)).read([{ part: '', bytes }], {}, services);
  const text = (words: string) => new TextEncoder().encode(words);
  it.each([
    [
      'stl',
      text('solid x\n facet normal 0 0 1\n outer loop\n vertex 0 0 0\n vertex 1 0 zero\n'),
      /“zero” stands where a number is needed in line 5/,
    ],
    ['stl', text('solid x\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nendloop\n'), /2 corners in line 6/],
    ['stl', new Uint8Array(60), /60 bytes/],
    ['obj', text('v 0 0 0\nv 1 0 0\nf 1 2 9\n'), /names corner 9, and there are 2 before it in line 3/],
    ['obj', text('v 0 0 0\nv 1 0\n'), /not three numbers .* in line 2/],
    ['gltf', text('{"asset":{"version":"2.0"},"accessors":"none"}'), /accessors is not a list/],
    ['gltf', text('{"asset":{"version":"1.0"}}'), /version 1.0 is needed; 2.0 is read/],
    ['gltf', text('{"asset":{"version":"2.0"},"nodes":[{"children":[0]}],"scenes":[{"nodes":[0]}]}'), /stands within itself/],
    [
      'gltf',
      text(
        '{"asset":{"version":"2.0"},"nodes":[{"mesh":0}],"scenes":[{"nodes":[0]}],"meshes":[{"primitives":[{"attributes":{"POSITION":0}}]}],"accessors":[{"bufferView":0,"componentType":5126,"count":3,"type":"VEC3"}],"bufferViews":[{"buffer":0,"byteLength":36}],"buffers":[{"byteLength":36,"uri":"http://elsewhere.invalid/x.bin"}]}',
      ),
      /in another file/,
    ],
    ['3mf', text('PK nothing'), /can't be unpacked/],
    [
      'step',
      text('ISO-10303-21;\nHEADER;\nENDSEC;\nDATA;\n#1=POINT(#2);\nENDSEC;\nEND-ISO-10303-21;\n'),
      /#2 is named and not there in line 5/,
    ],
    ['step', text('ISO-10303-21;\nHEADER;\nENDSEC;\nDATA;\n#1=POINT('), /in line 5|cut off/],
    ['step', text(`ISO-10303-21;\nHEADER;\nENDSEC;\nDATA;\n#1=P(${'('.repeat(5000)}`), /nested too deep/],
  ])('%s is refused with its place', async (target, bytes, words) => {
    await expect((async () => read(target, bytes))()).rejects.toThrow(words);
  });

  it('are read in bounded time, whatever bytes are spoiled', async () => {
    for (const target of ['stl', 'obj', '3mf', 'gltf']) {
      const { files } = await derive({ master, rev: 1, time }, recipeOf(target, {}), services);
      await fc.assert(
        fc.asyncProperty(
          fc.array(fc.tuple(fc.nat(files[0]!.bytes.length - 1), fc.nat(255)), { minLength: 1, maxLength: 6 }),
          async (changes) => {
            const bytes = files[0]!.bytes.slice();
            for (const [at, value] of changes) bytes[at] = value;
            await read(target, bytes).then(
              () => undefined,
              (error: { code?: string }) => expect(error.code).toBeTruthy(),
            );
          },
        ),
        { numRuns: runs(60) },
      );
    }
  });

  it('tell what is open, doubled or tiny before they come in', async () => {
    const open = text(
      'solid x\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 0.1 0 0\nvertex 0 0.1 0\nendloop\nendfacet\nendsolid\n',
    );
    const stl = await codecOf('stl');
    const look = stl.look!(open, 'x.stl', {})!;
    expect(look.remarks.join(' ')).toMatch(/not closed: 3 edges.*0.1 mm long/);
    expect(look.settings.map(({ name }) => name)).toEqual(['unit', 'up']);
    expect(stl.look!(open, 'x.stl', { unit: 'm' })!.rows[0]![1]).toBe('100');
  });
});

/** Runs a program that nobody here wrote on a file. */
function judged(program: string, args: readonly string[], name: string, bytes: Uint8Array): string {
  const folder = mkdtempSync(join(tmpdir(), 'inkwell-judge-'));
  try {
    writeFileSync(join(folder, name), bytes);
    const { stdout, stderr } = spawnSync(program, [...args, name], { cwd: folder, encoding: 'utf8' });
    return `${stdout}${stderr}`;
  } finally {
    rmSync(folder, { recursive: true });
  }
}

describe('as STEP', () => {
  let step: Awaited<ReturnType<typeof derive>>;
  const recipe = recipeOf('step', {}, { of: 'master' });
  beforeAll(async () => {
    step = await derive({ master, rev: 1, time }, recipe, services);
  });
  const words = () => new TextDecoder('latin1').decode(step.files[0]!.bytes);
  const checked = (changed: string) => {
    const files = [{ part: '', bytes: new TextEncoder().encode(changed) }];
    return checkCopy({ files, intact: false, says: step.says, recipe, current: master, baseline: master }, services, true);
  };

  it.each(atDepth([4], [1, 4, 10]))('numbers that were saved with fewer digits change nothing (%i)', async (seed) => {
    let state = seed;
    const random = () => (state = (state * 1_103_515_245 + 12_345) % 2 ** 31) / 2 ** 31;
    const shaken = words().replace(/(CARTESIAN_POINT\('',\()([^,]*),([^,]*),([^,]*)\)\)/g, (_, before: string, ...ordinates) => {
      const off = ordinates.slice(0, 3).map((one) => (Number(one) + (random() - 0.5) * 4e-7).toFixed(12));
      return `${before}${off.join()}))`;
    });
    expect(shaken).not.toBe(words());
    expect(await checked(shaken)).toMatchObject({ verdict: 'in step', differences: [] });
  });

  it('a direction that leads nowhere is told, whatever a kernel takes instead', async () => {
    const directions = [...words().matchAll(/DIRECTION\('',\(([^)]*)\)\)/g)];
    const { index, 0: all } = directions[5]!;
    const nowhere = all.replace(/[-\d.E+]+(?=[,)])/g, '0.');
    expect((await checked(words().slice(0, index) + nowhere + words().slice(index + all.length))).verdict).toBe('touched');
  });

  const CIRCLE = /(CIRCLE\('',#\d+,)([\d.E+-]+)\)/g;
  it.each(['space', 'plane'])('a circle in the numbers of a %s that misses its corners is told', async (where) => {
    const flat = new Set([...words().matchAll(/(#\d+) = AXIS2_PLACEMENT_2D/g)].map(([, name]) => name!));
    let done = false;
    const wider = words().replace(CIRCLE, (all, before: string, radius: string) => {
      if (done || flat.has(/#\d+/.exec(before)![0]) !== (where === 'plane')) return all;
      done = true;
      return `${before}${Number(radius) + 0.03})`;
    });
    expect(done).toBe(true);
    for (const said of [wider, wider.replace(/LENGTH_MEASURE\([^)]*\)/, 'LENGTH_MEASURE(5.)')])
      expect((await checked(said)).verdict).toBe('touched');
  });
});

describe('other programs', () => {
  judgedBy('admesh').it('find STL closed and of the volume that the kernel says', async () => {
    for (const encoding of ['binary', 'text']) {
      const { files } = await derive({ master, rev: 1, time }, recipeOf('stl', { encoding, chord: 0.01, angle: 5 }), services);
      const said = judged('admesh', [], 'a.stl', files[0]!.bytes);
      expect(said).toMatch(/Total disconnected facets +: +0 +0/);
      expect(said).toMatch(/Backwards edges +: +0/);
      const { exact } = await make(plate(), master);
      expect(Number(/Volume +: +([\d.]+)/.exec(said)![1]) / exact!.volume).toBeCloseTo(1, 3);
    }
  });

  judgedBy('assimp').it('read OBJ, glTF and 3MF with as many triangles', async () => {
    for (const [target, name] of [
      ['obj', 'a.obj'],
      ['gltf', 'a.glb'],
      ['3mf', 'a.3mf'],
      ['stl', 'a.stl'],
    ] as const) {
      const { files, projection } = await derive({ master, rev: 1, time }, recipeOf(target, {}), services);
      const said = judged('assimp', ['info'], name, files[0]!.bytes);
      const { triangles } = projection.leaves[0]!.body as Mesh;
      expect(Number(/Faces: +(\d+)/.exec(said)![1])).toBe(triangles.length / 3);
    }
  });

  judgedBy('gmsh').it('open STEP', async () => {
    const { files } = await derive({ master, rev: 1, time }, recipeOf('step', {}, { of: 'master' }), services);
    const said = judged('gmsh', ['-0', '-v', '4'], 'a.step', files[0]!.bytes);
    expect(said).toMatch(/Done reading 'a.step'/);
    expect(said).not.toMatch(/Error/);
  });
});
