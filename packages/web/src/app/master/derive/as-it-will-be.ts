import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  afterNextRender,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import type { BodyOf } from '@inkwell-twin/api';
import type { Place } from '../../content/face';
import { Api } from '../../services/api.service';
import { Latest } from '../../shared/latest';
import { Compared } from '../match/compared';
import { MatchList } from '../match/match-list';
import { MatchLook } from '../match/match-look';
import { MatchWays } from '../match/match-ways';

/** The copy as it will be, from bytes that are written for it and kept nowhere, with what is in the master itself. */
@Component({
  selector: 'twin-as-it-will-be',
  imports: [MatchList, MatchLook, MatchWays],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head">
      <strong>As the copy will be</strong>
      <twin-match-ways [compared]="compared" />
    </div>
    <twin-match-look
      [compared]="compared"
      [waiting]="!compared.match() && !problem()"
      (pick)="choose($event)"
      (turned)="turn($event)"
    />
    @if (problem()) {
      <p class="problem" role="alert">{{ problem() }}</p>
    }
    @if (compared.match(); as found) {
      @if (found.differences.length) {
        <p class="against">Against the master itself:</p>
        <div class="list"><twin-match-list [compared]="compared" (pick)="choose($event)" /></div>
      } @else {
        <p class="against">Read back, it says all that the master says of this part.</p>
      }
    }
  `,
  styles: `
    :host { display: block; min-height: 420px; border: 1px solid var(--hairline); border-radius: 8px; overflow: hidden; --look-height: 250px; }
    .head { display: flex; flex-wrap: wrap; align-items: center; justify-content: space-between; gap: 6px 14px; padding: 6px 14px; background: var(--sheet); }
    .against, .problem { margin: 0; padding: 8px 14px; color: var(--ink-two); }
    .list { max-height: 190px; overflow: auto; }
  `,
})
export class AsItWillBe {
  private readonly api = inject(Api);
  readonly master = input.required<string>();
  readonly recipe = input.required<BodyOf<'foresee'>>();
  /** Whether somebody asked to see it now; or else it stays where it comes to lie. */
  readonly asked = input(true);
  /** Where in the master the chosen difference is. */
  readonly place = output<Place>();
  protected readonly compared = new Compared();
  protected readonly problem = signal('');
  private readonly latest = new Latest();

  constructor() {
    this.compared.way.set('beside');
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    afterNextRender(() => this.asked() && host.scrollIntoView({ block: 'start' }));
    effect(() => {
      this.master();
      this.recipe();
      untracked(() => {
        this.compared.clear();
        this.load();
      });
    });
  }

  private load(): void {
    this.problem.set('');
    const first = !this.compared.looked();
    const [master, recipe, leaf] = [this.master(), this.recipe(), this.compared.leaf()];
    this.latest.ask(
      this.api.foresee(master, recipe, leaf),
      {
        next: (found) => {
          this.compared.isFor(recipe.options?.['machine']);
          this.compared.take(found);
          // What a machine makes is looked at in its order first.
          if (first && this.compared.jobs()) this.compared.way.set('order');
        },
        error: (error: Error) => this.problem.set(error.message),
      },
      '',
      JSON.stringify([master, recipe, leaf]),
    );
  }

  protected choose(index: number): void {
    this.compared.chosen.set(index);
    const difference = this.compared.match()?.differences[index];
    const place = this.compared.placeOf(index);
    if (difference) this.turn(difference.leaf);
    if (place) this.place.emit(place);
  }

  protected turn(leaf: number): void {
    if (this.compared.turnTo(leaf)) this.load();
  }
}
