import { BENCH } from '../packages/standins/src';
import {
  type Item,
  type Machining,
  type Master,
  type Services,
  SHIPPED_MACHINES,
  addFormats,
  codecOf,
  derive,
  machineFit,
  newMaster,
  recipeOf,
} from '@inkwell-twin/core';
import { nodeFormats, shippedFonts } from '@inkwell-twin/render';

const time = '2026-12-02T10:00:00.000Z';
const services: Services = { fonts: shippedFonts() };
const on = (layer: string) => ({ layer, style: { fill: '#2f6f8f', stroke: null, strokeWidth: 0 } });

/** The same numbers each time (mulberry32). */
function numbers(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

function sheet(items: Item[], width: number, height: number, process: 'route' | 'stitch'): Master {
  const made = newMaster('0f1d7c1e-1111-4a1b-9c1d-0000000b0032', 'Sheet', 'Ines Okoro', 'panel', {});
  const layers = [{ id: process, name: process, colour: '#14213a', visible: true, locked: false, process }];
  return { ...made, layers, boards: [{ ...made.boards[0]!, width, height, items }] };
}

/** Washers and plates in a loose grid: half of the outlines are holes. */
function plates(count: number, pitch: number, random: () => number): Item[] {
  const across = Math.ceil(Math.sqrt(count / 2));
  return Array.from({ length: count / 2 }, (_, i): Item[] => {
    const x = 30 + (i % across) * pitch + random() * 8;
    const y = 30 + Math.floor(i / across) * pitch + random() * 8;
    const common = (id: string) => ({ id: `${id}${i}`, name: `${id} ${i}`, ...on('route') });
    const hole: Item = { kind: 'ellipse', ...common('hole'), cx: x, cy: y, rx: 5 + random() * 3, ry: 5 + random() * 3 };
    return i % 2
      ? [{ kind: 'ellipse', ...common('washer'), cx: x, cy: y, rx: 18, ry: 18 }, hole]
      : [{ kind: 'rectangle', ...common('plate'), x: x - 20, y: y - 16, width: 40, height: 32, radius: 6 }, hole];
  }).flat();
}

/** How far a tour of the middles of objects is as it was planned, and as it is to the nearest each time. */
function tours({ count, motion, ends, source }: Machining): { planned: number; nearest: number } {
  const places = new Map<number, { x: number; y: number; n: number }>();
  const order: number[] = [];
  for (let i = 0; i < count; i++) {
    const of = source[i]!;
    if (of < 0 || !motion[i]) continue;
    if (order.at(-1) !== of) order.push(of);
    const place = places.get(of) ?? { x: 0, y: 0, n: 0 };
    places.set(of, { x: place.x + ends[3 * i]!, y: place.y + ends[3 * i + 1]!, n: place.n + 1 });
  }
  const middle = (of: number): readonly [number, number] => [
    places.get(of)!.x / places.get(of)!.n,
    places.get(of)!.y / places.get(of)!.n,
  ];
  const far = (a: readonly [number, number], b: readonly [number, number]): number => Math.hypot(a[0] - b[0], a[1] - b[1]);
  const once = [...new Set(order)];
  // Holes and what they are in are two tours; each is compared with its own.
  const [holes, outer] = [once.slice(0, once.length / 2), once.slice(once.length / 2)];
  let [planned, nearest] = [0, 0];
  for (const half of [holes, outer]) {
    for (let i = 1; i < half.length; i++) planned += far(middle(half[i - 1]!), middle(half[i]!));
    const left = new Set(half);
    let at = half[0]!;
    left.delete(at);
    while (left.size) {
      let [best, least] = [at, Infinity];
      for (const one of left) {
        const by = far(middle(at), middle(one));
        if (by < least) [best, least] = [one, by];
      }
      nearest += least;
      left.delete(best);
      at = best;
    }
  }
  return { planned, nearest };
}

export async function benchmarkMachines(): Promise<Record<string, number>> {
  addFormats(nodeFormats);
  const random = numbers(20_261_202);
  const router = SHIPPED_MACHINES.find(({ id }) => id === 'router')!;
  const large = {
    ...router,
    id: 'large',
    name: 'Large router',
    area: { width: 6000, height: 6000, depth: 80 },
    limits: { moves: 10_000_000, bytes: 1e9 },
  };
  const options = { machine: JSON.stringify(large), corners: 'rounded' };
  const revision = { master: sheet(plates(10_000, 60, random), 6000, 6000, 'route'), rev: 1, time };
  // Warm: the code of a small one first.
  await derive(
    { master: sheet(plates(20, 60, random), 6000, 6000, 'route'), rev: 1, time },
    recipeOf('gcode', options),
    services,
  );
  let start = performance.now();
  const fit = await machineFit(revision.master, recipeOf('gcode', options), services);
  const fitted = performance.now() - start;
  if (!fit.job) throw new Error(fit.findings[0]!.words);
  start = performance.now();
  const { projection } = await derive(revision, recipeOf('gcode', options), services);
  const derived = performance.now() - start;
  const { planned, nearest } = tours(projection.leaves[0]!.body as Machining);

  let worst = 0;
  for (let i = 0; i < 20; i++) {
    const master = sheet(plates(40, 60, random), 600, 400, 'route');
    const recipe = recipeOf('gcode', { corners: 'rounded', entry: i % 2 ? 'ramp' : 'plunge', tabs: i % 4, lead: i % 3 ? 3 : 0 });
    const { job } = await machineFit(master, recipe, services);
    const { files } = await derive({ master, rev: 1, time }, recipe, services);
    const report = BENCH['router']!(files[0]!.bytes);
    if (!report.runs) throw new Error(report.alarms[0]!.words);
    worst = Math.max(worst, Math.abs(job!.seconds / report.seconds - 1));
  }

  const rows = Array.from({ length: 100_000 }, (_, i) => `stitch,${(i % 900) - 450},${Math.floor(i / 225) - 222},1`);
  const list = [
    'inkwell-stitches,1',
    '# none',
    'thread,1,#2f6f8f',
    'op,x,y,thread',
    'jump,-450,-222,1',
    ...rows,
    'cut,,,1',
    'end,,,',
    '',
  ];
  const bytes = new TextEncoder().encode(list.join('\n'));
  const codec = await codecOf('stitch');
  start = performance.now();
  const content = await codec.read([{ part: '', bytes }], {}, services);
  await codec.write(content, recipeOf('stitch', {}).options, 'none', services);
  const stitches = performance.now() - start;
  return {
    'fit check of 10,000 closed outlines with its plan, ms': fitted,
    'derive G-code of them with all of it, ms': derived,
    'way between them shorter than to the nearest each time, %': 100 * (1 - planned / nearest),
    'time of 20 jobs off the clock of the bench, at most, %': 100 * worst,
    '100,000 stitches read and written, ms': stitches,
  };
}
