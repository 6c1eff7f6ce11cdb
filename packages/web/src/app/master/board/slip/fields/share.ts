import { ChangeDetectionStrategy, Component, computed } from '@angular/core';
import { InputText } from 'primeng/inputtext';
import { FieldFace } from '../field-face';

/** A share of a whole, in percent. All of it is nothing worth saying. */
@Component({
  selector: 'twin-share-face',
  imports: [InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <input
      pInputText
      pSize="small"
      class="mono"
      inputmode="decimal"
      [value]="percent()"
      (change)="take($event)"
      [disabled]="room.fixed()"
      [attr.aria-label]="field().label"
    />
    %
  `,
  styleUrl: './measure.css',
})
export class ShareFace extends FieldFace {
  protected readonly percent = computed(() => {
    const value = this.value();
    return String(Number((100 * (typeof value === 'number' ? value : 1)).toFixed(1)));
  });

  protected take(event: Event): void {
    const input = event.target as HTMLInputElement;
    const value = Number(input.value.trim().replace(',', '.').replace('%', '')) / 100;
    if (input.value.trim() !== '' && value >= 0 && value <= 1) return this.set(value === 1 ? undefined : value);
    this.room.say(`${this.field().label}: “${input.value}” is not from 0 to 100 percent.`);
    input.value = this.percent();
  }
}
