import { ChangeDetectionStrategy, Component, computed } from '@angular/core';
import { Pick, pickByName } from '../../../../shared/pick';
import { partsOf } from '../fields';
import { FieldFace } from '../field-face';

/** A part of the master: a table, a solid, a text. */
@Component({
  selector: 'twin-part-face',
  imports: [Pick],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <twin-pick
      [label]="field().label"
      [options]="options()"
      [value]="text()"
      [fixed]="room.fixed()"
      [plain]="true"
      placeholder="gone"
      (chosen)="set($event)"
    />
  `,
})
export class PartFace extends FieldFace {
  protected readonly options = computed(() => pickByName(partsOf(this.room.master(), this.field().of)));
}
