import { Injectable, computed, inject, signal } from '@angular/core';
import { type DrawnShape, type Item, addItem, itemKinds } from '@inkwell-twin/core/web';
import { PartRoom } from '../../content/part-room';
import { BoardRoom } from './board-room';
import { drawingTools, drawnItem } from './drawing';
import { newItem } from './new-item';

/** What is drawn by hand next. */
@Injectable()
export class HandTool {
  private readonly room = inject(PartRoom);
  private readonly at = inject(BoardRoom);
  private readonly id = signal<string | null>(null);
  private readonly wantedLayer = signal('');
  /** The layer that takes what is drawn: the one that was chosen, else the first that is visible and not locked. */
  readonly layer = computed(() => {
    const layers = this.room.master()?.layers ?? [];
    const open = layers.filter(({ visible, locked }) => visible && !locked);
    return open.find(({ id }) => id === this.wantedLayer()) ?? open[0] ?? layers[0];
  });
  readonly tool = computed(() => drawingTools().find(({ id }) => id === this.id()) ?? null);

  arm(id: string | null): void {
    this.id.set(id);
    if (!id) return;
    this.at.selection.set([]);
    this.at.stage()?.focus();
  }

  /** Whatever is drawn next goes there. */
  onLayer(id: string): void {
    this.wantedLayer.set(id);
  }

  /** Puts an object of a kind into the middle of the board. */
  place(kind: string): void {
    const [master, board, layer] = [this.room.master(), this.at.board(), this.layer()];
    if (master && board && layer) this.add(newItem(kind, master, board, layer));
  }

  private add(item: Item): void {
    this.id.set(null);
    this.at.run(addItem(this.at.board()!, item));
    this.at.selection.set([item.id]);
  }

  /** Somebody drew a shape. */
  drawn(shape: DrawnShape): void {
    const [tool, master, layer] = [this.tool(), this.room.master(), this.layer()];
    const item = tool && master && layer && drawnItem(tool, shape, master, layer);
    if (item) this.add(item);
  }

  /** Ends a line that is drawn; where nothing was drawn yet, the shape is put into the middle. */
  finish(): void {
    const tool = this.tool();
    if (!tool || this.at.stage()?.finish()) return;
    if (itemKinds().find(({ id }) => id === tool.kind)?.fresh) this.place(tool.kind);
  }
}
