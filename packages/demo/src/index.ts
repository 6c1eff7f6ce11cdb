export * from './files';
export * from './story';
import type { Means } from '@inkwell-twin/core';
import { heronAtThePool } from './heron';
import { leaflet } from './leaflet';
import type { DemoMaster } from './story';
import { waymarker } from './waymarker';

/** The masters of the demo, in the order in which the Desk shows them. */
export const demoMasters = async (means: Pick<Means, 'pictures'>): Promise<DemoMaster[]> => [
  waymarker(),
  leaflet(),
  await heronAtThePool(means),
];
