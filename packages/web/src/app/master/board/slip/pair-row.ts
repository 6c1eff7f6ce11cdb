import { ChangeDetectionStrategy, Component, inject, input, linkedSignal, output } from '@angular/core';
import { Failure } from '@inkwell-twin/core/web';
import { InputText } from 'primeng/inputtext';
import { typedIn } from '../../../shared/typed';
import { readAmount } from '../amount-field';
import { SlipRoom } from './slip-room';

/** Two lengths across and up, mm, that are taken together: a size, or a way to go. */
@Component({
  selector: 'twin-pair-row',
  imports: [InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span>{{ title() }}</span>
    <span class="pair">
      @for (side of sides(); track side.label; let at = $index) {
        <input
          pInputText
          pSize="small"
          class="mono"
          inputmode="decimal"
          [value]="typed()[at]"
          (input)="keep(at, typedIn($event))"
          (change)="act() || take()"
          [disabled]="room.fixed()"
          [attr.aria-label]="side.label"
        />
        {{ side.sign }}
      }
      @if (act(); as word) {
        <button type="button" class="link" [disabled]="room.fixed()" (click)="take()">{{ word }}</button>
      }
    </span>
  `,
  styles: `
    :host { display: grid; grid-template-columns: 76px minmax(0, 1fr); align-items: center; gap: 6px; min-height: 28px; }
    :host > span { color: var(--ink-two); }
    .pair { display: flex; align-items: center; gap: 4px; white-space: nowrap; }
    input { width: 52px; min-width: 0; padding: 2px 5px; border-color: var(--hairline-soft); background: none; }
    .pair:has(button) input { width: 40px; }
  `,
})
export class PairRow {
  protected readonly room = inject(SlipRoom);
  readonly title = input.required<string>();
  readonly sides = input.required<readonly { readonly label: string; readonly sign: string }[]>();
  /** What stands there, mm. */
  readonly values = input.required<readonly [number, number]>();
  readonly least = input(-Infinity);
  /** The word on a button; without one a value is taken as it is left. */
  readonly act = input('');
  readonly taken = output<readonly [number, number]>();

  protected readonly typedIn = typedIn;
  protected readonly typed = linkedSignal(() => this.values().map((value) => String(Number(value.toFixed(2)))));

  protected keep(at: number, text: string): void {
    this.typed.update((all) => all.map((one, i) => (i === at ? text : one)));
  }

  /** A length as it was typed, mm; what is none is said. */
  private read(at: number): number | undefined {
    const [text, { label }, least] = [this.typed()[at]!, this.sides()[at]!, this.least()];
    try {
      const { value } = readAmount(text, this.room.master(), 'length');
      if (value >= least) return value;
      this.room.say(`${label}: “${text}” is not at least ${least}.`);
    } catch (error) {
      if (!(error instanceof Failure)) throw error;
      this.room.say(`${label}: ${error.message}`);
    }
    return undefined;
  }

  protected take(): void {
    this.room.say('');
    const [across, up] = [this.read(0), this.read(1)];
    if (across !== undefined && up !== undefined) this.taken.emit([across, up]);
  }
}
