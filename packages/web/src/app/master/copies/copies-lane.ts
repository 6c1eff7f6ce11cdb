import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { Button } from 'primeng/button';
import type { CopyView, DerivationView, VerdictName } from '@inkwell-twin/api';
import { Impact } from '../../services/impact.service';
import { LaneKey } from '../../shared/lane-key';
import { VerdictMark } from '../../shared/verdict-mark';
import { type Line, linesOf, sumOf, worstOf } from '../../shared/series';
import { DerivationRow } from './derivation-row';

const GROUPS = [
  { id: 'delivery', label: 'To deliver' },
  { id: 'keep', label: 'To keep for good' },
  { id: 'older', label: 'For other programs and older versions' },
  { id: 'machine', label: 'To a machine' },
  { id: 'data', label: 'As data' },
  { id: 'review', label: 'To be looked over' },
  { id: 'proxy', label: 'Small, to work with' },
] as const;

/** What is derived from the master, by what it is for. Marks react while the master is edited. */
@Component({
  selector: 'twin-copies-lane',
  imports: [Button, DerivationRow, LaneKey, VerdictMark],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header>
      <twin-lane-key key="2" does="Master and copies side by side" (pressed)="widened.emit()" />
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
        @for (line of group.lines; track line.id) {
          @if (line.series; as series) {
            <button
              type="button"
              class="row"
              [attr.aria-expanded]="isOpen(line)"
              [attr.data-series]="series.label"
              (click)="toggle(line)"
              [title]="series.label + ': ' + sumOf(line)"
            >
              <twin-verdict-mark [verdict]="worst(line)" />
              @if (!narrow()) {
                <span class="names"
                  ><strong>{{ series.label }}</strong><span class="sum">{{ sumOf(line) }}</span></span
                >
                <i class="pi" [class.pi-angle-down]="!isOpen(line)" [class.pi-angle-up]="isOpen(line)" aria-hidden="true"></i>
              }
            </button>
          }
          @if (!line.series || isOpen(line)) {
            @for (copy of line.copies; track copy.id) {
              <button
                type="button"
                class="row"
                [class.of]="line.series !== null"
                [class.on]="copy.id === selected()"
                [attr.aria-pressed]="copy.id === selected()"
                [attr.data-copy]="copy.label"
                (click)="choose.emit(copy.id)"
                [title]="copy.label + ': ' + (pending(copy) ? 'would fall behind' : copy.verdict)"
              >
                <twin-verdict-mark [verdict]="shown(copy)" [pending]="pending(copy)" />
                @if (!narrow()) {
                  <span class="names"
                    ><strong>{{ nameOf(copy) }}</strong
                    ><code [title]="copy.file"
                      ><span>{{ copy.file.slice(0, -tailOf(copy.file).length) }}</span
                      ><span class="tail">{{ tailOf(copy.file) }}</span></code
                    ></span
                  >
                  <span class="rev">r{{ copy.rev }}</span>
                }
              </button>
              @if (underWay(copy); as one) {
                @if (!narrow()) {
                  <twin-derivation-row [derivation]="one" [own]="false" />
                }
              }
            }
            @if (line.series; as series) {
              @if (!narrow()) {
                <button type="button" class="link all" (click)="withdrawSeries.emit({ id: series.id, label: series.label, count: line.copies.length })">
                  Withdraw all {{ line.copies.length }}
                </button>
              }
            }
          }
        }
        @for (one of group.derivations; track one.recipe) {
          @if (narrow()) {
            <i class="pi pi-hourglass" [title]="one.label + ': ' + one.state" aria-hidden="true"></i>
          } @else {
            <twin-derivation-row [derivation]="one" />
          }
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
    @if (!narrow() && copies().length) {
      <footer>
        @if (behind(); as count) {
          <span>{{ count === 1 ? '1 is behind' : count + ' are behind' }}</span>
          <button type="button" class="link" (click)="deriveBehind.emit()">{{ again(count) }}</button>
        }
        <a
          class="link all"
          [href]="'/api/masters/' + masterId() + '/copies.zip'"
          download
          title="All copies as they were written, with a list of which is which and how each stands"
          >All as a zip</a
        >
      </footer>
    }
  `,
  styles: `
    :host { display: flex; flex-direction: column; min-width: 0; min-height: 0; background: var(--sheet); border-left: 1px solid var(--hairline); border-right: 1px solid var(--hairline); }
    header { display: flex; align-items: center; gap: 8px; height: 40px; padding: 0 12px; border-bottom: 1px solid var(--hairline); flex: none; overflow: hidden; }
    header strong { font-size: 14px; }
    .count { color: var(--ink-two); }
    p-button { margin-left: auto; }
    .list { flex: 1; min-height: 0; overflow: auto; padding-bottom: 12px; }
    footer { display: flex; flex: none; flex-wrap: wrap; align-items: center; justify-content: space-between; gap: 10px; min-height: 43px; padding: 4px 14px; border-top: 1px solid var(--hairline); color: var(--ink-two); }
    footer .all { margin-left: auto; }
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
    .rev, .sum { color: var(--ink-two); }
    .row.of { padding-left: 30px; content-visibility: auto; contain-intrinsic-height: 46px; }
    .all { margin: 2px 14px 8px 44px; }
    .row .pi { padding: 0; font-size: 12px; }
    .list > .pi { display: block; padding: 7px 14px; color: var(--ink-two); }
    .empty { padding: 20px 16px; color: var(--ink-two); }
    .empty p + p { margin-top: 8px; }
  `,
})
export class CopiesLane {
  private readonly impact = inject(Impact);
  readonly copies = input.required<readonly CopyView[]>();
  /** What is being derived, waits for it, or could not be derived. */
  readonly derivations = input<readonly DerivationView[]>([]);
  readonly masterId = input.required<string>();
  readonly selected = input<string | null>(null);
  readonly narrow = input(false);
  readonly choose = output<string>();
  readonly derive = output<void>();
  /** All that are behind are to be derived again. */
  readonly deriveBehind = output<void>();
  /** All variants of a series are to go. */
  readonly withdrawSeries = output<{ readonly id: string; readonly label: string; readonly count: number }>();
  /** Its key was pressed here: it wants the room. */
  readonly widened = output<void>();

  /** The end of a name tells revision, version and format: it is shown however long the rest is. */
  protected readonly tailOf = (file: string): string => /(_r\d+(_[^_.]+)?)?\.[^.]+$/.exec(file)?.[0] ?? file;
  protected readonly groups = computed(() => {
    const known = new Set(this.copies().map(({ recipe }) => recipe));
    const fresh = this.derivations().filter(({ recipe }) => !known.has(recipe));
    return GROUPS.map((group) => ({
      ...group,
      lines: linesOf(this.copies().filter((copy) => copy.group === group.id)),
      derivations: fresh.filter((one) => one.group === group.id),
    })).filter(({ lines, derivations }) => lines.length || derivations.length);
  });
  /** What derives a copy again just now, waits to, or could not. */
  protected underWay = ({ recipe }: CopyView): DerivationView | undefined =>
    this.derivations().find((one) => one.recipe === recipe);

  /** How many are behind, and nobody derives them already. */
  protected readonly behind = computed(
    () => this.copies().filter((copy) => copy.verdict === 'behind' && !this.underWay(copy)).length,
  );
  protected again = (count: number): string =>
    count === 1 ? 'Derive it again' : count === 2 ? 'Derive both again' : `Derive all ${count} again`;

  /** Series that lie open. */
  private readonly open = signal<ReadonlySet<string>>(new Set());
  /** One whose copy is looked at is open by itself. */
  protected isOpen = ({ id, copies }: Line): boolean => this.open().has(id) || copies.some((one) => one.id === this.selected());
  protected toggle({ id }: Line): void {
    this.open.update((all) => new Set(all.has(id) ? [...all].filter((one) => one !== id) : [...all, id]));
  }
  protected worst = (line: Line): VerdictName => worstOf(line, this.shown);
  protected sumOf = (line: Line): string => sumOf(line, this.shown);
  /** A variant is called by its row alone where its series stands over it. */
  protected nameOf = ({ label, series }: CopyView): string =>
    series && label.startsWith(`${series.label} `) ? label.slice(series.label.length + 1) : label;

  protected pending = (copy: CopyView): boolean => copy.verdict === 'in step' && this.impact.outdated().has(copy.id);
  protected shown = (copy: CopyView): VerdictName => (this.pending(copy) ? 'behind' : copy.verdict);
}
