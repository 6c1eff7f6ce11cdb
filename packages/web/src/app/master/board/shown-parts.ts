import { DestroyRef, Injectable, computed, effect, inject, signal, untracked } from '@angular/core';
import type { Subscription } from 'rxjs';
import type { AnswerOf } from '@inkwell-twin/api';
import { type Board, type Item, type Master, placedIn, withPlaced } from '@inkwell-twin/core/web';
import { Api } from '../../services/api.service';
import { DraftSession } from '../../services/draft-session';

/** How long after a change what boards show is asked for, ms. */
const PAUSE = 250;
type Answer = AnswerOf<'placed'>;

/** What of a list a draft changed. */
const changed = <T extends { readonly id: string }>(now: readonly T[] = [], before: readonly T[] = []): T[] => {
  const old = new Map(before.map((one) => [one.id, one]));
  return now.filter((one) => old.get(one.id) !== one);
};

/** What boards show of texts, tables and solids: made on the server, as copies have it, a little after the last change. */
@Injectable()
export class ShownParts {
  private readonly api = inject(Api);
  private readonly session = inject(DraftSession);
  private readonly made = signal<ReadonlyMap<string, Item[]>>(new Map());
  private timer: ReturnType<typeof setTimeout> | undefined;
  private running: Subscription | undefined;
  private asked: readonly unknown[] = [];
  private readonly master = signal<Master | null>(null);
  /** What can't be drawn, and why, by the item. */
  readonly wrong = signal<Answer['wrong']>({});
  /** How many more frames a text would fill, by the text. */
  readonly more = signal<Answer['more']>({});

  constructor() {
    effect(() => {
      const master = this.master();
      untracked(() => this.look(master));
    });
    inject(DestroyRef).onDestroy(() => {
      clearTimeout(this.timer);
      this.running?.unsubscribe();
    });
  }

  show(master: Master | null): void {
    this.master.set(master);
  }

  private look(master: Master | null): void {
    const boards = master?.boards.flatMap(({ id, items }) => {
      const own = placedIn(items);
      return own.length ? [{ id, items: own }] : [];
    });
    if (!master || !boards?.length) return;
    // Nothing is asked again that would be answered as before.
    const key = [
      ...boards.flatMap(({ items }) => items),
      '|',
      ...(master.tables ?? []),
      '|',
      ...(master.solids ?? []),
      '|',
      ...(master.texts ?? []),
    ];
    if (key.length === this.asked.length && key.every((one, i) => one === this.asked[i])) return;
    const first = !this.asked.length;
    this.asked = key;
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.ask(master, boards), first ? 0 : PAUSE);
  }

  private ask(master: Master, boards: { id: string; items: Item[] }[]): void {
    const head = this.session.head();
    this.running?.unsubscribe();
    this.running = this.api
      .call(
        'placed',
        { id: this.session.id() },
        {
          rev: this.session.base(),
          boards,
          tables: changed(master.tables, head?.tables),
          solids: changed(master.solids, head?.solids),
          texts: changed(master.texts, head?.texts),
          resources: changed(master.resources, head?.resources),
        },
      )
      .subscribe({
        next: ({ items, wrong, more }) => {
          this.made.set(new Map(Object.entries(items) as [string, Item[]][]));
          this.wrong.set(wrong);
          this.more.set(more);
        },
        // The next change asks again; until then what was shown stays.
        error: () => (this.asked = []),
      });
  }

  /** A board with what it shows drawn. */
  readonly put = computed(() => {
    const made = this.made();
    const known = new WeakMap<Board, Board>();
    return (board: Board): Board => {
      if (!placedIn(board.items).length) return board;
      let drawn = known.get(board);
      if (!drawn) known.set(board, (drawn = { ...board, items: withPlaced(board.items, made) }));
      return drawn;
    };
  });
}
