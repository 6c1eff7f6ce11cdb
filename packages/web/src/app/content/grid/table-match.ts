import { ChangeDetectionStrategy, Component, ElementRef, computed, effect, inject, input } from '@angular/core';
import type { Difference } from '@inkwell-twin/api';
import { type Grid, cellWords, inHeading, placeOf } from '@inkwell-twin/core/tables';

/** Rows that are shown around each that differs, and rows that are shown in all. */
const [AROUND, MOST] = [1, 240];

interface Cell {
  readonly master: string;
  /** What the copy says where that is something else. */
  readonly copy: string | null;
  /** The differences that it is in, by their places in the list. */
  readonly differences: readonly number[];
}
interface Line {
  readonly kind: 'row' | 'gap' | 'missing' | 'added';
  readonly place: string;
  readonly cells: readonly Cell[];
  readonly differences: readonly number[];
}

/** A table now and in a copy: the rows that differ, each with its neighbours, the master's word above the copy's. */
@Component({
  selector: 'twin-table-match',
  host: { tabindex: '0', role: 'group', 'aria-label': 'The master and the copy, row by row' },
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <table aria-label="Where the tables differ">
      <thead>
        <tr>
          <th scope="col"></th>
          @for (head of heads(); track $index) {
            <th scope="col" [class.differs]="head.differences.length" [class.chosen]="isChosen(head.differences)" (click)="choose(head.differences)">
              {{ head.master }} @if (head.copy !== null) { <b class="copy">{{ head.copy }}</b> }
            </th>
          }
        </tr>
      </thead>
      <tbody>
        @for (line of lines(); track $index) {
          @if (line.kind === 'gap') {
            <tr class="gap"><td [attr.colspan]="heads().length + 1">{{ line.place }}</td></tr>
          } @else {
            <tr [class]="line.kind" [class.chosen]="isChosen(line.differences)" (click)="choose(line.differences)">
              <th scope="row">{{ line.place }}</th>
              @for (cell of line.cells; track $index) {
                <td [class.differs]="cell.differences.length" [class.chosen]="isChosen(cell.differences)" (click)="choose(cell.differences, $event)">
                  {{ cell.master }} @if (cell.copy !== null) { <b class="copy">{{ cell.copy || 'empty' }}</b> }
                </td>
              }
            </tr>
          }
        } @empty {
          <tr class="gap"><td [attr.colspan]="heads().length + 1">No row differs.</td></tr>
        }
      </tbody>
    </table>
  `,
  styles: `
    :host { display: block; min-height: 120px; overflow: auto; background: var(--sheet); }
    table { border-collapse: collapse; white-space: nowrap; }
    th, td { padding: 3px 10px; border-bottom: 1px solid var(--hairline-soft); text-align: left; vertical-align: top; }
    thead th { position: sticky; top: 0; z-index: 1; background: var(--sheet); box-shadow: 0 1px 0 var(--ink); font-weight: 600; }
    tbody th { color: var(--ink-three); font-weight: 400; font-size: 11.5px; text-align: right; }
    td { max-width: 220px; overflow: hidden; text-overflow: ellipsis; color: var(--ink-two); }
    .differs { background: var(--difference-soft); color: var(--ink); cursor: pointer; }
    .copy { display: block; color: color-mix(in srgb, var(--difference) 82%, var(--ink)); font-weight: 600; }
    .missing td, .missing th { color: var(--ink); }
    .missing td { border-bottom: 1px dashed var(--ink-three); }
    .added td { color: color-mix(in srgb, var(--difference) 82%, var(--ink)); font-weight: 600; background: var(--difference-soft); }
    .gap td { color: var(--ink-three); font-size: 11.5px; background: var(--ground); }
    .chosen { box-shadow: inset 0 0 0 2px var(--action); }
  `,
})
export class TableMatch {
  readonly master = input.required<Grid>();
  readonly copy = input.required<Grid>();
  /** Those of this table; of others there is only the place in the list. */
  readonly differences = input.required<readonly Difference[]>();
  readonly chosen = input<number | null>(null);
  readonly picked = input.required<(index: number) => void>();
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  /** Which differences are where: on each side by row and column. */
  private readonly places = computed(() => {
    const of = (grid: Grid, side: 'masterEntries' | 'copyEntries') => {
      const found = new Map<string, number[]>();
      this.differences().forEach((one, i) => {
        for (const entry of one[side]) {
          const { row, column } = placeOf(grid, entry);
          const key = `${row} ${column}`;
          found.set(key, [...(found.get(key) ?? []), i]);
        }
      });
      return found;
    };
    return { master: of(this.master(), 'masterEntries'), copy: of(this.copy(), 'copyEntries') };
  });
  /** The copy's cell for a cell of the master, where they differ. */
  private readonly partners = computed(() => {
    const partners = new Map<string, { row: number; column: number }>();
    for (const one of this.differences())
      one.masterEntries.forEach((entry, i) => {
        const other = one.copyEntries[i];
        if (other === undefined) return;
        const at = placeOf(this.master(), entry);
        partners.set(`${at.row} ${at.column}`, placeOf(this.copy(), other));
      });
    return partners;
  });

  /** The columns in the order in which they are shown: what tells rows apart, what differs, the rest. */
  private readonly order = computed((): number[] => {
    const differing = new Set([...this.places().master.keys()].map((key) => Number(key.split(' ')[1])));
    const key = Math.max(0, this.master().key);
    const rank = (at: number) => (at === key ? 0 : differing.has(at) ? 1 : 2);
    return [...this.master().columns.keys()].sort((a, b) => rank(a) - rank(b) || a - b);
  });

  protected readonly heads = computed((): Cell[] =>
    this.order().map((column) => {
      const { name, unit } = this.master().columns[column]!;
      const differences = this.places().master.get(`-1 ${column}`) ?? [];
      const partner = this.partners().get(`-1 ${column}`);
      const theirs = partner && this.copy().columns[partner.column];
      const [ours, other] = [inHeading(name, unit), theirs ? inHeading(theirs.name, theirs.unit) : null];
      return { master: ours, copy: differences.length && other !== ours ? other : null, differences };
    }),
  );

  protected readonly lines = computed((): Line[] => {
    const [master, copy, places, partners] = [this.master(), this.copy(), this.places(), this.partners()];
    const wanted = new Set<number>();
    for (const key of places.master.keys()) {
      const row = Number(key.split(' ')[0]);
      if (row >= 0)
        for (let near = Math.max(0, row - AROUND); near <= Math.min(master.count - 1, row + AROUND); near++) wanted.add(near);
    }
    const rows = [...wanted].sort((a, b) => a - b).slice(0, MOST);
    const lines: Line[] = [];
    let last = -1;
    for (const row of rows) {
      if (row > last + 1) lines.push({ kind: 'gap', place: `${row - last - 1} rows the same`, cells: [], differences: [] });
      last = row;
      const whole = places.master.get(`${row} -1`) ?? [];
      const cells = this.order().map((at): Cell => {
        const column = master.columns[at]!;
        const differences = places.master.get(`${row} ${at}`) ?? [];
        const partner = partners.get(`${row} ${at}`);
        const theirs = partner && copy.columns[partner.column];
        return {
          master: cellWords(column, row),
          copy: theirs && partner.row >= 0 ? cellWords(theirs, partner.row) : null,
          differences,
        };
      });
      lines.push({
        kind: whole.length ? 'missing' : 'row',
        place: whole.length ? 'missing' : String(row + 1),
        cells,
        differences: whole,
      });
    }
    if (rows.length && last < master.count - 1)
      lines.push({ kind: 'gap', place: `${master.count - 1 - last} rows more`, cells: [], differences: [] });
    for (const [key, differences] of places.copy) {
      const [row, column] = key.split(' ').map(Number) as [number, number];
      if (column !== -1 || row < 0 || lines.length > MOST) continue;
      // Cells of the copy stand below the master's columns of the same name.
      const cells = this.order().map((at): Cell => {
        const { name } = master.columns[at]!;
        const theirs = copy.columns.find((one) => one.name === name);
        return { master: theirs ? cellWords(theirs, row) : '', copy: null, differences: [] };
      });
      lines.push({ kind: 'added', place: 'added', cells, differences });
    }
    return lines;
  });

  constructor() {
    effect(() => {
      this.chosen();
      setTimeout(() => this.host.nativeElement.querySelector('.chosen')?.scrollIntoView({ block: 'nearest', inline: 'nearest' }));
    });
  }

  protected isChosen = (differences: readonly number[]): boolean =>
    this.chosen() !== null && differences.includes(this.chosen()!);
  protected choose(differences: readonly number[], event?: Event): void {
    if (!differences.length) return;
    event?.stopPropagation();
    this.picked()(differences[0]!);
  }
}
