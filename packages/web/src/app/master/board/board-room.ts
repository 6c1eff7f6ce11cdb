import { Injectable, computed, inject, signal } from '@angular/core';
import {
  type Board,
  type Box,
  type Command,
  type Correction,
  type Item,
  type Patch,
  type PictureItem,
  allItems,
  applyPatches,
  boxesOf,
  itemKind,
  joinBoxes,
  setAttributes,
} from '@inkwell-twin/core/web';
import { PartRoom } from '../../content/part-room';
import type { Stage } from '../stage/stage';
import { widthOnStage } from '../stage/paint';

/** The board that one looks at, or the symbol in its place; what of it is selected; and what is only being tried on it. */
@Injectable()
export class BoardRoom {
  private readonly room = inject(PartRoom);
  private readonly found = this.room.part('boards');
  /** Where it is drawn; nothing until then. */
  stage: () => Stage | undefined = () => undefined;
  readonly selection = signal<readonly string[]>([]);
  private readonly symbolId = signal<string | null>(null);
  readonly symbol = computed(() => this.room.master()?.symbols.find(({ id }) => id === this.symbolId()) ?? null);
  /** The box of all that the symbol is made of, mm. */
  readonly symbolFrame = computed((): Box | null => {
    const [master, symbol] = [this.room.master(), this.symbol()];
    if (!master || !symbol) return null;
    const ids = symbol.items.map(({ id }) => id);
    const box = joinBoxes(boxesOf(master, ids, widthOnStage).map((one) => one.box));
    const [x, y] = symbol.anchor;
    return box.minX <= box.maxX ? box : { minX: x - 20, minY: y - 20, maxX: x + 20, maxY: y + 20 };
  });
  readonly board = computed((): Board | undefined => {
    const [symbol, frame] = [this.symbol(), this.symbolFrame()];
    if (!symbol || !frame) return this.found();
    const { id, name, items } = symbol;
    const [width, height] = [Math.max(1, frame.maxX - frame.minX), Math.max(1, frame.maxY - frame.minY)];
    return { id, name, width, height, background: null, items };
  });
  readonly items = computed((): Item[] => {
    const ids = new Set(this.selection());
    return ids.size ? [...allItems(this.board()?.items ?? [])].filter(({ id }) => ids.has(id)) : [];
  });
  /** The selected items, where all of them are pictures. */
  readonly pictures = computed(() => {
    const items = this.items();
    return items.every((item) => itemKind(item).paint !== undefined) ? (items as PictureItem[]) : [];
  });

  /** Pictures that are not selected and have other corrections than the first that is: of this board, and of the whole master. */
  readonly otherPictures = computed(() => {
    const [master, board, [first]] = [this.room.master(), this.board(), this.pictures()];
    if (!master || !first) return [];
    const selected = new Set(this.pictures().map(({ id }) => id));
    const own = JSON.stringify(first.corrections ?? []);
    const othersOn = (boards: readonly Board[]): string[] =>
      boards.flatMap(({ items }) =>
        [...allItems(items)]
          .filter((item) => itemKind(item).paint !== undefined && !selected.has(item.id))
          .filter((item) => JSON.stringify((item as PictureItem).corrections ?? []) !== own)
          .map(({ id }) => id),
      );
    const [here, all] = [othersOn(master.boards.filter(({ id }) => id === board?.id)), othersOn(master.boards)];
    return [
      { words: 'the other pictures of this board', pictures: here },
      { words: 'all other pictures of this master', pictures: all.length > here.length ? all : [] },
    ].filter(({ pictures }) => pictures.length);
  });

  /** Changes that are only being tried: they are seen, and no more. */
  private readonly trial = signal<readonly Patch[] | null>(null);
  tryPatches(patches: readonly Patch[] | null): void {
    this.trial.set(patches);
  }
  tryCorrections(corrections: readonly Correction[] | null): void {
    const ids = this.pictures().map(({ id }) => id);
    this.trial.set(corrections && ids.length ? setAttributes(ids, 'corrections', [...corrections], '').patches : null);
  }
  /** The document with what is being tried; null where nothing is, or it can't be. */
  readonly staged = computed(() => {
    const [master, trial] = [this.room.master(), this.trial()];
    try {
      return master && trial ? applyPatches(master, trial).master : null;
    } catch {
      return null;
    }
  });
  readonly stagedBoard = computed(() => {
    const [staged, board] = [this.staged(), this.board()];
    const inside = staged?.symbols.find(({ id }) => id === board?.id);
    return inside && board ? { ...board, items: inside.items } : staged?.boards.find(({ id }) => id === board?.id);
  });

  /** Looks into a symbol; at the board again where it is empty. */
  lookInto(symbol: string): void {
    this.symbolId.set(symbol);
    this.selection.set([]);
  }

  run(command: Command): void {
    if (this.room.fixed()) return;
    this.room.run(command);
    this.trial.set(null);
    const ids = new Set([...allItems(this.board()?.items ?? [])].map(({ id }) => id));
    if (this.selection().some((id) => !ids.has(id))) this.selection.set(this.selection().filter((id) => ids.has(id)));
  }
}
