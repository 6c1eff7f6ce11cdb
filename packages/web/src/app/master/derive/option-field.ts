import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Checkbox } from 'primeng/checkbox';
import { InputText } from 'primeng/inputtext';
import type { OptionView } from '@inkwell-twin/api';
import { Choice } from '../../shared/choice';

export type OptionValue = string | number | boolean;

/** One option of a target, as its schema describes it: a number in its range, one of some words, yes or no, or text. */
@Component({
  selector: 'twin-option-field',
  imports: [Checkbox, Choice, FormsModule, InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @switch (option().kind) {
      @case ('choice') {
        <span class="cap" [title]="option().words">{{ called() }}</span>
        <twin-choice
          [label]="option().words"
          [choices]="option().choices"
          [value]="'' + value()"
          (chosen)="changed.emit($event)"
        />
      }
      @case ('yes or no') {
        <label class="cap" [for]="id()">{{ called() }}</label>
        <p-checkbox [binary]="true" [inputId]="id()" [ngModel]="value()" (ngModelChange)="changed.emit($event)" />
      }
      @case ('number') {
        <label class="cap" [for]="id()">{{ called() }}</label>
        <input
          pInputText
          class="mono"
          inputmode="decimal"
          [id]="id()"
          [value]="value()"
          (change)="number($any($event.target))"
          [attr.aria-describedby]="id() + '-words'"
        />
        <span class="unit">{{ option().unit }}</span>
      }
      @default {
        <label class="cap" [for]="id()">{{ called() }}</label>
        <input pInputText [id]="id()" [value]="value()" (change)="changed.emit($any($event.target).value)" />
      }
    }
    @if (!speaks()) {
      <em [id]="id() + '-words'">{{ option().words }}{{ range() }}</em>
    }
    @if (wrong()) {
      <p class="wrong" role="alert">{{ wrong() }}</p>
    }
  `,
  styles: `
    :host { display: flex; flex-wrap: wrap; align-items: center; gap: 6px 10px; padding: 3px 0; }
    .cap { width: 84px; color: var(--ink-two); }
    .cap::first-letter { text-transform: uppercase; }
    input { width: 72px; padding: 2px 8px; }
    .unit { margin-left: -4px; color: var(--ink-two); }
    /* A row of choices breaks within itself, beside what it is called. */
    twin-choice { max-width: calc(100% - 94px); }
    em { color: var(--ink-three); font-style: normal; font-size: 12.5px; }
    .wrong { width: 100%; padding-left: 8px; border-left: 3px solid var(--ink); }
  `,
})
export class OptionField {
  readonly option = input.required<OptionView>();
  readonly value = input.required<OptionValue>();
  readonly changed = output<OptionValue>();
  protected readonly wrong = signal('');

  /** Choices with words of their own need none beside them. */
  protected speaks = (): boolean => this.option().choices.some(({ value, label }) => value !== label);
  /** Its name as words. */
  protected called = (): string => this.option().name.replaceAll(/(?<=[a-z])[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);
  protected id = (): string => `option-${this.option().name}`;

  protected range(): string {
    const { kind, min, max } = this.option();
    return kind === 'number' && min !== null && max !== null ? ` (${min} to ${max})` : '';
  }

  /** A number with a decimal point or comma, inside the range; what is not one is said and put back. */
  protected number(field: HTMLInputElement): void {
    const { min, max, whole } = this.option();
    const value = Number(field.value.trim().replace(',', '.'));
    const fits =
      field.value.trim() !== '' &&
      Number.isFinite(value) &&
      value >= (min ?? -Infinity) &&
      value <= (max ?? Infinity) &&
      (!whole || Number.isInteger(value));
    this.wrong.set(
      fits ? '' : `“${field.value}” is not ${whole ? 'a whole number' : 'a number'} from ${min ?? '…'} to ${max ?? '…'}.`,
    );
    if (fits) this.changed.emit(value);
    else field.value = String(this.value());
  }
}
