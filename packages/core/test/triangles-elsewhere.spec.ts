import fc from 'fast-check';
import { strToU8, zipSync } from 'fflate';
import { type Mesh, codecOf, seamsOf, volumeAndArea } from '../src';
import { services } from './flat';
import { runs } from './depth';
import { cpuTime } from './cpu-time';

/*
 * The same prisms, written the ways in which the formats may be written and our own writers never do: by code of this file
 * alone. What comes in has the volume and the area that the outline gives by hand.
 */

type Point = readonly [number, number];
type Place = readonly [number, number, number];

interface Prism {
  readonly outline: readonly Point[];
  readonly height: number;
}

const text = (words: string) => new TextEncoder().encode(words);
const bodiesIn = async (target: string, bytes: Uint8Array): Promise<Mesh[]> =>
  (await (await codecOf(target)).read([{ part: '', bytes }], {}, services)).leaves.map(({ body }) => body as Mesh);

const shoelace = (outline: readonly Point[]): number =>
  outline.reduce((sum, [x, y], i) => {
    const [u, v] = outline[(i + 1) % outline.length]!;
    return sum + (x * v - u * y) / 2;
  }, 0);
const girth = (outline: readonly Point[]): number =>
  outline.reduce((sum, [x, y], i) => {
    const [u, v] = outline[(i + 1) % outline.length]!;
    return sum + Math.hypot(u - x, v - y);
  }, 0);
const volumeOf = ({ outline, height }: Prism): number => shoelace(outline) * height;
const areaOf = ({ outline, height }: Prism): number => 2 * shoelace(outline) + girth(outline) * height;

const cornersOf = ({ outline, height }: Prism): Place[] => [
  ...outline.map(([x, y]): Place => [x, y, 0]),
  ...outline.map(([x, y]): Place => [x, y, height]),
];
/** The floor, the ceiling and the walls, each as seen from outside. */
const facesOf = ({ outline }: Prism): number[][] => {
  const n = outline.length;
  const round = Array.from({ length: n }, (_, i) => i);
  return [[...round].reverse(), round.map((i) => n + i), ...round.map((i) => [i, (i + 1) % n, n + ((i + 1) % n), n + i])];
};
const fans = (faces: readonly number[][]): number[][] =>
  faces.flatMap((face) => face.slice(2).map((corner, i) => [face[0]!, face[i + 1]!, corner]));

/** Outlines around a middle, corners at rising angles: convex where all are as far off. */
const round: fc.Arbitrary<Prism> = fc
  .record({ n: fc.integer({ min: 3, max: 9 }), radius: fc.integer({ min: 2, max: 80 }), height: fc.integer({ min: 1, max: 60 }) })
  .map(({ n, radius, height }) => ({
    outline: Array.from({ length: n }, (_, i): Point => [
      radius * Math.cos((2 * Math.PI * i) / n),
      radius * Math.sin((2 * Math.PI * i) / n),
    ]),
    height,
  }));
/** Combs: as many teeth as asked for, so that no single corner sees the whole outline. */
const comb: fc.Arbitrary<Prism> = fc
  .record({
    teeth: fc.integer({ min: 1, max: 6 }),
    deep: fc.integer({ min: 2, max: 9 }),
    height: fc.integer({ min: 1, max: 20 }),
  })
  .map(({ teeth, deep, height }) => ({
    outline: [
      [0, 0],
      [4 * teeth + 2, 0],
      ...Array.from({ length: teeth }, (_, i): Point[] => {
        const right = 4 * (teeth - i) + 2;
        return [
          [right, deep],
          [right - 2, deep],
          [right - 2, 1],
          [right - 4, 1],
        ];
      }).flat(),
      [2, deep],
      [0, deep],
    ] as Point[],
    height,
  }));

const sameAs = (meshes: readonly Mesh[], prism: Prism, digits = 4): void => {
  const all = meshes.map((mesh) => volumeAndArea(mesh));
  const sum = (of: 'volume' | 'area') => all.reduce((total, one) => total + one[of], 0);
  expect(sum('volume') / volumeOf(prism)).toBeCloseTo(1, digits);
  expect(sum('area') / areaOf(prism)).toBeCloseTo(1, digits);
};

