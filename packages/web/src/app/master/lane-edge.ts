import { ChangeDetectionStrategy, Component, ElementRef, inject, input, signal } from '@angular/core';
import { type Edge, LaneWidths, type Layout } from './lane-widths';

/** Pixels that a key moves an edge. */
const STEP = 24;

/** The edge between two lanes: pulled, moved by the arrow keys, and put back by a double click or Home. */
@Component({
  selector: 'twin-lane-edge',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '',
  host: {
    role: 'separator',
    tabindex: '0',
    'aria-orientation': 'vertical',
    '[attr.aria-label]': "edge() === 'copies' ? 'Edge of the copies' : 'Edge of the lane on the right'",
    '[attr.aria-valuenow]': 'now()',
    title: 'Pull to give a lane more room; a double click puts it back',
    '(pointerdown)': 'begin($event)',
    '(dblclick)': 'widths.forget(layout(), edge())',
    '(keydown)': 'key($event)',
    '(focus)': 'now.set(width())',
  },
  styles: `
    :host { position: relative; z-index: 3; width: 9px; margin: 0 -4px; cursor: col-resize; touch-action: none; }
    :host::after { content: ''; position: absolute; inset: 0 3px; }
    :host(:hover)::after, :host(:focus-visible)::after { background: var(--action); }
    :host(:focus-visible) { outline: none; }
  `,
})
export class LaneEdge {
  protected readonly widths = inject(LaneWidths);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  readonly layout = input.required<Layout>();
  readonly edge = input.required<Edge>();
  protected readonly now = signal(0);

  /** The lane that begins at this edge. */
  private get lane(): HTMLElement {
    return this.host.nextElementSibling as HTMLElement;
  }

  protected width(): number {
    return Math.round(this.lane.getBoundingClientRect().width);
  }

  private pull(width: number): void {
    const lanes = this.host.parentElement!;
    const others = [...lanes.children].filter(
      (one) => one !== this.lane && one !== lanes.firstElementChild && !(one instanceof HTMLElement && one.role === 'separator'),
    );
    const taken = others.reduce((sum, one) => sum + one.getBoundingClientRect().width, 0);
    this.widths.pull(this.layout(), this.edge(), width, lanes.getBoundingClientRect().width, taken);
    this.now.set(width);
  }

  protected begin(event: PointerEvent): void {
    event.preventDefault();
    this.host.focus();
    this.host.setPointerCapture(event.pointerId);
    const [from, width] = [event.clientX, this.width()];
    const move = (to: PointerEvent): void => this.pull(width + from - to.clientX);
    this.host.addEventListener('pointermove', move);
    const end = (): void => this.host.removeEventListener('pointermove', move);
    this.host.addEventListener('pointerup', end, { once: true });
    this.host.addEventListener('pointercancel', end, { once: true });
  }

  protected key(event: KeyboardEvent): void {
    const by = { ArrowLeft: STEP, ArrowRight: -STEP }[event.key];
    if (by === undefined && event.key !== 'Home') return;
    event.preventDefault();
    if (by === undefined) this.widths.forget(this.layout(), this.edge());
    else this.pull(this.width() + by);
  }
}
