import type { Type } from '@angular/core';
import type { Difference } from '@inkwell-twin/api';
import type { Machining, MachineProfile, PartList } from '@inkwell-twin/core/web';
import type { Shown } from './shown';

/** Both sides of a comparison: of what kind they are, only the face that shows them knows. */
export interface Both<T = unknown> {
  readonly master: T;
  readonly copy: T;
}

/** Where in a part one is sent: a cell, a paragraph, a box of a board. Only a face that knows such a thing goes there. */
export interface Aim {
  readonly of: string;
}

/** A place in a master. */
export interface Place {
  /** Name or id of the part; empty for the only one. */
  readonly part: string;
  readonly at: Aim;
}

/** What a component that shows both sides gets. */
export interface MatchInputs extends Both, Record<string, unknown> {
  /** Those of this sheet; of others there is only the place in the list. */
  readonly differences: readonly Difference[];
  readonly chosen: number | null;
  /** Somebody chose a difference. */
  readonly picked: (index: number) => void;
}

/** How a kind of content is looked at; `index.ts` of its folder says it. */
export interface ContentFace {
  readonly kind: string;
  /** What is drawn of it on a board; */
  readonly show?: (body: never) => Shown;
  /** Where it is the work of a machine: its moves in their order. */
  readonly moves?: (body: never, machine: MachineProfile | null) => Machining;
  /** or else the component that shows both sides, with what `MatchInputs` names. */
  readonly match?: () => Promise<Type<unknown>>;
  /** What was read back and is equal, in words. @param tolerance mm */
  readonly equal: (count: number, tolerance: number) => string;
  /** Where in the master a difference is; undefined where it has no place. @param isHere whether its sheet is the one on show */
  readonly place: (difference: Difference, master: never, isHere: boolean) => Aim | undefined;
}

/** How a list of parts of a master is looked at and edited; `part.ts` of the folder says it. */
export interface PartFace {
  readonly list: PartList;
  /** Its component; it injects `PartRoom`. */
  readonly load: () => Promise<Type<unknown>>;
  /** It keeps what there is to say of a draft over itself, and not under it. */
  readonly overlays?: true;
}
