import { ChangeDetectionStrategy, Component, inject, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { PART, PURPOSES, SERIES, TEXT } from '@inkwell-twin/core/web';
import { Api } from '../services/api.service';
import { Person } from '../services/person';
import { Choice } from '../shared/choice';

/** Starts an empty master from a purpose. */
@Component({
  selector: 'twin-new-master',
  imports: [FormsModule, Button, Choice, InputText],
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
      <div class="purpose">
        <span>What is it for?</span>
        <twin-choice label="What is it for?" [choices]="purposes" [value]="purpose()" (chosen)="purpose.set($event)" />
      </div>
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
    .purpose { display: flex; align-items: center; gap: 12px; min-height: 33px; color: var(--ink-two); }
  `,
})
export class NewMaster {
  private readonly api = inject(Api);
  private readonly person = inject(Person);
  readonly started = output<string>();
  readonly closed = output<void>();
  protected readonly purposes = [
    ...PURPOSES.map(({ id, label, width, height }) => ({
      value: id as string,
      words: `${label}, ${width.toFixed(0)} × ${height.toFixed(0)} mm`,
    })),
    { value: SERIES.id as string, words: SERIES.label },
    { value: PART.id as string, words: PART.label },
    { value: TEXT.id as string, words: TEXT.label },
  ];
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
