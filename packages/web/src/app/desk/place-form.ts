import { ChangeDetectionStrategy, Component, type OnInit, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { StandingView } from '@inkwell-twin/api';
import { Subject, catchError, debounceTime, of, switchMap } from 'rxjs';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Api } from '../services/api.service';
import { Choice } from '../shared/choice';
import { sizeInWords, timeInWords } from '../shared/words';

/** Moves or renames a master on the shelf, and shows what stands where it would go. */
@Component({
  selector: 'twin-place-form',
  imports: [Button, Choice, FormsModule, InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="move()" aria-label="Place on the shelf">
      <label>
        In
        <input pInputText name="place" [(ngModel)]="place" (ngModelChange)="asked.next()" list="places" placeholder="the shelf itself" maxlength="600" aria-label="Folder on the shelf" />
      </label>
      <datalist id="places">
        @for (one of places(); track one) {
          <option [value]="one"></option>
        }
      </datalist>
      <label>as <input pInputText name="name" [(ngModel)]="name" (ngModelChange)="asked.next()" maxlength="80" aria-label="Name on the shelf" required /></label>
      @if (copies() > 0) {
        <twin-choice label="Its copies" [choices]="ways" [value]="way()" (chosen)="way.set($event)" />
      }
      <span class="acts">
        <p-button type="submit" label="Move it there" [disabled]="!free() || same() || busy()" />
        <button type="button" class="link" (click)="closed.emit()">Not now</button>
      </span>
      @if (standing(); as there) {
        <div class="there" role="status">
          @if (there.master?.picture; as picture) {
            <img [src]="picture" alt="" />
          }
          <p>
            There stands @if (there.master; as master) { the master <strong>{{ master.title }}</strong>, r{{ master.head }} } @else { a {{ there.what }} <strong>{{ there.name }}</strong> }, {{ bytes(there.size) }}@if (there.time) {, changed {{ time(there.time) }}}.
            Nothing is moved onto it.
          </p>
          <button type="button" class="link" (click)="take()">Take {{ freeName() }} instead</button>
        </div>
      } @else if (trouble()) {
        <p role="alert">{{ trouble() }}</p>
      } @else {
        <p class="is">Now <code>{{ folder() }}</code></p>
      }
    </form>
  `,
  styles: `
    form { display: flex; flex-wrap: wrap; align-items: center; gap: 8px 14px; padding: 10px 14px; border-top: 1px solid var(--hairline-soft); background: var(--raised); }
    label { display: inline-flex; align-items: center; gap: 8px; font-weight: 600; }
    input[pInputText] { width: 220px; }
    .acts { display: inline-flex; gap: 14px; align-items: center; margin-left: auto; }
    .there, p { flex: 1 0 100%; margin: 0; color: var(--ink-two); }
    .there { display: flex; align-items: center; gap: 14px; }
    .there p { flex: 0 1 auto; }
    .there img { max-width: 64px; max-height: 48px; border: 1px solid var(--hairline-soft); background: #fff; }
  `,
})
export class PlaceForm implements OnInit {
  private readonly api = inject(Api);
  readonly masterId = input.required<string>();
  readonly folder = input.required<string>();
  /** How many copies it has. */
  readonly copies = input(0);
  readonly moved = output<string>();
  readonly closed = output<void>();

  protected place = '';
  protected name = '';
  protected readonly ways = [
    { value: 'follow', label: 'its copies come along' },
    { value: 'stay', label: 'its copies stay' },
  ];
  protected readonly way = signal('follow');
  protected readonly places = signal<readonly string[]>([]);
  protected readonly standing = signal<StandingView | null>(null);
  protected readonly freeName = signal('');
  protected readonly trouble = signal('');
  protected readonly busy = signal(false);
  /** Whether what is written can be taken, as far as was asked. */
  protected readonly free = computed(() => !this.standing() && !this.trouble());
  protected readonly asked = new Subject<void>();
  protected readonly bytes = sizeInWords;
  protected readonly time = timeInWords;
  private readonly path = signal('');
  protected readonly same = computed(() => this.path() === this.folder());

  constructor() {
    this.asked
      .pipe(
        debounceTime(150),
        switchMap(() => {
          const [place, name] = [this.place.trim().replace(/^\/+|\/+$/g, ''), this.name.trim()];
          this.path.set(place ? `${place}/${name}` : name);
          if (!name) return of({ standing: null, free: '', trouble: 'It needs a name.' });
          return this.api
            .call('standing', { id: this.masterId() }, undefined, { place, name })
            .pipe(catchError((error: Error) => of({ standing: null, free: '', trouble: error.message })));
        }),
        takeUntilDestroyed(),
      )
      .subscribe(({ standing, free, ...rest }) => {
        this.standing.set(standing);
        this.freeName.set(free);
        this.trouble.set('trouble' in rest ? rest.trouble : '');
      });
    // They are offered to choose from; any other can be typed.
    this.api.call('places').subscribe({ next: ({ places }) => this.places.set(places), error: () => undefined });
  }

  ngOnInit(): void {
    const parts = this.folder().split('/');
    this.name = parts.pop() ?? '';
    this.place = parts.join('/');
    this.path.set(this.folder());
  }

  protected take(): void {
    this.name = this.freeName();
    this.asked.next();
  }

  protected move(): void {
    if (!this.free() || this.same()) return;
    this.busy.set(true);
    const body = { place: this.place.trim(), name: this.name.trim(), copies: this.way() as 'follow' | 'stay' };
    this.api.call('move', { id: this.masterId() }, body).subscribe({
      next: ({ folder }) => this.moved.emit(folder),
      error: (error: Error) => {
        this.busy.set(false);
        this.trouble.set(error.message);
        this.asked.next();
      },
    });
  }
}
