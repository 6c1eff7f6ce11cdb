import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { Button } from 'primeng/button';
import type { CopyView } from '@inkwell-twin/api';
import { declarationOf } from '@inkwell-twin/core/web';
import { Api } from '../../services/api.service';
import { PasswordField } from '../derive/password-field';

/** Whether a copy opens with a password, and the way to another one, or to none. */
@Component({
  selector: 'twin-lock-row',
  imports: [Button, PasswordField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (open()) {
      <form (submit)="$event.preventDefault(); lock(password())">
        <twin-password-field field="lock-password" [cipher]="cipher() ?? ''" [(value)]="password" />
        <p class="ways">
          <p-button type="submit" size="small" label="Lock, and derive again" [disabled]="!password()" />
          @if (copy().locked) {
            <button type="button" class="link" (click)="lock(null)">Take the lock off</button>
          }
          <button type="button" class="link" (click)="open.set(false)">Not now</button>
        </p>
      </form>
    } @else {
      {{ copy().locked ? 'opens with a password' : 'opens without a password' }}
      @if (cipher() || copy().locked) {
        <button type="button" class="link" (click)="open.set(true)">{{ copy().locked ? 'Change …' : 'Lock …' }}</button>
      }
    }
    @if (problem()) {
      <span class="problem" role="alert">{{ problem() }}</span>
    }
  `,
  styles: `
    .ways { display: flex; align-items: center; gap: 14px; padding-top: 4px; }
    .problem { display: block; padding-left: 8px; border-left: 3px solid var(--ink); }
  `,
})
export class LockRow {
  private readonly api = inject(Api);
  readonly copy = input.required<CopyView>();
  protected readonly cipher = computed(() => declarationOf(this.copy().target).locks?.(this.copy().options) ?? null);
  // What is typed stays as long as it is the same copy, whatever is told of it anew: a computed value that is equal changes nothing.
  private readonly copyId = computed(() => this.copy().id);
  protected readonly open = linkedSignal({ source: this.copyId, computation: () => false });
  protected readonly password = linkedSignal({ source: this.copyId, computation: () => '' });
  protected readonly problem = signal('');

  protected lock(password: string | null): void {
    this.api.call('lockCopy', { id: this.copy().id }, { password }).subscribe({
      next: () => {
        this.problem.set('');
        this.open.set(false);
      },
      error: (error: Error) => this.problem.set(error.message),
    });
  }
}
