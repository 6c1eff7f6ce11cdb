import { Injectable, computed, inject, signal } from '@angular/core';
import {
  type Grip,
  type Outline,
  type Patch,
  axesAround,
  breakAt,
  invert,
  itemKind,
  joinOutlines,
  multiply,
  nodeInWords,
  pathTo,
  removeItems,
  transformOutline,
} from '@inkwell-twin/core/web';
import { PartRoom } from '../../content/part-room';
import { BoardRoom } from './board-room';

/** The points of one object, taken hold of to be pulled. */
@Injectable()
export class HeldPoints {
  private readonly room = inject(PartRoom);
  private readonly at = inject(BoardRoom);
  /** The object whose points they are. */
  readonly of = signal<string | null>(null);
  readonly grip = signal<Grip | null>(null);
  /** That object, and what maps its own axes onto the board. */
  private readonly pointed = computed(() => {
    const [master, id, board] = [this.room.master(), this.of(), this.at.board()];
    const path = master && id && board ? pathTo(master, id) : undefined;
    const item = path?.at(-1);
    if (!path || !item || !('kind' in item) || !path.some((node) => node.id === board!.id)) return null;
    const outlines = itemKind(item).byPoints?.outlines(item) ?? null;
    const around = axesAround(path);
    return outlines && { item, outlines, at: item.transform ? multiply(around, item.transform) : around };
  });
  readonly name = computed(() => (this.pointed() ? nodeInWords(this.pointed()!.item) : ''));
  /** On the board. */
  readonly outlines = computed((): readonly Outline[] | null => {
    const pointed = this.pointed();
    return pointed && !this.room.fixed() ? pointed.outlines.map((one) => transformOutline(one, pointed.at)) : null;
  });

  reshape(outlines: readonly Outline[]): void {
    const pointed = this.pointed();
    const back = pointed && invert(pointed.at);
    if (!pointed || !back) return;
    const { item } = pointed;
    const own = outlines.map((one) => transformOutline(one, back));
    if (!own.length) return this.at.run(removeItems(this.room.master()!, [item.id]));
    const changed = itemKind(item).byPoints?.take(item, own);
    if (!changed) return this.room.fail('This is one line and can’t be broken in two. Draw a line or a curve instead.');
    const patches = Object.entries(changed).map(([attribute, value]): Patch => ({ op: 'set', node: item.id, attribute, value }));
    this.at.run({ label: `${nodeInWords(item)}: shape changed`, patches });
  }
  breakHere(): void {
    const [outlines, grip] = [this.outlines(), this.grip()];
    if (outlines && grip) this.reshape(breakAt(outlines, grip));
  }
  join(): void {
    const outlines = this.outlines();
    if (outlines) this.reshape(joinOutlines(outlines));
  }
}
