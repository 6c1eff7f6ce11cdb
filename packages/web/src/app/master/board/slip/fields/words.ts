import { ChangeDetectionStrategy, Component } from '@angular/core';
import { InputText } from 'primeng/inputtext';
import { typedIn } from '../../../../shared/typed';
import { FieldFace } from '../field-face';

/** A short text. */
@Component({
  selector: 'twin-words-face',
  imports: [InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <input
      pInputText
      pSize="small"
      class="plain"
      [fluid]="true"
      [value]="text()"
      [placeholder]="field().unsaid ?? ''"
      (change)="set(typedIn($event) || undefined)"
      [disabled]="room.fixed()"
      maxlength="50"
      [attr.aria-label]="field().label"
    />
  `,
})
export class WordsFace extends FieldFace {
  protected readonly typedIn = typedIn;
}
