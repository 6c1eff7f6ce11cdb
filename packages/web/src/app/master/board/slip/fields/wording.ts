import { ChangeDetectionStrategy, Component, computed } from '@angular/core';
import { type Patch, type TextItem, hasSlots, setAttribute, setPart } from '@inkwell-twin/core/web';
import { FieldFace } from '../field-face';
import { type PartChange, WordingField } from '../wording-field';

/** The wording of a text, whose parts may look otherwise. */
@Component({
  selector: 'twin-wording-face',
  imports: [WordingField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <twin-wording-field
      [item]="kept()"
      [label]="field().label"
      [fixed]="room.fixed()"
      (changed)="take($event)"
      (partChanged)="part($event)"
      (wrong)="room.say($event)"
    />
  `,
})
export class WordingFace extends FieldFace {
  /** Only a text has a field of this kind. */
  protected readonly kept = computed(() => this.room.kept(this.item()) as TextItem);

  /** It is filled in where it names parameters in braces, and there are some. */
  protected take(text: string): void {
    const [item, master] = [this.kept(), this.room.master()];
    if (text === item.text) return;
    const command = setAttribute(master, item.id, 'text', text);
    const slots = hasSlots(text) && (master.parameters?.length ?? 0) > 0;
    const filled: Patch[] =
      slots === (item.slots === true) ? [] : [{ op: 'set', node: item.id, attribute: 'slots', value: slots ? true : undefined }];
    this.room.send({ ...command, patches: [...command.patches, ...filled] });
  }

  protected part({ from, to, change }: PartChange): void {
    this.room.send(setPart(this.room.master(), this.item().id, from, to, change));
  }
}
