import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { Master } from '@inkwell-twin/core/web';
import { MenuButton } from '../../shared/menu-button';
import { Pick, pickByName } from '../../shared/pick';
import { drawingTools } from './drawing';
import { additionsTo } from './new-item';

/** Pixels of a millimetre at its true size, as the web counts them: 96 to an inch. */
const TRUE_SIZE = 96 / 25.4;

/** At the foot of the stage: what can be drawn, on which layer, and how the board is looked at. */
@Component({
  selector: 'twin-foot-bar',
  imports: [MenuButton, Pick],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (!fixed()) {
      <div role="toolbar" aria-label="Draw">
        <span class="word">Draw a</span>
        @for (one of tools(); track one.id) {
          <button
            type="button"
            class="link"
            [class.armed]="armed() === one.id"
            [attr.aria-pressed]="armed() === one.id"
            (click)="draw.emit(armed() === one.id ? null : one.id)"
          >
            {{ one.label }}
          </button>
        }
        @if (additions().length) {
          <twin-menu-button label="Place" name="Place on the board" [options]="additions()" (chosen)="place.emit($event)" />
        }
        @if (layers().length > 1) {
          <span class="word">on the layer</span>
          <twin-pick label="Layer that takes what is drawn" [options]="layers()" [value]="layer()" [plain]="true" (chosen)="layered.emit($event)" />
        }
      </div>
    }
    <span class="gap"></span>
    @if (pointer(); as at) {
      <span class="reading pointer" title="Where the pointer is, mm">{{ at[0].toFixed(1) }}, {{ at[1].toFixed(1) }}</span>
    }
    <div class="zoom" role="group" aria-label="View of the board">
      <button type="button" (click)="zoom.emit(0.8)" aria-label="Farther" title="Farther">−</button>
      <span class="reading">{{ percent() }} %</span>
      <button type="button" (click)="zoom.emit(1.25)" aria-label="Closer" title="Closer">+</button>
      <button type="button" class="link" (click)="whole.emit()" title="Show the whole board">Whole</button>
    </div>
  `,
  styles: `
    :host { display: flex; flex: none; flex-wrap: wrap; align-items: center; gap: 2px 10px; min-height: 43px; padding: 4px 14px; border-top: 1px solid var(--hairline); background: var(--sheet); color: var(--ink-two); }
    [role='toolbar'] { display: flex; flex-wrap: wrap; align-items: center; gap: 0 10px; }
    .armed { text-decoration: underline; text-underline-offset: 4px; text-decoration-thickness: 2px; }
    .link { min-height: 26px; }
    .gap { flex: 1; }
    @container (max-width: 760px) { .word { display: none; } }
    .reading { font-family: var(--mono); font-size: 12px; }
    .zoom { display: flex; align-items: center; gap: 8px; }
    .zoom .reading { min-width: 46px; text-align: center; }
    .zoom button:not(.link) { width: 28px; height: 27px; border: 1px solid var(--hairline); border-radius: 6px; background: var(--raised); color: var(--ink); cursor: pointer; }
    .zoom button:not(.link):hover { background: var(--action-soft); }
  `,
})
export class FootBar {
  readonly master = input.required<Master>();
  readonly fixed = input(false);
  /** The tool that is in hand. */
  readonly armed = input<string | null>(null);
  /** The layer that takes what is drawn. */
  readonly layer = input.required<string>();
  /** Pixels of the screen to a millimetre of the board. */
  readonly scale = input.required<number>();
  /** Where the pointer is on the board, mm; null where it is not on the stage. */
  readonly pointer = input<readonly [number, number] | null>(null);
  readonly draw = output<string | null>();
  readonly place = output<string>();
  readonly layered = output<string>();
  readonly zoom = output<number>();
  readonly whole = output<void>();

  protected readonly tools = computed(() => drawingTools().filter(({ needs }) => !needs || this.master()[needs]?.length));
  protected readonly additions = computed(() => {
    const byHand = new Set(drawingTools().map(({ kind }) => kind));
    const others = additionsTo(this.master()).filter(({ kind }) => !byHand.has(kind));
    return others.map(({ kind, label }) => ({ value: kind, label }));
  });
  protected readonly layers = computed(() =>
    pickByName(this.master().layers.filter(({ visible, locked }) => visible && !locked)),
  );
  protected readonly percent = computed(() => Math.round((100 * this.scale()) / TRUE_SIZE));
}
