// Longer than most: one table of a library, whose hooks share its state.
import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  ViewEncapsulation,
  computed,
  effect,
  inject,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import type { Table } from '@inkwell-twin/core/web';
import {
  type ColumnValues,
  type Computed,
  addColumn,
  addRows,
  addSummary,
  cellFrom,
  cellInWords,
  computeTable,
  fillDown,
  numberInWords,
  pasteInto,
  removeRows,
  setCells,
} from '@inkwell-twin/core/tables';
import { counted } from '../../shared/words';
import { PartRoom } from '../part-room';
import type { CellPlace } from './index';
import { type CellComponent, type ColumnComponent, Tabulator } from './tabulator';
import { cellsOfClipboard, clipboardOf } from './clipboard';
import { headOf } from './table-head';
import { TableSlip } from './table-slip';

/** A row of the view: which row of the table it is. */
interface Line {
  readonly at: number;
}
/** A range of cells, first and last of each. */
interface Range {
  readonly rows: readonly [number, number];
  readonly columns: readonly [number, number];
}
/** What the grid library says of ranges; its types do not know of it. */
interface Ranging {
  readonly getRanges?: () => {
    getTopEdge: () => number;
    getBottomEdge: () => number;
    getLeftEdge: () => number;
    getRightEdge: () => number;
    setBounds: (from: CellComponent, to: CellComponent) => void;
  }[];
}
const ROW = 27;

/** A table of the master, to be read and edited: columns that say what they are, rows, and what is computed of them. */
@Component({
  selector: 'twin-table-face',
  imports: [TableSlip],
  changeDetection: ChangeDetectionStrategy.OnPush,
  // The grid library makes its own elements: their looks are named below this one's.
  encapsulation: ViewEncapsulation.None,
  templateUrl: './table-face.html',
  styleUrl: './table-face.css',
  host: {
    '(document:copy)': 'copied($event)',
    '(document:paste)': 'pasted($event)',
    '(keydown)': 'key($event)',
    '(pointerdown)': 'taken = true',
  },
})
export class TableFace {
  protected readonly room = inject(PartRoom);
  private readonly found = this.room.part('tables');
  protected readonly table = computed((): Table => this.found()!);
  protected readonly fixed = this.room.fixed;
  /** A cell to go to. */
  private readonly wanted = computed(() => {
    const at = this.room.wanted();
    return at?.of === 'cell' ? (at as CellPlace) : null;
  });

  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly place = viewChild.required<ElementRef<HTMLElement>>('grid');
  private before: Computed | undefined;
  private grid: Tabulator | null = null;
  private built = false;
  /** What the view shows. */
  private shown: Table | null = null;
  /** Somebody went to a cell: the grid chooses its first one by itself, and nothing is to be typed into that by chance. */
  protected taken = false;
  /** What was typed into a cell that was not open yet. */
  private typed = '';

  protected readonly values = computed(() => (this.before = computeTable(this.table(), this.before)));
  /** The column or summary whose slip is open. */
  protected readonly chosen = signal('');
  protected readonly range = signal<Range | null>(null);
  protected readonly counted = counted;
  /** Whole columns are chosen, not rows. */
  protected readonly allRows = computed(() => {
    const [range, { rows }] = [this.range(), this.table()];
    return !!range && rows.length > 1 && range.rows[1] - range.rows[0] + 1 === rows.length;
  });
  protected readonly said = computed(() => {
    const [range, { columns }] = [this.range(), this.values()];
    if (!range) return '';
    const [top, bottom] = range.rows;
    const [left, right] = range.columns;
    const cells = (bottom - top + 1) * (right - left + 1);
    if (cells === 1) return columns[left]?.problems.get(top) ?? '';
    let [count, sum] = [0, 0];
    // What is chosen is summed up as far as that takes no time.
    if (cells <= 200_000)
      for (let i = left; i <= right; i++) {
        const one = columns[i];
        if (one?.column.type !== 'number') continue;
        for (let row = top; row <= bottom; row++)
          if (!Number.isNaN(one.numbers[row]!)) {
            count++;
            sum += one.numbers[row]!;
          }
      }
    const mean = count > 1 ? `; mean ${Number((sum / count).toPrecision(6))}, sum ${Number(sum.toPrecision(9))}` : '';
    return `${counted(cells, 'cell')} chosen${mean}`;
  });
  protected readonly summaries = computed(() =>
    this.values().summaries.map(({ summary, value, problem }) => ({
      id: summary.id,
      name: summary.name,
      words: problem
        ? 'can’t be computed'
        : value === null
          ? 'empty'
          : `${numberInWords(value, summary.decimals)}${summary.unit ? ` ${summary.unit}` : ''}`,
    })),
  );

