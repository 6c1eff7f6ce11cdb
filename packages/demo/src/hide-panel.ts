import {
  type Master,
  type Services,
  type PictureItem,
  type Resource,
  type TextItem,
  idFrom,
  setAttribute,
} from '@inkwell-twin/core';
import { guidePictures } from './guide-pictures';
import { filled } from './shapes';
import { type DemoMaster, tell } from './story';

const POOL = 'Shared pictures';

const shown = (id: string, name: string, resource: string, x: number, y: number, width: number, height: number): PictureItem => ({
  kind: 'picture',
  id,
  name,
  layer: 'print',
  style: { fill: null, stroke: null, strokeWidth: 0 },
  resource,
  x,
  y,
  width,
  height,
});
const words = (id: string, text: string, y: number, size: number): TextItem => ({
  kind: 'text',
  id,
  layer: 'print',
  style: filled('#14213a'),
  text,
  font: 'Oswald Bold',
  size,
  align: 'start',
  x: 18,
  y,
});

/**
 * Hide panel: a board with two pictures that lie on the shelf and not in the master. One is where it was; the other was put into
 * a folder of its own by someone, and its link leads nowhere.
 */
export async function hidePanel({ pictures }: Pick<Services, 'pictures'>, share: number): Promise<DemoMaster> {
  const { reeds, map } = await guidePictures(pictures!, share);
  const linked = (resource: Resource): Resource => ({ ...resource, link: `${POOL}/${resource.name}` });
  const first: Master = {
    id: idFrom('hide panel'),
    title: 'Hide panel',
    owner: 'Ines Okoro',
    purpose: 'print',
    unit: 'mm',
    layers: [{ id: 'print', name: 'Print', colour: '#14213a', visible: true, locked: false, process: 'print' }],
    symbols: [],
    boards: [
      {
        id: 'panel',
        name: 'Panel',
        width: 297,
        height: 210,
        background: '#f4f7f0',
        items: [
          shown('reeds', 'Reeds in the evening', reeds.resource.id, 18, 60, 170, 110.9),
          shown('walk', 'The walk', map.resource.id, 200, 60, 79, 51.5),
          words('title', 'What lives in the reeds', 184, 15),
          words('line', 'Sit still for ten minutes. The reeds will forget you.', 36, 7),
        ],
      },
    ],
    resources: [linked(reeds.resource), linked(map.resource)],
    keywords: ['hides', 'panels'],
    description: 'The panel inside the reed hide; its pictures are shared with other panels.',
  };
  const story = tell(first, 'Ines Okoro', { time: '2026-05-04T08:10:00Z', message: 'Panel for the reed hide' }, [
    {
      time: '2026-05-12T15:25:00Z',
      message: 'Title set larger',
      commands: [(now) => setAttribute(now, 'title', 'size', 16)],
    },
  ]);
  return {
    ...story,
    place: 'Hides',
    kept: [reeds, map],
    beside: [
      { path: `${POOL}/${reeds.resource.name}`, bytes: reeds.bytes },
      { path: `${POOL}/Maps/${map.resource.name}`, bytes: map.bytes },
    ],
    copies: [{ label: 'for the printer', target: 'pdf', options: {}, part: 'Panel', rev: 2 }],
  };
}
