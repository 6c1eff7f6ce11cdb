import { ChangeDetectionStrategy, Component, computed } from '@angular/core';
import { type Paint, setAttribute, setFormula } from '@inkwell-twin/core/web';
import { Pick, pickables } from '../../../../shared/pick';
import { FieldFace } from '../field-face';
import { PaintField } from '../paint-field';

/** A colour, a gradient or a pattern; or a parameter that is a colour. */
@Component({
  selector: 'twin-paint-face',
  imports: [PaintField, Pick],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <twin-paint-field [paint]="paint()" [label]="field().label" [fixed]="room.fixed() || !!formula()" (changed)="set($event)" />
    @if (parameters().length > 1) {
      <twin-pick
        [label]="field().label + ' by a parameter'"
        [options]="parameters()"
        [value]="formula() ?? ''"
        [fixed]="room.fixed()"
        [plain]="true"
        (chosen)="by($event)"
      />
    }
  `,
  styles: `
    :host { display: block; min-width: 0; }
  `,
})
export class PaintFace extends FieldFace {
  protected readonly paint = computed(() => (this.value() as Paint | null | undefined) ?? null);
  protected readonly parameters = computed(() => {
    const colours = (this.room.master().parameters ?? []).filter(({ measure }) => measure === 'colour');
    return [{ value: '', label: 'as given here' }, ...pickables(colours.map(({ name }) => name))];
  });

  protected by(name: string): void {
    const [master, { id }, { attribute }] = [this.room.master(), this.item(), this.field()];
    this.room.send(name ? setFormula(master, id, attribute, name) : setAttribute(master, id, attribute, this.value()));
  }
}
