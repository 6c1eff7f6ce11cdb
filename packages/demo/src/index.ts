export * from './files';
export * from './story';
import type { Services } from '@inkwell-twin/core';
import { postBracket } from './bracket';
import { visitorGuide } from './guide';
import { heronAtThePool } from './heron';
import { hidePanel } from './hide-panel';
import { leaflet } from './leaflet';
import { SMALL_COUNT, smallMasters } from './small';
import type { DemoMaster } from './story';
import { trailPlaque } from './trail-plaque';
import { wardenBadge } from './warden-badge';
import { waymarker } from './waymarker';
import { weathering } from './weathering';

type WithPictures = Pick<Services, 'pictures'>;

/** The masters of the demo, in the order in which the Desk shows them. */
const PARTS = {
  drawings: async (services: WithPictures, share: number) => [waymarker(), await leaflet(services, share)],
  tables: async () => [weathering()],
  solids: async () => [postBracket()],
  texts: async (services: WithPictures, share: number) => [await visitorGuide(services, share)],
  pictures: async (services: WithPictures, share: number) => [
    await heronAtThePool(services, share),
    await hidePanel(services, share),
  ],
  machines: async () => [trailPlaque(), wardenBadge()],
  small: async () => smallMasters(),
};
export type DemoPart = keyof typeof PARTS;
/** Parts in the order in which they are loaded, each with its number of masters: known before they are made. */
export const DEMO_COUNTS: Readonly<Record<DemoPart, number>> = {
  drawings: 2,
  tables: 1,
  solids: 1,
  texts: 1,
  pictures: 2,
  machines: 2,
  small: SMALL_COUNT,
};

/**
 * @param parts all of them where none is named
 * @param share of the pixels that its pictures have each way: less where only the story matters
 */
export async function demoMasters(services: WithPictures, parts: readonly DemoPart[] = [], share = 1): Promise<DemoMaster[]> {
  const named = parts.length ? parts : (Object.keys(PARTS) as DemoPart[]);
  return (await Promise.all(named.map((part) => PARTS[part](services, share)))).flat();
}
export { otterPlaque } from './otter-plaque';
export { poolPicture } from './pool-picture';
