import type { Signal } from '@angular/core';
import type { CopyView } from '@inkwell-twin/api';
import type { Command, Master, PartList } from '@inkwell-twin/core/web';
import type { Aim } from './face';

/** A button at the head of the lane, beside the names of the parts. */
export interface HeadAct {
  readonly label: string;
  readonly title?: string;
  /** Whether what it opens is open; nothing for what opens nothing. */
  readonly pressed?: boolean;
  /** How many things are wrong there, and that in words. */
  readonly count?: number;
  readonly countTitle?: string;
  readonly press: () => void;
}

/** What a face adds to the lane that it stands in. */
export interface FaceHead {
  readonly acts: readonly HeadAct[];
  /** Said at the end of the head: a size. */
  readonly words: string;
  /** Takes the keys of the lane. */
  readonly key: (event: KeyboardEvent) => void;
}

/** A part of a master of one list. */
export type PartIn<L extends PartList> = NonNullable<Master[L]>[number];

/** What the face of a part is told of it, and what it asks for. Whoever shows a part provides it. */
export abstract class PartRoom {
  abstract readonly masterId: Signal<string>;
  /** The document that one looks at: the draft, or an earlier revision. */
  abstract readonly master: Signal<Master | null>;
  /** The part that one looks at; the last of its list, once another list is looked at. */
  abstract readonly part: <L extends PartList>(list: L) => Signal<PartIn<L> | undefined>;
  /** The same in the revision that the draft is of. */
  abstract readonly before: <L extends PartList>(list: L) => Signal<PartIn<L> | undefined>;
  abstract readonly copies: Signal<readonly CopyView[]>;
  /** Copies that hold now and would not after an update. */
  abstract readonly outdated: Signal<readonly CopyView[]>;
  /** What one looks at is a draft that changed something. */
  abstract readonly isChanged: Signal<boolean>;
  /** Nothing may be changed now. */
  abstract readonly fixed: Signal<boolean>;
  /** What a derivation takes, while one is prepared. */
  abstract readonly highlighted: Signal<ReadonlySet<string> | null>;
  /** Where one was sent. */
  abstract readonly wanted: Signal<Aim | null>;
  /** What the face puts at the head of the lane. */
  abstract readonly head: { set(head: Signal<FaceHead> | null): void };
  /** The objects that are chosen on the board that one looks at, by its id. */
  chosenObjects: () => { readonly part: string; readonly objects: readonly string[] } = () => ({ part: '', objects: [] });
  /** What was typed and is no step yet becomes one. */
  unfinished: () => void = () => undefined;

  abstract run(command: Command): void;
  /** Goes to another part. */
  abstract showPart(part: string): void;
  abstract undo(): void;
  abstract redo(): void;
  /** Says something about what was just done; nothing takes it away. */
  abstract say(words: string): void;
  /** Says what could not be done, until something can. */
  abstract fail(words: string): void;
  /** Shows what the master’s rules say. */
  abstract showRules(): void;
}
