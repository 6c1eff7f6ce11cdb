import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  afterNextRender,
  effect,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { type Look, type ShownSolid, SolidScene, type Spot } from './scene';

/** Solids in space. The mouse turns, shifts and zooms; so do the keys. */
@Component({
  selector: 'twin-solid-view',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div
      #place
      class="space"
      tabindex="0"
      role="application"
      [attr.aria-label]="label() + '. Arrow keys turn it, plus and minus zoom, Home shows all of it.'"
      (keydown)="key($event)"
      (pointerdown)="down = [$event.clientX, $event.clientY]"
      (pointerup)="up($event)"
      [class.aims]="aims()"
    ></div>
    @if (problem()) { <p class="problem" role="alert">{{ problem() }}</p> }
    <div class="looks" role="group" aria-label="Look from">
      @for (one of looks; track one) { <button type="button" (click)="scene?.look(one)">{{ one }}</button> }
    </div>
  `,
  styles: `
    :host { position: relative; display: block; min-height: 0; overflow: hidden; background: var(--sheet); }
    .space { position: absolute; inset: 0; touch-action: none; cursor: grab; }
    .space:active { cursor: grabbing; }
    .space.aims { cursor: crosshair; }
    .space:focus-visible { outline: 2px solid var(--action); outline-offset: -2px; }
    .looks { position: absolute; left: 12px; bottom: 10px; display: flex; flex-wrap: wrap; gap: 2px 12px; }
    .looks button { padding: 4px 0; border: 0; border-bottom: 1px solid var(--hairline); background: none; color: var(--ink-two); font: inherit; font-size: 12px; cursor: pointer; }
    .looks button:hover { color: var(--ink); border-color: var(--ink); }
    .problem { position: absolute; inset: 24px; color: var(--ink); font-weight: 600; }
  `,
})
export class SolidView {
  readonly solids = input.required<readonly ShownSolid[]>();
  readonly spots = input<readonly { readonly at: Spot; readonly chosen: boolean }[]>([]);
  readonly label = input('The solid');
  /** A click is to choose a place. */
  readonly aims = input(false);
  readonly picked = output<Spot>();

  protected readonly looks: readonly Look[] = ['front', 'right', 'top', 'back', 'left', 'isometric'];
  protected readonly problem = signal('');
  protected scene: SolidScene | null = null;
  protected down: readonly [number, number] = [0, 0];
  private readonly place = viewChild.required<ElementRef<HTMLElement>>('place');
  private readonly ready = signal(false);

  constructor() {
    const end = inject(DestroyRef);
    afterNextRender(() => {
      const host = this.place().nativeElement;
      try {
        this.scene = new SolidScene(host);
      } catch {
        this.problem.set(
          'This browser can’t draw in space (it has no WebGL). All else works: what is measured is told beside, and copies can be derived.',
        );
        return;
      }
      const watch = new ResizeObserver(() => this.scene?.resize());
      watch.observe(host);
      end.onDestroy(() => {
        watch.disconnect();
        this.scene?.close();
      });
      this.ready.set(true);
    });
    effect(() => {
      if (this.ready()) this.scene!.show(this.solids());
    });
    effect(() => {
      if (!this.ready()) return;
      const spots = this.spots();
      this.scene!.point(spots);
      const chosen = spots.find((one) => one.chosen);
      if (chosen) this.scene!.face(chosen.at);
    });
  }

  protected up({ clientX, clientY }: PointerEvent): void {
    if (!this.aims() || Math.hypot(clientX - this.down[0], clientY - this.down[1]) > 4) return;
    const spot = this.scene?.pick(clientX, clientY);
    if (spot) this.picked.emit(spot);
  }

  protected key(event: KeyboardEvent): void {
    const acts: Readonly<Record<string, () => void>> = {
      ArrowLeft: () => this.scene?.turn(-1, 0),
      ArrowRight: () => this.scene?.turn(1, 0),
      ArrowUp: () => this.scene?.turn(0, 1),
      ArrowDown: () => this.scene?.turn(0, -1),
      '+': () => this.scene?.zoom(1.25),
      '-': () => this.scene?.zoom(0.8),
      Home: () => this.scene?.look('isometric'),
    };
    const act = event.ctrlKey || event.metaKey || event.altKey ? undefined : acts[event.key];
    if (!act) return;
    event.preventDefault();
    act();
  }
}
