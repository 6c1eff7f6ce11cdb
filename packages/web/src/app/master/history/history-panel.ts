import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import type { RevisionView } from '@inkwell-twin/api';
import {
  type Command,
  type Master,
  type NodeChange,
  changesBetween,
  changesInWords,
  findNode,
  nodeAsItWas,
  nodeInWords,
} from '@inkwell-twin/core/web';
import { Api } from '../../services/api.service';
import { Latest } from '../../shared/latest';
import { counted, timeInWords } from '../../shared/words';
import { Pick } from '../../shared/pick';

/** Lines of changes that are shown before one asks for the rest. */
const FIRST = 200;

interface Step extends RevisionView {
  readonly how: string;
}

/** What changed between a revision and another state of the master, read like a page; each line can be taken back by itself. */
@Component({
  selector: 'twin-history-panel',
  imports: [Pick],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header>
      <strong>r{{ from().rev }}{{ from().name ? ', “' + from().name + '”' : '' }}</strong>
      <span>beside</span>
      <twin-pick label="Beside which state" [options]="states()" [value]="chosen()" (chosen)="chosen.set($event)" />
    </header>
    <div class="page">
      @if (problem()) {
        <p role="alert">{{ problem() }}</p>
      }
      @if (other(); as master) {
        <p class="sum">
          @if (changes().length) {
            {{ counted(changes().length, 'thing') }} {{ changes().length === 1 ? 'is' : 'are' }} otherwise {{ isNow() ? 'now' : 'in r' + chosen() }}.
          } @else {
            Nothing is otherwise.
          }
          @if (isNow() && changes().length && !fixed()) {
            <button type="button" class="link" (click)="all()">Take all of it back to r{{ from().rev }}</button>
          }
        </p>
        <ol>
          @for (one of shown(); track one.node) {
            <li>
              <button type="button" class="name link" (click)="picked.emit(one.node)" title="Show it">{{ one.what }}</button>
              <span>{{ one.how }}</span>
              <span class="acts">
                @if (isNow() && !fixed()) {
                  <button type="button" class="link" (click)="back(one)" [attr.aria-label]="'Take back: ' + one.what">as it was</button>
                }
                <button type="button" class="link" (click)="follow(one.node)" [attr.aria-label]="'History of ' + one.what" [attr.aria-expanded]="followed() === one.node">its history</button>
              </span>
              @if (followed() === one.node) {
                <ul>
                  @for (step of steps(); track step.rev) {
                    <li>r{{ step.rev }}, {{ time(step.time) }}, {{ step.author }}: {{ step.how }} <em>“{{ step.message }}”</em></li>
                  } @empty {
                    <li>{{ asked() ? 'Looking …' : 'only in the draft' }}</li>
                  }
                </ul>
              }
            </li>
          }
        </ol>
        @if (changes().length > shown().length) {
          <button type="button" class="link" (click)="whole.set(true)">Show all {{ changes().length }}</button>
        }
      } @else {
        <p>Opening …</p>
      }
    </div>
  `,
  styles: `
    :host { display: flex; flex-direction: column; min-width: 0; min-height: 0; background: var(--sheet); border-left: 1px solid var(--hairline); }
    header { display: flex; align-items: center; gap: 8px; min-height: 40px; padding: 0 16px; border-bottom: 1px solid var(--hairline); }
    header span { color: var(--ink-two); }
    .page { flex: 1; min-height: 0; overflow: auto; padding: 10px 16px; }
    .sum .link { margin-left: 8px; }
    ol { list-style: none; margin: 8px 0; padding: 0; }
    ol > li { padding: 6px 0; border-top: 1px solid var(--hairline-soft); }
    li > span { display: block; color: var(--ink-two); overflow-wrap: anywhere; }
    .name { font-weight: 600; color: var(--ink); text-align: left; white-space: normal; }
    .acts { display: flex !important; gap: 12px; }
    ul { margin: 4px 0 2px; padding-left: 14px; color: var(--ink-two); font-size: 12.5px; }
    em { font-style: normal; color: var(--ink-three); }
  `,
})
export class HistoryPanel {
  private readonly api = inject(Api);
  readonly masterId = input.required<string>();
  /** The revision that one looks at, and the document at it. */
  readonly from = input.required<RevisionView>();
  readonly past = input.required<Master>();
  readonly now = input.required<Master>();
  readonly revisions = input.required<readonly RevisionView[]>();
  readonly fixed = input(false);
  readonly command = output<Command>();
  readonly picked = output<string>();

  protected readonly counted = counted;
  protected readonly time = timeInWords;
  protected readonly chosen = signal<string>('now');
  protected readonly whole = signal(false);
  protected readonly problem = signal('');
  protected readonly followed = signal('');
  protected readonly steps = signal<readonly Step[]>([]);
  protected readonly asked = signal(false);
  private readonly fetched = signal<{ readonly rev: number; readonly master: Master } | null>(null);

  protected readonly isNow = computed(() => this.chosen() === 'now');
  private readonly others = computed(() =>
    this.revisions()
      .filter(({ rev }) => rev !== this.from().rev)
      .reverse(),
  );
  /** What it can be held beside: the master as it is now, and its other revisions, the latest first. */
  protected readonly states = computed(() => [
    { value: 'now', label: 'the master as it is now' },
    ...this.others().map(({ rev, name }) => ({ value: String(rev), label: `r${rev}${name ? `, ${name}` : ''}` })),
  ]);
  protected readonly other = computed(() => {
    if (this.isNow()) return this.now();
    const fetched = this.fetched();
    return fetched && String(fetched.rev) === this.chosen() ? fetched.master : null;
  });
  protected readonly changes = computed((): readonly NodeChange[] => {
    const other = this.other();
    return other ? changesInWords(this.past(), other) : [];
  });
  protected readonly shown = computed(() => (this.whole() ? this.changes() : this.changes().slice(0, FIRST)));

  private readonly latest = new Latest();

  constructor() {
    effect(() => {
      const rev = Number(this.chosen());
      this.problem.set('');
      if (!Number.isInteger(rev)) return this.latest.forget();
      this.latest.ask(this.api.call('revision', { id: this.masterId(), rev }), {
        next: ({ document }) => this.fetched.set({ rev, master: document as Master }),
        error: (error: Error) => this.problem.set(error.message),
      });
    });
  }

  protected all(): void {
    const { rev } = this.from();
    const patches = changesBetween(this.now(), this.past());
    if (patches.length) this.command.emit({ label: `Everything as it was at r${rev}`, patches });
  }

  protected back({ node, what }: NodeChange): void {
    const patches = nodeAsItWas(this.now(), this.past(), node);
    const known = findNode(this.past(), node) ?? findNode(this.now(), node);
    if (patches.length)
      this.command.emit({ label: `${known ? nodeInWords(known) : what}: as it was at r${this.from().rev}`, patches });
  }

  protected follow(node: string): void {
    this.steps.set([]);
    if (this.followed() === node) return this.followed.set('');
    this.followed.set(node);
    this.asked.set(true);
    this.api.call('nodeHistory', { id: this.masterId(), node }).subscribe({
      next: ({ revisions }) => {
        this.asked.set(false);
        if (this.followed() === node) this.steps.set(revisions);
      },
      error: (error: Error) => {
        this.asked.set(false);
        this.problem.set(error.message);
      },
    });
  }
}
