import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import type { MatchInputs } from '../../content/face';
import { Choice } from '../../shared/choice';
import { Late } from '../../shared/late';
import type { Compared } from './compared';
import { JobLook } from './job-look';
import { Overlay } from './overlay';

/** Both sides of a comparison, over each other or beside each other, to look at and to measure. */
@Component({
  selector: 'twin-match-look',
  imports: [Choice, JobLook, Late, Overlay],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let it = compared();
    @if (it.leaves().length) {
      <div class="sheets">
        <span>Sheet</span>
        <twin-choice label="Which sheet" [choices]="it.leaves()" [value]="'' + it.leaf()" (chosen)="turned.emit(+$event)" />
      </div>
    }
    @if (it.sides(); as both) {
      <p class="legend">
        @switch (it.way()) {
          @case ('over') {
            @if (both.master.pixels) { Pale: the master now. Ochre: where the copy differs. }
            @else { Ink: the master now, where the copy differs. Ochre: the copy there. }
          }
          @case ('map') { Ochre: pixels that differ; the darker, the more. }
          @case ('beside') { Left: the master now. Right: the copy. }
          @case ('blink') { In turn: the master now, and the copy. }
          @case ('order') { The copy as its machine makes it, one move after the other. }
          @case ('copy') { The copy alone, to be looked at: it is changed in its master. }
        }
      </p>
      @if (it.way() !== 'order') {
      <p class="legend ways">
        <button type="button" class="link" [attr.aria-pressed]="it.way() === 'copy'" (click)="it.way.set(it.way() === 'copy' ? 'over' : 'copy')">{{ it.way() === 'copy' ? 'With the master' : 'The copy alone' }}</button>
        <button type="button" class="link" [attr.aria-pressed]="measuring()" (click)="measuring.set(!measuring())">{{ measuring() ? 'Measure no more' : 'Measure' }}</button>
        @if (it.way() === 'copy' && door()) {
          <button type="button" class="link" (click)="mastered.emit()">Change it in the master</button>
        }
        @if (measuring()) {
          <span class="measured" role="status">{{ measured() ?? 'Press on a point of the copy, then on another.' }}</span>
        }
      </p>
      }
      @if (it.way() === 'order' && it.jobs(); as jobs) {
        <twin-job-look [moves]="jobs.copy" [named]="jobs.master" [machine]="it.machine()" />
      } @else {
      <twin-overlay
        [master]="both.master"
        [copy]="both.copy"
        [differences]="it.here()"
        [chosen]="it.chosen()"
        [way]="it.way()"
        [measuring]="measuring()"
        (pick)="pick.emit($event)"
        (measured)="measured.set($event)"
      />
      }
    } @else if (it.looked(); as shown) {
      @for (one of [shown.face]; track one) {
        @if (one.match) { <twin-late [load]="one.match" [inputs]="inputs()" /> }
      }
    } @else if (waiting()) {
      <div class="waiting" role="status">Reading the copy back …</div>
    }
  `,
  styles: `
    :host { display: contents; }
    .sheets { display: flex; align-items: center; gap: 10px; padding: 6px 14px 0; color: var(--ink-two); }
    .legend { padding: 6px 14px; background: var(--stage); color: var(--ink-two); font-size: 12.5px; }
    .legend.ways { display: flex; flex-wrap: wrap; gap: 2px 14px; padding-top: 0; }
    .measured { flex: 1 0 100%; color: var(--ink); font: 12px var(--mono); }
    twin-overlay { height: var(--look-height, 210px); flex: none; border-bottom: 1px solid var(--hairline); }
    .waiting { padding: 28px 18px; color: var(--ink-two); }
  `,
})
export class MatchLook {
  readonly compared = input.required<Compared>();
  readonly waiting = input.required<boolean>();
  /** Whether the way back to the master is here. */
  readonly door = input(false);
  readonly pick = output<number>();
  readonly turned = output<number>();
  readonly mastered = output<void>();
  private readonly picked = (index: number): void => this.pick.emit(index);
  protected readonly inputs = computed((): MatchInputs => {
    const it = this.compared();
    return { ...it.looked()!.both, differences: it.here(), chosen: it.chosen(), picked: this.picked };
  });
  protected readonly measuring = signal(false);
  protected readonly measured = signal<string | null>(null);
}
