import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Api } from '../services/api.service';

/** Makes a template of a master as it is at its newest revision. */
@Component({
  selector: 'twin-template-form',
  imports: [Button, FormsModule, InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="make()" aria-label="Template of this master">
      <label for="template">What is the template called?</label>
      <input id="template" pInputText name="name" [(ngModel)]="name" maxlength="200" required />
      <p-button type="submit" label="Make it" [disabled]="!name.trim() || busy()" />
      <button type="button" class="link" (click)="closed.emit()">Not now</button>
      <p [attr.role]="problem() ? 'alert' : null">
        {{ problem() || 'It keeps what this master is at r' + head() + ', and is offered with every new master. What is begun from it is always a master of its own.' }}
      </p>
    </form>
  `,
  styles: `
    form { display: flex; flex-wrap: wrap; align-items: center; gap: 8px 14px; padding: 10px 20px; border-bottom: 1px solid var(--hairline); background: var(--raised); }
    label { font-weight: 600; }
    input[pInputText] { width: 260px; }
    p { flex: 1 0 100%; margin: 0; color: var(--ink-two); }
  `,
})
export class TemplateForm {
  private readonly api = inject(Api);
  readonly masterId = input.required<string>();
  readonly head = input.required<number>();
  readonly closed = output<void>();
  protected name = '';
  protected readonly busy = signal(false);
  protected readonly problem = signal('');

  protected make(): void {
    this.busy.set(true);
    this.api.call('makeTemplate', { id: this.masterId() }, { name: this.name.trim() }).subscribe({
      next: () => this.closed.emit(),
      error: (error: Error) => {
        this.busy.set(false);
        this.problem.set(error.message);
      },
    });
  }
}
