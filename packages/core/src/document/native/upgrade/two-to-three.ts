import { Master } from '../../schema';
import type { Item } from '../../schema';
import { fits } from '../checked';
import type { NativePackage } from '../package';
import type { Item2, Package2 } from '../v2/schema';

const opacityOf = (opacity: number) => (opacity === 1 ? {} : { opacity });

function item(one: Item2): Item {
  const { id, name, layer, transform } = one;
  const base = { id, ...(name === undefined ? {} : { name }), layer, ...(transform ? { transform } : {}) };
  switch (one.kind) {
    case 'group':
      return { kind: 'group', ...base, ...opacityOf(one.opacity), items: one.items.map(item) };
    case 'use':
      return { kind: 'use', ...base, symbol: one.symbol };
    case 'path':
      return {
        kind: 'path',
        ...base,
        style: { fill: one.fill, stroke: one.stroke, strokeWidth: one.width, ...opacityOf(one.opacity) },
        outlines: one.outlines.map(({ start, segments, closed }) => ({
          start,
          closed,
          segments: segments.map((segment) => {
            if ('line' in segment) return { kind: 'line' as const, to: segment.line };
            const [x1, y1, x2, y2, x, y] = segment.curve;
            return {
              kind: 'cubic' as const,
              c1: [x1, y1] as [number, number],
              c2: [x2, y2] as [number, number],
              to: [x, y] as [number, number],
            };
          }),
        })),
      };
    case 'text': {
      const { text, x, y, size } = one;
      return {
        kind: 'text',
        ...base,
        style: { fill: one.fill, stroke: null, strokeWidth: 0, ...opacityOf(one.opacity) },
        text,
        x,
        y,
        size,
        font: one.bold ? 'Commissioner Bold' : 'Commissioner',
        align: 'start',
      };
    }
    case 'picture': {
      const { picture, x, y, width, height } = one;
      return {
        kind: 'picture',
        ...base,
        style: { fill: null, stroke: null, strokeWidth: 0, ...opacityOf(one.opacity) },
        resource: picture,
        x,
        y,
        width,
        height,
      };
    }
  }
}

/** A package of version 2 as one of version 3; its history begins with what it was. @throws Failure `package-damaged` */
export function upgrade2to3({ document, rev, time, pictures }: Package2): NativePackage {
  const { id, title, owner, layers, symbols, boards } = document;
  const master = fits(
    Master,
    {
      id,
      title,
      owner,
      purpose: 'sheet',
      unit: 'mm',
      layers: layers.map((layer) => ({ ...layer, locked: false })),
      symbols: symbols.map(({ items, ...symbol }) => ({ ...symbol, items: items.map(item) })),
      boards: boards.map(({ items, ...board }) => ({ ...board, items: items.map(item) })),
      resources: document.pictures.map(({ sha256, ...about }) => ({
        id: sha256,
        ...about,
        size: pictures.get(sha256)!.length,
        role: 'picture' as const,
      })),
      description: '',
    },
    'master.json',
  );
  return { master, rev, time, history: null, resources: pictures };
}
