import { Failure } from '../failure/failure';
import type { Board, Master } from '../master/schema';
import type { Scope } from './schemas';

export type { Scope };

/** Boards by id and name: all that a scope asks of a master. */
export interface Boards<B = { readonly id: string; readonly name: string }> {
  readonly boards: readonly B[];
}

/** The scope of one board by id or name; the first where it is empty. */
export const boardScope = (board = ''): Scope => ({ of: 'boards', ids: board === '' ? [] : [board] });

/** The board that a scope names, by id or by name; the first one when it names none; undefined where there is none such. */
export const findBoard = <B extends { readonly id: string; readonly name: string }>(
  master: Boards<B>,
  name = '',
): B | undefined =>
  name === ''
    ? master.boards[0]
    : (master.boards.find(({ id }) => id === name) ?? master.boards.find((one) => one.name === name));

/** The board that a scope names. @throws Failure `board-unknown` that lists the boards there are */
export function boardOf<B extends { readonly id: string; readonly name: string }>(master: Boards<B>, name?: string): B {
  const board = findBoard(master, name);
  if (board) return board;
  const known = master.boards.map((one) => one.name).join(', ');
  throw new Failure('board-unknown', `There is no board “${name}” in this master. It has: ${known}.`);
}

/** The boards that a scope names, in its order, without those that are not there any more. */
export function boardsIn(master: Master, scope: Scope): { boards: readonly Board[]; missing: readonly string[] } {
  if (scope.of === 'master') return { boards: master.boards, missing: [] };
  const names = scope.ids.length ? scope.ids : [''];
  const found = names.map((name) => findBoard(master, name));
  return {
    boards: found.filter((board): board is Board => board !== undefined),
    missing: names.filter((_, i) => !found[i]),
  };
}

/** A scope with the ids of its boards in the place of names, so that a copy keeps to them when they get other names. */
export function fixedScope(master: Boards, scope: Scope): Scope {
  if (scope.of === 'master') return scope;
  return { ...scope, ids: (scope.ids.length ? scope.ids : ['']).map((name) => boardOf(master, name).id) };
}

/** What a scope covers, in words: the names of its boards where there is more than one in the master. */
export function scopeInWords(
  { boards }: { readonly boards: readonly { readonly id: string; readonly name: string }[] },
  scope: Scope,
): string {
  if (boards.length === 1) return '';
  if (scope.of === 'master') return 'all';
  const ids = scope.ids.length ? scope.ids : [boards[0]!.id];
  return ids.map((id) => boards.find((board) => board.id === id || board.name === id)?.name ?? id).join(' ');
}
