import { DestroyRef, Injectable, effect, inject, signal } from '@angular/core';
import type { EventView } from '@inkwell-twin/api';
import { type Observable, Subject, firstValueFrom } from 'rxjs';
import { Api } from './api.service';
import { Person } from './person';
import { TAB } from './tab';

/** What the windows of a browser say to each other; the one that listens passes on what it was told. */
type Word =
  | { readonly kind: 'told'; readonly event: EventView }
  | { readonly kind: 'window'; readonly tab: string; readonly master: string }
  | { readonly kind: 'gone'; readonly tab: string }
  | { readonly kind: 'who' }
  | { readonly kind: 'deaf'; readonly deaf: boolean };

const CHANNEL = 'inkwell-events';
/** Milliseconds until a server that refused, or is away, is asked again; longer each time. */
const PAUSES = [1_000, 2_000, 5_000, 10_000];
/** Milliseconds in which windows that open or close together are said together. */
const TOGETHER = 60;
/** Milliseconds between looks for windows that are gone without a word. */
const LOOK = 15_000;

const lockOf = (tab: string): string => `inkwell-tab-${tab}`;

/**
 * What the server tells on its own: progress of jobs, verdicts that changed, who else looks at the same master. One window of a
 * browser listens for all of them, since a browser keeps few connections to one server; when it closes, another goes on. What was
 * told in between is lost, so everyone is asked to look again.
 */
@Injectable({ providedIn: 'root' })
export class ServerEvents {
  private readonly api = inject(Api);
  private readonly person = inject(Person);
  private readonly told = new Subject<EventView>();
  private readonly channel = new BroadcastChannel(CHANNEL);
  /** Which master each window looks at, as far as this one knows. */
  private readonly windows = new Map<string, string>([[TAB, '']]);
  private readonly stream = crypto.randomUUID();
  private source: EventSource | undefined;
  private tries = 0;
  private saying: ReturnType<typeof setTimeout> | undefined;
  /** Whether somebody has listened before, so that things may have happened unheard. */
  private wasOpen = false;

  readonly all: Observable<EventView> = this.told.asObservable();
  /** Whether nothing is heard of what others do, because the server is away or has no room for one more. */
  readonly deaf = signal(false);

  constructor() {
    this.channel.onmessage = ({ data }: MessageEvent<Word>) => this.hear(data);
    effect(() => {
      this.person.name();
      this.sayWindows();
    });
    // The lock is held as long as this window lives: others see by it who is gone.
    void navigator.locks?.request(lockOf(TAB), () => new Promise(() => undefined));
    void this.waitToLead();
    this.say({ kind: 'window', tab: TAB, master: '' });
    const leaving = () => this.say({ kind: 'gone', tab: TAB });
    addEventListener('pagehide', leaving);
    inject(DestroyRef).onDestroy(() => removeEventListener('pagehide', leaving));
  }

  /** Says which master this window looks at; none on the Desk. */
  at(master: string): void {
    if (this.windows.get(TAB) === master) return;
    this.windows.set(TAB, master);
    this.say({ kind: 'window', tab: TAB, master });
    this.sayWindows();
  }

  private say(word: Word): void {
    this.channel.postMessage(word);
  }

  private hear(word: Word): void {
    switch (word.kind) {
      case 'told':
        return this.told.next(word.event);
      case 'window':
        if (this.windows.get(word.tab) === word.master) return;
        this.windows.set(word.tab, word.master);
        // One that came later does not know yet how it stands.
        if (this.source) this.say({ kind: 'deaf', deaf: this.deaf() });
        return this.sayWindows();
      case 'gone':
        this.windows.delete(word.tab);
        return this.sayWindows();
      case 'who':
        return this.say({ kind: 'window', tab: TAB, master: this.windows.get(TAB) ?? '' });
      case 'deaf':
        return this.deaf.set(word.deaf);
    }
  }

  /** One window at a time has the lock, and with it the connection. */
  private async waitToLead(): Promise<void> {
    if (!navigator.locks) return this.lead();
    await navigator.locks.request(CHANNEL, { ifAvailable: true }, (lock) => (lock ? this.lead() : undefined));
    // Another listens: once it is gone, what happens until this one does is lost.
    this.wasOpen = true;
    await navigator.locks.request(CHANNEL, () => this.lead());
  }

  /** Listens for all windows of this browser from now on, for as long as this one lives. */
  private lead(): Promise<never> {
    this.say({ kind: 'who' });
    this.listen();
    setInterval(() => void this.lookWhoIsGone(), LOOK);
    return new Promise(() => undefined);
  }

  private listen(): void {
    const source = new EventSource(`/api/events?stream=${this.stream}`);
    this.source = source;
    source.onmessage = ({ data }: MessageEvent<string>) => this.pass(JSON.parse(data) as EventView);
    source.onopen = () => {
      this.tries = 0;
      this.setDeaf(false);
      this.sayWindows();
      if (this.wasOpen) this.pass({ kind: 'again', master: '' });
      this.wasOpen = true;
    };
    source.onerror = () => {
      this.setDeaf(true);
      // Where the connection was lost it is tried again by itself; where the server refused, it is not.
      if (source.readyState !== EventSource.CLOSED) return;
      setTimeout(() => this.listen(), PAUSES[Math.min(this.tries++, PAUSES.length - 1)]);
    };
  }

  private pass(event: EventView): void {
    this.told.next(event);
    this.say({ kind: 'told', event });
  }

  private setDeaf(deaf: boolean): void {
    if (this.deaf() === deaf) return;
    this.deaf.set(deaf);
    this.say({ kind: 'deaf', deaf });
  }

  /** Tells the server where the windows of this browser are, if this is the one that listens. */
  private sayWindows(): void {
    if (!this.source || this.saying) return;
    this.saying = setTimeout(() => {
      this.saying = undefined;
      if (this.source?.readyState !== EventSource.OPEN) return;
      const windows = [...this.windows].map(([tab, master]) => ({ tab, master }));
      firstValueFrom(this.api.call('here', { stream: this.stream }, { windows })).catch(() => undefined);
    }, TOGETHER);
  }

  private async lookWhoIsGone(): Promise<void> {
    const held = new Set(((await navigator.locks?.query())?.held ?? []).map(({ name }) => name));
    for (const tab of [...this.windows.keys()])
      if (tab !== TAB && held.size && !held.has(lockOf(tab))) {
        this.windows.delete(tab);
        this.sayWindows();
      }
  }
}
