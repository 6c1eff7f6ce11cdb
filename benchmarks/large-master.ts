import { type Item, type Master, newMaster } from '@inkwell-twin/core';

/** Objects of the master that large work is measured on. */
export const OBJECTS = 20_000;

/** A board of 20,000 rectangles in rows of two hundred. @param radii how many different corners there are, square ones first */
export function largeMaster(id: string, radii = 3): Master {
  const start = newMaster(id, 'Large', 'Ines Okoro', 'panel');
  const items: Item[] = Array.from({ length: OBJECTS }, (_, i) => ({
    kind: 'rectangle',
    id: `r${i}`,
    layer: 'layer-1',
    style: { fill: null, stroke: '#14213a', strokeWidth: 0.3 },
    x: (i % 200) * 6,
    y: Math.floor(i / 200) * 6,
    width: 4,
    height: 3,
    radius: radii ? i % radii : 0,
  }));
  return { ...start, boards: [{ ...start.boards[0]!, width: 1200, height: 600, items }] };
}
