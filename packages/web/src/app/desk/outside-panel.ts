import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Checkbox } from 'primeng/checkbox';
import { RadioButton } from 'primeng/radiobutton';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { catchError, EMPTY, merge, type Observable, Subject, switchMap, throttleTime } from 'rxjs';
import type { AnswerOf, OutsideDescription } from '@inkwell-twin/api';
import { Api } from '../services/api.service';
import { ServerEvents } from '../services/events.service';
import { counted } from '../shared/words';

type Field = OutsideDescription['fields'][number];
type Side = 'inside' | 'outside';

const STATES: Readonly<Record<OutsideDescription['state'], string>> = {
  none: 'no file',
  'in step': 'says the same',
  pending: 'not yet written out',
  outside: 'changed in the file',
  both: 'both sides changed',
  gone: 'the file is gone',
  unreadable: 'the file can’t be read',
};
const FIELDS: Readonly<Record<Field['field'], string>> = {
  keywords: 'Keywords',
  caption: 'Caption',
  rights: 'Rights',
  corrections: 'Corrections',
};

/** Descriptions that are not the same in their masters and in the files outside: written out, or settled, one by one or all. */
@Component({
  selector: 'twin-outside-panel',
  imports: [Checkbox, FormsModule, RadioButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (list().length) {
      <section aria-label="Descriptions outside">
        <p class="head">
          <i class="pi pi-file-edit" aria-hidden="true"></i>
          <span>{{ summary() }}</span>
          <span class="ways">
            @if (pending().length) {
              <button type="button" class="link" [disabled]="busy()" (click)="write(pending())">Write out {{ counted(pending().length, 'description') }}</button>
            }
            <button type="button" class="link" [attr.aria-expanded]="open()" (click)="open.set(!open())">{{ open() ? 'Close' : 'Look at them' }}</button>
          </span>
        </p>
        @if (open()) {
          @if (touched().length > 1) {
            <p class="all">
              For all {{ touched().length }} that were changed in their files:
              <button type="button" class="link" [disabled]="busy()" (click)="settle(touched(), every('outside'))">what the files say</button>
              <button type="button" class="link" [disabled]="busy()" (click)="settle(touched(), every('inside'))">what the masters say</button>
            </p>
          }
          @for (one of list(); track keyOf(one)) {
            <article [attr.aria-label]="nameOf(one)">
              <p class="title"><strong>{{ nameOf(one) }}</strong> <span>{{ words(one) }}</span> <code>{{ one.file }}</code></p>
              @if (one.trouble) { <p class="why">{{ one.trouble }}</p> }
              @if (one.fields.length) {
                <table>
                  <thead><tr><th scope="col">Says</th><th scope="col">In the master</th><th scope="col">In the file</th></tr></thead>
                  <tbody>
                    @for (field of one.fields; track field.field) {
                      <tr>
                        <th scope="row">{{ name(field) }}</th>
                        @for (side of sides; track side) {
                          <td [class.on]="sideOf(one, field) === side">
                            <label><p-radiobutton size="small" [name]="keyOf(one) + field.field" [value]="side" [ngModel]="sideOf(one, field)" (ngModelChange)="choose(one, field, side)" /> {{ field[side] || 'nothing' }}@if (field.changed === 'both' || field.changed === side) { <em>changed</em> }</label>
                          </td>
                        }
                      </tr>
                    }
                  </tbody>
                </table>
              }
              <p class="ways">
                @if (one.state === 'pending' || one.state === 'gone') {
                  <button type="button" class="link" [disabled]="busy()" (click)="write([one])">Write it out</button>
                }
                @if (one.fields.length) {
                  <button type="button" class="link" [disabled]="busy()" (click)="settle([one], chosen()[keyOf(one)] ?? {})">Settle as chosen</button>
                }
                <label class="order"><p-checkbox [binary]="true" size="small" [ngModel]="one.standing" (onChange)="order(one, $event.checked)" /> every update writes it out</label>
              </p>
            </article>
          }
        }
        @if (problem()) { <p role="alert" class="why">{{ problem() }}</p> }
      </section>
    }
  `,
  styles: `
    section { padding: 9px 14px; border-top: 1px solid var(--hairline-soft); }
    p { margin: 0; }
    .head { display: flex; align-items: baseline; gap: 10px; color: var(--ink-two); }
    .ways { display: flex; flex-wrap: wrap; gap: 4px 16px; }
    .head .ways { margin-left: auto; white-space: nowrap; }
    .all { padding: 8px 0; }
    .all .link { margin-left: 12px; }
    .title { display: flex; flex-wrap: wrap; align-items: baseline; gap: 0 10px; }
    article { padding: 10px 0; border-top: 1px solid var(--hairline-soft); }
    article span, .why, em { color: var(--ink-two); }
    code { font: 12px var(--mono); color: var(--ink-three); }
    table { width: 100%; margin: 6px 0; border-collapse: collapse; table-layout: fixed; }
    th { padding: 3px 8px 3px 0; text-align: left; font-weight: 400; color: var(--ink-two); }
    th:first-child { width: 90px; }
    td { padding: 3px 8px; border-top: 1px solid var(--hairline-soft); overflow-wrap: anywhere; }
    td.on { background: var(--action-soft); }
    em { font-style: normal; font-size: 12px; margin-left: 6px; }
    .order { margin-left: auto; color: var(--ink-two); }
  `,
})
export class OutsidePanel {
  private readonly api = inject(Api);
  /** Counts up where something was written out elsewhere on the Desk. */
  readonly stamp = input(0);
  /** Those that are not the same on both sides. */
  readonly list = signal<readonly OutsideDescription[]>([]);
  protected readonly open = signal(false);
  protected readonly busy = signal(false);
  protected readonly problem = signal('');
  /** Which side counts, by description and field, where somebody said so. */
  protected readonly chosen = signal<Readonly<Record<string, Partial<Record<Field['field'], Side>>>>>({});
  protected readonly sides: readonly Side[] = ['inside', 'outside'];
  protected readonly counted = counted;
  protected readonly pending = computed(() => this.list().filter(({ state }) => state === 'pending' || state === 'gone'));
  protected readonly touched = computed(() => this.list().filter(({ state }) => state === 'outside' || state === 'both'));
  protected readonly summary = computed(() => {
    const count = (states: readonly string[]): number => this.list().filter(({ state }) => states.includes(state)).length;
    const said: readonly [number, string][] = [
      [count(['pending']), 'not yet written out'],
      [count(['outside']), 'changed in the file'],
      [count(['both']), 'changed on both sides'],
      [count(['gone', 'unreadable']), 'whose file is gone or can’t be read'],
    ];
    const parts = said.filter(([some]) => some).map(([some, words]) => `${some} ${words}`);
    return `Descriptions in files outside: ${parts.join(', ')}.`;
  });

  constructor() {
    const again = new Subject<void>();
    merge(again, toObservable(this.stamp))
      .pipe(
        throttleTime(500, undefined, { leading: true, trailing: true }),
        // One answer that fails is not the last: the next change asks again.
        switchMap(() => this.api.call('outsideDescriptions').pipe(catchError(() => EMPTY))),
        takeUntilDestroyed(),
      )
      .subscribe(({ descriptions }) => this.list.set(descriptions));
    inject(ServerEvents)
      .all.pipe(takeUntilDestroyed())
      .subscribe(({ kind }) => (kind === 'master' || kind === 'again') && again.next());
    this.again = again;
  }
  private readonly again: Subject<void>;

  protected words = ({ state }: OutsideDescription): string => STATES[state];
  protected name = ({ field }: Field): string => FIELDS[field];
  protected every = (side: Side): Record<Field['field'], Side> => ({
    keywords: side,
    caption: side,
    rights: side,
    corrections: side,
  });
  protected keyOf = ({ master, about }: OutsideDescription): string => `${master} ${about}`;
  protected nameOf = ({ title, picture }: OutsideDescription): string => (picture ? `${picture} in ${title}` : title);
  protected sideOf(one: OutsideDescription, { field, changed }: Field): Side {
    return this.chosen()[this.keyOf(one)]?.[field] ?? (changed === 'outside' ? 'outside' : 'inside');
  }
  protected choose(one: OutsideDescription, { field }: Field, side: Side): void {
    const key = this.keyOf(one);
    this.chosen.update((all) => ({ ...all, [key]: { ...all[key], [field]: side } }));
  }

  private after(asked: Observable<AnswerOf<'writeDescriptions'>>): void {
    this.busy.set(true);
    this.problem.set('');
    asked.subscribe({
      next: ({ failed }) => {
        this.busy.set(false);
        this.problem.set(failed.map(({ message }) => message).join(' '));
        this.again.next();
      },
      error: (error: Error) => {
        this.busy.set(false);
        this.problem.set(error.message);
      },
    });
  }
  private which(some: readonly OutsideDescription[]): { masters: string[]; about: string[] } {
    const once = (words: readonly string[]): string[] => [...new Set(words)];
    return { masters: once(some.map(({ master }) => master)), about: once(some.map(({ about }) => about)) };
  }
  protected write(some: readonly OutsideDescription[]): void {
    this.after(this.api.call('writeDescriptions', {}, this.which(some)));
  }
  protected settle(some: readonly OutsideDescription[], choices: Partial<Record<Field['field'], Side>>): void {
    this.after(this.api.call('settleDescriptions', {}, { ...this.which(some), choices }));
  }
  protected order(one: OutsideDescription, on: boolean): void {
    this.after(this.api.call('orderDescriptions', {}, { ...this.which([one]), on }));
  }
}
