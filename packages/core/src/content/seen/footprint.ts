import type { Scope } from '../../contracts/scope';
import type { Master } from '../../document/schema';
import type { LeafPrint } from '../../contracts/kind';
import { SHAPE, footprintOfSolids } from '../../evaluate/solids/footprint';

/** What pictures of solids depend on, solid by solid. */
export const footprintOfSeen = (master: Master, scope: Scope): LeafPrint[] => footprintOfSolids(master, scope, SHAPE);
