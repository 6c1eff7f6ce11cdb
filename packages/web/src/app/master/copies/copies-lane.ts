import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { Button } from 'primeng/button';
import type { CopyView, VerdictName } from '@inkwell-twin/api';
import { Impact } from '../../services/impact.service';
import { VerdictMark } from '../../shared/verdict-mark';

const GROUPS = [
  { id: 'delivery', label: 'To deliver' },
  { id: 'older', label: 'For other programs and older versions' },
  { id: 'machine', label: 'To a machine' },
  { id: 'data', label: 'As data' },
  { id: 'review', label: 'To be looked over' },
  { id: 'proxy', label: 'Small, to work with' },
] as const;

/** What is derived from the master, by what it is for. Marks react while the master is edited. */
@Component({
  selector: 'twin-copies-lane',
  imports: [Button, VerdictMark],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header>
      <kbd>2</kbd>
      @if (!narrow()) {
        <strong>Copies</strong> <span class="count">{{ copies().length }}</span>
        <p-button label="Derive …" severity="secondary" [outlined]="true" (onClick)="derive.emit()" />
      }
    </header>
    <div class="list">
      @for (group of groups(); track group.id) {
        @if (!narrow()) {
          <h3>{{ group.label }}</h3>
        }
        @for (copy of group.copies; track copy.id) {
          <button
            type="button"
            class="row"
            [class.on]="copy.id === selected()"
            [attr.aria-pressed]="copy.id === selected()"
            [attr.data-copy]="copy.label"
            (click)="choose.emit(copy.id)"
            [title]="copy.label + ': ' + (pending(copy) ? 'would fall behind' : copy.verdict)"
          >
            <twin-verdict-mark [verdict]="shown(copy)" [pending]="pending(copy)" />
            @if (!narrow()) {
              <span class="names"
                ><strong>{{ copy.label }}</strong
                ><code [title]="copy.file"
                  ><span>{{ copy.file.slice(0, -tailOf(copy.file).length) }}</span
                  ><span class="tail">{{ tailOf(copy.file) }}</span></code
                ></span
              >
              <span class="rev">r{{ copy.rev }}</span>
            }
          </button>
        }
      } @empty {
        @if (!narrow()) {
          <div class="empty">
            <p>Nothing is derived from this master yet.</p>
            <p>A copy is a file for someone else: for the printer, for another program, for a machine.</p>
          </div>
        }
      }
    </div>
  `,
  styles: `
    :host { display: flex; flex-direction: column; min-width: 0; min-height: 0; background: var(--sheet); border-left: 1px solid var(--hairline); border-right: 1px solid var(--hairline); }
    header { display: flex; align-items: center; gap: 8px; height: 40px; padding: 0 12px; border-bottom: 1px solid var(--hairline); flex: none; overflow: hidden; }
    header strong { font-size: 14px; }
    kbd { display: inline-grid; place-items: center; width: 18px; height: 18px; border: 1px solid var(--hairline); border-radius: 4px; color: var(--ink-three); font: 11px var(--mono); flex: none; }
    .count { color: var(--ink-two); }
    p-button { margin-left: auto; }
    .list { overflow: auto; padding-bottom: 12px; }
    h3 { padding: 12px 14px 4px; font-size: 12.5px; font-weight: 400; color: var(--ink-two); }
    .row { display: flex; align-items: center; gap: 12px; width: 100%; padding: 5px 14px 5px 11px; border: 0; border-left: 3px solid transparent; background: none; text-align: left; cursor: pointer; }
    .row:hover { background: var(--raised); }
    .row.on { border-left-color: var(--action); background: var(--raised); }
    .names { display: flex; flex: 1; flex-direction: column; min-width: 0; }
    .names strong { font-weight: 600; }
    .names strong, .names code span { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
    .names code { display: flex; min-width: 0; }
    .names code .tail { flex: none; }
    code { color: var(--ink-three); }
    .rev { color: var(--ink-two); }
    .empty { padding: 20px 16px; color: var(--ink-two); }
    .empty p + p { margin-top: 8px; }
  `,
})
export class CopiesLane {
  private readonly impact = inject(Impact);
  readonly copies = input.required<readonly CopyView[]>();
  readonly selected = input<string | null>(null);
  readonly narrow = input(false);
  readonly choose = output<string>();
  readonly derive = output<void>();

  /** The end of a name tells revision, version and format: it is shown however long the rest is. */
  protected readonly tailOf = (file: string): string => /(_r\d+(_[^_.]+)?)?\.[^.]+$/.exec(file)?.[0] ?? file;
  protected readonly groups = computed(() =>
    GROUPS.map((group) => ({ ...group, copies: this.copies().filter((copy) => copy.group === group.id) })).filter(
      ({ copies }) => copies.length,
    ),
  );

  protected pending = (copy: CopyView): boolean => copy.verdict === 'in step' && this.impact.outdated().has(copy.id);
  protected shown = (copy: CopyView): VerdictName => (this.pending(copy) ? 'behind' : copy.verdict);
}
