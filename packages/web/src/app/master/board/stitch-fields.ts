import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { STITCHES, UNDERLAYS, Work } from '@inkwell-twin/core/web';
import { checkNumber } from '../../shared/checked';
import { CheckedField } from '../../shared/checked-field';
import { Pick, pickables } from '../../shared/pick';

type Stitch = NonNullable<Work['stitch']>;
const SHAPE = Work.shape.stitch.unwrap().shape;

/** Numbers of how something is sewn. */
const NUMBERS = [
  { key: 'length', words: 'Stitch', unit: 'mm' },
  { key: 'density', words: 'Rows', unit: 'mm' },
  { key: 'angle', words: 'Angle', unit: '°' },
  { key: 'pull', words: 'Wider by', unit: 'mm' },
] as const;

/** How a layer or an object is sewn: what its look and the copy alone do not say. */
@Component({
  selector: 'twin-stitch-fields',
  imports: [CheckedField, Pick],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span>Sewn as</span>
    <twin-pick [label]="'How ' + name() + ' is sewn'" [options]="ways" [value]="stitch().as ?? ''" [fixed]="fixed()" (chosen)="say('as', $event)" />
    @for (one of numbers; track one.key) {
      <span>{{ one.words }}</span>
      <twin-checked [label]="one.words + ' of ' + name() + ', ' + one.unit" [unit]="one.unit" placeholder="usual" [value]="'' + (stitch()[one.key] ?? '')" [check]="checks[one.key]" (taken)="say(one.key, $event ?? '')" />
    }
    <span>Under it</span>
    <twin-pick [label]="'What lies under ' + name()" [options]="unders" [value]="stitch().under ?? ''" [fixed]="fixed()" (chosen)="say('under', $event)" />
  `,
  styles: `
    :host { display: contents; }
    span { color: var(--ink-two); }
  `,
})
export class StitchFields {
  readonly name = input.required<string>();
  readonly work = input<Work | undefined>();
  readonly fixed = input(false);
  /** All that is said of it now; undefined where nothing is left. */
  readonly changed = output<Stitch | undefined>();
  protected readonly stitch = computed((): Stitch => this.work()?.stitch ?? {});
  protected readonly numbers = NUMBERS;
  protected readonly ways = [{ value: '', label: 'by its look' }, ...pickables(STITCHES)];
  protected readonly unders = [{ value: '', label: 'the usual' }, ...pickables(UNDERLAYS)];
  protected readonly checks = Object.fromEntries(
    NUMBERS.map(({ key, words, unit }) => [
      key,
      (text: string) => checkNumber(text, SHAPE[key].unwrap().nullable(), { label: words, unit, optional: true }),
    ]),
  ) as Record<(typeof NUMBERS)[number]['key'], (text: string) => ReturnType<typeof checkNumber>>;

  protected say(key: keyof Stitch, value: string | number): void {
    const { [key]: before, ...rest } = this.stitch();
    const next = value === '' ? undefined : value;
    if (next === before) return;
    const all = (next === undefined ? rest : { ...rest, [key]: next }) as Stitch;
    this.changed.emit(Object.keys(all).length ? all : undefined);
  }
}
