import { ChangeDetectionStrategy, Component, effect, inject, input, output, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Observer } from 'rxjs';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import type { CopyView, readMatch } from '@inkwell-twin/api';
import type { Place } from '../../content/face';
import { Api } from '../../services/api.service';
import { Person } from '../../services/person';
import { Latest } from '../../shared/latest';
import { VerdictMark } from '../../shared/verdict-mark';
import { sizeInWords } from '../../shared/words';
import { Compared } from './compared';
import { LockRow } from './lock-row';
import { MachineRow } from './machine-row';
import { MatchList } from './match-list';
import { MatchLook } from './match-look';
import { MatchWays } from './match-ways';
import { ReaderRow } from './reader-row';
import { declarationOf } from '@inkwell-twin/core/web';
import { LaneKey } from '../../shared/lane-key';

/** How the selected copy compares with the master now, and what can be done about it. */
@Component({
  selector: 'twin-match-lane',
  imports: [
    Button,
    FormsModule,
    InputText,
    LaneKey,
    LockRow,
    MachineRow,
    MatchList,
    MatchLook,
    MatchWays,
    ReaderRow,
    VerdictMark,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './match-lane.html',
  styleUrl: './match-lane.css',
})
export class MatchLane {
  /** The copy was withdrawn. */
  readonly withdrawn = output<CopyView>();
  /** Its key was pressed here: it wants the room. */
  readonly widened = output<void>();
  private readonly api = inject(Api);
  private readonly person = inject(Person);
  readonly copy = input.required<CopyView | null>();
  /** Grows with every job that may have changed the outcome. */
  readonly stamp = input.required<number>();
  readonly working = input('');
  /** Where in the master the chosen difference is. */
  readonly place = output<Place>();

  protected readonly compared = new Compared();
  protected readonly problem = signal('');
  /** The way back from the copy: its master, as large as there is room for. */
  readonly mastered = output<void>();
  protected toMaster(): void {
    this.compared.way.set('over');
    this.mastered.emit();
  }
  protected readonly accepting = signal(false);
  protected reason = '';
  protected readonly size = sizeInWords;
  protected readonly encoded = encodeURIComponent;
  protected mayLock = ({ target, locked }: CopyView): boolean => locked || declarationOf(target).locks !== undefined;
  /** Whether programs of other versions are there to open it. */
  protected opensElsewhere = ({ target, verdict }: CopyView): boolean =>
    declarationOf(target).ages === true && verdict !== 'gone';
  private asked = '';
  private readonly latest = new Latest();

  constructor() {
    effect(() => {
      const copy = this.copy();
      this.stamp();
      untracked(() => this.load(copy));
    });
  }

  private load(copy: CopyView | null): void {
    if (!copy || copy.id !== this.asked) {
      this.compared.clear();
      this.accepting.set(false);
    }
    this.asked = copy?.id ?? '';
    this.compared.isFor(copy?.options['machine']);
    this.problem.set('');
    if (!copy) return this.latest.forget();
    const leaf = this.compared.leaf();
    const answer: Partial<Observer<ReturnType<typeof readMatch>>> = {
      next: (found) => this.compared.take(found),
      error: (error: Error) => this.problem.set(error.message),
    };
    this.latest.ask(this.api.match(copy.id, leaf), answer, '', `${copy.id} ${leaf}`);
  }

  protected choose(index: number): void {
    this.compared.chosen.set(index);
    const difference = this.compared.match()?.differences[index];
    const place = this.compared.placeOf(index);
    if (difference) this.look(difference.leaf);
    if (place) this.place.emit(place);
  }

  protected look(leaf: number): void {
    if (this.compared.turnTo(leaf)) this.load(this.copy());
  }

  private act(id: 'deriveAgain' | 'check'): void {
    const copy = this.copy();
    if (copy) this.api.call(id, { id: copy.id }).subscribe({ error: (error: Error) => this.problem.set(error.message) });
  }
  protected deriveAgain = (): void => this.act('deriveAgain');
  protected withdraw(): void {
    const copy = this.copy();
    if (!copy) return;
    this.api.call('withdraw', { id: copy.id }).subscribe({
      next: () => this.withdrawn.emit(copy),
      error: (error: Error) => this.problem.set(error.message),
    });
  }
  protected check = (): void => this.act('check');

  protected order(eachUpdate: boolean): void {
    const copy = this.copy();
    if (!copy) return;
    this.api
      .call('orderCopy', { id: copy.id }, { eachUpdate })
      .subscribe({ error: (error: Error) => this.problem.set(error.message) });
  }

  protected accept(): void {
    const copy = this.copy();
    if (!copy || !this.reason.trim()) return;
    this.api.call('accept', { id: copy.id }, { by: this.person.name(), reason: this.reason }).subscribe({
      next: () => {
        this.accepting.set(false);
        this.reason = '';
      },
      error: (error: Error) => this.problem.set(error.message),
    });
  }
}