  constructor() {
    effect(() => {
      const values = this.values();
      const fixed = this.fixed();
      untracked(() => this.show(values, fixed));
    });
    effect(() => {
      const wanted = this.wanted();
      if (wanted && wanted.row >= 0) untracked(() => this.goTo(wanted));
    });
    inject(DestroyRef).onDestroy(() => this.grid?.destroy());
  }

  private show({ table }: Computed, fixed: boolean): void {
    const { shown } = this;
    this.shown = table;
    if (shown && shown.id !== table.id) this.chosen.set('');
    if (!this.grid || shown?.id !== table.id || shown.columns !== table.columns || fixed !== this.wasFixed)
      return this.build(table, fixed);
    if (!this.built) return;
    if (shown.rows.length === table.rows.length) {
      // What is in sight is said anew: computed cells may have changed with any other.
      for (const row of this.grid.getRows('visible')) row.reformat();
      this.heads();
      return;
    }
    const scroller = this.scroller();
    const [top, left] = [scroller?.scrollTop ?? 0, scroller?.scrollLeft ?? 0];
    void this.grid.replaceData(this.lines(table)).then(() => {
      const again = this.scroller();
      if (again) [again.scrollTop, again.scrollLeft] = [top, left];
    });
    this.range.set(null);
    this.heads();
  }
  private wasFixed = false;

  private scroller = (): HTMLElement | null => this.host.nativeElement.querySelector('.tabulator-tableholder');
  private lines = ({ rows }: Table): Line[] => Array.from({ length: rows.length }, (_, at) => ({ at }));
  private valuesOf = (at: number): ColumnValues => this.values().columns[at]!;

  private build(table: Table, fixed: boolean): void {
    this.wasFixed = fixed;
    const scroller = this.scroller();
    const [top, left] = this.grid && scroller ? [scroller.scrollTop, scroller.scrollLeft] : [0, 0];
    this.grid?.destroy();
    this.headed.clear();
    this.taken = false;
    this.built = false;
    this.range.set(null);
    const grid = new Tabulator(this.place().nativeElement, {
      data: this.lines(table),
      index: 'at',
      height: '100%',
      rowHeight: ROW,
      layout: 'fitData',
      renderVertical: 'virtual',
      selectableRange: 1,
      selectableRangeColumns: true,
      selectableRangeRows: true,
      selectableRangeClearCells: false,
      editTriggerEvent: 'dblclick',
      headerSortClickElement: 'icon',
      placeholder: 'No row yet',
      rowHeader: {
        field: 'at',
        frozen: true,
        headerSort: false,
        resizable: false,
        width: 24 + 8 * Math.max(3, String(table.rows.length).length),
        hozAlign: 'right',
        cssClass: 'place',
        title: '',
        formatter: (cell: CellComponent) => String((cell.getData() as Line).at + 1),
      },
      columnDefaults: { headerSort: false, resizable: 'header' },
      columns: table.columns.map((column, at) => ({
        field: `c${at}`,
        title: column.name,
        titleFormatter: () => headOf(this.valuesOf(at), this.table().key === column.id),
        hozAlign: column.type === 'number' ? 'right' : 'left',
        minWidth: 84,
        // What tells rows apart stays in sight.
        ...(at === 0 && table.key === column.id ? { frozen: true } : {}),
        cssClass: column.formula === undefined ? '' : 'computed',
        formatter: (cell: CellComponent) => this.words(cell, at),
        ...(fixed || column.formula !== undefined
          ? {}
          : {
              editor: (
                cell: CellComponent,
                rendered: (done: () => void) => void,
                success: (value: unknown) => void,
                cancel: () => void,
              ) => this.editor(cell, at, rendered, success, cancel),
            }),
      })),
    } as never);
    this.grid = grid;
    grid.on('tableBuilt', () => {
      if (this.grid !== grid) return;
      this.built = true;
      const again = this.scroller();
      // What scrolls can have the keys: it is the group of rows for those who do not see them.
      again?.setAttribute('role', 'rowgroup');
      again?.querySelector('.tabulator-table')?.setAttribute('role', 'presentation');
      if (again) [again.scrollTop, again.scrollLeft] = [top, left];
      const wanted = this.wanted();
      if (wanted && wanted.row >= 0 && wanted !== this.went) this.goTo(wanted);
    });
    grid.on('headerClick', (_event: UIEvent, column: ColumnComponent) => {
      const at = this.placeOf(column);
      if (at >= 0) this.chosen.set(this.table().columns[at]!.id);
    });
    const ranged = () => this.range.set(this.rangeNow());
    grid.on('rangeAdded', ranged);
    grid.on('rangeChanged', ranged);
  }

