import { ChangeDetectionStrategy, Component, effect, inject, input, output, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Observer } from 'rxjs';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import type { CopyView, readMatch } from '@inkwell-twin/api';
import type { Box } from '@inkwell-twin/core/web';
import { Api } from '../../services/api.service';
import { Person } from '../../services/person';
import { Latest } from '../../shared/latest';
import { VerdictMark } from '../../shared/verdict-mark';
import { sizeInWords } from '../../shared/words';
import { Compared } from './compared';
import { MatchList } from './match-list';
import { MatchLook } from './match-look';
import { MatchWays } from './match-ways';

/** How the selected copy compares with the master now, and what can be done about it. */
@Component({
  selector: 'twin-match-lane',
  imports: [Button, FormsModule, InputText, MatchList, MatchLook, MatchWays, VerdictMark],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './match-lane.html',
  styleUrl: './match-lane.css',
})
export class MatchLane {
  private readonly api = inject(Api);
  private readonly person = inject(Person);
  readonly copy = input.required<CopyView | null>();
  /** Grows with every job that may have changed the outcome. */
  readonly stamp = input.required<number>();
  readonly working = input('');
  /** A cell of a table by its name; empty for the only one of the copy. */
  readonly cell = output<{ table: string; row: number; column: number }>();
  /** A place of a solid by its name; empty for the only one of the copy. */
  readonly spot = output<{ solid: string; at: readonly [number, number, number] }>();
  /** A paragraph of a text by its name; empty for the only one of the copy. */
  readonly paragraph = output<{ text: string; block: string }>();
  readonly place = output<{ box: Box; source: string | null }>();

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
    const { chosen, match, tables, solids, texts, leaf } = this.compared;
    chosen.set(index);
    const difference = match()?.differences[index];
    if (difference) this.look(difference.leaf);
    const entry = difference?.masterEntries[0];
    const part = match()?.sides?.master[difference?.leaf ?? 0];
    const columns = tables()?.master.columns.length;
    // Cells are numbered as the table of the sheet that is shown has them.
    if (part && columns && entry !== undefined && difference!.leaf === leaf())
      this.cell.emit({ table: part.label, row: Math.floor(entry / (columns + 1)) - 1, column: (entry % (columns + 1)) - 1 });
    if (solids() && difference?.spot && part) this.spot.emit({ solid: part.label, at: difference.spot });
    else if (texts() && difference?.source && part) this.paragraph.emit({ text: part.label, block: difference.source });
    else if (difference?.place) this.place.emit({ box: difference.place, source: difference.source });
  }

  protected look(leaf: number): void {
    if (this.compared.turnTo(leaf)) this.load(this.copy());
  }

  private act(id: 'deriveAgain' | 'withdraw' | 'check'): void {
    const copy = this.copy();
    if (copy) this.api.call(id, { id: copy.id }).subscribe({ error: (error: Error) => this.problem.set(error.message) });
  }
  protected deriveAgain = (): void => this.act('deriveAgain');
  protected withdraw = (): void => this.act('withdraw');
  protected check = (): void => this.act('check');

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
