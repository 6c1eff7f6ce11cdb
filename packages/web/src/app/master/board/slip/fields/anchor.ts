import { ChangeDetectionStrategy, Component, computed } from '@angular/core';
import { type Anchor, SPOTS, findNode, nodeInWords } from '@inkwell-twin/core/web';
import { Pick, type Pickable } from '../../../../shared/pick';
import { FieldFace } from '../field-face';

/** An end of a dimension: a place of the object that it is tied to, or one on the board. */
@Component({
  selector: 'twin-anchor-face',
  imports: [Pick],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <twin-pick
      [label]="field().label"
      [options]="options()"
      [value]="anchor()?.spot ?? ''"
      [fixed]="room.fixed() || !anchor()"
      [plain]="true"
      (chosen)="take($event)"
    />
  `,
})
export class AnchorFace extends FieldFace {
  protected readonly anchor = computed(() => {
    const anchor = this.value() as Anchor;
    return 'of' in anchor ? anchor : null;
  });
  protected readonly options = computed((): readonly Pickable[] => {
    const anchor = this.anchor();
    if (!anchor) return [{ value: '', label: 'a place on the board' }];
    const node = findNode(this.room.master(), anchor.of);
    const name = node ? nodeInWords(node) : 'what is gone';
    return Object.keys(SPOTS).map((spot) => ({ value: spot, label: `${spot} of ${name}` }));
  });

  protected take(spot: string): void {
    const anchor = this.anchor();
    if (anchor) this.set({ of: anchor.of, spot });
  }
}
