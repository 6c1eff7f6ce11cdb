import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  untracked,
} from '@angular/core';
import type { readJob } from '@inkwell-twin/api';
import { type Machining, machineOf, machineWord, machinesOf, unpackObject } from '@inkwell-twin/core/web';
import type { ContentFace } from '../content/face';
import { faceOf } from '../content/faces';
import { HouseMachines } from '../master/house-machines.service';
import { JobLook } from '../master/match/job-look';
import { Api, type JobSource } from '../services/api.service';
import { Latest } from '../shared/latest';
import { Pick } from '../shared/pick';

/** No bed: nobody says for which machine a file is. */
const NONE = '';

/** What a machine does with a file, in its order. For looking only. */
@Component({
  selector: 'twin-job-panel',
  imports: [JobLook, Pick],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section [attr.aria-label]="'What a machine does with ' + name()">
      <header>
        <h2>{{ name() }}, in order</h2>
        @if (job(); as it) {
          <label>on <twin-pick label="The machine whose bed is shown" [options]="beds()" [value]="bed()" (chosen)="bed.set($event)" /></label>
          @if (it.comesIn && drawable()) { <button type="button" class="link" (click)="drawn.emit()">Make a master of what it draws</button> }
        }
        <button type="button" class="link" (click)="closed.emit()">Close</button>
      </header>
      @if (moves(); as all) {
        <twin-job-look [moves]="all" [machine]="machine()" />
        @if (job()!.notUnderstood.length) {
          <p>
            Not understood, and so not shown:
            @for (one of job()!.notUnderstood; track one.kind; let last = $last) { {{ one.kind }}{{ one.count > 1 ? ' (' + one.count + ')' : '' }}{{ last ? '.' : ',' }} }
          </p>
        }
      }
      @if (problem()) { <p role="alert">{{ problem() }}</p> }
    </section>
  `,
  styles: `
    section { margin-bottom: 14px; border: 1px solid var(--hairline); border-left: 3px solid var(--action); border-radius: 8px; background: var(--raised); overflow: hidden; --job-height: 340px; }
    header { display: flex; align-items: center; gap: 14px; padding: 8px 14px; border-bottom: 1px solid var(--hairline); background: var(--sheet); }
    h2 { margin: 0 auto 0 0; font-size: 14px; overflow-wrap: anywhere; }
    label { display: flex; align-items: center; gap: 6px; color: var(--ink-two); }
    twin-pick { min-width: 170px; }
    p { margin: 0; padding: 8px 14px; color: var(--ink-two); }
    [role='alert'] { color: var(--ink); }
  `,
})
export class JobPanel {
  private readonly api = inject(Api);
  private readonly house = inject(HouseMachines);
  readonly source = input.required<JobSource>();
  readonly name = input.required<string>();
  /** Another one where another file came to lie there. */
  readonly version = input('');
  readonly closed = output<void>();
  /** What it draws is to become a master. */
  readonly drawn = output<void>();
  protected readonly problem = signal('');
  protected readonly job = signal<ReturnType<typeof readJob> | null>(null);
  private readonly latest = new Latest();
  protected readonly drawable = computed(() => this.source() instanceof File);

  /** Machines that take such files. */
  private readonly machines = computed(() =>
    machinesOf(this.house.own()).filter(({ language }) => language === this.job()?.language),
  );
  protected readonly beds = computed(() => {
    const all = this.machines().map((one) => ({ value: machineWord(one), label: one.name }));
    const said = this.job()?.machine ?? NONE;
    const own = said && all.every(({ value }) => value !== said) ? [{ value: said, label: 'the one that it names' }] : [];
    return [{ value: NONE, label: 'no bed' }, ...own, ...all];
  });
  protected readonly bed = linkedSignal(() => this.job()?.machine ?? NONE);
  protected readonly machine = computed(() => {
    try {
      return this.bed() ? machineOf(this.bed()) : null;
    } catch {
      // One that nobody knows any more.
      return null;
    }
  });
  protected readonly moves = computed((): Machining | null => {
    const body = this.job()?.body;
    const face: ContentFace | undefined = body && faceOf(body.kind);
    return body && face?.moves ? face.moves(unpackObject(body) as never, this.machine()) : null;
  });

  constructor() {
    effect(() => {
      const source = this.source();
      const version = this.version();
      untracked(() => {
        this.problem.set('');
        const key =
          source instanceof File ? `${source.name} ${source.lastModified}` : `${source.machine} ${source.file} ${version}`;
        this.latest.ask(
          this.api.job(source),
          { next: (found) => this.job.set(found), error: (error: Error) => this.problem.set(error.message) },
          '',
          key,
        );
      });
    });
  }
}
