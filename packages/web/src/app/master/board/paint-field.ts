import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import {
  type Gradient,
  type Matrix,
  type Paint,
  isGradient,
  isPattern,
  meanColour,
  multiply,
  rotation,
  translation,
} from '@inkwell-twin/core/web';

const KINDS = ['none', 'colour', 'linear', 'radial'] as const;
type Kind = (typeof KINDS)[number] | 'pattern';
const WORDS: Readonly<Record<Kind, string>> = {
  none: 'none',
  colour: 'colour',
  linear: 'gradient along',
  radial: 'gradient outwards',
  pattern: 'pattern',
};
const START = '#14213a';

/** A linear gradient across a box, turned about its middle. */
const turned = (degrees: number): Matrix =>
  multiply(multiply(translation(0.5, 0.5), rotation((degrees * Math.PI) / 180)), translation(-0.5, -0.5));
const OUTWARDS: Matrix = [0.5, 0, 0, 0.5, 0.5, 0.5];

/** A paint to be set: none, a colour, or the colours of a gradient. */
@Component({
  selector: 'twin-paint-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="first">
      <select [disabled]="fixed()" (change)="become($any($event.target).value)" [attr.aria-label]="label() + ' kind'">
        @for (one of kinds(); track one) {
          <option [value]="one" [selected]="one === kind()">{{ words[one] }}</option>
        }
      </select>
      @if (kind() === 'colour') {
        <input
          type="color"
          [value]="paint()"
          (change)="changed.emit($any($event.target).value)"
          [disabled]="fixed()"
          [attr.aria-label]="label() + ' colour'"
        />
        <code>{{ paint() }}</code>
      }
    </span>
    @if (gradient(); as one) {
      <span class="ramp" [style.background]="ramp()" aria-hidden="true"></span>
      @for (stop of one.stops; track $index) {
        <span class="stop">
          <input
            type="color"
            [value]="stop.colour"
            (change)="stopColour($index, $any($event.target).value)"
            [disabled]="fixed()"
            [attr.aria-label]="label() + ' colour ' + ($index + 1)"
          />
          <input
            class="mono"
            inputmode="decimal"
            [value]="percent(stop.offset)"
            (change)="stopPlace($index, $any($event.target))"
            [disabled]="fixed()"
            [attr.aria-label]="label() + ' place of colour ' + ($index + 1) + ' in percent'"
          />%
          @if (one.stops.length > 2) {
            <button type="button" class="link" (click)="dropStop($index)" [disabled]="fixed()">Drop</button>
          }
        </span>
      }
      <span class="stop">
        <button type="button" class="link" (click)="addStop()" [disabled]="fixed()">Add a colour</button>
        @if (one.kind === 'linear' && one.within === 'box') {
          <input
            class="mono"
            inputmode="decimal"
            [value]="direction()"
            (change)="turn($any($event.target))"
            [disabled]="fixed()"
            [attr.aria-label]="label() + ' direction in degrees'"
          />°
        }
      </span>
    }
  `,
  styles: `
    :host { display: grid; gap: 4px; min-width: 0; }
    .first, .stop { display: flex; align-items: center; gap: 4px; color: var(--ink-two); }
    select { font: inherit; flex: 0 1 auto; min-width: 0; max-width: 150px; padding: 2px 4px; border: 1px solid transparent; border-radius: 4px; background: none; color: var(--ink); }
    select:hover, select:focus { border-color: var(--hairline); background: var(--sheet); }
    .first:has(code) select { max-width: 72px; padding: 2px 0; }
    code { font-size: 12px; }
    .ramp { height: 10px; border: 1px solid var(--hairline); border-radius: 3px; }
    .stop input.mono { width: 52px; padding: 2px 4px; border: 1px solid var(--hairline-soft); border-radius: 4px; background: none; color: var(--ink); font-size: 13px; }
    input[type='color'] { flex: none; width: 28px; height: 22px; padding: 0; border: 1px solid var(--hairline); border-radius: 4px; background: none; }
  `,
})
export class PaintField {
  readonly paint = input.required<Paint | null>();
  readonly label = input.required<string>();
  readonly fixed = input(false);
  readonly changed = output<Paint | null>();

  protected readonly words = WORDS;
  protected readonly kind = computed((): Kind => {
    const paint = this.paint();
    return paint === null ? 'none' : typeof paint === 'string' ? 'colour' : paint.kind;
  });
  protected readonly kinds = computed((): readonly Kind[] => (isPattern(this.paint()) ? [...KINDS, 'pattern'] : KINDS));
  protected readonly gradient = computed((): Gradient | null => {
    const paint = this.paint();
    return isGradient(paint) ? paint : null;
  });
  protected readonly ramp = computed(() => {
    const stops = this.gradient()?.stops ?? [];
    const parts = stops.map(({ colour, offset, opacity = 1 }) => {
      const through = Math.round(opacity * 255)
        .toString(16)
        .padStart(2, '0');
      return `${colour}${through} ${offset * 100}%`;
    });
    return parts.length > 1 ? `linear-gradient(90deg, ${parts.join(', ')})` : (stops[0]?.colour ?? 'none');
  });
  protected readonly direction = computed(() => {
    const at = this.gradient()?.at;
    return at ? String(Number(((Math.atan2(at[1], at[0]) * 180) / Math.PI).toFixed(1))) : '0';
  });
  protected readonly percent = (share: number): string => String(Number((share * 100).toFixed(1)));

  protected become(kind: Kind): void {
    const paint = this.paint();
    if (kind === this.kind() || kind === 'pattern') return;
    const colour = typeof paint === 'string' ? paint : isGradient(paint) ? meanColour(paint) : START;
    if (kind === 'none') return this.changed.emit(null);
    if (kind === 'colour') return this.changed.emit(colour);
    const stops = isGradient(paint)
      ? paint.stops
      : [
          { offset: 0, colour },
          { offset: 1, colour: '#ffffff' },
        ];
    this.changed.emit({ kind, within: 'box', at: kind === 'linear' ? turned(0) : OUTWARDS, stops });
  }

  private withStops(change: (stops: Gradient['stops']) => Gradient['stops']): void {
    const one = this.gradient();
    if (one) this.changed.emit({ ...one, stops: change(one.stops) });
  }

  protected stopColour(at: number, colour: string): void {
    this.withStops((stops) => stops.map((stop, i) => (i === at ? { ...stop, colour } : stop)));
  }

  /** A place between the neighbours': colours only go one way. */
  protected stopPlace(at: number, field: HTMLInputElement): void {
    const stops = this.gradient()!.stops;
    const share = Number(field.value.replace(',', '.').replace('%', '')) / 100;
    const [least, most] = [stops[at - 1]?.offset ?? 0, stops[at + 1]?.offset ?? 1];
    if (field.value.trim() === '' || !Number.isFinite(share)) return void (field.value = this.percent(stops[at]!.offset));
    const offset = Math.min(most, Math.max(least, share));
    field.value = this.percent(offset);
    this.withStops((all) => all.map((stop, i) => (i === at ? { ...stop, offset } : stop)));
  }

  protected addStop(): void {
    this.withStops((stops) => {
      const [before, last] = [stops.at(-2) ?? stops[0]!, stops.at(-1)!];
      return [...stops.slice(0, -1), { ...last, offset: (before.offset + last.offset) / 2 }, last];
    });
  }

  protected dropStop(at: number): void {
    this.withStops((stops) => stops.filter((_, i) => i !== at));
  }

  protected turn(field: HTMLInputElement): void {
    const degrees = Number(field.value.replace(',', '.').replace('°', ''));
    const one = this.gradient();
    if (!one || field.value.trim() === '' || !Number.isFinite(degrees)) return void (field.value = this.direction());
    this.changed.emit({ ...one, at: turned(degrees) });
  }
}
