import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import type { Preset } from '@inkwell-twin/core/web';
import { ApiError } from '../../services/api.service';
import { Presets } from './presets.service';

/** Keeps how a copy is made under a name: for the next time, for others, and for the command line. */
@Component({
  selector: 'twin-keep-settings',
  imports: [Button, FormsModule, InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (open()) {
      <form (ngSubmit)="keep(false)">
        <label for="settings-name">Settings called</label>
        <input
          pInputText
          id="settings-name"
          name="settings-name"
          [ngModel]="name()"
          (ngModelChange)="name.set($event); taken.set(false); problem.set('')"
          maxlength="80"
          autocomplete="off"
          placeholder="for instance: proof for the reserve"
        />
        <p-button type="submit" size="small" label="Keep" [disabled]="!name().trim()" />
        @if (taken()) {
          <p-button type="button" size="small" severity="secondary" [outlined]="true" label="Replace those" (onClick)="keep(true)" />
        }
        <button type="button" class="link" (click)="open.set(false)">Not now</button>
      </form>
    } @else {
      <button type="button" class="link" (click)="open.set(true); said.set('')">Keep these settings …</button>
    }
    @if (problem()) {
      <p class="problem" role="alert">{{ problem() }}</p>
    }
    <p class="said" role="status">{{ said() }}</p>
  `,
  styles: `
    :host { display: block; padding-top: 4px; }
    form { display: flex; flex-wrap: wrap; align-items: center; gap: 6px 10px; }
    label { color: var(--ink-two); }
    input { width: 250px; padding: 2px 8px; }
    .problem { margin-top: 4px; padding-left: 8px; border-left: 3px solid var(--ink); }
    .said { color: var(--ink-two); }
    .said:empty { display: none; }
  `,
})
export class KeepSettings {
  private readonly presets = inject(Presets);
  /** What is to be kept, without its name. */
  readonly settings = input.required<Omit<Preset, 'name'>>();
  readonly kept = output<string>();
  protected readonly open = signal(false);
  protected readonly name = signal('');
  protected readonly taken = signal(false);
  protected readonly problem = signal('');
  protected readonly said = signal('');

  protected keep(replace: boolean): void {
    const name = this.name().trim();
    if (!name) return;
    this.presets.keep({ ...this.settings(), name }, replace).subscribe({
      next: () => {
        this.open.set(false);
        this.name.set('');
        this.taken.set(false);
        this.problem.set('');
        this.said.set(`Kept as “${name}”, in the house rules.`);
        this.kept.emit(name);
      },
      error: (error: Error) => {
        this.taken.set(error instanceof ApiError && error.code === 'name-taken');
        this.problem.set(error.message);
      },
    });
  }
}