  private placeOf = (column: ColumnComponent): number => {
    const found = /^c(\d+)$/.exec(column.getField() ?? '');
    return found ? Number(found[1]) : -1;
  };

  /** What each head was made from. */
  private readonly headed = new Map<number, { readonly values: ColumnValues; readonly isKey: boolean }>();

  /** The heads as they are now, in their places. */
  private heads(): void {
    for (const column of this.grid?.getColumns() ?? []) {
      const at = this.placeOf(column);
      const title = column.getElement().querySelector('.tabulator-col-title');
      if (at < 0 || !title) continue;
      const values = this.valuesOf(at);
      const isKey = this.table().key === this.table().columns[at]!.id;
      const last = this.headed.get(at);
      if (last?.values === values && last.isKey === isKey) continue;
      this.headed.set(at, { values, isKey });
      title.replaceChildren(headOf(values, isKey));
    }
  }

  private words(cell: CellComponent, at: number): string | Node {
    const row = (cell.getData() as Line).at;
    const values = this.valuesOf(at);
    const text = document.createElement('span');
    text.textContent = cellInWords(values, row).replaceAll('\n', ' ⏎ ');
    const problem = values.problem ?? values.problems.get(row);
    if (problem) {
      text.className = 'wrong';
      text.title = problem;
      if (!text.textContent) text.textContent = '—';
    }
    return text;
  }

  private editor(
    cell: CellComponent,
    at: number,
    rendered: (done: () => void) => void,
    success: (value: unknown) => void,
    cancel: () => void,
  ): HTMLElement {
    const input = document.createElement('input');
    const column = this.table().columns[at]!;
    const row = (cell.getData() as Line).at;
    const held = this.table().rows[row]?.cells[column.id];
    input.value = this.typed || (held === undefined ? '' : held === true ? 'yes' : held === false ? 'no' : String(held));
    input.setAttribute('aria-label', `${column.name}, row ${row + 1}`);
    const began = this.typed !== '';
    this.typed = '';
    let done = false;
    const take = () => {
      if (done) return;
      done = true;
      success(undefined);
      const command = setCells(this.table(), [{ row, column: at, cell: cellFrom(input.value, column) }]);
      // The grid closes its cell first: what is in sight is then said anew.
      if (command.patches.length) setTimeout(() => this.room.run(command));
    };
    input.addEventListener('blur', take);
    input.addEventListener('keydown', (event) => {
      if (event.key === 'Enter') {
        event.preventDefault();
        take();
      } else if (event.key === 'Escape') {
        done = true;
        cancel();
      }
      if (event.key !== 'Tab') event.stopPropagation();
    });
    rendered(() => {
      input.focus({ preventScroll: true });
      if (!began) input.select();
    });
    return input;
  }

  private rangeNow(): Range | null {
    const [range] = (this.grid as Ranging | null)?.getRanges?.() ?? [];
    if (!range) return null;
    const { rows, columns } = this.table();
    const [top, bottom, left, right] = [range.getTopEdge(), range.getBottomEdge(), range.getLeftEdge(), range.getRightEdge()];
    // The first column of the view is that of the places.
    const within = (at: number, count: number) => Math.min(count - 1, Math.max(0, at));
    if (!rows.length || !Number.isInteger(top) || !Number.isInteger(left)) return null;
    return {
      rows: [within(top, rows.length), within(bottom, rows.length)],
      columns: [within(left - 1, columns.length), within(right - 1, columns.length)],
    };
  }

