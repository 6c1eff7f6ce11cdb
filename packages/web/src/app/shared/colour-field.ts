import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { ColorPicker } from 'primeng/colorpicker';
import { InputText } from 'primeng/inputtext';
import { Popover } from 'primeng/popover';

const HEX = /^#?([0-9a-f]{3}|[0-9a-f]{6})$/i;

/** Reads a colour as it is typed: `#2b4180`, `2B4180`, `#24f`. @returns six digits in lower case after `#`, or null where it is none */
function readColour(text: string): string | null {
  const digits = HEX.exec(text.trim())?.[1]?.toLowerCase();
  if (!digits) return null;
  return `#${digits.length === 3 ? [...digits].map((digit) => digit + digit).join('') : digits}`;
}

/** A colour: picked from a field of colours, or typed. */
@Component({
  selector: 'twin-colour',
  imports: [ColorPicker, FormsModule, InputText, Popover],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button
      type="button"
      class="swatch"
      [style.background]="held() ?? value()"
      [disabled]="fixed()"
      (click)="picker.toggle($event)"
      [attr.aria-label]="label() + ', pick'"
      title="Pick a colour"
    ></button>
    <p-popover #picker appendTo="body" (onHide)="take(held() ?? value())">
      <p-colorpicker [inline]="true" [ngModel]="value()" (ngModelChange)="held.set($event)" />
    </p-popover>
    <input
      pInputText
      pSize="small"
      class="mono"
      spellcheck="false"
      autocomplete="off"
      maxlength="7"
      [value]="value()"
      (change)="typed($event)"
      [disabled]="fixed()"
      [attr.aria-label]="label()"
      [attr.aria-invalid]="wrong() || null"
      [title]="wrong() ? 'A colour is # and six digits or letters from a to f, such as #2b4180.' : ''"
    />
  `,
  styles: `
    :host { display: inline-flex; align-items: center; gap: 5px; min-width: 0; }
    .swatch { flex: none; width: 24px; height: 22px; padding: 0; border: 1px solid var(--hairline); border-radius: 4px; cursor: pointer; }
    input { width: 74px; min-width: 0; padding: 2px 5px; border-color: var(--hairline-soft); background: none; }
    [aria-invalid] { border-color: var(--ink); border-left-width: 3px; }
  `,
})
export class ColourField {
  readonly label = input.required<string>();
  readonly value = input.required<string>();
  readonly fixed = input(false);
  readonly changed = output<string>();

  /** What the picker stands at while it is open. */
  protected readonly held = signal<string | null>(null);
  protected readonly wrong = signal(false);

  protected take(colour: string): void {
    this.held.set(null);
    this.wrong.set(false);
    if (colour !== this.value()) this.changed.emit(colour);
  }

  protected typed(event: Event): void {
    const field = event.target as HTMLInputElement;
    const colour = readColour(field.value);
    if (!colour) return this.wrong.set(true);
    field.value = colour;
    this.take(colour);
  }
}
