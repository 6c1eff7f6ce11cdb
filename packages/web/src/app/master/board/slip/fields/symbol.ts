import { ChangeDetectionStrategy, Component, computed } from '@angular/core';
import { Pick, pickByName } from '../../../../shared/pick';
import { FieldFace } from '../field-face';

/** One of the master's symbols, or none where the field says what then stands there. */
@Component({
  selector: 'twin-symbol-face',
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
export class SymbolFace extends FieldFace {
  protected readonly options = computed(() => {
    const { unsaid } = this.field();
    return [...(unsaid ? [{ value: '', label: unsaid }] : []), ...pickByName(this.room.master().symbols)];
  });
}
