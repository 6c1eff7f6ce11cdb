import { ChangeDetectionStrategy, Component, inject, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { PURPOSES } from '@inkwell-twin/core/web';
import { Api } from '../services/api.service';
import { Person } from '../services/person';

/** Starts an empty master from a purpose. */
@Component({
  selector: 'twin-new-master',
  imports: [FormsModule, Button, InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="start()" aria-label="New master">
      <label for="title">What is it?</label>
      <input
        id="title"
        pInputText
        name="title"
        [(ngModel)]="title"
        placeholder="Gate sign, north entrance"
        maxlength="200"
        required
      />
      <fieldset>
        <legend>What is it for?</legend>
        @for (one of purposes; track one.id) {
          <label [class.on]="one.id === purpose()">
            <input
              type="radio"
              name="purpose"
              class="unseen"
              [value]="one.id"
              [checked]="one.id === purpose()"
              (change)="purpose.set(one.id)"
            />
            {{ one.label }} <span>{{ one.width.toFixed(0) }} × {{ one.height.toFixed(0) }} mm</span>
          </label>
        }
      </fieldset>
      <p-button type="submit" label="Start master" [disabled]="!title.trim()" />
      <button type="button" class="link" (click)="closed.emit()">Not now</button>
      @if (problem()) {
        <p role="alert">{{ problem() }}</p>
      }
    </form>
  `,
  styles: `
    form { display: flex; flex-wrap: wrap; align-items: end; gap: 10px 16px; margin-top: 14px; padding: 14px 16px; border: 1px solid var(--hairline); border-radius: 8px; background: var(--raised); }
    form > label { width: 100%; font-weight: 600; }
    input[pInputText] { width: 300px; }
    fieldset { display: flex; gap: 8px; margin: 0; padding: 0; border: 0; }
    legend { float: left; padding: 5px 8px 0 0; color: var(--ink-two); }
    fieldset label { padding: 5px 12px; border: 1px solid var(--hairline); border-radius: 16px; cursor: pointer; }
    fieldset label span { color: var(--ink-three); }
    fieldset label.on { border-color: var(--ink); background: var(--action-soft); }
    fieldset label:focus-within { outline: 2px solid var(--action); outline-offset: 2px; }
  `,
})
export class NewMaster {
  private readonly api = inject(Api);
  private readonly person = inject(Person);
  readonly started = output<string>();
  readonly closed = output<void>();
  protected readonly purposes = PURPOSES;
  protected readonly purpose = signal<string>('panel');
  protected readonly problem = signal('');
  protected title = '';

  protected start(): void {
    const body = { title: this.title, purpose: this.purpose(), owner: this.person.name() };
    this.api.call('newMaster', {}, body).subscribe({
      next: ({ id }) => this.started.emit(id),
      error: (error: Error) => this.problem.set(error.message),
    });
  }
}
