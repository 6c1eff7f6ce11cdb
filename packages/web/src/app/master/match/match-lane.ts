import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Observer } from 'rxjs';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { SelectButton } from 'primeng/selectbutton';
import type { CopyView, Difference, MatchView, readMatch } from '@inkwell-twin/api';
import { type Box, formatAmount } from '@inkwell-twin/core/web';
import { proseOf, shownOf, solidOf, tableOf } from '../../content/kinds';
import { SolidMatch } from '../../content/mesh/solid-match';
import { ProseMatch } from '../../content/prose/prose-match';
import { TableMatch } from '../../content/grid/table-match';
import type { Mesh } from '@inkwell-twin/core/solids';
import type { Grid } from '@inkwell-twin/core/tables';
import type { ProseBody } from '@inkwell-twin/core/texts';
import type { Shown } from '../../content/shown';
import { Api } from '../../services/api.service';
import { Person } from '../../services/person';
import { Choice } from '../../shared/choice';
import { Latest } from '../../shared/latest';
import { VerdictMark } from '../../shared/verdict-mark';
import { counted, sizeInWords } from '../../shared/words';
import { Overlay, type Way } from './overlay';

/** How the selected copy compares with the master now, and what can be done about it. */
@Component({
  selector: 'twin-match-lane',
  imports: [Button, Choice, FormsModule, InputText, Overlay, ProseMatch, SelectButton, SolidMatch, TableMatch, VerdictMark],
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

  protected readonly match = signal<MatchView | null>(null);
  protected readonly problem = signal('');
  protected readonly chosen = signal<number | null>(null);
  protected readonly way = signal<Way>('over');
  protected readonly measuring = signal(false);
  protected readonly measured = signal<string | null>(null);
  /** The way back from the copy: its master, as large as there is room for. */
  readonly mastered = output<void>();
  protected toMaster(): void {
    this.way.set('over');
    this.mastered.emit();
  }
  protected readonly accepting = signal(false);
  protected reason = '';
  private readonly allWays = [
    { label: 'Over', value: 'over' },
    { label: 'Beside', value: 'beside' },
    { label: 'Blink', value: 'blink' },
    { label: 'Map', value: 'map' },
  ];
  /** A map of what differs is for pixels. */
  protected readonly ways = computed(() => (this.sides()?.master.pixels ? this.allWays : this.allWays.slice(0, 3)));
  /** Both sides of the sheet that one looks at; null where either has no such sheet, or the file could not be read. */
  protected readonly sides = signal<{ master: Shown; copy: Shown } | null>(null);
  /** Both sides where they are tables. */
  protected readonly tables = signal<{ master: Grid; copy: Grid } | null>(null);
  /** Both sides where they are solids. */
  protected readonly solids = signal<{ master: Mesh; copy: Mesh } | null>(null);
  /** Both sides where they are texts. */
  protected readonly texts = signal<{ master: ProseBody; copy: ProseBody } | null>(null);
  /** Which sheet one looks at. */
  protected readonly leaf = signal(0);
  /** The names of the sheets, where there are several. */
  protected readonly leaves = computed(() => {
    const all = this.match()?.sides?.master ?? [];
    return all.length > 1 ? all.map(({ label }, i) => ({ value: String(i), words: label || `Sheet ${i + 1}` })) : [];
  });
  /** Differences of the sheet that one looks at, for showing; those of others keep their place in the list. */
  protected readonly here = computed(() => {
    const leaf = this.leaf();
    return (this.match()?.differences ?? []).map((one) =>
      one.leaf === leaf ? one : { ...one, place: null, masterEntries: [], copyEntries: [] },
    );
  });
  protected readonly counted = counted;
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
      this.match.set(null);
      this.sides.set(null);
      this.tables.set(null);
      this.solids.set(null);
      this.texts.set(null);
      this.leaf.set(0);
      this.chosen.set(null);
      this.accepting.set(false);
    }
    this.asked = copy?.id ?? '';
    this.problem.set('');
    if (!copy) return this.latest.forget();
    const leaf = this.leaf();
    const answer: Partial<Observer<ReturnType<typeof readMatch>>> = {
      next: ({ view: match, master, copy: body }) => {
        this.match.set(match);
        const [one, other] = [master && shownOf(master), body && shownOf(body)];
        this.sides.set(one && other && { master: one, copy: other });
        const [table, theirs] = [master && tableOf(master), body && tableOf(body)];
        this.tables.set(table && theirs && { master: table, copy: theirs });
        const [solid, its] = [master && solidOf(master), body && solidOf(body)];
        this.solids.set(solid && its && { master: solid, copy: its });
        const [text, read] = [master && proseOf(master), body && proseOf(body)];
        this.texts.set(text && read && { master: text, copy: read });
        if ((this.chosen() ?? 0) >= match.differences.length) this.chosen.set(null);
      },
      error: (error: Error) => this.problem.set(error.message),
    };
    this.latest.ask(this.api.match(copy.id, leaf), answer, '', `${copy.id} ${leaf}`);
  }

  protected amount = ({ amount, unit }: Difference): string => (amount === null ? '' : formatAmount(amount, unit));

  protected choose(index: number): void {
    this.chosen.set(index);
    const difference = this.match()?.differences[index];
    if (difference) this.look(difference.leaf);
    const entry = difference?.masterEntries[0];
    const table = this.match()?.sides?.master[difference?.leaf ?? 0];
    const columns = this.tables()?.master.columns.length;
    // Cells are numbered as the table of the sheet that is shown has them.
    if (table && columns && entry !== undefined && difference!.leaf === this.leaf())
      this.cell.emit({ table: table.label, row: Math.floor(entry / (columns + 1)) - 1, column: (entry % (columns + 1)) - 1 });
    const part = this.match()?.sides?.master[difference?.leaf ?? 0];
    if (this.solids() && difference?.spot && part) this.spot.emit({ solid: part.label, at: difference.spot });
    else if (this.texts() && difference?.source && part) this.paragraph.emit({ text: part.label, block: difference.source });
    else if (difference?.place) this.place.emit({ box: difference.place, source: difference.source });
  }

  /** Goes to a sheet; one that only the copy has can't be shown beside anything. */
  protected look(leaf: number): void {
    if (leaf === this.leaf() || leaf >= (this.match()?.sides?.master.length ?? 0)) return;
    this.leaf.set(leaf);
    this.load(this.copy());
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
