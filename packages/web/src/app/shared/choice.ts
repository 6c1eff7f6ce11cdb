import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RadioButton } from 'primeng/radiobutton';
import type { Pickable } from './pick';

let groups = 0;

/** One of a few: a row of radio buttons that the arrow keys walk along. */
@Component({
  selector: 'twin-choice',
  imports: [FormsModule, RadioButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { role: 'radiogroup', '[attr.aria-label]': 'label()', '[class.chips]': "look() === 'chips'" },
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
        <label [for]="group + at">{{ one.label }}</label>
      </span>
    }
  `,
  styles: `
    :host { display: flex; flex-wrap: wrap; gap: 4px 16px; }
    span { display: inline-flex; align-items: center; gap: 6px; color: var(--ink-two); }
    label { cursor: pointer; }
    .on { color: var(--ink); font-weight: 600; }
    /* Chips: the button itself is there for the keyboard and for screen readers. */
    :host(.chips) { gap: 8px; margin-bottom: 9px; }
    :host(.chips) span { position: relative; border: 1px solid var(--hairline); border-radius: 14px; background: var(--raised); color: var(--ink); }
    :host(.chips) span:hover { border-color: var(--action); }
    :host(.chips) span:focus-within { outline: 2px solid var(--action); outline-offset: 2px; }
    :host(.chips) .on { border-color: var(--action); background: var(--action-soft); }
    :host(.chips) label { padding: 3px 11px; }
    :host(.chips) p-radiobutton { position: absolute; inset: 0; width: 100%; height: 100%; opacity: 0; }
  `,
})
export class Choice<T extends string> {
  readonly label = input.required<string>();
  readonly choices = input.required<readonly Pickable<T>[]>();
  readonly value = input.required<string>();
  /** Round buttons in a row, or small chips. */
  readonly look = input<'row' | 'chips'>('row');
  readonly chosen = output<T>();
  protected readonly group = `choice-${groups++}-`;
}
