import { ChangeDetectionStrategy, Component, computed } from '@angular/core';
import { type Command, setAttribute, setFormula } from '@inkwell-twin/core/web';
import { type Amount, AmountField } from '../../amount-field';
import { FieldFace } from '../field-face';

/** A number with its unit, or how one is computed. */
@Component({
  selector: 'twin-number-face',
  imports: [AmountField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <twin-amount
      [master]="room.master()"
      [label]="field().label"
      [value]="number()"
      [formula]="formula()"
      [unit]="field().unit ?? ''"
      [wanted]="wanted()"
      [least]="field().least"
      [most]="field().most"
      [unsaid]="field().unsaid"
      [fixed]="room.fixed()"
      [problem]="room.problems()[field().attribute] ?? ''"
      (changed)="amount($event)"
      (trial)="room.tryOut($event && command($event).patches)"
    />
  `,
})
export class NumberFace extends FieldFace {
  protected readonly number = computed(() => {
    const value = this.value();
    return typeof value === 'number' ? value : undefined;
  });
  protected readonly wanted = computed(() => {
    const { unit } = this.field();
    return unit === 'mm' ? 'length' : unit === '°' ? 'angle' : 'number';
  });

  /** The step that gives the attribute what was typed. */
  protected command(amount: Amount): Command {
    const [master, { id }, { attribute }] = [this.room.master(), this.item(), this.field()];
    if ('nothing' in amount) return setAttribute(master, id, attribute, undefined);
    if ('value' in amount) return setAttribute(master, id, attribute, amount.value);
    return setFormula(master, id, attribute, amount.formula);
  }

  protected amount(amount: Amount): void {
    const formula = this.formula();
    const same =
      'formula' in amount
        ? amount.formula === formula
        : formula === undefined && ('nothing' in amount ? undefined : amount.value) === this.value();
    if (!same) this.room.send(this.command(amount));
  }
}
