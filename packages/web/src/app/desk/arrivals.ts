import { Injectable, inject, signal } from '@angular/core';
import type { AnswerOf, Identified, LookView, NewerView } from '@inkwell-twin/api';
import { Api, ApiError } from '../services/api.service';

/** What came in, and how it was asked for. */
type Brought = AnswerOf<'bringIn'> & { readonly file: File; readonly ppi: number };
type Wishes = Readonly<Record<string, string | number>>;
type Looked = LookView & { readonly file: File };
type Known = Identified & { readonly file: File };
const wishesOf = ({ settings }: Looked): Record<string, string> =>
  Object.fromEntries(settings.map(({ name, value }) => [name, value]));

/** A file that somebody brings to the Desk: what it is, what is asked about it, and what became of it. */
@Injectable()
export class Arrivals {
  private readonly api = inject(Api);
  /** The name of the file that is being read. */
  readonly busy = signal('');
  readonly problem = signal('');
  /** It is a master now. */
  readonly brought = signal<Brought | null>(null);
  /** It says little of itself: how it is read is to be confirmed. */
  readonly looked = signal<Looked | null>(null);
  /** It is a copy or a master that we know. */
  readonly identified = signal<Known | null>(null);
  /** It is a copy that is held against its master. */
  readonly held = signal<File | null>(null);
  /** A newer version wrote it. */
  readonly newer = signal<NewerView | null>(null);
  /** Told whenever a master came in. */
  came: () => void = () => undefined;

  forget(): void {
    this.identified.set(null);
    this.held.set(null);
  }

  /** What we know is named, with the way to its master; what we do not know becomes a master. */
  receive(file: File): void {
    this.begin(file);
    this.api.send('identify', file).subscribe({
      next: (found) => {
        if (found.kind === 'other') return this.look(file);
        this.busy.set('');
        this.identified.set({ ...found, file });
      },
      error: (error: Error) => this.failed(file, error),
    });
  }

  /** What says little of itself is shown as it would be read, to be confirmed; all else comes in as it is. */
  look(file: File, wishes: Readonly<Record<string, string>> = {}): void {
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

  decide(looked: Looked, name: string, value: string): void {
    this.look(looked.file, { ...wishesOf(looked), [name]: value });
  }

  bringInAs(looked: Looked): void {
    this.bringIn(looked.file, wishesOf(looked));
  }

  /** @param wishes of parts that a master can't hold, and how its cells are read */
  bringIn(file: File, wishes: Wishes = {}): void {
    this.begin(file);
    this.api.send('bringIn', file, '', wishes).subscribe({
      next: (brought) => {
        this.busy.set('');
        this.brought.set({ ...brought, file, ppi: Number(wishes['ppi'] ?? 300) });
        this.came();
      },
      error: (error: Error) => this.failed(file, error),
    });
  }

  private begin(file: File): void {
    this.busy.set(file.name);
    this.problem.set('');
    this.brought.set(null);
    this.looked.set(null);
    this.forget();
    this.newer.set(null);
  }

  private failed(file: File, error: Error): void {
    // One that a newer version wrote is not opened, but it can be looked at.
    if (error instanceof ApiError && error.code === 'newer-version')
      return void this.api.send('lookNewer', file).subscribe({
        next: (view) => {
          this.busy.set('');
          this.newer.set(view);
        },
        error: (other: Error) => this.failed(file, other),
      });
    this.busy.set('');
    this.problem.set(`${file.name}: ${error.message}`);
  }
}
