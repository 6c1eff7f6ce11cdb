import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RadioButton } from 'primeng/radiobutton';

let groups = 0;

/** One of a few: a row of radio buttons that the arrow keys walk along. */
@Component({
  selector: 'twin-choice',
  imports: [FormsModule, RadioButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { role: 'radiogroup', '[attr.aria-label]': 'label()' },
  template: `
    @for (one of choices(); track one.value; let at = $index) {
      <span [class.on]="one.value === value()">
        <p-radiobutton
          [name]="group"
          [inputId]="group + at"
          [value]="one.value"
          [ngModel]="value()"
          (ngModelChange)="chosen.emit($event)"
          size="small"
        />
        <label [for]="group + at">{{ one.words }}</label>
      </span>
    }
  `,
  styles: `
    :host { display: flex; flex-wrap: wrap; gap: 4px 16px; }
    span { display: inline-flex; align-items: center; gap: 6px; color: var(--ink-two); }
    label { cursor: pointer; }
    .on { color: var(--ink); font-weight: 600; }
  `,
})
export class Choice {
  readonly label = input.required<string>();
  readonly choices = input.required<readonly { readonly value: string; readonly words: string }[]>();
  readonly value = input.required<string>();
  readonly chosen = output<string>();
  protected readonly group = `choice-${groups++}-`;
}
