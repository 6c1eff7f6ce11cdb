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
  readonly tool = computed(() => drawingTools().find(({ id }) => id === this.id()) ?? null);

  arm(id: string | null): void {
    this.id.set(id);
    if (!id) return;
    this.at.selection.set([]);
    this.at.stage()?.focus();
  }

  private add(item: Item): void {
    this.id.set(null);
    this.at.run(addItem(this.at.board()!, item));
    this.at.selection.set([item.id]);
  }

  /** Somebody drew a shape. */
  drawn(shape: DrawnShape): void {
    const [tool, master, board] = [this.tool(), this.room.master(), this.at.board()];
    const item = tool && master && board && drawnItem(tool, shape, master);
    if (item) this.add(item);
  }

  /** Ends a line that is drawn; where nothing was drawn yet, the shape is put into the middle. */
  finish(): void {
    const [tool, master, board] = [this.tool(), this.room.master(), this.at.board()];
    if (!tool || this.at.stage()?.finish() || !master || !board) return;
    if (itemKinds().find(({ id }) => id === tool.kind)?.fresh) this.add(newItem(tool.kind, master, board));
  }
}
