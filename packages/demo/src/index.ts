export * from './files';
export { heronAtThePool } from './heron';
export * from './story';
import type { Means } from '@inkwell-twin/core';
import { heronAtThePool } from './heron';
import { leaflet } from './leaflet';
import type { DemoMaster } from './story';
import { waymarker } from './waymarker';

/** The masters of the demo, in the order in which the Desk shows them. */
const PARTS = {
  drawings: async (means: Pick<Means, 'pictures'>) => [waymarker(), await leaflet(means)],
  pictures: async (means: Pick<Means, 'pictures'>) => [await heronAtThePool(means)],
};
export type DemoPart = keyof typeof PARTS;

export const demoMasters = async (means: Pick<Means, 'pictures'>, ...parts: readonly DemoPart[]): Promise<DemoMaster[]> =>
  (await Promise.all((parts.length ? parts : (Object.keys(PARTS) as DemoPart[])).map((part) => PARTS[part](means)))).flat();
export { poolPicture } from './pool-picture';
