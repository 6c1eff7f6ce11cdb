import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Subject, catchError, debounceTime, of, switchMap } from 'rxjs';
import { takeUntilDestroyed, toObservable, toSignal } from '@angular/core/rxjs-interop';
import type { AnswerOf, BodyOf, TargetView } from '@inkwell-twin/api';
import type { Master } from '@inkwell-twin/core/web';
import { Api } from '../../services/api.service';
import { counted, sizeInWords } from '../../shared/words';
import { cellWords, rowsOf } from './ladder';

type Carry = AnswerOf<'carry'>;
const PURPOSES = [
  { group: 'delivery', label: 'To deliver' },
  { group: 'older', label: 'For another program, or an older one' },
  { group: 'machine', label: 'To a machine' },
] as const;
const REMEMBERED = 'inkwell-options-';

/** Derives a copy: for whom, what part, as what; what becomes of this document on the way; then writes it. */
@Component({
  selector: 'twin-derive-panel',
  imports: [Button, FormsModule, InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './derive-panel.html',
  styleUrl: './derive-panel.css',
  host: { '(keydown.escape)': 'closed.emit()' },
})
export class DerivePanel {
  private readonly api = inject(Api);
  readonly master = input.required<Master>();
  readonly id = input.required<string>();
  readonly head = input.required<number>();
  readonly draftChanges = input(0);
  readonly closed = output<void>();
  readonly written = output<string>();
  /** Objects to show in full: those of the line one looks at, or all that arrive. */
  readonly lit = output<ReadonlySet<string> | null>();
  readonly board = output<string>();

  protected readonly purposes = PURPOSES;
  protected readonly purpose = signal<(typeof PURPOSES)[number]['group']>('delivery');
  private readonly targets = signal<readonly TargetView[]>([]);
  protected readonly target = computed(() => this.targets().find(({ group }) => group === this.purpose()));
  protected readonly options = signal<Record<string, string>>({});
  protected readonly boardName = signal('');
  protected readonly carry = signal<Carry | null>(null);
  protected readonly problem = signal('');
  protected readonly line = signal<string | null>(null);
  protected readonly writing = signal(false);
  protected readonly label = signal('');
  protected readonly rows = computed(() => (this.carry() ? rowsOf(this.carry()!) : []));
  /** Which version is chosen; the only one where there is one. */
  protected readonly rungAt = computed(() =>
    Math.max(0, this.carry()?.rungs.findIndex(({ version }) => version === this.options()['version']) ?? 0),
  );
  protected readonly rung = computed(() => this.carry()?.rungs[this.rungAt()] ?? null);
  protected readonly outcomes = ['kept', 'restated', 'approximated', 'left out'];
  protected readonly words = cellWords;
  protected readonly size = sizeInWords;
  protected readonly counted = counted;
  private readonly asked = new Subject<BodyOf<'carry'>>();

  constructor() {
    this.api.call('targets').subscribe({
      next: ({ targets }) => this.targets.set(targets),
      error: (error: Error) => this.problem.set(error.message),
    });
    effect(() => {
      const first = this.master().boards[0]!.name;
      if (!untracked(this.boardName)) this.boardName.set(first);
    });
    effect(() => {
      const target = this.target();
      if (!target) return;
      const kept = JSON.parse(localStorage.getItem(REMEMBERED + target.id) ?? '{}') as Record<string, string>;
      this.options.set(Object.fromEntries(target.options.map(({ name, standard }) => [name, kept[name] ?? standard])));
    });
    effect(() => {
      const target = this.target();
      const [options, board] = [this.options(), this.boardName()];
      if (target && board && Object.keys(options).length) this.asked.next({ target: target.id, options, board });
    });
    this.asked
      .pipe(
        debounceTime(120),
        switchMap((body) =>
          this.api.call('carry', { id: this.id() }, body).pipe(
            catchError((error: Error) => {
              this.problem.set(error.message);
              return of(null);
            }),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((carry) => {
        this.carry.set(carry);
        if (carry) this.problem.set('');
        this.line.set(null);
        this.choose(null);
      });
  }

  private readonly naming = toObservable(
    computed(() => ({ target: this.target()?.id, options: this.options(), board: this.boardName(), label: this.label().trim() })),
  );
  /** The name that the copy will get; empty until it is named. */
  protected readonly name = toSignal(
    this.naming.pipe(
      debounceTime(120),
      switchMap(({ target, label, ...rest }) =>
        target && label
          ? this.api.call('copyName', { id: this.id() }, { ...rest, target, label }).pipe(catchError(() => of(null)))
          : of(null),
      ),
    ),
    { initialValue: null },
  );

  protected setOption(name: string, value: string): void {
    this.options.update((options) => ({ ...options, [name]: value }));
  }

  protected setBoard(name: string): void {
    this.boardName.set(name);
    this.board.emit(name);
  }

  /** Lights up the objects of a line; without one, everything that is not left out. */
  protected choose(key: string | null): void {
    this.line.set(this.line() === key ? null : key);
    const chosen = this.line() === null ? undefined : this.rows().find((row) => row.key === this.line());
    const cell = chosen && (chosen.cells[this.rungAt()] ?? chosen.cells.find((one) => one !== null));
    const arriving = (this.rung()?.report.lines ?? [])
      .filter(({ outcome, feature }) => outcome === 'kept' || feature === 'text' || feature === 'uses')
      .flatMap(({ objects }) => objects);
    this.lit.emit(new Set(cell ? cell.objects : arriving));
  }

  protected write(): void {
    const target = this.target();
    if (!target || !this.label().trim()) return;
    this.writing.set(true);
    localStorage.setItem(REMEMBERED + target.id, JSON.stringify(this.options()));
    const body = { target: target.id, options: this.options(), board: this.boardName(), label: this.label() };
    this.api.call('addRecipe', { id: this.id() }, body).subscribe({
      next: ({ recipe }) => this.written.emit(recipe),
      error: (error: Error) => {
        this.writing.set(false);
        this.problem.set(error.message);
      },
    });
  }
}
