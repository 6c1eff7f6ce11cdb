import { ChangeDetectionStrategy, Component, effect, input, linkedSignal, output, signal, untracked } from '@angular/core';
import { InputText } from 'primeng/inputtext';
import type { Checked } from './checked';
import { typedIn } from './typed';

/** A field that is checked as one types: what is wrong is said below it and stays as it was typed, what is right is taken over. */
@Component({
  selector: 'twin-checked',
  imports: [InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="field">
      <input
        pInputText
        pSize="small"
        spellcheck="false"
        autocomplete="off"
        [value]="text()"
        [placeholder]="placeholder()"
        (input)="take(typedIn($event))"
        (blur)="leave()"
        [attr.aria-label]="label()"
        [attr.aria-invalid]="wrong() ? 'true' : null"
      />
      {{ unit() }}
    </span>
    @if (wrong()) {
      <em role="alert">{{ wrong() }}.</em>
    }
  `,
  styles: `
    :host { display: inline-flex; flex-direction: column; min-width: 0; }
    .field { display: inline-flex; align-items: center; gap: 6px; }
    input { width: var(--wide, 92px); min-width: 0; font-family: var(--mono); font-size: 12.5px; }
    [aria-invalid] { border-color: var(--ink); border-left-width: 3px; }
    em { max-width: 240px; padding-top: 2px; color: var(--ink); font-style: normal; font-size: 12.5px; }
  `,
})
export class CheckedField<T> {
  readonly label = input.required<string>();
  /** What stands there where nothing else was typed. */
  readonly value = input.required<string>();
  readonly unit = input('');
  readonly placeholder = input('');
  readonly check = input.required<(text: string) => Checked<T>>();
  readonly taken = output<T>();
  /** What is wrong with it, each time that this changes. */
  readonly problem = output<string>();

  protected readonly typedIn = typedIn;
  protected readonly text = linkedSignal(() => this.value());
  protected readonly wrong = signal('');

  constructor() {
    // What is set from elsewhere is right.
    effect(() => {
      this.value();
      untracked(() => this.say(''));
    });
  }

  private say(wrong: string): void {
    if (wrong === this.wrong()) return;
    this.wrong.set(wrong);
    this.problem.emit(wrong);
  }

  protected take(text: string): void {
    this.text.set(text);
    const found = this.check()(text);
    this.say('wrong' in found ? found.wrong : '');
    if ('value' in found) this.taken.emit(found.value);
  }

  /** What is right stands there as it is written. */
  protected leave(): void {
    if (!this.wrong()) this.text.set(this.value());
  }
}