  /** Whether keys and the clipboard are meant for cells here: not where one types. */
  private isMeant(): boolean {
    const active = document.activeElement;
    return (
      this.taken &&
      !!this.range() &&
      this.host.nativeElement.contains(active) &&
      !(active instanceof HTMLInputElement || active instanceof HTMLSelectElement)
    );
  }

  protected copied(event: ClipboardEvent): void {
    const range = this.range();
    if (!range || !this.isMeant()) return;
    event.clipboardData?.setData('text/plain', clipboardOf(this.values().columns, range.rows, range.columns));
    event.preventDefault();
  }

  protected pasted(event: ClipboardEvent): void {
    const [range, text] = [this.range(), event.clipboardData?.getData('text/plain') ?? ''];
    if (!range || !text || this.fixed() || !this.isMeant()) return;
    event.preventDefault();
    this.room.run(pasteInto(this.table(), range.rows[0], range.columns[0], cellsOfClipboard(text)));
  }

  protected key(event: KeyboardEvent): void {
    if (event.key.startsWith('Arrow')) this.taken = true;
    if (!this.isMeant() || this.fixed()) return;
    const range = this.range()!;
    if (event.key === 'Delete' || event.key === 'Backspace') {
      event.preventDefault();
      event.stopPropagation();
      const changes = [];
      for (let row = range.rows[0]; row <= range.rows[1]; row++)
        for (let column = range.columns[0]; column <= range.columns[1]; column++) changes.push({ row, column, cell: undefined });
      const command = setCells(this.table(), changes);
      if (command.patches.length) this.room.run(command);
      return;
    }
    if (event.ctrlKey || event.metaKey || event.altKey || event.key.length > 1) return;
    // What is typed goes into the cell that is chosen.
    const cell = this.grid?.getRowFromPosition(range.rows[0] + 1)?.getCell(`c${range.columns[0]}`);
    if (!cell || this.table().columns[range.columns[0]]!.formula !== undefined) return;
    event.preventDefault();
    event.stopPropagation();
    this.typed = event.key;
    cell.edit();
  }

  private went: unknown = null;
  /** Goes to a cell and chooses it. */
  private goTo(wanted: { readonly row: number; readonly column: number }): void {
    const { row, column } = wanted;
    const line = this.grid?.getRowFromPosition(row + 1);
    if (!this.built || !line) return;
    this.went = wanted;
    const cell = line.getCell(`c${Math.max(0, column)}`);
    void this.grid!.scrollToRow(line, 'center', false).catch(() => undefined);
    void this.grid!.scrollToColumn(`c${Math.max(0, column)}`, 'middle', false).catch(() => undefined);
    const [range] = (this.grid as Ranging).getRanges?.() ?? [];
    range?.setBounds(cell, cell);
  }

  protected addRow(): void {
    const at = this.range()?.rows[1] ?? this.table().rows.length - 1;
    this.room.run(addRows(this.table(), at, [{}]));
  }
  protected removeChosen(): void {
    const range = this.range();
    if (!range) return;
    const [top, bottom] = range.rows;
    this.room.run(
      removeRows(
        this.table(),
        Array.from({ length: bottom - top + 1 }, (_, i) => top + i),
      ),
    );
  }
  protected fill(): void {
    const range = this.range();
    if (range) this.room.run(fillDown(this.table(), range.rows, range.columns));
  }
  protected newColumn(): void {
    const { columns } = this.table();
    this.room.run(addColumn(this.table(), columns.length - 1, { name: `Column ${columns.length + 1}`, type: 'number' }));
  }
  protected newSummary(): void {
    const at = this.table().columns.findIndex(({ type }) => type === 'number');
    const column = this.table().columns[Math.max(0, at)]!;
    this.room.run(
      addSummary(this.table(), { name: `Count of ${column.name}`, formula: `count(${this.values().names.of.get(column.id)})` }),
    );
  }
}
