import { type Mesh, NO_MESH, addFormats, checkCopy, compareMeshes, derive, readStl, recipeOf } from '@inkwell-twin/core';
import { carriesOf, planSolid, volumeAndArea } from '@inkwell-twin/core';
import { nodeFormats, solidEngine } from '@inkwell-twin/render';
import { hasJudge } from '../packages/core/test/judged-by';
import { changedCopies } from '../packages/core/test/faults/changed';
import { masterOf, services, plate, time } from '../packages/render/test/part';

/** A closed wavy block of about so many triangles. */
function wavy(count: number): Mesh {
  const across = Math.round(Math.sqrt(count / 4));
  const side = across + 1;
  const positions = new Float64Array(6 * side * side);
  const triangles: number[] = [];
  for (const top of [0, 1])
    for (let i = 0; i < side; i++)
      for (let j = 0; j < side; j++)
        positions.set(
          [(100 * i) / across, (100 * j) / across, top ? 20 + 3 * Math.sin(i / 9) * Math.cos(j / 7) : 0],
          3 * (top * side * side + i * side + j),
        );
  const at = (top: number, i: number, j: number) => top * side * side + i * side + j;
  for (let i = 0; i < across; i++)
    for (let j = 0; j < across; j++)
      for (const top of [0, 1]) {
        const [a, b, c, d] = [at(top, i, j), at(top, i + 1, j), at(top, i + 1, j + 1), at(top, i, j + 1)];
        triangles.push(...(top ? [a, b, c, a, c, d] : [a, c, b, a, d, c]));
      }
  for (let k = 0; k < across; k++)
    for (const [p, q] of [
      [at(0, k, 0), at(0, k + 1, 0)],
      [at(0, across, k), at(0, across, k + 1)],
      [at(0, k + 1, across), at(0, k, across)],
      [at(0, 0, k + 1), at(0, 0, k)],
    ] as const)
      triangles.push(p, q, q + side * side, p, q + side * side, p + side * side);
  return { ...NO_MESH, positions, triangles: Uint32Array.from(triangles) };
}

/** Bytes of a binary STL with its triangles in another order. */
function stlOf({ positions, triangles }: Mesh): Uint8Array {
  const count = triangles.length / 3;
  const view = new DataView(new ArrayBuffer(84 + 50 * count));
  view.setUint32(80, count, true);
  for (let t = 0; t < count; t++)
    for (let k = 0; k < 9; k++)
      view.setFloat32(
        84 + 50 * t + 12 + 4 * k,
        positions[3 * triangles[3 * (count - 1 - t) + Math.floor(k / 3)]! + (k % 3)]!,
        true,
      );
  return new Uint8Array(view.buffer);
}

const seconds = (work: () => unknown): number => {
  const start = performance.now();
  work();
  return (performance.now() - start) / 1000;
};

const SCRIPT = 'packages/render/test/faults/solids.py';

/** Large triangles read and compared; a kernel's time; faults by code that is not ours. */
export async function benchmarkSolids(seed: number): Promise<Record<string, number>> {
  const figures: Record<string, number> = {};
  const mesh = wavy(1_000_000);
  const bytes = stlOf(mesh);
  let back = mesh;
  figures['STL of a million triangles read, s'] = seconds(() => (back = readStl(bytes, { unit: 'mm', up: 'z' }).mesh));
  const settings = { tolerance: 0.01, carries: carriesOf(recipeOf('stl', {})).mesh! };
  figures['compared with itself in another order, s'] = seconds(() => compareMeshes(mesh, back, settings));
  const moved = { ...back, positions: back.positions.map((value, i) => (i % 3 === 2 && value > 19 ? value + 0.2 : value)) };
  figures['compared with half of it off by 0.2 mm, s'] = seconds(() => compareMeshes(mesh, moved, settings));
  console.log(`  volumes ${volumeAndArea(mesh).volume.toFixed(2)} and ${volumeAndArea(back).volume.toFixed(2)} mm³`);

  const many = plate();
  const holes = {
    ...many,
    features: [
      ...many.features,
      ...Array.from({ length: 290 }, (_, i) => ({
        id: `more-${i}`,
        name: `More ${i}`,
        op: 'hole' as const,
        axis: 'z' as const,
        at: [-28 + (i % 29) * 1.5, -8 + Math.floor(i / 29) * 1.2, 6] as [number, number, number],
        diameter: 0.6,
      })),
    ],
  };
  const plan = planSolid(masterOf(holes), holes, services.fonts);
  const start = performance.now();
  await solidEngine.mesh(plan, { chord: 0.05, angle: 12 });
  figures['a solid of 298 features made and meshed, s'] = (performance.now() - start) / 1000;
  const again = performance.now();
  await solidEngine.mesh(plan, { chord: 0.05, angle: 12 });
  figures['the same again, s'] = (performance.now() - again) / 1000;
  return { ...figures, ...(await faults(seed)) };
}

addFormats(nodeFormats);
const TARGETS = { stl: 'stl', obj: 'obj', '3mf': '3mf', gltf: 'glb', step: 'step' } as const;

async function faults(seed: number): Promise<Record<string, number>> {
  if (!hasJudge('stl')) return {};
  const master = masterOf(plate());
  const made = new Map<string, { target: string; says: string; bytes: Uint8Array }>();
  for (const [target, extension] of Object.entries(TARGETS)) {
    const { files, says } = await derive({ master, rev: 1, time }, recipeOf(target, {}), services);
    made.set(extension, { target, says, bytes: files[0]!.bytes });
  }
  const counts = { faults: 0, caught: 0, harmless: 0, alarms: 0 };
  const copies = Object.fromEntries([...made].map(([extension, { bytes }]) => [extension, bytes]));
  for (const { extension, name, harmless, bytes } of changedCopies(SCRIPT, copies, seed, 3)) {
    const { target, says } = made.get(extension)!;
    const input = {
      files: [{ part: '', bytes }],
      intact: false,
      says,
      recipe: recipeOf(target, {}),
      current: master,
      baseline: master,
    };
    const passes = (await checkCopy(input, services)).verdict === 'in step';
    if (passes !== harmless) console.log(`${harmless ? 'false alarm' : 'missed'}: ${target}, ${name}`);
    counts[harmless ? 'harmless' : 'faults']++;
    if (!passes) counts[harmless ? 'alarms' : 'caught']++;
  }
  return {
    'faults of solids tried': counts.faults,
    'faults of solids caught, %': (100 * counts.caught) / counts.faults,
    'harmless changes of solids tried': counts.harmless,
    'false alarms of solids, %': (100 * counts.alarms) / counts.harmless,
  };
}
