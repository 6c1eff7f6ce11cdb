import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  effect,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { type Correction, pictureWord } from '@inkwell-twin/core/web';
import { picturesCome, shownPicture } from '../stage/pictures';

type CutOut = Extract<Correction, { kind: 'cut-out' }>;
type Spot = readonly [x: number, y: number];

/** How near a press is to a point or a line that it means, pixels. */
const NEAR = 9;
const [SMALL, LARGE] = [306, 510];
/** Points that are drawn small, so that what is under them shows. */
const MANY = 24;
/** The share of a picture that what is taken away keeps showing. */
const FAINT = 0.22;

/** The picture as it comes to a cut-out: points are set, drawn along and taken away where they are seen. */
@Component({
  selector: 'twin-cut-pane',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <canvas
      #canvas
      [width]="2 * size().width"
      [height]="2 * size().height"
      [style.width.px]="size().width"
      [style.height.px]="size().height"
      role="img"
      [attr.aria-label]="words() + '. Press to set a point, press a point to take it away.'"
      (pointerdown)="down($event)"
      (pointermove)="moved($event)"
      (pointerup)="up($event)"
      (pointercancel)="held.set(null)"
    ></canvas>
    <p [style.max-width.px]="size().width">
      <span>{{ words() }}</span>
      @if (cut().points.length && !fixed()) {
        <button type="button" class="link" (click)="changed.emit({ points: cut().points.slice(0, -1) })">Take the last away</button>
        <button type="button" class="link" (click)="changed.emit({ points: [] })">All away</button>
      }
      <button type="button" class="link" (click)="large.set(!large())">{{ large() ? 'Smaller' : 'Larger' }}</button>
    </p>
  `,
  styles: `
    :host { display: block; margin: 4px 0; }
    canvas { display: block; border: 1px solid var(--hairline); border-radius: 4px; cursor: crosshair; touch-action: none; }
    span { flex: 1 0 100%; }
    p { display: flex; flex-wrap: wrap; gap: 4px 14px; margin: 4px 0 0; color: var(--ink-two); }
  `,
})
export class CutPane {
  readonly resource = input.required<string>();
  /** What acts before the cut-out. */
  readonly before = input.required<readonly Correction[]>();
  readonly cut = input.required<CutOut>();
  readonly fixed = input(false);
  readonly changed = output<Partial<Pick<CutOut, 'points' | 'colour'>>>();

  protected readonly large = signal(false);
  /** A point that is being drawn along, and where it is now. */
  protected readonly held = signal<{ readonly at: number; readonly spot: Spot; readonly far: boolean } | null>(null);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');

  private readonly coming = computed(() => {
    picturesCome();
    return shownPicture(pictureWord(this.resource(), this.before()));
  });
  protected readonly size = computed(() => {
    const picture = this.coming();
    const most = this.large() ? LARGE : SMALL;
    const share = picture ? picture.height / picture.width : 0.66;
    const width = share > 1 ? most / share : most;
    return { width: Math.round(width), height: Math.round(width * share) };
  });
  protected readonly points = computed((): readonly Spot[] => {
    const [{ points }, held] = [this.cut(), this.held()];
    return held ? points.map((one, i) => (i === held.at ? held.spot : one)) : points;
  });
  protected readonly words = computed(() => {
    const { by, points } = this.cut();
    const count = points.length;
    if (by === 'outline')
      return count < 3 ? `An outline of ${count} corners: it takes three` : `Kept inside of an outline of ${count} corners`;
    return count ? `Taken away from ${count} ${count === 1 ? 'point' : 'points'} outwards` : 'Taken away wherever the colour is';
  });

  constructor() {
    effect(() => this.draw());
  }

  private draw(): void {
    const context = this.canvas().nativeElement.getContext('2d');
    const [coming, { width, height }, points] = [this.coming(), this.size(), this.points()];
    picturesCome();
    const left = shownPicture(pictureWord(this.resource(), [...this.before(), this.cut()]));
    if (!context) return;
    context.setTransform(2, 0, 0, 2, 0, 0);
    context.clearRect(0, 0, width, height);
    const style = getComputedStyle(this.canvas().nativeElement);
    context.fillStyle = style.getPropertyValue('--stage');
    context.fillRect(0, 0, width, height);
    // Slanting lines under what is gone.
    context.strokeStyle = style.getPropertyValue('--hairline');
    context.lineWidth = 1;
    context.beginPath();
    for (let x = -height; x < width; x += 7) {
      context.moveTo(x, height);
      context.lineTo(x + height, 0);
    }
    context.stroke();
    if (coming) {
      context.globalAlpha = left ? FAINT : 1;
      context.drawImage(coming, 0, 0, width, height);
      context.globalAlpha = 1;
    }
    if (left) context.drawImage(left, 0, 0, width, height);
    const places = points.map(([x, y]) => [x * width, (1 - y) * height] as const);
    if (this.cut().by === 'outline' && places.length > 1) {
      context.beginPath();
      places.forEach(([x, y]) => context.lineTo(x, y));
      context.closePath();
      for (const [colour, wide] of [
        ['#ffffff', 3],
        ['#14213a', 1.2],
      ] as const) {
        context.strokeStyle = colour;
        context.lineWidth = wide;
        context.stroke();
      }
    }
    for (const [x, y] of places) {
      context.beginPath();
      context.arc(x, y, places.length > MANY ? 2 : 3.5, 0, 2 * Math.PI);
      context.fillStyle = '#14213a';
      context.fill();
      context.strokeStyle = '#ffffff';
      context.lineWidth = places.length > MANY ? 1 : 1.5;
      context.stroke();
    }
  }

  /** Where an event is: as shares of the picture across and up. */
  private spot({ offsetX, offsetY }: PointerEvent): Spot {
    const { width, height } = this.size();
    const share = (value: number) => Number(Math.min(1, Math.max(0, value)).toFixed(5));
    return [share(offsetX / width), share(1 - offsetY / height)];
  }

  private apart([x, y]: Spot, [u, v]: Spot): number {
    const { width, height } = this.size();
    return Math.hypot((x - u) * width, (y - v) * height);
  }

  protected down(event: PointerEvent): void {
    if (this.fixed() || event.button !== 0) return;
    const spot = this.spot(event);
    const at = this.cut().points.findIndex((one) => this.apart(one, spot) <= NEAR);
    this.canvas().nativeElement.setPointerCapture(event.pointerId);
    if (at >= 0) return this.held.set({ at, spot: this.cut().points[at]!, far: false });
    this.add(spot);
  }

  protected moved(event: PointerEvent): void {
    const held = this.held();
    if (!held) return;
    const spot = this.spot(event);
    if (held.far || this.apart(spot, held.spot) > 3) this.held.set({ ...held, spot, far: true });
  }

  protected up(event: PointerEvent): void {
    const held = this.held();
    if (!held) return;
    this.held.set(null);
    const { points } = this.cut();
    if (held.far) this.changed.emit({ points: points.map((one, i) => (i === held.at ? [...this.spot(event)] : one)) });
    else this.changed.emit({ points: points.filter((_, i) => i !== held.at) });
  }

  private add(spot: Spot): void {
    const { points, by } = this.cut();
    if (by === 'colour') {
      // What is pressed first says which colour is meant.
      const colour = points.length ? null : this.colourAt(spot);
      return this.changed.emit({ points: [...points, [...spot]], ...(colour ? { colour } : {}) });
    }
    this.changed.emit({ points: points.toSpliced(this.edgeAt(spot), 0, [...spot]) });
  }

  /** Where a corner goes: into the side that it lies on, else at the end. */
  private edgeAt(spot: Spot): number {
    const { points } = this.cut();
    const { width, height } = this.size();
    const off = ([x1, y1]: Spot, [x2, y2]: Spot) => {
      const [dx, dy] = [(x2 - x1) * width, (y2 - y1) * height];
      const [px, py] = [(spot[0] - x1) * width, (spot[1] - y1) * height];
      const t = Math.min(1, Math.max(0, (px * dx + py * dy) / (dx * dx + dy * dy || 1)));
      return Math.hypot(px - t * dx, py - t * dy);
    };
    const side = points.length < 3 ? -1 : points.findIndex((one, i) => off(one, points[(i + 1) % points.length]!) <= NEAR);
    return side < 0 ? points.length : side + 1;
  }

  private colourAt([x, y]: Spot): string | null {
    const picture = this.coming();
    const one = document.createElement('canvas');
    one.width = one.height = 1;
    const context = one.getContext('2d');
    if (!picture || !context) return null;
    context.drawImage(picture, -Math.floor(x * (picture.width - 1)), -Math.floor((1 - y) * (picture.height - 1)));
    const [r, g, b] = context.getImageData(0, 0, 1, 1).data;
    return `#${[r!, g!, b!].map((part) => part.toString(16).padStart(2, '0')).join('')}`;
  }
}
