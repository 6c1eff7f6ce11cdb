import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  type OnDestroy,
  computed,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { Router } from '@angular/router';
import type { Subscription } from 'rxjs';
import type { AnswerOf } from '@inkwell-twin/api';
import { InputText } from 'primeng/inputtext';
import { Api } from '../services/api.service';
import { type Findable, FindableThings } from '../services/findable';
import { shortcuts } from './shortcuts';

/** How long one pauses in typing before the server is asked, ms; what is shown of each kind. */
const [PAUSE, MOST] = [140, 8];

const plain = (text: string): string => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();
/** Whether every word that was typed begins a word of a name, or stands in it. */
const fits = (name: string, words: readonly string[]): boolean => {
  const own = plain(name);
  return words.every((word) => own.includes(word));
};

/** One field to find anything by its name and go there, or to do something by its name. */
@Component({
  selector: 'twin-finder',
  imports: [InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(document:keydown)': 'key($event)', '(focusout)': 'left($event)' },
  template: `
    <input pInputText pSize="small"
      #field
      type="search"
      role="combobox"
      placeholder="Find or do …"
      aria-label="Find or do something by its name"
      title="Press / to come here"
      autocomplete="off"
      spellcheck="false"
      aria-controls="found"
      [attr.aria-expanded]="open()"
      [attr.aria-activedescendant]="open() && flat().length ? 'found-' + at() : null"
      [value]="text()"
      (focus)="begin()"
      (input)="typed($event)"
      (keydown.arrowdown)="go($event, 1)"
      (keydown.arrowup)="go($event, -1)"
      (keydown.enter)="take(flat()[at()])"
      (keydown.escape)="end()"
    />
    @if (open()) {
      <div class="found" id="found" role="listbox" aria-label="What was found">
        @for (group of groups(); track group.name) {
          <h3>{{ group.name }}</h3>
          @for (one of group.rows; track one.index) {
            <div
              role="option"
              [id]="'found-' + one.index"
              [attr.aria-selected]="one.index === at()"
              [class.on]="one.index === at()"
              (mousedown)="$event.preventDefault()"
              (mouseenter)="at.set(one.index)"
              (click)="take(one.thing)"
            >
              {{ one.thing.name }} <span>{{ one.thing.beside }}</span>
            </div>
          }
        } @empty {
          <p role="status">{{ text().trim() ? (asking() ? 'Looking …' : 'Nothing is called that.') : 'Type a part of a name: of a master, a copy, a revision, an object or an act.' }}</p>
        }
        @if (problem()) {
          <p role="alert">{{ problem() }}</p>
        }
      </div>
    }
  `,
  styles: `
    :host { position: relative; display: block; flex: 0 1 190px; min-width: 110px; }
    input { width: 100%; padding: 5px 10px; border: 1px solid var(--hairline); border-radius: 6px; background: var(--raised); color: var(--ink); font: inherit; font-size: 13px; }
    input::placeholder { color: var(--ink-three); }
    .found { position: absolute; z-index: 20; top: calc(100% + 4px); right: 0; width: 420px; max-height: 70vh; overflow: auto; padding: 6px 0 8px; border: 1px solid var(--hairline); border-radius: 8px; background: var(--raised); box-shadow: 0 6px 24px rgb(20 33 58 / 14%); }
    h3 { margin: 8px 14px 2px; color: var(--ink-two); font-size: 12px; font-weight: 500; }
    [role='option'] { display: flex; justify-content: space-between; gap: 14px; padding: 4px 14px; cursor: pointer; }
    .on { background: var(--action-soft); }
    span { color: var(--ink-two); font-size: 12.5px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
    p { margin: 6px 14px; color: var(--ink-two); }
  `,
})
export class Finder implements OnDestroy {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly things = inject(FindableThings);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');

  protected readonly open = signal(false);
  protected readonly text = signal('');
  protected readonly at = signal(0);
  protected readonly asking = signal(false);
  protected readonly problem = signal('');
  private readonly answer = signal<AnswerOf<'find'> | null>(null);
  /** What the view offers, as it comes: one may search before all of it is there. */
  private readonly offered = computed((): readonly Findable[] => (this.open() ? this.things.offered()() : []));
  /** What can be done from everywhere. */
  private readonly anywhere: readonly Findable[] = [
    { group: 'Do', name: 'New master', act: () => void this.router.navigate(['/'], { queryParams: { new: 1 } }) },
    { group: 'Do', name: 'Bench', act: () => void this.router.navigate(['/bench']) },
    { group: 'Do', name: 'House rules', act: () => void this.router.navigate(['/house']) },
    { group: 'Do', name: 'Desk', act: () => void this.router.navigate(['/']) },
  ];
  private timer: ReturnType<typeof setTimeout> | undefined;
  private running: Subscription | undefined;

  protected readonly flat = computed((): readonly Findable[] => {
    const words = plain(this.text()).split(/\s+/).filter(Boolean);
    const to =
      (id: string, query: object = {}) =>
      () =>
        void this.router.navigate(['/masters', id], { queryParams: query });
    const openNow = this.things.open().map(({ id, title }): Findable => ({ group: 'Open now', name: title, act: to(id) }));
    const offered = this.offered();
    const anywhere = this.anywhere.filter(({ name }) => offered.every((one) => one.name !== name));
    const own = [...openNow, ...offered, ...anywhere].filter(({ name, beside = '' }) =>
      words.length ? fits(`${name} ${beside}`, words) : true,
    );
    if (!words.length) return own.filter(({ group }) => group !== 'On this master');
    const { masters = [], copies = [], revisions = [], objects = [] } = this.answer() ?? {};
    // Those of the master that lies open are offered by it, as they are in the draft.
    const here = /^\/masters\/([^/?]+)/.exec(this.router.url)?.[1];
    return [
      ...['Do', 'Open now', 'On this master'].flatMap((group) => own.filter((one) => one.group === group).slice(0, MOST)),
      ...masters.map(({ id, title, owner }): Findable => ({ group: 'Masters', name: title, beside: owner, act: to(id) })),
      ...copies.map(({ id, master, title, label, verdict }): Findable => ({
        group: 'Copies',
        name: label,
        beside: `${title}, ${verdict}`,
        act: to(master, { copy: id }),
      })),
      ...revisions.map(({ master, title, rev, name, message }): Findable => ({
        group: 'Revisions',
        name: name || message,
        beside: `r${rev} of ${title}`,
        act: to(master, { rev }),
      })),
      ...objects
        .filter(({ master }) => master !== here)
        .map(({ master, title, id, name, part }): Findable => ({
          group: 'Objects and symbols',
          name,
          beside: part ? `${title}, ${part}` : `${title}, symbol`,
          act: to(master, { object: id }),
        })),
    ];
  });
  protected readonly groups = computed(() => {
    const groups: { name: string; rows: { index: number; thing: Findable }[] }[] = [];
    this.flat().forEach((thing, index) => {
      const last = groups.at(-1);
      if (last?.name === thing.group) last.rows.push({ index, thing });
      else groups.push({ name: thing.group, rows: [{ index, thing }] });
    });
    return groups;
  });

  protected readonly key = shortcuts({ '/': () => this.field().nativeElement.focus() });

  protected begin(): void {
    this.open.set(true);
    this.at.set(0);
  }

  protected left({ relatedTarget }: FocusEvent): void {
    if (!(relatedTarget instanceof Node) || !this.host.contains(relatedTarget)) this.open.set(false);
  }

  protected typed(event: Event): void {
    const text = (event.target as HTMLInputElement).value;
    this.text.set(text);
    this.at.set(0);
    this.open.set(true);
    this.problem.set('');
    clearTimeout(this.timer);
    this.running?.unsubscribe();
    if (!text.trim()) return this.answer.set(null);
    this.asking.set(true);
    this.timer = setTimeout(() => {
      this.running = this.api.call('find', {}, undefined, { find: text.trim() }).subscribe({
        next: (answer) => {
          this.answer.set(answer);
          this.asking.set(false);
        },
        error: (error: Error) => {
          this.asking.set(false);
          this.problem.set(error.message);
        },
      });
    }, PAUSE);
  }

  protected go(event: Event, by: number): void {
    event.preventDefault();
    const count = this.flat().length;
    if (!count) return;
    this.at.set((this.at() + by + count) % count);
    document.getElementById(`found-${this.at()}`)?.scrollIntoView({ block: 'nearest' });
  }

  protected take(thing: Findable | undefined): void {
    if (!thing) return;
    this.end();
    thing.act();
  }

  protected end(): void {
    this.text.set('');
    this.answer.set(null);
    this.open.set(false);
    this.field().nativeElement.blur();
  }

  ngOnDestroy(): void {
    clearTimeout(this.timer);
    this.running?.unsubscribe();
  }
}
