import type { Board, Box, ResolvedBoard } from '@inkwell-twin/core/web';
import type { Snapping } from '../snapping';
import type { Viewport } from '../viewport';

/** A press that has not been let go, pixels of the stage. */
export interface Press {
  readonly fromX: number;
  readonly fromY: number;
  readonly x: number;
  readonly y: number;
  /** Alt is held: it lays itself to no line. */
  readonly free: boolean;
  /** Shift is held: what was chosen stays chosen. */
  readonly more: boolean;
}

/** What a gesture sees of its stage, and what it brings about. */
export interface GestureRoom {
  readonly viewport: Viewport;
  readonly snapping: Snapping;
  readonly size: () => { readonly width: number; readonly height: number };
  readonly board: () => Board;
  readonly resolved: () => ResolvedBoard;
  /** Layers that nothing is taken hold of on. */
  readonly locked: () => ReadonlySet<string>;
  readonly selection: () => readonly string[];
  /** The box of what is selected, mm. */
  readonly chosenBox: () => Box | null;
  /** Nothing may be changed. */
  readonly isFixed: () => boolean;
  /** Points of an outline are held. */
  readonly isHeld: () => boolean;
  readonly picked: (ids: readonly string[]) => void;
  readonly moved: (by: { dx: number; dy: number }) => void;
  readonly guided: (to: { index: number; at: number | null }) => void;
}

/** What is drawn otherwise while a gesture is under way, mm. */
export interface GestureLook {
  readonly shift?: { readonly dx: number; readonly dy: number };
  readonly frame?: Box;
  readonly guide?: { readonly index: number; readonly at: number | null };
}

/** What a press of the pointer does once it has gone far enough to be no click. */
export interface Gesture {
  readonly cursor: string;
  /** The pointer went on. @param before where it was, pixels */
  readonly moved?: (press: Press, before: Press) => void;
  readonly look?: (press: Press) => GestureLook;
  readonly ended?: (press: Press) => void;
}
