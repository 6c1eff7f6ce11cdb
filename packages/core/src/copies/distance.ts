import type { Services } from '../contracts/services';
import { kindById } from '../content/kinds';
import type { Deviation } from '../base/geometry/farthest';
import type { Master } from '../document/schema';
import type { CopyContent } from '../contracts/codec';

import { trimmedMaster } from '../evaluate/boards/trimmed';
import { placedMaster } from '../evaluate/placed/evaluate';
import { type Recipe, carriesOf } from './recipe';
import { CarryLines } from '../contracts/report';
import { variantOf } from './variants';

/** How far a copy is from the master itself, and in which of its parts. */
export interface DistanceFromMaster extends Deviation {
  readonly leaf: number;
}

/**
 * Measures how far a copy is from the master itself. A copy is checked against its own recipe, so that a chord of 1 mm is in step
 * although it is 1 mm off; this says how far off that is.
 * @param copy what the copy says, in step with the master
 * @returns the largest distance and where it is; null where the target keeps every line as it is, or has none
 */
export async function distanceFromMaster(
  given: Master,
  recipe: Recipe,
  copy: CopyContent,
  services: Services,
): Promise<DistanceFromMaster | null> {
  const master = variantOf(given, recipe.row);
  const placed = trimmedMaster(await placedMaster(master, services), recipe.scope, services.fonts);
  let worst: DistanceFromMaster | null = null;
  let leaf = 0;
  for (const [id, carries] of Object.entries(carriesOf(recipe))) {
    const kind = kindById(id);
    const staged = kind.staged?.(placed, recipe.scope, carries) ?? placed;
    const own = staged === placed ? placed : await placedMaster(staged, services);
    for (const { source } of kind.resolve(own, recipe.scope, services, carries)) {
      const body = copy.leaves[leaf]?.body;
      const exact = body && kind.exactly?.(carries);
      const off = exact ? kind.farthest!(await kind.adapt(source, exact, new CarryLines(), services), body) : null;
      if (off && off.amount > (worst?.amount ?? 0)) worst = { ...off, leaf };
      leaf++;
    }
  }
  return worst;
}

/** Closer than this is as good as on it, mm. */
const LEAST = 0.0005;

/** "up to 0.050 mm from the master’s own lines, at x 12.30, y 4.05 mm", from the lower left; empty where that is nothing. */
export function distanceInWords(off: DistanceFromMaster | null, parts: number): string {
  if (!off || off.amount < LEAST) return '';
  const isSolid = off.at.length === 3;
  const at = off.at.map((value, axis) => `${'xyz'[axis]} ${value.toFixed(2)}`).join(', ');
  const where = parts > 1 ? ` of ${isSolid ? 'solid' : 'sheet'} ${off.leaf + 1}` : '';
  return `up to ${off.amount.toFixed(3)} mm from the master’s own ${isSolid ? 'surfaces' : 'lines'}, at ${at} mm${where}`;
}