describe('OBJ as others write it', () => {
  const objOf = (prism: Prism, face: (corner: number, count: number) => string, end = '\n'): Uint8Array => {
    const corners = cornersOf(prism);
    return text(
      [
        '# by hand',
        'mtllib none.mtl',
        ...corners.map((place) => `v ${place.join(' ')} 1.0`),
        'vn 0 0 1',
        'vt 0 0',
        ...facesOf(prism).map((one) => `f ${one.map((corner) => face(corner, corners.length)).join(' ')}`),
        '',
      ].join(end),
    );
  };

  it.each([
    ['numbers from the front', (corner: number) => `${corner + 1}`, '\n'],
    ['numbers from the end', (corner: number, count: number) => `${corner - count}`, '\n'],
    ['directions and pictures beside them', (corner: number) => `${corner + 1}/1/1`, '\r\n'],
    ['directions only', (corner: number) => `${corner + 1}//1`, '\r'],
    ['lines that go on in the next', (corner: number) => `\\\n ${corner + 1}`, '\n'],
  ] as const)('with %s', async (_, face, end) => {
    await fc.assert(
      fc.asyncProperty(round, async (prism) => sameAs(await bodiesIn('obj', objOf(prism, face, end)), prism)),
      { numRuns: runs(25) },
    );
  });

  it('with faces that no single corner sees all of', async () => {
    await fc.assert(
      fc.asyncProperty(comb, async (prism) =>
        sameAs(
          await bodiesIn(
            'obj',
            objOf(prism, (corner) => `${corner + 1}`),
          ),
          prism,
        ),
      ),
      { numRuns: runs(40) },
    );
  });

  it('closed also where a corner stands in the middle of an edge, whichever corner a face begins with', async () => {
    // A comb whose long edge has a corner in its middle, which the wall beneath it has too.
    const prism: Prism = {
      outline: [
        [0, 0],
        [5, 0],
        [10, 0],
        [10, 4],
        [8, 4],
        [8, 1],
        [2, 1],
        [2, 4],
        [0, 4],
      ],
      height: 3,
    };
    for (let turn = 0; turn < prism.outline.length; turn++) {
      const outline = [...prism.outline.slice(turn), ...prism.outline.slice(0, turn)];
      const [mesh] = await bodiesIn(
        'obj',
        objOf({ ...prism, outline }, (corner) => `${corner + 1}`),
      );
      sameAs([mesh!], prism);
      expect(seamsOf(mesh!)).toMatchObject({ open: 0, crowded: 0 });
    }
  });

  it('and says so where a face is too much to be looked through', async () => {
    const teeth = 200;
    const outline = [
      [0, 0],
      [2 * teeth, 0],
      ...Array.from({ length: 2 * teeth }, (_, i): Point => [2 * teeth - i, i % 2 ? 2 : 5]),
      ...Array.from({ length: 200 }, (_, i): Point => [0, 4 - i / 100]),
    ] as Point[];
    const { notUnderstood } = await (
      await codecOf('obj')
    ).read([{ part: '', bytes: objOf({ outline, height: 1 }, (corner) => `${corner + 1}`) }], {}, services);
    expect(notUnderstood).toContainEqual({ kind: 'face of more than 500 corners that turns inwards', count: 2, shows: true });
  });
});

describe('STL as others write it', () => {
  const stlOf = (prism: Prism, words: (three: readonly Place[]) => string): Uint8Array => {
    const corners = cornersOf(prism);
    return text(
      `solid by hand\n${fans(facesOf(prism))
        .map((three) => words(three.map((corner) => corners[corner]!)))
        .join('\n')}\nendsolid\n`,
    );
  };
  it.each([
    [
      'capital letters and tabs',
      (three: readonly Place[]) =>
        `\tFACET NORMAL 0 0 0\n\t\tOUTER LOOP\n${three.map((place) => `\t\t\tVERTEX\t${place.join('\t')}`).join('\n')}\n\t\tENDLOOP\n\tENDFACET`,
    ],
    [
      'powers of ten and directions that lie',
      (three: readonly Place[]) =>
        `facet normal -1 0 0\nouter loop\n${three.map((place) => `vertex ${place.map((value) => value.toExponential(12)).join(' ')}`).join('\n')}\nendloop\nendfacet`,
    ],
    [
      'all of a triangle in one line',
      (three: readonly Place[]) =>
        `facet normal 0 0 0 outer loop ${three.map((place) => `vertex ${place.join(' ')}`).join(' ')} endloop endfacet`,
    ],
  ])('with %s', async (_, words) => {
    await fc.assert(
      fc.asyncProperty(round, async (prism) => sameAs(await bodiesIn('stl', stlOf(prism, words)), prism)),
      { numRuns: runs(25) },
    );
  });
});

