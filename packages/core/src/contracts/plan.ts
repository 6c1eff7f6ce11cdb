import type { Outline } from '../base/geometry/outline';
import type { Axis, Joining, PlaneName } from '../document/solids/schema';

export type Spot = readonly [x: number, y: number, z: number];

/** What one step makes before it meets the rest. */
export type Making =
  | {
      readonly make: 'prism';
      readonly plane: PlaneName;
      readonly offset: number;
      readonly outlines: readonly Outline[];
      readonly by: number;
    }
  | { readonly make: 'turning'; readonly plane: PlaneName; readonly outlines: readonly Outline[]; readonly angle: number }
  | {
      readonly make: 'bore';
      readonly axis: Axis;
      readonly at: Spot;
      readonly diameter: number;
      /** Null where it goes through everything. */
      readonly depth: number | null;
      readonly sink: { readonly diameter: number; readonly angle: number } | null;
    }
  // eslint-disable-next-line no-restricted-syntax -- how the native file names where a solid came from
  | { readonly make: 'file'; readonly sha: string; readonly format: 'step' | 'triangles'; readonly part: number };

/** One move after the other. */
export type Placing = { readonly by: Spot } | { readonly axis: Axis; readonly centre: Spot; readonly angle: number };

export interface PlannedEdges {
  readonly along?: Axis;
  readonly on?: { readonly axis: Axis; readonly value: number };
  readonly form?: 'round' | 'straight';
  readonly near?: Spot;
}

/** A feature with all its amounts as numbers and its outlines as lines: all that a kernel needs. */
export type PlanStep = { readonly id: string; readonly name: string } & (
  | { readonly do: 'join'; readonly join: Joining; readonly making: Making; readonly places: readonly (readonly Placing[])[] }
  | { readonly do: 'fillet' | 'chamfer'; readonly edges: readonly PlannedEdges[]; readonly size: number }
);

/** A solid as it is to be made. Equal plans make equal solids. */
export interface Plan {
  readonly id: string;
  readonly name: string;
  readonly colour: string;
  readonly steps: readonly PlanStep[];
  /** A hash of the steps. */
  readonly hash: string;
}
