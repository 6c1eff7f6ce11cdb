import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Checkbox } from 'primeng/checkbox';
import { type Master, type VariantName, variantOf } from '@inkwell-twin/core/web';
import { VariantTile } from './variant-tile';

interface Row extends VariantName {
  /** What the row makes of the master; null where it can make nothing. */
  readonly master: Master | null;
}

/** The rows of a variant table and what each looks like: which of them become copies. */
@Component({
  selector: 'twin-contact-sheet',
  imports: [Checkbox, FormsModule, VariantTile],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ol class="rows" aria-label="Rows">
      @for (one of all(); track one.row; let at = $index) {
        <li [class.on]="one.row === shown()" (mouseenter)="show.emit(one.row)" (focusin)="show.emit(one.row)">
          <label>
            <p-checkbox
              [binary]="true"
              size="small"
              [disabled]="one.problem !== ''"
              [ngModel]="!one.problem && !leftOut().has(one.row)"
              (ngModelChange)="leave.emit({ row: one.row, out: !$event })"
            />
            <span><small>{{ at + 1 }}</small> {{ one.name }}</span>
          </label>
          @if (one.problem) {
            <p>{{ one.problem }}</p>
          }
        </li>
      }
    </ol>
    <ul class="tiles" aria-label="Contact sheet">
      @for (one of all(); track one.row) {
        @if (one.master; as variant) {
          <li [class.on]="one.row === shown()" [class.out]="leftOut().has(one.row)" (mouseenter)="show.emit(one.row)">
            <twin-variant-tile [master]="variant" [board]="board()" />
            <span>{{ one.name }}</span>
          </li>
        }
      }
    </ul>
  `,
  styles: `
    :host { display: grid; grid-template-columns: minmax(150px, 2fr) 5fr; gap: 16px; max-height: 340px; margin-top: 12px; border-top: 1px solid var(--hairline); border-bottom: 1px solid var(--hairline); }
    ol, ul { margin: 0; padding: 6px 0; overflow: auto; list-style: none; }
    .rows li { padding: 3px 6px 3px 0; border-left: 3px solid transparent; padding-left: 6px; content-visibility: auto; contain-intrinsic-height: 28px; }
    .rows li.on { border-left-color: var(--action); background: var(--sheet); }
    label { display: flex; gap: 8px; align-items: baseline; cursor: pointer; }
    label span { overflow-wrap: anywhere; }
    small { color: var(--ink-two); }
    p { margin: 0 0 2px 26px; color: var(--ink-two); font-size: 12.5px; }
    .tiles { display: flex; flex-wrap: wrap; gap: 10px 12px; align-content: flex-start; }
    .tiles li { width: 148px; content-visibility: auto; contain-intrinsic-size: 148px 118px; }
    .tiles li.on { outline: 2px solid var(--action); outline-offset: 2px; border-radius: 3px; }
    .tiles li.out { opacity: 0.35; }
    .tiles span { display: block; overflow: hidden; color: var(--ink-two); font-size: 12.5px; text-overflow: ellipsis; white-space: nowrap; }
  `,
})
export class ContactSheet {
  readonly master = input.required<Master>();
  readonly table = input.required<string>();
  readonly board = input.required<string>();
  readonly rows = input.required<readonly VariantName[]>();
  readonly leftOut = input.required<ReadonlySet<string>>();
  readonly shown = input('');
  readonly show = output<string>();
  readonly leave = output<{ readonly row: string; readonly out: boolean }>();

  protected readonly all = computed((): Row[] => {
    const [master, table] = [this.master(), this.table()];
    return this.rows().map((one) => ({ ...one, master: one.problem ? null : variantOf(master, { table, row: one.row }) }));
  });
}