const CORE = 'http://schemas.microsoft.com/3dmanufacturing/core/2015/02'; // term-guard: standard (3MF core 1.3, 1.2)
const START = 'http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel'; // term-guard: standard (3MF core 1.3, 2.1.1)
/** A package of which only the model is ours to write. */
const packed = (model: string, path = '3D/thing.model'): Uint8Array =>
  zipSync({
    '[Content_Types].xml': strToU8(
      '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>',
    ),
    '_rels/.rels': strToU8(
      `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="a" Type="${START}" Target="/${path}"/></Relationships>`,
    ),
    [path]: strToU8(model),
  });
const meshWords = (prism: Prism): string =>
  `<mesh><vertices>${cornersOf(prism)
    .map(([x, y, z]) => `<vertex x="${x}" y="${y}" z="${z}"/>`)
    .join('')}</vertices><triangles>${fans(facesOf(prism))
    .map(([a, b, c]) => `<triangle v1="${a}" v2="${b}" v3="${c}"/>`)
    .join('')}</triangles></mesh>`;
const modelOf = (resources: string, build: string, unit = 'millimeter'): string =>
  `<?xml version="1.0"?><model unit="${unit}" xmlns="${CORE}"><resources>${resources}</resources><build>${build}</build></model>`;

describe('3MF as others write it', () => {
  it.each([
    ['micron', 0.001],
    ['centimeter', 10],
    ['inch', 25.4],
    ['foot', 304.8],
    ['meter', 1000],
  ])('in the unit %s', async (unit, mm) => {
    await fc.assert(
      fc.asyncProperty(round, async (prism) => {
        const [mesh] = await bodiesIn(
          '3mf',
          packed(modelOf(`<object id="1">${meshWords(prism)}</object>`, '<item objectid="1"/>', unit)),
        );
        expect(volumeAndArea(mesh!).volume / (volumeOf(prism) * mm ** 3)).toBeCloseTo(1, 4);
      }),
      { numRuns: runs(10) },
    );
  });

  it('put together of parts that are turned, mirrored and enlarged', async () => {
    await fc.assert(
      fc.asyncProperty(round, fc.integer({ min: 1, max: 4 }), async (prism, scale) => {
        const model = modelOf(
          `<object id="1">${meshWords(prism)}</object><object id="2"><components>` +
            `<component objectid="1" transform="0 1 0 -1 0 0 0 0 1 500 0 0"/>` +
            `<component objectid="1" transform="-${scale} 0 0 0 ${scale} 0 0 0 ${scale} -900 0 0"/></components></object>`,
          '<item objectid="2" transform="1 0 0 0 1 0 0 0 1 3 4 5"/>',
        );
        const [mesh] = await bodiesIn('3mf', packed(model));
        expect(volumeAndArea(mesh!).volume / (volumeOf(prism) * (1 + scale ** 3))).toBeCloseTo(1, 4);
      }),
      { numRuns: runs(20) },
    );
  });

  it('made of parts that double over and over is refused in time', async () => {
    for (const innermost of [
      '',
      meshWords({
        outline: [
          [0, 0],
          [1, 0],
          [0, 1],
        ],
        height: 1,
      }),
    ]) {
      const doubled = Array.from(
        { length: 30 },
        (_, i) => `<object id="${i + 2}"><components>${`<component objectid="${i + 1}"/>`.repeat(2)}</components></object>`,
      );
      const model = modelOf(`<object id="1">${innermost}</object>${doubled.join('')}`, '<item objectid="31"/>');
      const begun = cpuTime();
      await expect(bodiesIn('3mf', packed(model))).rejects.toThrow(/parts/);
      expect(cpuTime() - begun).toBeLessThan(20_000);
    }
  });
});

