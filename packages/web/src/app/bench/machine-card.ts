import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import type { MachineView } from '@inkwell-twin/api';
import { ROUTES } from '@inkwell-twin/api/light';
import { Api } from '../services/api.service';
import { counted, durationInWords, timeInWords } from '../shared/words';
import { Machines } from './bench.service';
import { HeldFileRow } from './held-file';
import { JobPanel } from './job-panel';

/** Pixels a mm: all beds in the same measure, as they stand beside each other. */
const SCALE = 0.18;
/** Runs that are shown. */
const SOME = 4;

/** One machine: its bed with what lies on it, what it holds, and what it ran. */
@Component({
  selector: 'twin-machine-card',
  imports: [HeldFileRow, JobPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let it = machine();
    <div class="bed" [style.width.px]="bed().width" [style.height.px]="bed().height" [class.outdated]="outdated()">
      @if (picture(); as source) { <img [src]="source" [alt]="'What the ' + it.name + ' makes of ' + shown()" /> }
    </div>
    <div class="what">
      <h2>{{ it.name }} <span>{{ it.area.width }} × {{ it.area.height }} mm, {{ it.language }}</span></h2>
      <p class="there" [class.away]="!it.there">{{ it.there ? 'It answers.' : 'It does not answer: what is sent waits in its folder.' }}</p>
      @for (one of it.holds; track one.file) {
        <twin-held-file
          [file]="one"
          [class.on]="it.holds.length > 1 && shown() === one.file"
          (click)="shown.set(one.file)"
          (ran)="run(one.file, $event)"
          (gone)="takeAway(one.file)"
          [open]="opened() === one.file"
          (looked)="opened.set(opened() === one.file ? '' : one.file)"
        />
        @if (opened() === one.file) { @defer (on immediate) {
          <twin-job-panel [source]="{ machine: it.id, file: one.file }" [name]="one.file" [version]="one.says?.time ?? ''" (closed)="opened.set('')" />
        } }
      } @empty { <p class="none">It holds nothing.</p> }
      @if (problem()) { <p class="problem" role="alert">{{ problem() }}</p> }
      @if (runs().length) {
        <h3>{{ counted(it.runs.length, 'run') }}{{ it.runs.length > runs().length ? ', the last ' + runs().length : '' }}</h3>
        <ul>
          @for (one of runs(); track one.id) {
            <li>
              {{ time(one.at) }}, {{ one.by }}: <code>{{ one.file }}</code> {{ one.stood }}.
              @if (one.reason) { <em>“{{ one.reason }}”</em> }
              @if (one.ended; as end) {
                @if (end.runs) { It ran to its end, {{ duration(end.seconds) }}. }
                @else { <strong>It stopped</strong>@if (end.alarms[0]; as alarm) {, at {{ alarm.at }}: {{ alarm.words }}}. }
              } @else { It runs. }
            </li>
          }
        </ul>
      }
    </div>
  `,
  styles: `
    :host { display: flex; align-items: flex-start; gap: 20px; padding: 16px 18px; border: 1px solid var(--hairline); border-radius: 8px; background: var(--sheet); }
    .bed { flex: none; border: 1px solid var(--ink-three); background: #ffffff; }
    .bed.outdated { outline: 2px solid var(--behind); outline-offset: 3px; }
    .bed img { display: block; width: 100%; height: 100%; }
    .what { flex: 1; min-width: 0; }
    h2 { margin: 0; font-size: 16px; }
    h2 span { margin-left: 8px; color: var(--ink-two); font: 12.5px var(--mono); }
    h3 { margin: 12px 0 2px; font-size: 13px; }
    p { margin: 0; }
    .there { margin-bottom: 8px; color: var(--ink-two); }
    .there.away { color: var(--ink); font-weight: 600; }
    .none { padding: 8px 0; border-top: 1px solid var(--hairline-soft); color: var(--ink-two); }
    .on { box-shadow: -8px 0 0 -5px var(--action); }
    .problem { padding: 6px 10px; border-left: 3px solid var(--ink); }
    ul { margin: 0; padding: 0; list-style: none; color: var(--ink-two); font-size: 12.5px; }
    li { padding: 2px 0; overflow-wrap: anywhere; }
    code { font: 12px var(--mono); }
    em { color: var(--ink); font-style: normal; }
    @media (max-width: 760px) { :host { flex-direction: column; } }
  `,
})
export class MachineCard {
  private readonly api = inject(Api);
  private readonly bench = inject(Machines);
  readonly machine = input.required<MachineView>();
  private readonly files = computed(() =>
    this.machine()
      .holds.map(({ file }) => file)
      .join('\n'),
  );
  /** The file that lies on the bed. */
  protected readonly shown = linkedSignal<string, string>({
    source: this.files,
    computation: (files, before) => {
      const all = files.split('\n');
      return before && all.includes(before.value) ? before.value : all[0]!;
    },
  });
  /** The file that is looked at in its order; empty for none. */
  protected readonly opened = signal('');
  protected readonly problem = signal('');
  protected readonly bed = computed(() => {
    const { width, height } = this.machine().area;
    return { width: Math.max(18, Math.min(320, width * SCALE)), height: Math.max(18, Math.min(320, height * SCALE)) };
  });
  protected readonly picture = computed(() => {
    const { id, holds } = this.machine();
    const held = holds.find(({ file }) => file === this.shown());
    if (!held?.says) return '';
    const path = ROUTES.machinePicture.path
      .replace(':machine', encodeURIComponent(id))
      .replace(':file', encodeURIComponent(held.file));
    // Another one where the machine got another file.
    return `${path}?of=${encodeURIComponent(held.says.time)}`;
  });
  protected readonly outdated = computed(() =>
    this.machine().holds.some(({ other, copy }) => other || !copy || copy.stands === 'behind' || copy.stands === 'withdrawn'),
  );
  protected readonly runs = computed(() => this.machine().runs.slice(0, SOME));
  protected readonly counted = counted;
  protected readonly time = timeInWords;
  protected readonly duration = durationInWords;

  private readonly answer = {
    next: (): void => {
      this.problem.set('');
      this.bench.look();
    },
    error: (error: Error): void => this.problem.set(error.message),
  };

  protected run(file: string, reason: string): void {
    this.api.call('runOnMachine', { machine: this.machine().id }, { file, reason }).subscribe(this.answer);
  }
  protected takeAway(file: string): void {
    this.api.call('takeFromMachine', { machine: this.machine().id }, { file }).subscribe(this.answer);
  }
}
