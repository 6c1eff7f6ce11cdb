import {
  type Correction,
  type Master,
  type Services,
  type PictureItem,
  type Resource,
  idFrom,
  setAttributes,
} from '@inkwell-twin/core';
import { heronOutline } from './pool-picture';
import { shot } from './shot';
import { type DemoMaster, tell } from './story';

/** Of the whole picture, pixels. */
const [WIDTH, HEIGHT, PPI] = [4000, 3000, 300];
const MM = 25.4 / PPI;

/** What makes the dull light of the morning what one remembers of it. */
const STRING: readonly Correction[] = [
  { kind: 'levels', black: 0.14, white: 0.9, gamma: 1.08 },
  { kind: 'white point', colour: '#ebe1d4' },
  { kind: 'contrast', amount: 0.12 },
  { kind: 'saturation', amount: 1.25 },
  { kind: 'sharpen', radius: 1.6, amount: 0.5 },
];
/** The heron alone. */
const ALONE: Correction = {
  kind: 'cut-out',
  by: 'outline',
  colour: '#ffffff',
  distance: 0,
  points: heronOutline(WIDTH, HEIGHT),
  soft: 6,
};

const picture = (id: string, name: string, resource: string, corrections: readonly Correction[]): PictureItem => ({
  kind: 'picture',
  id,
  name,
  layer: 'pictures',
  style: { fill: null, stroke: null, strokeWidth: 0 },
  resource,
  x: 0,
  y: 0,
  width: WIDTH * MM,
  height: HEIGHT * MM,
  corrections: [...corrections],
});

function first(resource: Resource): Master {
  const size = { width: WIDTH * MM, height: HEIGHT * MM, background: null };
  return {
    id: idFrom('heron at the north pool'),
    title: 'Heron at the north pool',
    owner: 'Ines Okoro',
    purpose: 'picture',
    unit: 'mm',
    layers: [{ id: 'pictures', name: 'Pictures', colour: '#46546d', visible: true, locked: false, process: 'print' }],
    symbols: [],
    boards: [
      {
        id: 'pool',
        name: 'North pool',
        ...size,
        items: [picture('whole', 'Heron at the pool', resource.id, STRING.slice(0, 4))],
      },
      { id: 'cut', name: 'Heron alone', ...size, items: [picture('alone', 'Heron, cut out', resource.id, [...STRING, ALONE])] },
    ],
    resources: [resource],
    description: 'The heron that stands at the north pool, for the leaflet and the web page.',
  };
}

/**
 * Heron at the north pool: a photograph with corrections, and the heron cut out of it.
 * @param share of its pixels each way
 */
export async function heronAtThePool({ pictures }: Pick<Services, 'pictures'>, share: number): Promise<DemoMaster> {
  const { resource, bytes } = await shot(pictures!, WIDTH * share, HEIGHT * share, PPI * share);
  const story = tell(
    first(resource),
    'Ines Okoro',
    { time: '2026-11-10T07:20:00.000Z', message: 'From the camera, light put right' },
    [
      {
        time: '2026-11-16T18:05:00.000Z',
        message: 'A little sharper, for print',
        commands: [() => setAttributes(['whole'], 'corrections', [...STRING], 'sharpen put on')],
      },
    ],
  );
  return {
    ...story,
    kept: [{ resource, bytes }],
    copies: [
      { label: 'print', target: 'tiff', options: {}, part: 'North pool', rev: 2 },
      { label: 'web', target: 'jpeg', options: { width: 1600 * share, quality: 82 }, part: 'North pool', rev: 1 },
      { label: 'proof', target: 'pdf', options: {}, part: 'North pool', rev: 2 },
      {
        label: 'cut-out',
        target: 'png',
        options: { width: 2000 * share },
        part: 'Heron alone',
        rev: 2,
        mishap: { kind: 'paint', left: 0.67, top: 0.26, right: 0.72, bottom: 0.3, colour: '#3d4a5c' },
      },
    ],
  };
}
