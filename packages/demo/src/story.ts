import { type PartList, type Command, type Master, type Resource, type RevisionRecord, applyPatches } from '@inkwell-twin/core';

/** What somebody did to a copy after it was written. */
export type Mishap =
  | { readonly kind: 'edit'; readonly find: string | RegExp; readonly replace: string | ((...found: string[]) => string) }
  /** A rectangle of pixels was painted over; places are shares from the upper left. */
  | {
      readonly kind: 'paint';
      readonly left: number;
      readonly top: number;
      readonly right: number;
      readonly bottom: number;
      readonly colour: string;
    }
  | { readonly kind: 'delete' };

/** A copy of the demo: how it is made, at which revision, and what became of it. */
export interface DemoCopy {
  readonly label: string;
  readonly target: string;
  readonly options: Readonly<Record<string, string | number>>;
  /** The board or table by its name; the first of what the target says where it is empty. */
  readonly part: string;
  /** The list that the part is of, where the target says several. */
  readonly of?: PartList;
  /** All parts that the target says something of. */
  readonly all?: true;
  readonly rev: number;
  readonly mishap?: Mishap;
}

/** A master of the demo with its whole history. */
export interface DemoMaster {
  readonly first: Master;
  readonly revisions: readonly RevisionRecord[];
  readonly copies: readonly DemoCopy[];
  /** Where it lies on the shelf; on the shelf itself where it is not said. */
  readonly place?: string;
  /** Files that it keeps. */
  readonly kept?: readonly { readonly resource: Resource; readonly bytes: Uint8Array }[];
  /** Files that lie on the shelf for it to link to. */
  readonly beside?: readonly { readonly path: string; readonly bytes: Uint8Array }[];
}

/** Tells a history: each chapter changes the master by commands. Times are fixed, so that the demo is the same each time. */
export function tell(
  first: Master,
  author: string,
  begin: { readonly time: string; readonly message: string },
  chapters: readonly {
    readonly time: string;
    readonly message: string;
    readonly commands: readonly ((now: Master) => Command)[];
  }[],
): { first: Master; revisions: RevisionRecord[] } {
  const revisions: RevisionRecord[] = [{ rev: 1, author, ...begin, patches: [] }];
  let now = first;
  chapters.forEach(({ time, message, commands }, i) => {
    const patches = commands.flatMap((command) => {
      const found = command(now).patches;
      now = applyPatches(now, found).master;
      return found;
    });
    revisions.push({ rev: i + 2, time, author, message, patches });
  });
  return { first, revisions };
}
