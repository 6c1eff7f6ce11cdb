import { Failure } from '../base/failure/failure';
import { countParts } from '../document/lists';
import type { Board, Master, Prose, Solid, Table } from '../document/schema';
import { PARTS, PART_LISTS, type PartList, type Scope } from './schemas';

export { PART_LISTS, type PartList } from './schemas';
export type { Scope };

/** A part of a master by its id and name. */
export interface Part {
  readonly id: string;
  readonly name: string;
}
/** The parts of a master, list by list: all that a scope asks of one. */
export interface ScopedParts<B extends Part = Part> {
  readonly boards: readonly B[];
  readonly tables?: readonly Part[] | undefined;
  readonly solids?: readonly Part[] | undefined;
  readonly texts?: readonly Part[] | undefined;
}

/** The parts of one part each, by id and name. */
export const partsOf = (master: ScopedParts): ScopedParts => {
  const plain = (list: readonly Part[] = []) => list.map(({ id, name }) => ({ id, name }));
  return Object.fromEntries(PART_LISTS.map((list) => [list, plain(master[list])])) as unknown as ScopedParts;
};

/** The scope of one part by id or name; the first where it is empty. */
export const partScope = (of: PartList, name = ''): Scope => ({ of, ids: name === '' ? [] : [name] });
/** The scope of one board by id or name; the first where it is empty. */
export const boardScope = (board = ''): Scope => partScope('boards', board);

const find = <P extends Part>(parts: readonly P[], name: string): P | undefined =>
  name === '' ? parts[0] : (parts.find(({ id }) => id === name) ?? parts.find((one) => one.name === name));

/** The board that a scope names, by id or by name; the first one when it names none; undefined where there is none such. */
export const findBoard = <B extends Part>(master: { readonly boards: readonly B[] }, name = ''): B | undefined =>
  find(master.boards, name);

/** The part that a scope names. @throws Failure `board-unknown`, `table-unknown` that lists those there are */
function partOf<P extends Part>(of: PartList, parts: readonly P[], name = ''): P {
  const part = find(parts, name);
  if (part) return part;
  const word = PARTS[of];
  const known = parts.map((one) => one.name).join(', ');
  throw new Failure(
    `${word}-unknown`,
    known ? `There is no ${word} “${name}” in this master. It has: ${known}.` : `There is no ${word} in this master.`,
  );
}

/** The board that a scope names. @throws Failure `board-unknown` that lists the boards there are */
export const boardOf = <B extends Part>(master: { readonly boards: readonly B[] }, name?: string): B =>
  partOf('boards', master.boards, name);

/** The parts of one list that a scope names, in its order, and the names of those that are not there any more. */
function named<P extends Part>(
  of: PartList,
  parts: readonly P[],
  scope: Scope,
): { parts: readonly P[]; missing: readonly string[] } {
  if (scope.of === 'master') return { parts, missing: [] };
  if (scope.of !== of) return { parts: [], missing: [] };
  const names = scope.ids.length ? scope.ids : [''];
  const found = names.map((name) => find(parts, name));
  return { parts: found.filter((part): part is P => part !== undefined), missing: names.filter((_, i) => !found[i]) };
}

/** The boards that a scope names, in its order, without those that are not there any more. */
export function boardsIn(master: Master, scope: Scope): { boards: readonly Board[]; missing: readonly string[] } {
  const { parts, missing } = named('boards', master.boards, scope);
  return { boards: parts, missing };
}

/** The solids that a scope names, likewise. */
export function solidsIn(master: Master, scope: Scope): { solids: readonly Solid[]; missing: readonly string[] } {
  const { parts, missing } = named('solids', master.solids ?? [], scope);
  return { solids: parts, missing };
}

/** The solids that a scope names. @throws Failure `solid-unknown` that lists the solids there are */
export function solidsOf(master: Master, scope: Scope): readonly Solid[] {
  const { solids, missing } = solidsIn(master, scope);
  if (missing.length) partOf('solids', master.solids ?? [], missing[0]);
  return solids;
}

/** The texts that a scope names, likewise. */
export function textsIn(master: Master, scope: Scope): { texts: readonly Prose[]; missing: readonly string[] } {
  const { parts, missing } = named('texts', master.texts ?? [], scope);
  return { texts: parts, missing };
}

/** The texts that a scope names. @throws Failure `text-unknown` that lists the texts there are */
export function textsOf(master: Master, scope: Scope): readonly Prose[] {
  const { texts, missing } = textsIn(master, scope);
  if (missing.length) partOf('texts', master.texts ?? [], missing[0]);
  return texts;
}

/** The tables that a scope names, likewise. */
export function tablesIn(master: Master, scope: Scope): { tables: readonly Table[]; missing: readonly string[] } {
  const { parts, missing } = named('tables', master.tables ?? [], scope);
  return { tables: parts, missing };
}

/** The tables that a scope names. @throws Failure `table-unknown` that lists the tables there are */
export function tablesOf(master: Master, scope: Scope): readonly Table[] {
  const { tables, missing } = tablesIn(master, scope);
  if (missing.length) partOf('tables', master.tables ?? [], missing[0]);
  return tables;
}

/** What a scope names that a master has not got: the words for such a part, and its id or name. */
export function missingIn(
  master: ScopedParts,
  scope: Scope,
): { readonly word: string; readonly list: PartList; readonly name: string }[] {
  if (scope.of === 'master') return [];
  const { missing } = named(scope.of, master[scope.of] ?? [], scope);
  return missing.map((name) => ({ word: PARTS[scope.of as PartList], list: scope.of as PartList, name }));
}

/** The name of a part that a master has or had, by its id. */
export const nameOfPart = (master: ScopedParts, list: PartList, id: string): string | undefined =>
  find(master[list] ?? [], id)?.name;

/** How many parts a scope takes of the lists that a target has a place for. */
export const countIn = (master: ScopedParts, scope: Scope, lists: readonly PartList[]): number =>
  scope.of === 'master' ? lists.reduce((sum, list) => sum + (master[list]?.length ?? 0), 0) : scope.ids.length;

/** A scope with the ids of its parts in the place of names, so that a copy keeps to them when they get other names. */
export function fixedScope(master: ScopedParts, scope: Scope): Scope {
  if (scope.of === 'master') return scope;
  const { of } = scope;
  return { ...scope, ids: (scope.ids.length ? scope.ids : ['']).map((name) => partOf(of, master[of] ?? [], name).id) };
}

/** What a scope covers, in words: the names of its parts where there is more than one of their kind in the master. */
export function scopeInWords(master: ScopedParts, scope: Scope): string {
  if (scope.of === 'master') return countParts(master) > 1 ? 'all' : '';
  const parts = master[scope.of] ?? [];
  if (scope.of === 'boards' && scope.objects) return 'part';
  if (parts.length < 2) return '';
  const ids = scope.ids.length ? scope.ids : [parts[0]!.id];
  return ids.map((id) => find(parts, id)?.name ?? id).join(' ');
}
