import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Person } from '../services/person';

/** Asks once, in a browser where nobody said it yet, who sits here. */
@Component({
  selector: 'twin-who',
  imports: [Button, FormsModule, InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (!person.known()) {
      <form (ngSubmit)="person.rename(name)" aria-label="Your name">
        <label for="who">Your name, as it stands on what you begin and change</label>
        <input pInputText pSize="small" id="who" name="who" [(ngModel)]="name" maxlength="80" autocomplete="name" />
        <p-button type="submit" size="small" severity="secondary" [outlined]="true" label="That is me" [disabled]="!name.trim()" />
      </form>
    }
  `,
  styles: `
    form { display: flex; flex-wrap: wrap; align-items: center; gap: 6px 12px; margin-bottom: 12px; color: var(--ink-two); }
    input { width: 190px; }
  `,
})
export class Who {
  protected readonly person = inject(Person);
  protected name = this.person.name();
}
