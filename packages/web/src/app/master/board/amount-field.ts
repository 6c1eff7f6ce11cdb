import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { Failure, type Master, numberOf, readExpression, scopeOfMaster } from '@inkwell-twin/core/web';
import { InputText } from 'primeng/inputtext';

/** What was typed: a number, or how one is computed of parameters. */
export type Amount = { readonly value: number } | { readonly formula: string } | { readonly nothing: true };

type Wanted = 'length' | 'angle' | 'number';

/** Reads what was typed as an amount. @throws Failure `formula` in words */
export function readAmount(text: string, master: Master, wanted: Wanted): { amount: Amount; value: number } {
  const plain = text.trim().replace(/^([+-]?\d+),(\d+)$/, '$1.$2');
  const expression = readExpression(plain);
  const scope = scopeOfMaster(master);
  const value = Number(numberOf(expression.evaluate(scope.named), wanted).toFixed(9));
  return expression.names.size ? { amount: { formula: plain }, value } : { amount: { value }, value };
}

/** A field for an amount: `12`, `3/8 in`, `width / 2 - 4`. What can't be computed is said below it, and stays to be mended. */
@Component({
  selector: 'twin-amount',
  imports: [InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="measure">
      <input pInputText pSize="small"
        class="mono"
        spellcheck="false"
        autocomplete="off"
        [value]="shown()"
        [placeholder]="unsaid() ?? ''"
        [class.computed]="!!formula()"
        [disabled]="fixed()"
        [attr.aria-label]="label()"
        [attr.aria-invalid]="problem() || wrong() ? 'true' : null"
        [title]="formula() ? 'Computed: ' + short(value()) + ' ' + unit() : ''"
        (input)="tried($event)"
        (change)="taken($event)"
        (keydown.escape)="back($event)"
      />
      {{ unit() }}
    </span>
    @if (problem() || wrong(); as words) {
      <em role="alert">{{ words }}</em>
    } @else if (formula()) {
      <em>= {{ short(value()) }} {{ unit() }}</em>
    }
  `,
  styles: `
    :host { display: block; min-width: 0; }
    .measure { display: flex; align-items: center; justify-content: var(--at, flex-start); gap: 6px; color: var(--ink-two); }
    input { width: var(--wide, 84px); min-width: 0; padding: 2px 6px; border: 1px solid var(--hairline-soft); border-radius: 4px; background: none; color: var(--ink); font-size: 13px; }
    input:hover, input:focus { border-color: var(--hairline); background: var(--sheet); }
    .computed { width: 100%; border-style: dashed; border-color: var(--action); color: var(--action); }
    [aria-invalid] { border-color: var(--ink); border-left-width: 3px; }
    em { display: block; padding: 1px 6px 2px; font-style: normal; font-size: 12px; color: var(--ink-two); }
    em[role] { color: var(--ink); }
  `,
})
export class AmountField {
  readonly master = input.required<Master>();
  readonly label = input.required<string>();
  readonly value = input<number | null | undefined>();
  /** How it is computed, where it is; nothing of it where it is not. */
  readonly formula = input<string | null | undefined>();
  readonly unit = input('mm');
  readonly wanted = input<Wanted>('length');
  readonly least = input<number | undefined>();
  readonly most = input<number | undefined>();
  readonly unsaid = input<string | undefined>();
  readonly fixed = input(false);
  /** What is wrong with the formula that stands there, found outside. */
  readonly problem = input('');
  readonly changed = output<Amount>();
  /** While one types: what it would be; null where that can't be computed yet. */
  readonly trial = output<Amount | null>();

  protected readonly wrong = signal('');
  protected readonly short = (value: number | null | undefined): string =>
    value === null || value === undefined ? '' : String(Number(value.toFixed(3)));
  protected readonly shown = computed(() => this.formula() || this.short(this.value()));

  private read(text: string): Amount {
    if (!text.trim() && this.unsaid() !== undefined) return { nothing: true };
    const { amount, value } = readAmount(text, this.master(), this.wanted());
    const [least, most] = [this.least() ?? -1e6, this.most() ?? 1e6];
    if (value < least) throw new Failure('formula', `${this.short(value)} is below ${least}, which is the least.`);
    if (value > most) throw new Failure('formula', `${this.short(value)} is above ${most}, which is the most.`);
    return amount;
  }

  protected tried(event: Event): void {
    try {
      this.trial.emit(this.read((event.target as HTMLInputElement).value));
    } catch {
      this.trial.emit(null);
    }
  }

  protected taken(event: Event): void {
    const field = event.target as HTMLInputElement;
    this.trial.emit(null);
    try {
      const amount = this.read(field.value);
      this.wrong.set('');
      this.changed.emit(amount);
      // What was typed as 3/8 in stands there as what it is.
      if ('value' in amount) field.value = this.short(amount.value);
    } catch (error) {
      if (!(error instanceof Failure)) throw error;
      this.wrong.set(error.message);
    }
  }

  /** Gives up what was typed. */
  protected back(event: Event): void {
    const field = event.target as HTMLInputElement;
    if (field.value === this.shown() && !this.wrong()) return;
    event.stopPropagation();
    field.value = this.shown();
    this.wrong.set('');
    this.trial.emit(null);
  }
}
