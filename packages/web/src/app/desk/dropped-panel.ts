import { ChangeDetectionStrategy, Component, effect, inject, input, output, signal, untracked } from '@angular/core';
import { Compared } from '../master/match/compared';
import { MatchList } from '../master/match/match-list';
import { MatchLook } from '../master/match/match-look';
import { MatchWays } from '../master/match/match-ways';
import { Api } from '../services/api.service';
import { Latest } from '../shared/latest';
import type { Held } from './arrivals';

/** A file that was dropped and is a copy of ours, held against its master as it is now. Nothing of it is kept. */
@Component({
  selector: 'twin-dropped-panel',
  imports: [MatchList, MatchLook, MatchWays],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section [attr.aria-label]="held().file.name + ' and its master'">
      <header>
        <h2>{{ held().file.name }} and its master</h2>
        <twin-match-ways [compared]="compared" />
        <button type="button" class="link" (click)="closed.emit()">Close the comparison</button>
      </header>
      <div class="two">
        <div class="look">
          <twin-match-look
            [compared]="compared"
            [waiting]="!compared.match() && !problem()"
            (pick)="choose($event)"
            (turned)="turn($event)"
          />
          @if (problem()) { <p role="alert">{{ problem() }}</p> }
        </div>
        <div class="list"><twin-match-list [compared]="compared" (pick)="choose($event)" /></div>
      </div>
    </section>
  `,
  styles: `
    section { margin-bottom: 14px; border: 1px solid var(--hairline); border-left: 3px solid var(--action); border-radius: 8px; background: var(--raised); overflow: hidden; }
    header { display: flex; align-items: center; gap: 14px; padding: 8px 14px; border-bottom: 1px solid var(--hairline); background: var(--sheet); }
    h2 { margin: 0 auto 0 0; font-size: 14px; overflow-wrap: anywhere; }
    .two { display: grid; grid-template-columns: minmax(0, 1.4fr) minmax(0, 1fr); }
    .look { display: flex; flex-direction: column; min-width: 0; border-right: 1px solid var(--hairline); --look-height: 340px; }
    .list { max-height: 400px; padding-top: 6px; overflow: auto; }
    [role='alert'] { padding: 12px 14px; }
    @media (max-width: 900px) { .two { grid-template-columns: minmax(0, 1fr); } }
  `,
})
export class DroppedPanel {
  private readonly api = inject(Api);
  readonly held = input.required<Held>();
  readonly closed = output<void>();
  protected readonly compared = new Compared();
  protected readonly problem = signal('');
  private readonly latest = new Latest();

  constructor() {
    effect(() => {
      this.held();
      untracked(() => {
        this.compared.clear();
        this.load();
      });
    });
  }

  private load(): void {
    this.problem.set('');
    const [{ file, copy }, leaf] = [this.held(), this.compared.leaf()];
    this.latest.ask(
      this.api.matchFile(file, leaf, copy),
      {
        next: (found) => this.compared.take(found),
        error: (error: Error) => this.problem.set(error.message),
      },
      '',
      `${file.name} ${file.lastModified} ${copy} ${leaf}`,
    );
  }

  protected choose(index: number): void {
    this.compared.chosen.set(index);
    const difference = this.compared.match()?.differences[index];
    if (difference) this.turn(difference.leaf);
  }

  protected turn(leaf: number): void {
    if (this.compared.turnTo(leaf)) this.load();
  }
}
