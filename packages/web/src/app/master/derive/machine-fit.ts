import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal, untracked } from '@angular/core';
import type { AnswerOf, BodyOf } from '@inkwell-twin/api';
import { type MachineProfile, machineOf, machineWord, machinesOf } from '@inkwell-twin/core/web';
import { ProgressBar } from 'primeng/progressbar';
import type { Place } from '../../content/face';
import { Api } from '../../services/api.service';
import { Latest } from '../../shared/latest';
import { Pick } from '../../shared/pick';
import { counted, durationInWords, lengthInWords } from '../../shared/words';
import type { OptionValue } from './option-field';
import { HouseMachines } from '../house-machines.service';

type Fit = AnswerOf<'machineFit'>;
type Finding = Fit['findings'][number];

/** Findings that are listed at once. */
const SOME = 8;

/** Which machine a copy is for, whether the part fits it, and what settles what does not. */
@Component({
  selector: 'twin-machine-fit',
  imports: [Pick, ProgressBar],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="row">
      <span class="cap">Machine</span>
      <twin-pick label="Machine" [options]="choices()" [value]="machine()" (chosen)="changed.emit({ machine: $event })" />
      @if (profile(); as one) {
        <span class="about">{{ about(one) }}</span>
      }
    </div>
    @if (problem()) {
      <p class="problem" role="alert">{{ problem() }}</p>
    } @else if (fit(); as found) {
      @if (found.job; as job) {
        <p class="fits" role="status">
          <strong>It fits.</strong> {{ counted(job.moves, 'move') }}, {{ metres(job.worked) }} of work and {{ metres(job.travelled) }} in between:
          about {{ time(job.seconds) }}, with {{ tools(job.tools) }}.
        </p>
      } @else {
        <p class="settle" role="status">{{ counted(found.findings.length, 'thing') }} to settle before anything is written:</p>
        <ol>
          @for (one of shown(); track $index) {
            <li>
              <button type="button" class="bare" (click)="look(one)" [title]="one.place ? 'Show where' : ''">{{ one.words }}</button>
              <span class="mends">
                @for (mend of one.mends; track mend.words) {
                  <button type="button" class="link" (click)="changed.emit(mend.options)">{{ mend.words }}</button>
                }
              </span>
            </li>
          }
        </ol>
        @if (found.findings.length > shown().length) {
          <button type="button" class="link" (click)="all.set(true)">All {{ found.findings.length }}</button>
        }
      }
    } @else if (machine()) {
      <div class="working" role="status">
        <p>Held against the machine …</p>
        <p-progressbar mode="indeterminate" />
      </div>
    }
    @if (leftOut().length) {
      <p class="left">
        Left out by name: {{ leftOutWords() }}
        <button type="button" class="link" (click)="changed.emit({ leftOut: '' })">Take them in again</button>
      </p>
    }
  `,
  styles: `
    :host { display: block; margin: 10px 0; padding: 8px 12px; border: 1px solid var(--hairline); border-radius: 8px; background: var(--sheet); }
    .row { display: flex; flex-wrap: wrap; align-items: center; gap: 6px 10px; }
    .cap { color: var(--ink-two); }
    twin-pick { width: 190px; }
    .about, .left { color: var(--ink-two); }
    p { margin: 6px 0 0; }
    .problem { padding-left: 8px; border-left: 3px solid var(--ink); }
    ol { margin: 4px 0 0; padding: 0 0 0 20px; }
    li { padding: 4px 0; }
    .bare { display: inline; padding: 0; border: 0; background: none; text-align: left; cursor: pointer; font: inherit; color: var(--ink); }
    .bare:hover { text-decoration: underline; }
    .mends { display: flex; flex-wrap: wrap; gap: 2px 14px; }
    p-progressbar { display: block; height: 3px; margin-top: 4px; }
  `,
})
export class MachineFit {
  private readonly api = inject(Api);
  private readonly house = inject(HouseMachines);
  private readonly latest = new Latest();
  readonly id = input.required<string>();
  readonly recipe = input.required<BodyOf<'machineFit'>>();
  /** The standard that files of the target follow. */
  readonly language = input.required<string>();
  /** Whether a copy may be for any machine. */
  readonly any = input(false);
  /** What an object is called. */
  readonly nameOf = input.required<(id: string) => string>();
  /** Options to be taken in the place of those that there are. */
  readonly changed = output<Readonly<Record<string, OptionValue>>>();
  /** Where on the board something is to be settled, and of which objects. */
  readonly place = output<Place>();
  /** How many things are to be settled; -1 as long as nobody knows. */
  readonly open = output<number>();

  protected readonly fit = signal<Fit | null>(null);
  protected readonly problem = signal('');
  protected readonly all = signal(false);
  protected readonly shown = computed(() => this.fit()?.findings.slice(0, this.all() ? undefined : SOME) ?? []);
  protected readonly machine = computed(() => String(this.recipe().options?.['machine'] ?? ''));
  protected readonly profile = computed((): MachineProfile | null => {
    try {
      return machineOf(this.machine());
    } catch {
      // The answer of the server says what is wrong with it.
      return null;
    }
  });
  /** The machines that take such files: those of the house, of the bench, and the one that is chosen though it is none of them. */
  protected readonly choices = computed(() => {
    const all = machinesOf(this.house.own()).filter(({ language }) => language === this.language());
    const any = this.any() ? [{ value: '', label: 'any' }] : [];
    const known = [...any, ...all.map((one) => ({ value: machineWord(one), label: one.name }))];
    const own = this.profile();
    return known.some(({ value }) => value === this.machine()) || !own
      ? known
      : [...known, { value: this.machine(), label: `${own.name}, as it was` }];
  });
  protected readonly leftOut = computed(() =>
    String(this.recipe().options?.['leftOut'] ?? '')
      .split(' ')
      .filter(Boolean),
  );
  protected readonly leftOutWords = computed(() => this.leftOut().map(this.nameOf()).join(', '));
  protected readonly counted = counted;
  private readonly asked = computed(() => JSON.stringify(this.recipe()));

  constructor() {
    effect(() => {
      this.asked();
      untracked(() => this.ask());
    });
  }

  private ask(): void {
    this.fit.set(null);
    this.problem.set('');
    this.all.set(false);
    this.open.emit(this.machine() ? -1 : 0);
    if (!this.machine()) return this.latest.forget();
    this.latest.ask(this.api.call('machineFit', { id: this.id() }, this.recipe()), {
      next: (fit) => {
        this.fit.set(fit);
        this.open.emit(fit.findings.length);
      },
      error: (error: Error) => this.problem.set(error.message),
    });
  }

  protected look({ place, objects }: Finding): void {
    const { scope } = this.recipe();
    const part = scope?.of === 'boards' ? scope.ids[0] : undefined;
    if (place) this.place.emit({ part: part ?? '', at: { of: 'board', box: place, items: objects } as Place['at'] });
  }

  protected about({ area, stock, unit, tools }: MachineProfile): string {
    const deep = area.depth ? ` × ${area.depth}` : '';
    return `${area.width} × ${area.height}${deep} mm, stock ${stock.thickness} mm, ${counted(tools.length, 'tool')}, ${unit}`;
  }
  protected readonly metres = lengthInWords;
  protected readonly time = durationInWords;
  protected tools(numbers: readonly number[]): string {
    const names = numbers.map((number) => this.profile()?.tools.find((tool) => tool.number === number)?.name ?? `tool ${number}`);
    return names.join(', then ');
  }
}
