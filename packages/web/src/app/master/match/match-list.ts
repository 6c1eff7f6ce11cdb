import { ChangeDetectionStrategy, Component, computed, effect, input, output, signal } from '@angular/core';
import { TableModule } from 'primeng/table';
import type { Difference } from '@inkwell-twin/api';
import { formatAmount } from '@inkwell-twin/core/web';
import type { Compared } from './compared';

/** Lines on one page of the list. */
const PAGE = 100;
/** So many lines are seen at a look: nothing to sort. */
const FEW = 3;

interface Line {
  readonly index: number;
  readonly kind: string;
  readonly what: string;
  readonly amount: number | null;
  readonly difference: Difference;
}

/** Where a copy differs, one line each, sorted as one likes; or that all of it was read back and says what it should. */
@Component({
  selector: 'twin-match-list',
  imports: [TableModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let it = compared();
    @if (it.match(); as found) {
      @if (found.differences.length) {
        <p-table
          [value]="lines()"
          dataKey="index"
          size="small"
          [tableStyle]="{ width: '100%', 'table-layout': 'fixed' }"
          [paginator]="lines().length > PAGE"
          [rows]="PAGE"
          [first]="first()"
          (firstChange)="first.set($event)"
          (onSort)="sorted.set($event)"
          [showCurrentPageReport]="true"
          currentPageReportTemplate="{first} to {last} of {totalRecords}"
          [alwaysShowPaginator]="false"
        >
          <ng-template #header>
            <tr>
              <th scope="col" pSortableColumn="kind" [pSortableColumnDisabled]="few()">Difference @if (!few()) { <p-sortIcon field="kind" /> }</th>
              <th scope="col" pSortableColumn="what" [pSortableColumnDisabled]="few()">What @if (!few()) { <p-sortIcon field="what" /> }</th>
              <th scope="col" pSortableColumn="amount" [pSortableColumnDisabled]="few()">Amount @if (!few()) { <p-sortIcon field="amount" /> }</th>
            </tr>
          </ng-template>
          <ng-template #body let-line>
            @let one = $any(line).difference;
            <tr [class.on]="it.chosen() === line.index" (click)="pick.emit(line.index)">
              <td><button type="button" class="bare" [attr.aria-pressed]="it.chosen() === line.index">{{ one.kind }}</button></td>
              <td [attr.colspan]="amount(one) ? 1 : 2">
                <span class="what" [title]="one.what">{{ one.what }}</span>
                @if (one.master !== null) {
                  <span class="sides">master <b>{{ one.master }}</b>, copy <b class="copy">{{ one.copy }}</b></span>
                }
              </td>
              @if (amount(one); as words) { <td class="mono">{{ words }}</td> }
            </tr>
          </ng-template>
        </p-table>
      } @else if (found.sides) {
        <p class="same">{{ it.equalInWords() }}</p>
      }
    }
  `,
  styles: `
    :host { display: block; }
    th { font-weight: 400; color: var(--ink-two); white-space: nowrap; }
    th:nth-child(1) { width: 31%; }
    th:nth-child(3) { width: 25%; }
    td { vertical-align: top; cursor: pointer; }
    .what { display: block; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
    .sides { display: block; color: var(--ink-two); font-size: 12.5px; overflow-wrap: anywhere; }
    .sides b { color: var(--ink); font-weight: 500; }
    .sides .copy { color: var(--difference); }
    td:first-child button::first-letter { text-transform: uppercase; }
    td.mono, th:last-child { text-align: right; white-space: nowrap; }
    tr:hover td { background: var(--sheet); }
    tr.on td { background: var(--difference-soft); }
    .same { padding: 4px 14px 10px; color: var(--ink-two); }
  `,
})
export class MatchList {
  readonly compared = input.required<Compared>();
  readonly pick = output<number>();
  protected readonly PAGE = PAGE;
  /** The place of the first line of the page that one looks at. */
  protected readonly first = signal(0);
  protected readonly sorted = signal<{ field: string; order: number } | null>(null);
  protected readonly lines = computed((): Line[] =>
    (this.compared().match()?.differences ?? []).map((difference, index) => ({
      index,
      kind: difference.kind,
      what: difference.what,
      amount: difference.amount,
      difference,
    })),
  );

  protected readonly few = computed(() => this.lines().length <= FEW);

  constructor() {
    // What was picked on the stage stands on its page.
    effect(() => {
      const chosen = this.compared().chosen();
      if (chosen !== null && !this.sorted()) this.first.set(Math.floor(chosen / PAGE) * PAGE);
    });
  }

  protected amount = ({ amount, unit }: Difference): string => (amount === null ? '' : formatAmount(amount, unit));
}
