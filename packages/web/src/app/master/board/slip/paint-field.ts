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
import { InputText } from 'primeng/inputtext';
import { ColourField } from '../../../shared/colour-field';
import { Pick } from '../../../shared/pick';

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
  imports: [ColourField, InputText, Pick],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="first">
      <twin-pick
        [label]="label() + ' kind'"
        [options]="kinds()"
        [value]="kind()"
        [fixed]="fixed()"
        [plain]="true"
        (chosen)="become($event)"
      />
      @if (colour(); as one) {
        <twin-colour [label]="label() + ' colour'" [value]="one" [fixed]="fixed()" (changed)="changed.emit($event)" />
      }
    </span>
    @if (gradient(); as one) {
      <span class="ramp" [style.background]="ramp()" aria-hidden="true"></span>
      @for (stop of one.stops; track $index) {
        <span class="stop">
          <twin-colour
            [label]="label() + ' colour ' + ($index + 1)"
            [value]="stop.colour"
            [fixed]="fixed()"
            (changed)="stopColour($index, $event)"
          />
          <input
            pInputText
            pSize="small"
            class="mono"
            inputmode="decimal"
            [value]="percent(stop.offset)"
            (change)="stopPlace($index, $event)"
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
            pInputText
            pSize="small"
            class="mono"
            inputmode="decimal"
            [value]="direction()"
            (change)="turn($event)"
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
    .first twin-pick { flex: 0 1 150px; }
    .first:has(twin-colour) twin-pick { flex: 1 0 94px; }
    .ramp { height: 10px; border: 1px solid var(--hairline); border-radius: 3px; }
    .stop > input { width: 52px; min-width: 0; padding: 2px 4px; border-color: var(--hairline-soft); background: none; }
  `,
})
export class PaintField {
  readonly paint = input.required<Paint | null>();
  readonly label = input.required<string>();
  readonly fixed = input(false);
  readonly changed = output<Paint | null>();

  protected readonly kind = computed((): Kind => {
    const paint = this.paint();
    return paint === null ? 'none' : typeof paint === 'string' ? 'colour' : paint.kind;
  });
  protected readonly kinds = computed(() => {
    const kinds: readonly Kind[] = isPattern(this.paint()) ? [...KINDS, 'pattern'] : KINDS;
    return kinds.map((kind) => ({ value: kind, label: WORDS[kind] }));
  });
  /** The colour, where it is one. */
  protected readonly colour = computed(() => {
    const paint = this.paint();
    return typeof paint === 'string' ? paint : null;
  });
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

  protected become(name: string): void {
    const paint = this.paint();
    const kind = KINDS.find((one) => one === name);
    if (!kind || kind === this.kind()) return;
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
  protected stopPlace(at: number, event: Event): void {
    const field = event.target as HTMLInputElement;
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

  protected turn(event: Event): void {
    const field = event.target as HTMLInputElement;
    const degrees = Number(field.value.replace(',', '.').replace('°', ''));
    const one = this.gradient();
    if (!one || field.value.trim() === '' || !Number.isFinite(degrees)) return void (field.value = this.direction());
    this.changed.emit({ ...one, at: turned(degrees) });
  }
}
