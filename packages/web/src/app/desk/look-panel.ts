import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { Button } from 'primeng/button';
import { TableModule } from 'primeng/table';
import type { LookView } from '@inkwell-twin/api';
import { Pick } from '../shared/pick';

/** How a file of cells would be read, with its first rows: what is only a guess is said to be one, and all can be changed. */
@Component({
  selector: 'twin-look-panel',
  imports: [Button, Pick, TableModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section aria-label="How the file is read">
      <h2>{{ name() }} would come in like this</h2>
      <div class="settings">
        @for (one of look().settings; track one.name) {
          <label>
            {{ one.label }}
            <twin-pick [label]="one.label" [options]="one.choices" [value]="one.value" (chosen)="decided.emit({ name: one.name, value: $event })" />
            @if (!one.sure) { <em>a guess: look at the rows below</em> }
          </label>
        }
      </div>
      <p-table class="rows" [value]="rows()" size="small" [scrollable]="true" scrollHeight="260px" [tableStyle]="{ 'white-space': 'nowrap' }">
        <ng-template #header>
          <tr>
            @for (column of look().columns; track $index) {
              <th scope="col" [class.number]="column.type === 'number'">{{ column.name }} @if (column.unit) { <span>{{ column.unit }}</span> }<small>{{ column.type }}</small></th>
            }
          </tr>
        </ng-template>
        <ng-template #body let-row>
          <tr>@for (cell of row; track $index) { <td [class.number]="look().columns[$index]?.type === 'number'">{{ cell }}</td> }</tr>
        </ng-template>
      </p-table>
      @for (remark of look().remarks; track remark) { <p>{{ remark }}</p> }
      <p class="acts">
        <p-button label="Bring it in" (onClick)="confirmed.emit()" />
        <button type="button" class="link" (click)="closed.emit()">Not now</button>
      </p>
    </section>
  `,
  styles: `
    section { margin: 0 0 16px; padding: 14px 16px; border: 1px solid var(--hairline); border-left: 3px solid var(--action); border-radius: 8px; background: var(--raised); }
    h2 { margin: 0 0 10px; font-size: 14px; }
    .settings { display: flex; flex-wrap: wrap; gap: 10px 20px; }
    label { display: flex; flex-direction: column; gap: 2px; color: var(--ink-two); font-size: 12px; }
    em { color: var(--ink); font-weight: 600; font-style: normal; }
    .rows { display: block; margin: 12px 0; }
    th { vertical-align: bottom; }
    th span, small { color: var(--ink-two); font-weight: 400; }
    small { display: block; }
    .number { text-align: right; }
    p { color: var(--ink-two); }
    .acts { display: flex; align-items: center; gap: 16px; margin-top: 10px; }
  `,
})
export class LookPanel {
  readonly look = input.required<LookView>();
  readonly name = input.required<string>();
  // The table wants an array of its own.
  protected readonly rows = computed(() => [...this.look().rows]);
  readonly decided = output<{ name: string; value: string }>();
  readonly confirmed = output<void>();
  readonly closed = output<void>();
}
