import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Checkbox } from 'primeng/checkbox';
import { Api } from '../../services/api.service';
import { Person } from '../../services/person';

/** Starts another master from this one, which stays as it is. */
@Component({
  selector: 'twin-another-form',
  imports: [Button, Checkbox, FormsModule, InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="start()" aria-label="Another master from this one">
      <label for="another">What is the other one?</label>
      <input id="another" pInputText name="title" [(ngModel)]="title" maxlength="200" required />
      <label class="with"><p-checkbox [binary]="true" size="small" name="history" [(ngModel)]="history" /> with its history up to r{{ rev() }}</label>
      <p-button type="submit" label="Start it" [disabled]="!title.trim() || busy()" />
      <button type="button" class="link" (click)="closed.emit()">Not now</button>
      <p>It begins as this one is at r{{ rev() }}. This one stays as it is, and so do its copies.{{ changes() ? ' What you changed since stays in your draft here.' : '' }}</p>
      @if (problem()) {
        <p role="alert">{{ problem() }}</p>
      }
    </form>
  `,
  styles: `
    form { display: flex; flex-wrap: wrap; align-items: center; gap: 8px 14px; padding: 10px 20px; border-bottom: 1px solid var(--hairline); background: var(--raised); }
    form > label:first-child { font-weight: 600; }
    input[pInputText] { width: 260px; }
    .with { display: flex; gap: 6px; align-items: center; color: var(--ink-two); }
    p { flex: 1 0 100%; margin: 0; color: var(--ink-two); }
  `,
})
export class AnotherForm {
  private readonly api = inject(Api);
  private readonly person = inject(Person);
  readonly masterId = input.required<string>();
  readonly rev = input.required<number>();
  readonly changes = input(0);
  readonly started = output<string>();
  readonly closed = output<void>();

  protected title = '';
  protected history = true;
  protected readonly busy = signal(false);
  protected readonly problem = signal('');

  protected start(): void {
    this.busy.set(true);
    const body = { title: this.title.trim(), owner: this.person.name(), history: this.history, rev: this.rev() };
    this.api.call('another', { id: this.masterId() }, body).subscribe({
      next: ({ id }) => this.started.emit(id),
      error: (error: Error) => {
        this.busy.set(false);
        this.problem.set(error.message);
      },
    });
  }
}
