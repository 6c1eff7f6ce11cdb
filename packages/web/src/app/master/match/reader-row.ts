import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Dialog } from 'primeng/dialog';
import { Select } from 'primeng/select';
import type { AnswerOf, CopyView } from '@inkwell-twin/api';
import { Api } from '../../services/api.service';
import { Latest } from '../../shared/latest';
import { counted } from '../../shared/words';

type Seen = AnswerOf<'openedBy'>;

/** Whether a program of the version that a copy is written in opens it and sees what was meant; or one of any other version. */
@Component({
  selector: 'twin-reader-row',
  imports: [Dialog, FormsModule, Select],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (problem()) {
      <span class="problem" role="alert">{{ problem() }}</span>
    } @else if (seen(); as one) {
      {{ inLane() }}
      @if (one.opens || one.readers.length > 1) {
        <button type="button" class="link" (click)="open.set(true)">See what it sees</button>
      }
    } @else {
      …
    }
    <p-dialog
      [visible]="open()"
      (visibleChange)="open.set($event)"
      [modal]="true"
      [draggable]="false"
      [resizable]="false"
      [dismissableMask]="true"
      [style]="{ width: '860px', maxWidth: '94vw' }"
      header="As other versions open it"
    >
      @if (seen(); as one) {
        <label class="reader">
          A program of version
          <p-select
            [options]="readers()"
            optionLabel="label"
            optionValue="name"
            ariaLabel="Version of the program"
            [ngModel]="shown()"
            (ngModelChange)="ask($event)"
          />
        </label>
        <p class="said">{{ alone() }}</p>
        @if (picture(); as source) {
          <img [src]="source" alt="What it sees, drawn in thin lines" />
        }
        @if (apart().length) {
          <ul>
            @for (line of apart(); track $index) {
              <li>{{ line }}</li>
            }
          </ul>
        }
      }
    </p-dialog>
  `,
  styles: `
    .problem { padding-left: 8px; border-left: 3px solid var(--ink); }
    .reader { display: flex; align-items: center; gap: 10px; }
    .said { margin: 12px 0; }
    img { display: block; width: 100%; max-height: 52vh; object-fit: contain; border: 1px solid var(--hairline); background: #fff; }
    ul { max-height: 20vh; margin: 12px 0 0; padding-left: 18px; overflow: auto; }
  `,
})
export class ReaderRow {
  private readonly api = inject(Api);
  readonly copy = input.required<CopyView>();
  /** Grows with every job that may have changed the file. */
  readonly stamp = input.required<number>();
  protected readonly seen = signal<Seen | null>(null);
  protected readonly problem = signal('');
  protected readonly open = signal(false);
  private readonly latest = new Latest();
  private readonly id = computed(() => this.copy().id);
  /** The reader that somebody picked; that of the copy’s own version until then. */
  private readonly asked = linkedSignal({ source: this.id, computation: () => 'own' });
  protected readonly shown = computed(() => (this.asked() === 'own' ? this.seen()?.reader : this.asked()));

  constructor() {
    // What is asked for is kept while the same copy is looked at: it comes anew with every event.
    effect(() => {
      this.id();
      this.stamp();
      untracked(() => this.ask(this.asked()));
    });
  }

  protected ask(reader: string): void {
    const id = this.id();
    this.asked.set(reader);
    this.latest.ask(
      this.api.call('openedBy', { id, reader }),
      {
        next: (found: Seen) => {
          this.problem.set('');
          this.seen.set(found);
        },
        error: (error: Error) => this.problem.set(error.message),
      },
      '',
      `${id} ${reader}`,
    );
  }

  private versionOf = (reader: string): string => reader.slice(reader.indexOf('-') + 1).toUpperCase();
  protected readonly readers = computed(() =>
    (this.seen()?.readers ?? []).map((name) => ({ name, label: this.versionOf(name) })),
  );

  protected inLane = (): string => `a program of ${this.versionOf(this.seen()!.reader)} ${this.words()}`;
  protected alone = (): string => `${this.words().charAt(0).toUpperCase()}${this.words().slice(1)}.`;
  private readonly words = computed((): string => {
    const one = this.seen();
    if (!one) return '';
    if (one.refused) return `does not open it: ${one.refused.words}`;
    const sees = [
      counted(one.lines, 'line'),
      counted(one.texts, 'text'),
      ...(one.pictures ? [counted(one.pictures, 'picture')] : []),
    ].join(', ');
    const dropped = one.dropped.map(({ what, count }) => `${what} (${count})`).join(', ');
    const passes = dropped ? `; it passes over ${dropped}` : '';
    if (!one.held) return `opens it and sees ${sees}${passes}`;
    const off = one.held.missing.length + one.held.more.length;
    const meant = off ? `; ${counted(off, 'thing')} not as meant when it was written` : ', all as meant when it was written';
    return `opens it and sees ${sees}${passes}${meant}`;
  });

  protected readonly apart = computed((): string[] => {
    const held = this.seen()?.held;
    if (!held) return [];
    const line = (side: string, { what, layer, at: [x, y], words }: NonNullable<Seen['held']>['missing'][number]): string =>
      `${side} ${what}${words ? ` “${words}”` : ''} on ${layer}, at ${x.toFixed(1)}, ${y.toFixed(1)} mm`;
    return [
      ...held.missing.map((one) => line('does not see a', one)),
      ...held.more.map((one) => line('sees what was not meant, a', one)),
    ];
  });

  /** As an image, so that nothing in it can act. */
  protected readonly picture = computed((): string => {
    const picture = this.seen()?.picture;
    return picture ? `data:image/svg+xml;charset=utf-8,${encodeURIComponent(picture)}` : '';
  });
}
