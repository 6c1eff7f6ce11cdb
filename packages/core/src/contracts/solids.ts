import type { Mesh } from './mesh';
import type { NotUnderstood } from './not-understood';
import type { ViewName } from '../document/solids/views';
import type { Plan } from './plan';

/** How finely round surfaces become triangles. */
export interface Fineness {
  /** Largest distance between a triangle and the surface that it stands for, mm. */
  readonly chord: number;
  /** Largest angle between neighbours, degrees. */
  readonly angle: number;
  /** The chord is no less than this share of the whole: a large solid is not looked at more finely than its size asks for. */
  readonly share?: number;
}

/** How finely exact solids are looked at and compared: two meshes of one surface are off by less than the tolerance. */
export const EXACT_FINENESS = { chord: 0.003, angle: 8, share: 3e-5 } as const;

/** A solid that was read from an exchange file. */
export interface ReadSolid {
  readonly name: string;
  readonly colour: string;
  readonly mesh: Mesh;
}

/** A solid as lines: x to the right and y up, mm, as many numbers as points have, run by run. */
export interface SolidLines {
  readonly visible: readonly (readonly number[])[];
  readonly hidden: readonly (readonly number[])[];
}

/** Makes solids exactly. Ships outside the core, because its library is large. */
export interface SolidEngine {
  /** @throws Failure `solid-invalid` with the feature that can't be made */
  mesh(plan: Plan, how: Fineness, resource?: (sha: string) => Uint8Array | Promise<Uint8Array>): Promise<Mesh>;
  /** The exact solids as an exchange file (ISO 10303-21), without a header of its own. */
  writeStep(
    plans: readonly Plan[],
    unit: 'mm' | 'inch',
    resource?: (sha: string) => Uint8Array | Promise<Uint8Array>,
  ): Promise<string>;
  /** @throws Failure `step-damaged` with the line */
  readStep(
    bytes: Uint8Array,
    how: Fineness,
  ): Promise<{ readonly solids: readonly ReadSolid[]; readonly told: readonly NotUnderstood[] }>;
  lines(
    plan: Plan,
    view: ViewName,
    how: Fineness,
    resource?: (sha: string) => Uint8Array | Promise<Uint8Array>,
  ): Promise<SolidLines>;
}
