import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { Command, Table } from '@inkwell-twin/core/web';
import {
  ALL_FUNCTIONS,
  type Computed,
  addColumn,
  addSummary,
  numberInWords,
  removeColumn,
  removeSummary,
  renameIn,
  setColumn,
  setKey,
} from '@inkwell-twin/core/tables';
import { COLUMN_TYPES } from '@inkwell-twin/core/web';
import { InputText } from 'primeng/inputtext';
import { Pick, pickables } from '../../shared/pick';

/** What a column or a summary says of itself, to be changed where it stands. */
@Component({
  selector: 'twin-table-slip',
  imports: [InputText, Pick],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (one(); as what) {
      <label class="wide">Name <input pInputText pSize="small" [value]="what.name" maxlength="200" [disabled]="fixed()" (change)="rename($event)" /></label>
      @if (column(); as own) {
        <label>Kind
          <twin-pick label="Kind of column" [options]="types" [value]="own.type" [fixed]="fixed()" (chosen)="setType($event)" />
        </label>
      }
      <label>Unit <input pInputText pSize="small" class="short" [value]="what.unit ?? ''" maxlength="40" placeholder="none" [disabled]="fixed()" (change)="set('unit', $event)" /></label>
      @if (isNumber()) {
        <label>Digits shown <input pInputText pSize="small" class="short mono" inputmode="numeric" [value]="what.decimals ?? ''" placeholder="all" [disabled]="fixed()" (change)="digits($event)" /></label>
      }
      <label class="formula">Computed as
        <input pInputText pSize="small" class="mono" [value]="what.formula ?? ''" [placeholder]="column() ? 'not computed: it holds what is typed' : ''" maxlength="2000" [disabled]="fixed()" (change)="set('formula', $event)" spellcheck="false" />
      </label>
      @if (problem(); as words) { <p class="problem" role="alert">{{ words }}</p> }
      <p class="names">
        In formulas: @for (name of names(); track name) { <code>{{ name }}</code> }
        <span title="{{ functions }}">and functions such as mean(…), round(…), abs(…)</span>
      </p>
      @if (!fixed()) {
        <p class="acts">
          @if (column(); as own) {
            @if (own.formula === undefined) {
              <button type="button" class="link" (click)="key()">{{ table().key === own.id ? 'Tell rows apart by their place' : 'Tell rows apart by it' }}</button>
            }
            <button type="button" class="link" (click)="columnAfter()">Column after it</button>
            <button type="button" class="link" (click)="summaryOf()">{{ isNumber() ? 'Mean of it' : 'Count it' }}</button>
            <button type="button" class="link" [disabled]="table().columns.length < 2" (click)="command.emit(takenAway())">Remove column</button>
          } @else {
            <button type="button" class="link" (click)="command.emit(takenAway())">Remove summary</button>
          }
          <button type="button" class="link close" (click)="closed.emit()">Close</button>
        </p>
      }
    }
  `,
  styles: `
    :host { display: flex; flex-wrap: wrap; align-items: end; gap: 8px 14px; padding: 10px 14px; border-top: 1px solid var(--hairline); background: var(--raised); }
    label { display: flex; flex-direction: column; gap: 2px; color: var(--ink-two); font-size: 12px; }
    input { height: 28px; padding: 0 8px; border: 1px solid var(--hairline); border-radius: 4px; background: var(--sheet); color: var(--ink); font: inherit; font-size: 13px; }
    input.mono { font-family: var(--mono); font-size: 12px; }
    .short { width: 84px; }
    .formula { flex: 1 1 320px; }
    .problem { flex: 1 1 100%; color: var(--ink); font-weight: 600; }
    .names { display: flex; flex: 1 1 60%; flex-wrap: wrap; gap: 0 10px; min-width: 0; color: var(--ink-two); font-size: 12px; }
    .acts { display: flex; flex-wrap: wrap; gap: 4px 16px; margin-left: auto; }
  `,
})
export class TableSlip {
  readonly table = input.required<Table>();
  readonly computed = input.required<Computed>();
  /** The id of a column or a summary. */
  readonly chosen = input.required<string>();
  readonly fixed = input(false);
  readonly command = output<Command>();
  readonly closed = output<void>();

  protected readonly types = pickables(COLUMN_TYPES);
  protected readonly functions = ALL_FUNCTIONS.join(', ');
  protected readonly column = computed(() => this.table().columns.find(({ id }) => id === this.chosen()));
  private readonly summary = computed(() => this.table().summaries.find(({ id }) => id === this.chosen()));
  protected readonly one = computed(() => this.column() ?? this.summary());
  protected readonly isNumber = computed(() => (this.column()?.type ?? 'number') === 'number');
  protected readonly names = computed(() =>
    [...this.computed().names.of].filter(([id]) => id !== this.chosen()).map(([, name]) => name),
  );
  protected readonly problem = computed(() => {
    const { columns, summaries } = this.computed();
    const found = columns.find(({ column }) => column.id === this.chosen());
    if (found) {
      const [row, words] = [...found.problems][0] ?? [];
      return (
        found.problem ??
        (words ? `Row ${row! + 1}: ${words}${found.problems.size > 1 ? ` And ${found.problems.size - 1} more.` : ''}` : null)
      );
    }
    return summaries.find(({ summary }) => summary.id === this.chosen())?.problem ?? null;
  });

  private valueOf = (event: Event): string => (event.target as HTMLInputElement).value.trim();

  protected rename(event: Event): void {
    const name = this.valueOf(event);
    if (name) this.command.emit(renameIn(this.table(), this.chosen(), name));
    else (event.target as HTMLInputElement).value = this.one()!.name;
  }

  protected set(what: 'unit' | 'formula', event: Event): void {
    const value = this.valueOf(event);
    // A summary is nothing without its formula.
    if (what === 'formula' && !value && this.summary()) (event.target as HTMLInputElement).value = this.summary()!.formula;
    else this.command.emit(setColumn(this.table(), this.chosen(), { [what]: value || undefined }));
  }

  protected setType(type: (typeof COLUMN_TYPES)[number]): void {
    this.command.emit(setColumn(this.table(), this.chosen(), { type }));
  }

  protected digits(event: Event): void {
    const text = this.valueOf(event);
    const count = Number(text);
    if (text && !(Number.isInteger(count) && count >= 0 && count <= 15))
      (event.target as HTMLInputElement).value = String(this.one()!.decimals ?? '');
    else this.command.emit(setColumn(this.table(), this.chosen(), { decimals: text ? count : undefined }));
  }

  protected key(): void {
    const own = this.column()!;
    this.command.emit(setKey(this.table(), this.table().key === own.id ? null : own));
  }

  protected columnAfter(): void {
    const at = this.table().columns.findIndex(({ id }) => id === this.chosen());
    this.command.emit(addColumn(this.table(), at, { name: `Column ${this.table().columns.length + 1}`, type: 'number' }));
  }

  protected summaryOf(): void {
    const own = this.column()!;
    const name = this.computed().names.of.get(own.id)!;
    const { unit, decimals } = own;
    this.command.emit(
      addSummary(this.table(), {
        name: `${own.type === 'number' ? 'Mean' : 'Count'} of ${own.name}`,
        formula: own.type === 'number' ? `mean(${name})` : `count(${name})`,
        ...(unit && own.type === 'number' ? { unit } : {}),
        ...(decimals === undefined ? {} : { decimals }),
      }),
    );
  }

  protected takenAway(): Command {
    const at = this.table().columns.findIndex(({ id }) => id === this.chosen());
    return at >= 0 ? removeColumn(this.table(), at) : removeSummary(this.table(), this.summary()!);
  }

  protected readonly number = numberInWords;
}
