import { ChangeDetectionStrategy, Component } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Checkbox } from 'primeng/checkbox';
import { FieldFace } from '../field-face';

/** There or not. */
@Component({
  selector: 'twin-yes-face',
  imports: [Checkbox, FormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p-checkbox
      [binary]="true"
      size="small"
      [ngModel]="value() === true"
      (ngModelChange)="set($event || undefined)"
      [disabled]="room.fixed()"
      [ariaLabel]="field().label"
    />
  `,
})
export class YesFace extends FieldFace {}
