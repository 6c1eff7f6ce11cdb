import {
  type CarryReport,
  type CheckResult,
  type Difference,
  Failure,
  type Mark,
  type NativePackage,
  type Master,
  type NotUnderstood,
  checkCopy,
  derive,
  digestOf,
  formatMark,
  howOf,
  parseMark,
  project,
  recipeOf,
  recognise,
  TARGETS,
  writePackage,
} from '@inkwell-twin/core';
import { shippedFonts } from '@inkwell-twin/render';

/** A recipe as it crosses to a worker. */
export interface RecipeData {
  readonly id: string;
  readonly target: string;
  readonly options: Readonly<Record<string, string | number | boolean>>;
  readonly board: string;
}

/** A revision of a master, and what to make of it. */
interface DerivationData {
  readonly master: Master;
  readonly rev: number;
  readonly time: string;
  readonly recipe: RecipeData;
}

const recipe = ({ target, options, board, id }: RecipeData) => recipeOf(target, options, board, id);

/** The heavy work, each task a pure function of what can cross to a worker. */
export const TASKS = {
  derive: ({
    master,
    rev,
    time,
    recipe: data,
  }: DerivationData): {
    bytes: Uint8Array;
    says: string;
    defects: readonly Difference[];
  } => {
    const { bytes, says, defects } = derive({ master, rev, time }, recipe(data), shippedFonts());
    return { bytes, says, defects };
  },

  /** What is lost, and how large the copy will be: it is written, mark and all, but to nowhere. */
  carry: ({ master, rev, time, recipe: data }: DerivationData): { report: CarryReport; bytes: number } => {
    const one = recipe(data);
    const { projection, report } = project(master, one, shippedFonts());
    const mark = formatMark({
      master: master.id,
      rev,
      recipe: one.id,
      says: digestOf(projection),
      written: time,
      how: howOf(one),
    });
    return { report, bytes: one.target.write(projection, one.options, mark).length };
  },

  /** A master as the bytes of its native file. */
  package: (pkg: NativePackage): Uint8Array => writePackage(pkg),

  /** The target and the mark of origin of a file; null where no reader knows it. */
  inspect: ({ bytes }: { bytes: Uint8Array }): { target: string; mark: Mark | null } | null => {
    const target = recognise(bytes);
    return target ? { target: target.id, mark: parseMark(target.read(bytes).mark) } : null;
  },

  check: ({
    recipe: data,
    always,
    ...input
  }: {
    bytes: Uint8Array | null;
    whole: boolean;
    says: string;
    now: Master;
    then: Master;
    recipe: RecipeData;
    always: boolean;
    fresh: boolean;
  }): CheckResult => checkCopy({ ...input, recipe: recipe(data) }, shippedFonts(), always),

  bringIn: ({
    bytes,
    name,
  }: {
    bytes: Uint8Array;
    name: string;
  }): { master: Master; notUnderstood: readonly NotUnderstood[]; mediaType: string } => {
    const target = recognise(bytes);
    if (!target?.bringIn) {
      const known = TARGETS.filter((one) => one.bringIn).map(({ label }) => label);
      throw new Failure('not-known', `“${name}” can't become a master: it is neither of ${known.join(' nor ')}.`, {
        file: name,
      });
    }
    const { master, notUnderstood } = target.bringIn(bytes, name);
    return { master, notUnderstood, mediaType: target.mediaType };
  },
} as const;
export type Tasks = typeof TASKS;
