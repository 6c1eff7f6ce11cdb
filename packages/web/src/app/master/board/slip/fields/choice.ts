import { ChangeDetectionStrategy, Component, computed } from '@angular/core';
import { Pick, pickables } from '../../../../shared/pick';
import { FieldFace } from '../field-face';

/** One of the values that the field names; the first where nothing is said. */
@Component({
  selector: 'twin-choice-face',
  imports: [Pick],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <twin-pick
      [label]="field().label"
      [options]="options()"
      [value]="text() || options()[0]?.value"
      [fixed]="room.fixed()"
      [plain]="true"
      (chosen)="set($event)"
    />
  `,
})
export class ChoiceFace extends FieldFace {
  protected readonly options = computed(() => pickables(this.field().choices ?? []));
}
