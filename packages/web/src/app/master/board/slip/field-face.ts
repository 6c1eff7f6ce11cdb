import { Directive, computed, inject, input } from '@angular/core';
import { type Field, type Item, setAttribute } from '@inkwell-twin/core/web';
import { valueOf } from './fields';
import { SlipRoom } from './slip-room';

/** How one kind of field is shown and set. */
@Directive()
export abstract class FieldFace {
  protected readonly room = inject(SlipRoom);
  readonly field = input.required<Field>();
  readonly item = input.required<Item>();

  protected readonly value = computed(() => valueOf(this.item(), this.field().attribute));
  /** The value of a field that holds text; nothing where it has none. */
  protected readonly text = computed(() => {
    const value = this.value();
    return typeof value === 'string' ? value : '';
  });
  protected readonly formula = computed(() => this.item().formulas?.[this.field().attribute]);

  /** Sets the attribute; nothing where it is so already. */
  protected set(value: unknown): void {
    this.room.say('');
    if (JSON.stringify(value) !== JSON.stringify(this.value()))
      this.room.send(setAttribute(this.room.master(), this.item().id, this.field().attribute, value));
  }
}
