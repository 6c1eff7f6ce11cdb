import type { Scope } from '../../copies/scope';
import type { Master } from '../../master/schema';
import type { LeafPrint } from '../kind';
import { SHAPE, footprintOfSolids } from '../../solids/footprint';

/** What pictures of solids depend on, solid by solid. */
export const footprintOfSeen = (master: Master, scope: Scope): LeafPrint[] => footprintOfSolids(master, scope, SHAPE);