/** A glTF with its numbers within it: corners as floats, in any arrangement of bytes. */
function gltfOf(
  prism: Prism,
  more: { order?: readonly number[]; mode?: number; wide?: 1 | 2 | 4; stride?: number; nodes?: object[] },
): Uint8Array {
  const { mode = 4, wide = 2, stride = 12, nodes = [{ mesh: 0 }] } = more;
  // In metres, y upwards.
  const corners = cornersOf(prism).map(([x, y, z]): Place => [x / 1000, z / 1000, -y / 1000]);
  const order = more.order ?? fans(facesOf(prism)).flat();
  const head = corners.length * stride;
  const view = new DataView(new ArrayBuffer(head + order.length * wide));
  corners.forEach((place, i) => place.forEach((value, k) => view.setFloat32(i * stride + 4 * k, value, true)));
  const put = { 1: 'setUint8', 2: 'setUint16', 4: 'setUint32' } as const;
  order.forEach((corner, i) => view[put[wide]](head + i * wide, corner, true));
  return text(
    JSON.stringify({
      asset: { version: '2.0' },
      scene: 0,
      scenes: [{ nodes: [0] }],
      nodes,
      meshes: [{ primitives: [{ attributes: { POSITION: 0 }, indices: 1, mode }] }],
      accessors: [
        { bufferView: 0, componentType: 5126, count: corners.length, type: 'VEC3' },
        { bufferView: 1, componentType: { 1: 5121, 2: 5123, 4: 5125 }[wide], count: order.length, type: 'SCALAR' },
      ],
      bufferViews: [
        { buffer: 0, byteLength: head, ...(stride > 12 ? { byteStride: stride } : {}) },
        { buffer: 0, byteOffset: head, byteLength: order.length * wide },
      ],
      buffers: [
        {
          byteLength: view.byteLength,
          uri: `data:application/octet-stream;base64,${Buffer.from(view.buffer).toString('base64')}`,
        },
      ],
    }),
  );
}

describe('glTF as others write it', () => {
  it.each([1, 2, 4] as const)('with numbers of corners of %d bytes, alone and among others', async (wide) => {
    await fc.assert(
      fc.asyncProperty(round, fc.constantFrom(12, 16, 32), async (prism, stride) =>
        sameAs(await bodiesIn('gltf', gltfOf(prism, { wide, stride })), prism),
      ),
      { numRuns: runs(15) },
    );
  });

  it('in one strip with turns that have no surface', async () => {
    // Each triangle stands alone: what leads from one to the next, an even number of corners, spans nothing.
    const stripOf = (triangles: readonly number[][]): number[] =>
      triangles.flatMap(([a, b, c], i) => (i ? [triangles[i - 1]![2]!, triangles[i - 1]![2]!, a!, a!, b!, c!] : [a!, b!, c!]));
    await fc.assert(
      fc.asyncProperty(round, async (prism) => {
        const bytes = gltfOf(prism, { mode: 5, order: stripOf(fans(facesOf(prism))) });
        sameAs(await bodiesIn('gltf', bytes), prism);
      }),
      { numRuns: runs(15) },
    );
  });

  it('under nodes that turn, mirror and enlarge', async () => {
    await fc.assert(
      fc.asyncProperty(round, fc.constantFrom(-2, -1, 1, 3), async (prism, scale) => {
        const nodes = [
          { children: [1], translation: [5, 6, 7], rotation: [0, Math.SQRT1_2, 0, Math.SQRT1_2] },
          { mesh: 0, scale: [scale, 2, 1] },
        ];
        const [mesh] = await bodiesIn('gltf', gltfOf(prism, { nodes }));
        expect(volumeAndArea(mesh!).volume / (volumeOf(prism) * 2 * Math.abs(scale))).toBeCloseTo(1, 3);
      }),
      { numRuns: runs(20) },
    );
  });

  it('with nodes that double over and over is refused in time', async () => {
    const nodes = [...Array.from({ length: 40 }, (_, i) => ({ children: [i + 1, i + 1] })), { name: 'end' }];
    const begun = cpuTime();
    await expect(
      bodiesIn(
        'gltf',
        gltfOf(
          {
            outline: [
              [0, 0],
              [1, 0],
              [0, 1],
            ],
            height: 1,
          },
          { nodes },
        ),
      ),
    ).rejects.toThrow(/parts/);
    expect(cpuTime() - begun).toBeLessThan(20_000);
  });
});
