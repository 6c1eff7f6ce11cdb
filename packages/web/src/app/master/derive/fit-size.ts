import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal, untracked } from '@angular/core';
import type { BodyOf } from '@inkwell-twin/api';
import { Button } from 'primeng/button';
import { ProgressBar } from 'primeng/progressbar';
import type { Subscription } from 'rxjs';
import { Api } from '../../services/api.service';
import type { Checked } from '../../shared/checked';
import { CheckedField } from '../../shared/checked-field';
import { counted, sizeInWords } from '../../shared/words';
import type { OptionValue } from './option-field';

const MB = 1e6;
/** Most that can be asked for, MB. */
const MOST = 1e6;

/** Finds the options by which a copy keeps within a size and loses least. */
@Component({
  selector: 'twin-fit-size',
  imports: [Button, CheckedField, ProgressBar],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (!open()) {
      <button type="button" class="link" (click)="open.set(true)">Fit it to a size …</button>
    } @else {
      <span class="row">
        at most
        <twin-checked label="Largest size, MB" unit="MB" [value]="text()" [check]="check" (taken)="most.set($event)" (problem)="wrong.set($event)" />
        <p-button label="Find the least loss" size="small" severity="secondary" [outlined]="true" [disabled]="waits()" (onClick)="find()" />
        @if (asking()) {
          <button type="button" class="link" (click)="stop()">Stop</button>
        }
      </span>
      @if (asking()) {
        <p-progressbar mode="indeterminate" />
      }
      @if (said()) {
        <p [attr.role]="failed() ? 'alert' : 'status'" [class.problem]="failed()">{{ said() }}</p>
      }
    }
  `,
  styles: `
    :host { display: block; margin-top: 10px; }
    .row { display: inline-flex; flex-wrap: wrap; align-items: center; gap: 8px; color: var(--ink-two); }
    p { margin: 4px 0 0; color: var(--ink-two); }
    p.problem { padding-left: 8px; border-left: 3px solid var(--ink); color: var(--ink); }
    p-progressbar { display: block; height: 3px; margin-top: 6px; }
  `,
})
export class FitSize {
  private readonly api = inject(Api);
  readonly id = input.required<string>();
  readonly recipe = input.required<BodyOf<'carry'>>();
  /** A size that it is asked to fit to from elsewhere, MB; 0 where it is not. */
  readonly wanted = input(0);
  /** Options to be taken in the place of those that there are. */
  readonly found = output<Readonly<Record<string, OptionValue>>>();

  protected readonly open = signal(false);
  protected readonly most = signal(5);
  protected readonly text = computed(() => String(this.most()));
  protected readonly wrong = signal('');
  protected readonly asking = signal(false);
  protected readonly said = signal('');
  protected readonly failed = signal(false);
  protected readonly waits = computed(() => this.asking() || this.wrong() !== '');
  private running: Subscription | undefined;
  private readonly about = computed(() => JSON.stringify([this.recipe().target, this.recipe().scope]));

  constructor() {
    effect(() => {
      const wanted = this.wanted();
      if (!wanted) return;
      untracked(() => {
        this.most.set(wanted);
        this.open.set(true);
        this.find();
      });
    });
    // Another target or part: what was said is of the former one.
    effect(() => {
      this.about();
      untracked(() => this.stop());
    });
  }

  protected readonly check = (text: string): Checked<number> => {
    const value = Number(text.trim().replace(',', '.'));
    if (!text.trim() || !Number.isFinite(value)) return { wrong: 'Largest size: a number of megabytes' };
    if (value < 0.001) return { wrong: 'Largest size: at least 0.001 MB' };
    return value > MOST ? { wrong: 'Largest size: at most 1 000 000 MB' } : { value };
  };

  protected find(): void {
    this.asking.set(true);
    this.said.set('');
    this.running = this.api.call('fit', { id: this.id() }, { ...this.recipe(), most: Math.floor(this.most() * MB) }).subscribe({
      next: ({ options, bytes, tried }) => {
        this.asking.set(false);
        this.failed.set(false);
        this.said.set(
          tried === 1
            ? 'It fits as it is.'
            : `${sizeInWords(bytes)} after ${counted(tried, 'try', 'tries')}; what is lost stands above.`,
        );
        this.found.emit(options);
      },
      error: (error: Error) => {
        this.asking.set(false);
        this.failed.set(true);
        this.said.set(error.message);
      },
    });
  }

  protected stop(): void {
    this.running?.unsubscribe();
    this.asking.set(false);
    this.said.set('');
  }
}
