import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import {
  ALIGNMENTS,
  type Alignment,
  type Board,
  type Command,
  type Dimension,
  Failure,
  type Item,
  type Master,
  type Order,
  alignItems,
  boxesOf,
  copyItems,
  groupItems,
  itemKind,
  joinBoxes,
  makeMotifLine,
  makeSymbol,
  mapItems,
  measureItems,
  multiply,
  orderItems,
  pasteItems,
  rotation,
  scaling,
  spreadItems,
  translation,
  ungroupItems,
} from '@inkwell-twin/core/web';
import { widthOnStage } from '../stage/paint';

interface Act {
  readonly label: string;
  readonly title?: string;
  readonly act: () => Command | Promise<Command>;
  /** What is selected afterwards: what came in by the command. */
  readonly selects?: true;
}
interface Row {
  readonly label: string;
  readonly acts: readonly Act[];
}

/** What can be done to what is selected, in words, by what it is for. */
@Component({
  selector: 'twin-arrange',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (row of rows(); track row.label) {
      <div class="row">
        <span>{{ row.label }}</span>
        <p>
          @for (one of row.acts; track one.label) {
            <button type="button" class="link" [disabled]="fixed()" [title]="one.title ?? ''" (click)="run(one)">{{ one.label }}</button>
          }
        </p>
      </div>
    }
    @if (wrong()) {
      <p class="wrong" role="alert">{{ wrong() }}</p>
    }
  `,
  styles: `
    :host { display: block; }
    .row { display: grid; grid-template-columns: 62px minmax(0, 1fr); gap: 6px; align-items: baseline; min-height: 26px; font-size: 12.5px; }
    .link { min-height: 24px; }
    .row span { color: var(--ink-two); }
    p { display: flex; flex-wrap: wrap; gap: 0 8px; margin: 0; }
    .wrong { margin: 4px 0; padding-left: 8px; border-left: 3px solid var(--ink); }
  `,
})
export class ArrangeActs {
  readonly master = input.required<Master>();
  readonly board = input.required<Board>();
  readonly items = input.required<readonly Item[]>();
  readonly fixed = input(false);
  readonly command = output<Command>();
  readonly picked = output<readonly string[]>();
  /** The points of this object are to be taken hold of. */
  readonly points = output<string>();
  protected readonly wrong = signal('');

  private readonly ids = computed(() => this.items().map(({ id }) => id));

  protected readonly rows = computed((): Row[] => {
    const [master, items, ids] = [this.master(), this.items(), this.ids()];
    const many = items.length > 1;
    const [one] = items;
    const align = (how: Alignment): Act => ({
      label: how,
      title: ALIGNMENTS[how].words,
      act: () => alignItems(master, ids, how, widthOnStage),
    });
    const order = (label: string, how: Order): Act => ({ label, act: () => orderItems(master, ids, how) });
    const rows: Row[] = [
      { label: many ? 'In line' : 'On board', acts: (['left', 'centre', 'right', 'top', 'middle', 'foot'] as const).map(align) },
    ];
    if (items.length > 2)
      rows.push({
        label: 'Equal gaps',
        acts: (['across', 'up'] as const).map((way) => ({ label: way, act: () => spreadItems(master, ids, way, widthOnStage) })),
      });
    rows.push({
      label: 'Order',
      acts: [order('on top', 'top'), order('higher', 'up'), order('lower', 'down'), order('beneath', 'bottom')],
    });
    rows.push({
      label: 'Turn',
      acts: [
        { label: 'left', title: 'A quarter turn to the left', act: () => this.mapped(rotation(Math.PI / 2), 'turned left') },
        { label: 'right', title: 'A quarter turn to the right', act: () => this.mapped(rotation(-Math.PI / 2), 'turned right') },
        { label: 'mirror ↔', title: 'Mirrored across', act: () => this.mapped(scaling(-1, 1), 'mirrored across') },
        { label: 'mirror ↕', title: 'Mirrored up', act: () => this.mapped(scaling(1, -1), 'mirrored up') },
      ],
    });
    const together: Act[] = [];
    if (many) together.push({ label: 'make a group', act: () => groupItems(master, ids), selects: true });
    if (items.some((item) => 'items' in item))
      together.push({ label: 'take apart', act: () => ungroupItems(master, ids), selects: true });
    together.push({ label: 'repeat beside', title: 'A copy beside it', act: () => this.beside(), selects: true });
    rows.push({ label: 'Together', acts: together });
    const uses = items.filter((item) => itemKind(item).openContents?.(item).symbol !== undefined);
    const symbols: Act[] = [];
    if (!(items.length === 1 && uses.length === 1))
      symbols.push({
        label: 'make a symbol',
        title: 'Draw it once, use it again and again',
        act: () => makeSymbol(master, ids, this.nameOf(), { measure: widthOnStage }),
        selects: true,
      });
    if (uses.length === 1 && items.length < 3)
      symbols.push({
        label: many ? 'repeat along the shape' : 'repeat along a line',
        title: 'A motif line of this symbol',
        act: () => makeMotifLine(master, ids, { measure: widthOnStage }),
        selects: true,
      });
    if (symbols.length) rows.push({ label: 'Symbol', acts: symbols });
    if (items.length < 3 && items.every((item) => !itemKind(item).renameIds)) {
      const measured = (label: string, along: Dimension['along']): Act => ({
        label,
        act: () => measureItems(master, this.board(), ids, along, { measure: widthOnStage }),
        selects: true,
      });
      rows.push({
        label: 'Measure',
        acts: many
          ? [measured('across', 'across'), measured('up', 'up'), measured('straight', 'straight')]
          : [measured('width', 'across'), measured('height', 'up')],
      });
    }
    if (many && items.every((item) => itemKind(item).outlines && !itemKind(item).paint))
      rows.push({
        label: 'Combine',
        acts: (
          [
            ['into one', 'union'],
            ['cut out', 'difference'],
            ['shared', 'intersection'],
            ['not shared', 'apart'],
          ] as const
        ).map(([label, how]) => ({
          label,
          act: async () => (await import('@inkwell-twin/core/combine')).combineItems(master, ids, how),
          selects: true as const,
        })),
      });
    if (one && !many && itemKind(one).byPoints)
      rows.push({ label: 'Shape', acts: [{ label: 'points', title: 'Take hold of its points', act: () => this.pointsOf(one) }] });
    return rows;
  });

  private nameOf(): string {
    const [one] = this.items();
    return one?.name ?? (one ? itemKind(one).words(one) : 'Symbol');
  }

  private pointsOf(item: Item): Command {
    this.points.emit(item.id);
    return { label: '', patches: [] };
  }

  /** Maps what is selected about its middle. */
  private mapped(matrix: Parameters<typeof mapItems>[2], words: string): Command {
    const { minX, minY, maxX, maxY } = joinBoxes(boxesOf(this.master(), this.ids(), widthOnStage).map(({ box }) => box));
    if (minX > maxX) return { label: '', patches: [] };
    const [x, y] = [(minX + maxX) / 2, (minY + maxY) / 2];
    return mapItems(this.master(), this.ids(), multiply(translation(x, y), multiply(matrix, translation(-x, -y))), words);
  }

  private beside(): Command {
    const clip = copyItems(this.master(), this.ids());
    if (!clip) return { label: '', patches: [] };
    const { minX, maxX } = joinBoxes(boxesOf(this.master(), this.ids(), widthOnStage).map(({ box }) => box));
    return pasteItems(this.master(), this.board(), clip, [Number((maxX - minX + 5).toFixed(2)), 0]).command;
  }

  protected run({ act, selects }: Act): void {
    this.wrong.set('');
    Promise.resolve()
      .then(act)
      .then((command) => {
        if (!command.patches.length) return;
        this.command.emit(command);
        if (!selects) return;
        const came = command.patches.flatMap((patch) =>
          patch.op === 'insert' && patch.list === 'items' ? [(patch.node as Item).id] : [],
        );
        if (came.length) this.picked.emit(came);
      })
      .catch((error: unknown) => {
        if (!(error instanceof Failure)) throw error;
        this.wrong.set(error.message);
      });
  }
}
