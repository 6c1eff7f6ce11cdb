import type { Scope } from '../../copies/scope';
import type { Master } from '../../master/schema';
import type { LeafPrint } from '../kind';
import type { MeshCarries } from '../mesh/features';
import { footprintOfSolids } from '../mesh/footprint';

/** Edges have no colour and no name. */
export const SHAPE = { names: 'left out', colours: 'left out' } as unknown as MeshCarries;

/** What pictures of solids depend on, solid by solid. */
export const footprintOfSeen = (master: Master, scope: Scope): LeafPrint[] => footprintOfSolids(master, scope, SHAPE);
