import { Injectable, computed, inject, signal } from '@angular/core';
import type { AnswerOf, Identified, LookView, NewerView } from '@inkwell-twin/api';
import { Api, ApiError } from '../services/api.service';

/** What became of a file that somebody brought. */
export type Arrival =
  /** It is a master now. */
  | { readonly kind: 'brought'; readonly file: File; readonly brought: Brought }
  /** It is a copy, a master or an original that we know, or much like a copy. */
  | { readonly kind: 'known'; readonly file: File; readonly known: Identified }
  /** It stands in the place of a copy now. */
  | { readonly kind: 'attached'; readonly file: File; readonly known: Identified }
  | { readonly kind: 'failed'; readonly file: File; readonly message: string };

/** What came in, and at how many pixels per inch what can't be held was drawn. */
type Brought = AnswerOf<'bringIn'> & { readonly ppi: number };
type Wishes = Readonly<Record<string, string | number>>;
type Looked = LookView & { readonly file: File };
/** A file, and the copy that it is taken for; empty where it says that itself. */
export interface Held {
  readonly file: File;
  readonly copy: string;
}
const wishesOf = ({ settings }: Looked): Record<string, string> =>
  Object.fromEntries(settings.map(({ name, value }) => [name, value]));

/** Files that somebody brings to the Desk, one after the other: what each is, what is asked about it, and what became of it. */
@Injectable()
export class Arrivals {
  private readonly api = inject(Api);
  private readonly waiting = signal<readonly File[]>([]);
  /** The name of the file that is being read. */
  readonly busy = signal('');
  /** How many more are to be read. */
  readonly more = computed(() => this.waiting().length);
  /** What became of those that were brought, the last first. */
  readonly arrived = signal<readonly Arrival[]>([]);
  /** It says little of itself: how it is read is to be confirmed. */
  readonly looked = signal<Looked | null>(null);
  /** What a machine does with it is looked at. */
  readonly job = signal<File | null>(null);
  /** It is held against its master. */
  readonly held = signal<Held | null>(null);
  /** A newer version wrote it. */
  readonly newer = signal<NewerView | null>(null);
  /** Told whenever a master came in. */
  came: () => void = () => undefined;

  /** What we know is named, with the way to its master; what we do not know becomes a master. */
  receive(files: readonly File[]): void {
    if (!this.busy() && !this.looked()) this.forget();
    this.waiting.update((all) => [...all, ...files]);
    this.next();
  }

  /** The next file, once nothing is read or asked. */
  private next(): void {
    const [file, ...rest] = this.waiting();
    if (!file || this.busy() || this.looked()) return;
    this.waiting.set(rest);
    this.busy.set(file.name);
    this.api.send('identify', file).subscribe({
      next: (known) => {
        if (known.kind === 'other') this.look(file);
        else this.over({ kind: 'known', file, known });
      },
      error: (error: Error) => this.failed(file, error),
    });
  }

  private over(arrival: Arrival): void {
    this.busy.set('');
    this.arrived.update((all) => [arrival, ...all]);
    if (arrival.kind === 'brought' || arrival.kind === 'attached') this.came();
    this.next();
  }

  /** What says little of itself is shown as it would be read, to be confirmed; all else comes in as it is. */
  private look(file: File, wishes: Wishes = {}): void {
    this.busy.set(file.name);
    this.api.send('look', file, '', wishes).subscribe({
      next: ({ look }) => {
        if (!look) return this.bringIn(file);
        this.busy.set('');
        this.looked.set({ ...look, file });
      },
      error: (error: Error) => this.failed(file, error),
    });
  }

  /** A file that we know, or that is like a copy, is to be a master of its own. */
  asMaster(file: File): void {
    this.close(file);
    this.look(file);
  }

  decide(looked: Looked, name: string, value: string): void {
    this.look(looked.file, { ...wishesOf(looked), [name]: value });
  }

  bringInAs(looked: Looked): void {
    this.bringIn(looked.file, wishesOf(looked));
  }

  /** It is not to come in after all. */
  leave(): void {
    this.looked.set(null);
    this.next();
  }

  /** @param wishes of parts that a master can't hold, and how its cells are read */
  bringIn(file: File, wishes: Wishes = {}): void {
    this.busy.set(file.name);
    this.looked.set(null);
    this.close(file);
    this.api.send('bringIn', file, '', wishes).subscribe({
      next: (brought) => this.over({ kind: 'brought', file, brought: { ...brought, ppi: Number(wishes['ppi'] ?? 300) } }),
      error: (error: Error) => this.failed(file, error),
    });
  }

  hold(file: File, { kind, copy }: Identified): void {
    this.held.set({ file, copy: kind === 'alike' ? copy! : '' });
  }

  /** The file is that copy from now on. */
  attach(file: File, known: Identified): void {
    this.busy.set(file.name);
    this.close(file);
    this.api.send('attach', file, known.copy!).subscribe({
      next: () => this.over({ kind: 'attached', file, known }),
      error: (error: Error) => this.failed(file, error),
    });
  }

  /** Takes the answer about a file away. */
  close(file: File): void {
    this.arrived.update((all) => all.filter((one) => one.file !== file));
    if (this.held()?.file === file) this.held.set(null);
    if (this.job() === file) this.job.set(null);
  }

  /** Takes all answers away. */
  forget(): void {
    this.arrived.set([]);
    this.held.set(null);
    this.job.set(null);
    this.newer.set(null);
  }

  private failed(file: File, error: Error): void {
    // One that a newer version wrote is not opened, but it can be looked at.
    if (error instanceof ApiError && error.code === 'newer-version')
      return void this.api.send('lookNewer', file).subscribe({
        next: (view) => {
          this.busy.set('');
          this.newer.set(view);
          this.next();
        },
        error: (other: Error) => this.over({ kind: 'failed', file, message: other.message }),
      });
    this.over({ kind: 'failed', file, message: error.message });
  }
}
