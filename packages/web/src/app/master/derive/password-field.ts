import { ChangeDetectionStrategy, Component, computed, input, model, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Checkbox } from 'primeng/checkbox';
import { InputText } from 'primeng/inputtext';
import { passwordWeakness } from '@inkwell-twin/core/web';

/** A password that is typed once, can be looked at, and is told to be weak where it is. */
@Component({
  selector: 'twin-password-field',
  imports: [Checkbox, FormsModule, InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="cap" [for]="field()">Password</label>
    <input
      pInputText
      [id]="field()"
      [type]="seen() ? 'text' : 'password'"
      autocomplete="new-password"
      spellcheck="false"
      [ngModel]="value()"
      (ngModelChange)="value.set($event)"
      [ngModelOptions]="{ standalone: true }"
    />
    <label class="see">
      <p-checkbox [binary]="true" size="small" [ngModel]="seen()" (ngModelChange)="seen.set($event)" [ngModelOptions]="{ standalone: true }" />
      Show it
    </label>
    <em aria-live="polite">{{ words() }}</em>
  `,
  styles: `
    :host { display: flex; flex-wrap: wrap; align-items: center; gap: 6px 10px; padding: 3px 0; }
    .cap { width: 84px; color: var(--ink-two); }
    input { width: 190px; padding: 2px 8px; }
    .see { display: inline-flex; align-items: center; gap: 6px; }
    em { color: var(--ink-two); font-style: normal; font-size: 12.5px; }
  `,
})
export class PasswordField {
  readonly value = model('');
  /** Its id on the page. */
  readonly field = input('password');
  /** With what it locks. */
  readonly cipher = input.required<string>();
  protected readonly seen = signal(false);
  protected readonly words = computed(() =>
    this.value()
      ? passwordWeakness(this.value()) ||
        `Locks with ${this.cipher()}. The workshop keeps it, to check the copy and to derive it again.`
      : 'Without one, everybody can open the copy.',
  );
}
