import { ChangeDetectionStrategy, Component, computed } from '@angular/core';
import { Pick, pickByName } from '../../../../shared/pick';
import { valueOf } from '../fields';
import { FieldFace } from '../field-face';

/** A column of the table that another field names, or none where that may be. */
@Component({
  selector: 'twin-column-face',
  imports: [Pick],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <twin-pick
      [label]="field().label"
      [options]="options()"
      [value]="text()"
      [fixed]="room.fixed()"
      [plain]="true"
      (chosen)="set($event || undefined)"
    />
  `,
})
export class ColumnFace extends FieldFace {
  protected readonly options = computed(() => {
    const { of, unsaid } = this.field();
    const table = of && valueOf(this.item(), of);
    const columns = this.room.master().tables?.find(({ id }) => id === table)?.columns ?? [];
    return [{ value: '', label: unsaid ?? '' }, ...pickByName(columns)];
  });
}
