import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { AutoFocus } from 'primeng/autofocus';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { counted } from '../shared/words';

/** What becomes of changes when one goes. */
export type Leaving = 'keep' | 'update' | 'discard' | 'stay';

/** Asks what becomes of the changes that are in no revision yet, before one leaves the master. */
@Component({
  selector: 'twin-leaving',
  imports: [AutoFocus, Button, Dialog],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p-dialog
      [header]="counted(changes(), 'change') + ' in no revision yet'"
      [modal]="true"
      [visible]="true"
      (visibleChange)="decided.emit('stay')"
      [draggable]="false"
      [resizable]="false"
      [style]="{ width: '460px' }"
    >
      <p>
        “{{ title() }}” is at r{{ head() }}. Your draft is kept as it is and offered again when you come back, unless you decide
        otherwise.
      </p>
      <div class="ways">
        <p-button [pAutoFocus]="true" label="Leave it as a draft" (onClick)="decided.emit('keep')" />
        <p-button
          [label]="'Update master (r' + (head() + 1) + ')'"
          severity="secondary"
          [outlined]="true"
          [disabled]="!mayUpdate()"
          (onClick)="decided.emit('update')"
        />
        <button type="button" class="link" (click)="decided.emit('discard')">Throw the changes away</button>
        <button type="button" class="link" (click)="decided.emit('stay')">Stay here</button>
      </div>
    </p-dialog>
  `,
  styles: `
    p { margin: 0 0 16px; line-height: 1.5; }
    .ways { display: flex; flex-wrap: wrap; align-items: center; gap: 12px; }
  `,
})
export class LeavingPanel {
  readonly title = input.required<string>();
  readonly changes = input.required<number>();
  readonly head = input.required<number>();
  readonly mayUpdate = input.required<boolean>();
  readonly decided = output<Leaving>();
  protected readonly counted = counted;
}
