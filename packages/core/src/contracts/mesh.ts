import type { Plan } from './plan';

/** A hole: a round wall that goes all the way around an axis and faces it. */
export interface Hole {
  /** A point of its axis, in the middle of its depth. */
  readonly at: readonly [number, number, number];
  /** Of length 1; its largest part is positive. */
  readonly axis: readonly [number, number, number];
  readonly diameter: number;
  readonly depth: number;
}

/** What a kernel measures of a solid, free of triangles. */
export interface Exact {
  /** mm³, mm². */
  readonly volume: number;
  readonly area: number;
  readonly bodies: number;
  readonly faces: number;
  readonly holes: readonly Hole[];
}

/** What a copy of a solid says, mm: triangles that share their corners, counter-clockwise as seen from outside. */
export interface Mesh {
  /** Three numbers a corner. */
  readonly positions: Float64Array;
  /** Three corners a triangle. */
  readonly triangles: Uint32Array;
  /** `#rrggbb`; empty where nothing is said. */
  readonly colour: string;
  /** How far the triangles are from the surface that they stand for, at most, mm; 0 where that is not known. */
  readonly chord: number;
  /** Null where there are triangles only. */
  readonly exact: Exact | null;
  /** How it is made exactly, for targets that hold that; not in what was read. */
  readonly plan?: Plan;
  /** The master's solid; empty in what was read. */
  readonly source: string;
}

export interface Box3 {
  readonly min: readonly [number, number, number];
  readonly max: readonly [number, number, number];
}

export const NO_MESH: Mesh = {
  positions: new Float64Array(0),
  triangles: new Uint32Array(0),
  colour: '',
  chord: 0,
  exact: null,
  source: '',
};

export const triangleCount = ({ triangles }: Pick<Mesh, 'triangles'>): number => triangles.length / 3;
