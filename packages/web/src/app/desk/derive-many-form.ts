import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { Checkbox } from 'primeng/checkbox';
import type { AnswerOf, DeskRow, HouseView } from '@inkwell-twin/api';
import { labelOf } from '@inkwell-twin/core/web';
import { Api } from '../services/api.service';
import { counted } from '../shared/words';

type Asked = AnswerOf<'deriveMany'>;

/** Derives several masters by several settings of the house, in one go; what could not be asked for is told, and can be kept. */
@Component({
  selector: 'twin-derive-many-form',
  imports: [Button, Checkbox, FormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="ask()">
      <fieldset>
        <legend>By which settings</legend>
        @for (one of presets(); track one.name) {
          <label>
            <p-checkbox
              [binary]="true"
              size="small"
              [ngModel]="chosen().has(one.name)"
              (ngModelChange)="choose(one.name, $event)"
              [ngModelOptions]="{ standalone: true }"
            />
            {{ one.name }} <span>{{ target(one.target) }}</span>
          </label>
        } @empty {
          <p>{{ house() ? 'No settings are kept yet. Derive a copy of one master, and keep how it is made under a name: it can be made of many then.' : 'The settings are being asked for …' }}</p>
        }
      </fieldset>
      <p class="ways">
        <p-button type="submit" size="small" [label]="words()" [disabled]="!chosen().size || busy()" />
        <button type="button" class="link" (click)="closed.emit()">Close</button>
      </p>
    </form>
    @if (problem()) {
      <p class="problem" role="alert">{{ problem() }}</p>
    }
    @if (asked(); as found) {
      <p role="status">
        {{ found.count ? counted(found.count, 'copy is', 'copies are') + ' being derived.' : 'No copy was asked for.' }}
        @if (found.failed.length) {
          {{ counted(found.failed.length, 'was', 'were') }} not:
        }
      </p>
      @if (found.failed.length) {
        <ul>
          @for (one of found.failed; track one.master + one.settings) {
            <li><strong>{{ one.title }}</strong>, {{ one.settings }}: {{ one.message }}</li>
          }
        </ul>
        <a class="link" [href]="summary()" download="not derived.csv">Keep this list</a>
      }
    }
  `,
  styles: `
    :host { display: block; margin-bottom: 12px; padding: 12px 16px; border: 1px solid var(--hairline); border-radius: 8px; background: var(--sheet); }
    fieldset { display: flex; flex-wrap: wrap; gap: 6px 22px; margin: 0; padding: 0; border: 0; }
    legend { padding: 0 0 6px; color: var(--ink-two); }
    label { display: inline-flex; align-items: center; gap: 6px; }
    label span { color: var(--ink-two); }
    .ways { display: flex; align-items: center; gap: 16px; margin-top: 10px; }
    .problem { margin-top: 8px; padding-left: 8px; border-left: 3px solid var(--ink); }
    ul { max-height: 160px; margin: 4px 0 6px; padding-left: 18px; overflow: auto; }
    [role='status'] { margin-top: 8px; }
  `,
})
export class DeriveManyForm {
  private readonly api = inject(Api);
  readonly rows = input.required<readonly DeskRow[]>();
  readonly closed = output<void>();
  protected readonly house = signal<HouseView | null>(null);
  protected readonly presets = computed(() => this.house()?.rules.presets ?? []);
  protected readonly chosen = signal<ReadonlySet<string>>(new Set());
  protected readonly busy = signal(false);
  protected readonly problem = signal('');
  protected readonly asked = signal<Asked | null>(null);
  protected readonly target = labelOf;
  protected readonly counted = counted;
  protected readonly words = computed(
    () => `Derive ${counted(this.rows().length, 'master')}${this.chosen().size > 1 ? ` by ${this.chosen().size} settings` : ''}`,
  );
  /** What was not asked for, as a table that others open (RFC 4180). */
  protected readonly summary = computed(() => {
    const cell = (text: string): string => `"${text.replaceAll('"', '""')}"`;
    const rows = (this.asked()?.failed ?? []).map(({ title, settings, message }) => [title, settings, message].map(cell).join());
    return `data:text/csv;charset=utf-8,${encodeURIComponent(['"Master","Settings","Why not"', ...rows].join('\r\n'))}`;
  });

  constructor() {
    this.api.call('house').subscribe({
      next: (view) => this.house.set(view),
      error: (error: Error) => this.problem.set(error.message),
    });
  }

  protected choose(name: string, on: boolean): void {
    this.chosen.update((before) => new Set(on ? [...before, name] : [...before].filter((one) => one !== name)));
  }

  protected ask(): void {
    this.busy.set(true);
    this.problem.set('');
    const body = { masters: this.rows().map(({ id }) => id), settings: [...this.chosen()] };
    this.api.call('deriveMany', {}, body).subscribe({
      next: (found) => {
        this.busy.set(false);
        this.asked.set(found);
      },
      error: (error: Error) => {
        this.busy.set(false);
        this.problem.set(error.message);
      },
    });
  }
}
