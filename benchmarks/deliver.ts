import {
  type Master,
  type Services,
  addFormats,
  declarations,
  derive,
  fitSize,
  forecastOf,
  parseOptions,
  recipeOf,
  writePackage,
} from '@inkwell-twin/core';
import { demoMasters } from '@inkwell-twin/demo';
import { nodeFormats, pictureEngine, shippedFonts, solidEngine } from '@inkwell-twin/render';
import { album } from './pages';
import { RunningWorkshop, pause, percentile, timed } from './ground/running';

const time = '2026-12-01T10:00:00.000Z';
const VARIANTS = 500;

/** A leaflet of four pages with ten pictures of 12 megapixels, alone for its memory. */
export async function benchmarkLeaflet(): Promise<Record<string, number>> {
  addFormats(nodeFormats);
  const { master: one, services } = await album();
  const [first] = one.boards;
  const boards = [0, 1, 2, 3].map((page) => ({
    ...first!,
    id: `page-${page}`,
    name: `Page ${page + 1}`,
    items: first!.items.filter((_, i) => i % 4 === page),
  }));
  const master: Master = { ...one, boards };
  const start = performance.now();
  await derive({ master, rev: 1, time }, recipeOf('pdf', { bleed: 3, marks: 'cut' }, { of: 'master' }), services);
  return { 'derive PDF of 4 pages with ten pictures of 12 megapixels, ms': performance.now() - start };
}

/** How near forecasts are over the demo, and how much of a size is left over where copies are fitted to it. */
export async function benchmarkSizes(): Promise<Record<string, number>> {
  addFormats(nodeFormats);
  let [worst, count] = [0, 0];
  const over = async (master: Master, services: Services): Promise<void> => {
    for (const declaration of declarations()) {
      const recipe = recipeOf(declaration.id, parseOptions(declaration, {}), { of: 'master' });
      const revision = { master, rev: 1, time };
      try {
        const { bytes } = await forecastOf(revision, recipe, services);
        const { files } = await derive(revision, recipe, services);
        const real = files.reduce((sum, file) => sum + file.bytes.length, 0);
        worst = Math.max(worst, Math.abs(bytes / real - 1));
        count++;
      } catch {
        // Such a copy can't be made of this master.
      }
    }
  };
  for (const { first, kept = [] } of await demoMasters({ pictures: pictureEngine }, [], 0.3)) {
    const files = new Map(kept.map(({ resource, bytes }) => [resource.id, bytes]));
    await over(first, {
      fonts: shippedFonts(),
      pictures: pictureEngine,
      solids: solidEngine,
      resource: (sha) => files.get(sha)!,
    });
  }
  const { master, services } = await album();
  let left = 0;
  for (const megabytes of [2, 5, 11]) {
    const most = megabytes * 1e6;
    const { bytes } = await fitSize({ master, rev: 1, time }, recipeOf('pdf', {}), most, services);
    left = Math.max(left, 1 - bytes / most);
  }
  return {
    'copies of the demo whose size was forecast': count,
    'forecast of a size, off at most, %': 100 * worst,
    'left over of a size that a PDF of ten pictures was fitted to, at most, %': 100 * left,
  };
}

/** A card with a name that a table gives it. */
function card(): Master {
  const words = (id: string, text: string, y: number) => ({
    kind: 'text' as const,
    id,
    layer: 'layer-1',
    style: { fill: '#14213a', stroke: null, strokeWidth: 0 },
    text,
    x: 10,
    y,
    size: 6,
    font: 'Commissioner' as const,
    align: 'start' as const,
  });
  return {
    id: '0f1d7c1e-2222-4a1b-9c1d-000000000500',
    title: 'Warden card',
    owner: 'Ines Okoro',
    purpose: 'panel',
    unit: 'mm',
    layers: [{ id: 'layer-1', name: 'Print', colour: '#14213a', visible: true, locked: false, process: 'print' }],
    symbols: [],
    resources: [],
    description: '',
    parameters: [{ id: 'w', name: 'width', value: 85 }],
    boards: [
      {
        id: 'front',
        name: 'Front',
        width: 85,
        height: 55,
        background: '#f7f0e2',
        formulas: { width: 'width' },
        items: [words('name', 'Warden of the north pool', 30), words('place', 'Lantern Fen', 18)],
      },
    ],
    tables: [
      {
        id: 'sizes',
        name: 'Sizes',
        columns: [{ id: 'c', name: 'width', type: 'number' }],
        rows: Array.from({ length: VARIANTS }, (_, i) => ({ id: `r${i}`, cells: { c: 60 + i / 10 } })),
        summaries: [],
      },
    ],
  };
}

/** Five hundred variants in one job of the server, its memory meanwhile, and small requests while ten derivations run. */
export async function benchmarkVariants(): Promise<Record<string, number>> {
  const workshop = await RunningWorkshop.start();
  try {
    const master = card();
    const history = { first: master, revisions: [{ rev: 1, time, author: '', message: '', patches: [] }] };
    const id = await workshop.bringIn('card.inkwell', writePackage({ master, rev: 1, time, history, resources: new Map() }));
    await workshop.idle();
    const scope = { of: 'boards', ids: ['front'] };
    const before = workshop.memory('worker');
    let most = before;
    const begun = performance.now();
    const { status } = await workshop.call('POST', `/api/masters/${id}/variants`, {
      target: 'pdf',
      label: 'card',
      table: 'sizes',
      scope,
    });
    if (status !== 200) throw new Error(`The variants were answered ${status}.`);
    let over = false;
    const watching = (async () => {
      for (; !over; await pause(200)) most = Math.max(most, workshop.memory('worker'));
    })();
    await workshop.idle(600_000);
    const took = performance.now() - begun;
    over = true;
    await watching;
    const small: number[] = [];
    for (let i = 0; i < 10; i++)
      await workshop.call('POST', `/api/masters/${id}/copies`, { target: i % 2 ? 'pdf' : 'tiff', label: `copy ${i}`, scope });
    let busy = true;
    const asking = (async () => {
      for (; busy; await pause(20)) small.push(await timed(() => workshop.call('GET', '/api/health')));
    })();
    await workshop.idle();
    busy = false;
    await asking;
    return {
      [`derive ${VARIANTS} variants to PDF in one job of the server, s`]: took / 1000,
      'memory that the worker needs more while it does that, MB': most - before,
      'a small request while ten derivations run, 95 of 100, ms': percentile(small, 0.95),
    };
  } finally {
    await workshop.stop();
  }
}
