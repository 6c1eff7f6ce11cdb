import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import type { DerivationView } from '@inkwell-twin/api';
import { ProgressBar } from 'primeng/progressbar';
import { Api } from '../../services/api.service';
import { counted } from '../../shared/words';

/** A copy that is being derived, waits for it, or could not be derived, and what can be done about it. */
@Component({
  selector: 'twin-derivation-row',
  imports: [ProgressBar],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '[attr.data-derivation]': 'derivation().label' },
  template: `
    <span class="names">
      <strong>{{ derivation().label }}</strong>
      <span [attr.role]="failed() ? 'alert' : 'status'">{{ state() }}</span>
      @if (problem()) {
        <span role="alert">{{ problem() }}</span>
      }
    </span>
    <span class="ways">
      @if (failed()) {
        <button type="button" class="link" (click)="again()">Derive again</button>
        @if (own()) {
          <button type="button" class="link" (click)="remove()">Remove</button>
        }
      } @else {
        <button type="button" class="link" (click)="stop()">Stop</button>
      }
    </span>
    @if (derivation().state === 'running') {
      <p-progressbar mode="indeterminate" />
    }
  `,
  styles: `
    :host { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 2px 10px; align-items: start; padding: 5px 14px; }
    .names { display: flex; flex-direction: column; min-width: 0; overflow-wrap: anywhere; }
    .names span { color: var(--ink-two); font-size: 12.5px; }
    .ways { display: flex; flex-wrap: wrap; justify-content: flex-end; gap: 0 12px; }
    p-progressbar { grid-column: 1 / -1; height: 3px; }
  `,
})
export class DerivationRow {
  private readonly api = inject(Api);
  readonly derivation = input.required<DerivationView>();
  /** Whether it has no copy yet, so that it can be given up. */
  readonly own = input(true);
  protected readonly problem = signal('');
  protected readonly failed = computed(() => this.derivation().state === 'failed');
  protected readonly state = computed(() => {
    const { state, targetLabel, ahead, message, left } = this.derivation();
    if (state === 'failed') return message;
    const several = left > 1 ? `, ${left} to go` : '';
    if (state === 'running') return `${targetLabel}: being derived${several}`;
    return `${targetLabel}: waits${ahead ? `, ${counted(ahead, 'job')} before it` : ''}${several}`;
  });

  private readonly answer = {
    next: () => this.problem.set(''),
    error: (error: Error) => this.problem.set(error.message),
  };

  protected again(): void {
    this.api.call('deriveRecipe', { id: this.derivation().recipe }).subscribe(this.answer);
  }

  protected remove(): void {
    this.api.call('removeRecipe', { id: this.derivation().recipe }).subscribe(this.answer);
  }

  protected stop(): void {
    this.api.call('cancel', { id: this.derivation().job }).subscribe(this.answer);
  }
}
