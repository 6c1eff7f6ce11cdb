import { ChangeDetectionStrategy, Component, computed } from '@angular/core';
import { InputText } from 'primeng/inputtext';
import { FieldFace } from '../field-face';

/** Lengths by turns, parted by blanks: of dashes and of the gaps between them. None at all is a whole line. */
@Component({
  selector: 'twin-lengths-face',
  imports: [InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <input
      pInputText
      pSize="small"
      class="mono"
      placeholder="none"
      [value]="shown()"
      (change)="take($event)"
      [disabled]="room.fixed()"
      [attr.aria-label]="field().label"
    />
    {{ field().unit }}
  `,
  styleUrl: './measure.css',
})
export class LengthsFace extends FieldFace {
  protected readonly shown = computed(() => {
    const value = this.value();
    return (Array.isArray(value) ? value : []).map((length) => Number(Number(length).toFixed(3))).join(' ');
  });

  protected take(event: Event): void {
    const input = event.target as HTMLInputElement;
    const parts = input.value
      .trim()
      .replace(/mm|[;/]/g, ' ')
      .split(/\s+/)
      .filter(Boolean);
    const values = parts.map((part) => Number(part.replace(',', '.')));
    if (values.every((value) => value >= 0) && values.length <= 32) {
      // An odd list goes on with gaps and dashes changed about.
      const even = values.length % 2 ? [...values, ...values] : values;
      return this.set(even.some((value) => value > 0) ? even : undefined);
    }
    this.room.say(`${this.field().label}: “${input.value}” is not a list of lengths such as 2 1.`);
    input.value = this.shown();
  }
}
