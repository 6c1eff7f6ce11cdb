export * from './files';
export * from './story';
import { leaflet } from './leaflet';
import type { DemoMaster } from './story';
import { waymarker } from './waymarker';

/** The masters of the demo, in the order in which the Desk shows them. */
export const demoMasters = (): DemoMaster[] => [waymarker(), leaflet()];
