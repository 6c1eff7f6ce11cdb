import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import {
  type Board,
  type Command,
  type Item,
  type Layer,
  type Master,
  PROCESSES,
  nodeInWords,
  setAttribute,
  setLayerVisible,
  isPlaced,
  itemKind,
  newId,
  placeSymbol,
  usesOfSymbol,
  isWorked,
  setWork,
} from '@inkwell-twin/core/web';
import { BoardFields } from './board-fields';
import { Pick, pickables } from '../../shared/pick';
import { WorkFields } from './work-fields';

interface Row {
  readonly layer: Layer;
  readonly items: readonly Item[];
}

/** What is on a board, layer by layer: the way to every object by keyboard. */
@Component({
  selector: 'twin-contents',
  imports: [BoardFields, Pick, WorkFields],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (!symbol()) {
      <details>
        <summary>Board {{ board().name }}</summary>
        <twin-board-fields [master]="master()" [board]="board()" [fixed]="fixed()" (command)="command.emit($event)" />
      </details>
    }
    <div class="add">
      <button type="button" class="link" (click)="check.emit()">Hold against the house rules</button>
    </div>
    @for (row of rows(); track row.layer.id) {
      <section>
        <header>
          <button
            type="button"
            class="eye"
            [disabled]="fixed()"
            (click)="command.emit(visible(row.layer))"
            [attr.aria-pressed]="row.layer.visible"
            [title]="row.layer.visible ? 'Hide this layer' : 'Show this layer'"
            [attr.aria-label]="(row.layer.visible ? 'Hide layer ' : 'Show layer ') + row.layer.name"
          >
            <i
              class="pi"
              [class.pi-eye]="row.layer.visible"
              [class.pi-eye-slash]="!row.layer.visible"
              aria-hidden="true"
            ></i>
          </button>
          <strong>{{ row.layer.name }}</strong>
          <twin-pick
            [label]="'Process of layer ' + row.layer.name"
            [options]="processes"
            [value]="row.layer.process"
            [fixed]="fixed()"
            [plain]="true"
            title="What happens to this layer"
            (chosen)="command.emit(process(row.layer, $event))"
          />
        </header>
        @if (isWorked(row.layer)) {
          <twin-work-fields
            [name]="'layer ' + row.layer.name"
            [process]="row.layer.process"
            [work]="row.layer.work"
            [fixed]="fixed()"
            (changed)="command.emit(work(row.layer, $event))"
          />
        }
        <ul>
          @for (item of row.items; track item.id) {
            <li>
              <button
                type="button"
                [class.on]="selection().includes(item.id)"
                [class.faint]="!row.layer.visible"
                (click)="choose(item, $event)"
                [title]="'With Shift: beside what is selected'"
                [attr.aria-pressed]="selection().includes(item.id)"
              >
                {{ words(item) }} <span>{{ kind(item) }}</span>
              </button>
            </li>
          } @empty {
            <li class="none">nothing on this board</li>
          }
        </ul>
      </section>
    }
    @if (master().symbols.length) {
      <section>
        <header><strong>Symbols</strong></header>
        <ul>
          @for (one of symbols(); track one.id) {
            <li class="symbol" [class.on]="one.id === board().id">
              <span class="name">{{ one.name }}</span> <span>{{ one.uses }}</span>
              <button type="button" class="link" (click)="edit.emit(one.id)" [attr.aria-label]="'Edit symbol ' + one.name">edit</button>
              <button type="button" class="link" [disabled]="fixed() || one.id === board().id" (click)="place(one.id)" [attr.aria-label]="'Place symbol ' + one.name">place</button>
            </li>
          }
        </ul>
      </section>
    }
  `,
  styles: `
    :host { display: block; overflow: auto; background: var(--sheet); }
    section { padding: 8px 0 4px; border-bottom: 1px solid var(--hairline-soft); }
    header { display: flex; align-items: center; gap: 8px; padding: 0 10px; }
    header strong { flex: 1; min-width: 0; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
    .eye { padding: 2px 4px; border: 0; background: none; cursor: pointer; color: var(--ink-two); }
    ul { list-style: none; margin: 4px 0 0; padding: 0; }
    li button { display: flex; justify-content: space-between; gap: 8px; width: 100%; padding: 3px 12px 3px 34px; border: 0; background: none; text-align: left; cursor: pointer; }
    li button:hover { background: var(--action-soft); }
    li button.on { background: var(--action-soft); font-weight: 600; }
    li button.on span { color: var(--ink-two); }
    li button:hover span { color: var(--ink-two); }
    li button.faint { color: var(--ink-three); }
    li span { color: var(--ink-three); font-weight: 400; }
    .add { display: flex; flex-wrap: wrap; gap: 4px 12px; padding: 10px 12px; color: var(--ink-two); }
    summary { padding: 8px 12px; cursor: pointer; font-weight: 600; }
    details { border-bottom: 1px solid var(--hairline-soft); }
    .symbol { display: flex; gap: 8px; padding: 3px 12px 3px 34px; }
    .symbol.on { background: var(--action-soft); }
    .symbol .name { flex: 1; color: var(--ink); overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
    li.symbol button { display: inline; width: auto; padding: 0; }
    .none { padding: 2px 12px 2px 34px; color: var(--ink-three); }
  `,
})
export class Contents {
  /** Whether it is a symbol that one looks into. */
  readonly symbol = input(false);
  /** The master is to be held against the house rules. */
  readonly check = output<void>();
  /** A symbol is to be looked into. */
  readonly edit = output<string>();
  readonly master = input.required<Master>();
  readonly board = input.required<Board>();
  readonly selection = input.required<readonly string[]>();
  readonly picked = output<readonly string[]>();
  readonly command = output<Command>();

  readonly fixed = input(false);
  protected readonly processes = pickables(PROCESSES);
  protected readonly symbols = computed(() =>
    this.master().symbols.map(({ id, name }) => ({ id, name, uses: usesOfSymbol(this.master(), id).length })),
  );
  protected readonly words = nodeInWords;
  protected readonly kind = (item: Item): string => {
    const words = isPlaced(item) ? itemKind(item).words(item) : item.kind;
    return nodeInWords(item) === words ? '' : words;
  };
  protected readonly rows = computed((): Row[] => {
    const first = this.master().layers[0]!.id;
    return this.master().layers.map((layer) => ({
      layer,
      items: this.board().items.filter((item) => (item.layer ?? first) === layer.id),
    }));
  });

  protected choose(item: Item, event: MouseEvent): void {
    const before = this.selection();
    if (!event.shiftKey) this.picked.emit([item.id]);
    else this.picked.emit(before.includes(item.id) ? before.filter((id) => id !== item.id) : [...before, item.id]);
  }

  /** Puts a symbol in the middle of the board. */
  protected place(symbol: string): void {
    const layer = this.master().layers.find(({ visible, locked }) => visible && !locked) ?? this.master().layers[0]!;
    const { width, height } = this.board();
    const id = newId();
    this.command.emit(placeSymbol(this.master(), this.board(), symbol, [width / 2, height / 2], layer.id, id));
    this.picked.emit([id]);
  }

  protected visible = (layer: Layer): Command => setLayerVisible(layer, !layer.visible);
  protected readonly isWorked = isWorked;
  protected work = (layer: Layer, change: Parameters<typeof setWork>[2]): Command => setWork(this.master(), [layer.id], change);
  protected process = (layer: Layer, process: string): Command => setAttribute(this.master(), layer.id, 'process', process);
}
