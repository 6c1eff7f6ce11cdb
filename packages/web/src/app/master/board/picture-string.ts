import { ChangeDetectionStrategy, Component, computed, effect, input, output, signal, untracked } from '@angular/core';
import {
  type Command,
  type Correction,
  type CorrectionKind,
  EDGES,
  type Edge,
  type PictureItem,
  cutEdge,
  cutOff,
  setAttributes,
} from '@inkwell-twin/core/web';
import { InputText } from 'primeng/inputtext';
import { BeadFace } from './bead-face';
import { BEADS, type BeadNumber, KINDS } from './bead';
import { CutPane } from './cut-pane';
import { Histogram } from './histogram';
import { MenuButton } from '../../shared/menu-button';
import { pickables } from '../../shared/pick';
import { ColourField } from '../../shared/colour-field';
import { SliderField } from '../../shared/slider';

/** The corrections of the selected pictures, as beads on a string from how they came to how they are. */
@Component({
  selector: 'twin-string',
  imports: [BeadFace, ColourField, CutPane, Histogram, InputText, MenuButton, SliderField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (open() !== null && bead(); as one) {
      <section class="slip" [attr.aria-label]="one.kind">
        @if (one.kind === 'levels') {
          <twin-histogram [resource]="first().resource" [corrections]="beads().slice(0, open()!)" [levels]="one" />
        }
        @if (one.kind === 'cut-out') {
          <div class="by" role="group" aria-label="What is cut out">
            @for (way of ways; track way.by) {
              <button type="button" [attr.aria-pressed]="one.by === way.by" [disabled]="fixed()" (click)="cutBy(way.by)">{{ way.words }}</button>
            }
          </div>
          <twin-cut-pane
            [resource]="first().resource"
            [before]="beads().slice(0, open()!)"
            [cut]="one"
            [fixed]="fixed()"
            (changed)="setAll($event)"
          />
        }
        @for (number of numbersOf(one); track number.attribute) {
          <label>
            <span>{{ number.label }}</span>
            <twin-slider
              [label]="number.label"
              [least]="number.least"
              [most]="number.most"
              [step]="number.step"
              [value]="$any(one)[number.attribute]"
              (trying)="trying(number.attribute, $event)"
              (chosen)="set(number.attribute, $event)"
              [fixed]="fixed()"
            />
            <input pInputText pSize="small"
              class="mono"
              inputmode="decimal"
              [value]="$any(one)[number.attribute]"
              (change)="typed(number.attribute, $any($event.target), number.least, number.most)"
              [disabled]="fixed()"
              [attr.aria-label]="number.label + ' as a number'"
            />
            <em>{{ number.unit }}</em>
          </label>
        }
        @if (colourOf(one); as words) {
          <label>
            <span>{{ words }}</span>
            <twin-colour [label]="words" [value]="$any(one).colour" (changed)="set('colour', $event)" [fixed]="fixed()" />
          </label>
        }
        <p>
          <button type="button" class="link" [disabled]="fixed() || open() === 0" (click)="shift(-1)">Earlier</button>
          <button type="button" class="link" [disabled]="fixed() || open() === beads().length - 1" (click)="shift(1)">Later</button>
          <button type="button" class="link" [disabled]="fixed()" (click)="lift()">{{ one.off ? 'Put on' : 'Lift off' }}</button>
          <button type="button" class="link" [disabled]="fixed()" (click)="take()">Take away</button>
        </p>
      </section>
    }
    @if (cutting()) {
      <section class="slip" aria-label="What is cut off">
        <p class="first">Cut off at its edges; what is seen stays where it is.</p>
        @for (one of edges; track one.edge) {
          <label>
            <span>{{ one.words }}</span>
            <twin-slider
              [label]="one.words + ' edge'"
              [least]="0"
              [most]="99"
              [step]="0.5"
              [value]="percentOff(one.edge)"
              (chosen)="cutTo(one.edge, $event)"
              [fixed]="fixed()"
            />
            <input pInputText pSize="small"
              class="mono"
              inputmode="decimal"
              [value]="percentOff(one.edge)"
              (change)="cut(one.edge, $any($event.target))"
              [disabled]="fixed()"
              [attr.aria-label]="one.words + ' edge as a number'"
            />
            <em>%</em>
          </label>
        }
      </section>
    }
    <ol aria-label="Corrections, in the order in which they act">
      <li class="end">
        <button type="button" [attr.aria-pressed]="cutting()" title="What of it is shown" (click)="edgesAsked()">
          <twin-bead-face [resource]="first().resource" [corrections]="[]" /><span>as it came</span>
        </button>
      </li>
      @for (one of beads(); track $index; let i = $index) {
        <li draggable="true" (dragstart)="dragged.set(i)" (dragover)="$event.preventDefault()" (drop)="drop($event, i)">
          <button
            type="button"
            [class.off]="one.off"
            [attr.aria-pressed]="open() === i"
            (click)="press(i)"
            [title]="open() === i ? 'Again: ' + (one.off ? 'put it on' : 'lift it off') : one.kind"
          >
            <twin-bead-face [resource]="first().resource" [corrections]="[one]" />
            <span>{{ one.kind }}</span>
          </button>
        </li>
      }
      @if (!fixed()) {
        <li class="more">
          <twin-menu-button label="put on …" name="Put a correction on the string" [options]="kinds" (chosen)="add($event)" />
        </li>
      }
      <li class="end"><twin-bead-face [resource]="first().resource" [corrections]="beads()" /><span>as it is</span></li>
    </ol>
    @if (others().length && !fixed() && beads().length) {
      <p class="tied">
        The same corrections for
        @for (one of others(); track one.words) {
          <button type="button" class="link" (click)="giveTo(one.pictures)">{{ one.words }} ({{ one.pictures.length }})</button>
        }
      </p>
    }
    @if (pictures().length > 1) {
      <p class="tied">
        Tied to {{ pictures().length }} pictures.
        @if (!alike()) {
          They have strings of their own;
          <button type="button" class="link" [disabled]="fixed()" (click)="change(beads(), 'One string for ' + pictures().length + ' pictures')">
            give all this one
          </button>
        }
      </p>
    }
  `,
  styles: `
    :host { display: block; pointer-events: none; }
    :host > * { pointer-events: auto; }
    ol { position: relative; display: flex; align-items: flex-end; gap: 4px; margin: 0; padding: 0 4px; list-style: none; overflow-x: auto; }
    ol::before { content: ''; position: absolute; left: 26px; right: 26px; top: 25px; border-top: 1.5px solid var(--ink-three); }
    li { position: relative; flex: 0 0 auto; text-align: center; font-size: 11.5px; color: var(--ink-two); }
    li.end:last-child { margin-left: auto; }
    li button { display: block; padding: 0; border: 0; background: none; color: inherit; cursor: pointer; font: inherit; }
    li span { display: block; padding: 0 3px; background: color-mix(in srgb, var(--stage) 80%, transparent); }
    li twin-bead-face { margin: 0 auto 2px; }
    button[aria-pressed='true'] twin-bead-face { outline: 2px solid var(--action); }
    .off twin-bead-face { transform: translateY(-9px); opacity: 0.55; }
    .off span { text-decoration: line-through; }
    .more { align-self: center; margin: 0 4px 12px; }
    .slip { width: max-content; min-width: 330px; max-width: 100%; max-height: calc(100vh - 330px); overflow: auto; margin: 0 0 8px auto; padding: 8px 12px; border: 1px solid var(--hairline); border-radius: 8px; background: var(--raised); box-shadow: 0 2px 10px rgb(20 33 58 / 8%); }
    label { display: grid; grid-template-columns: 74px minmax(0, 1fr) 58px 34px; align-items: center; gap: 8px; min-height: 28px; color: var(--ink-two); }
    input.mono { width: 100%; padding: 2px 6px; border: 1px solid var(--hairline-soft); border-radius: 4px; background: none; color: var(--ink); font-size: 13px; }
    label twin-colour { grid-column: 2 / -1; }
    em { font-style: normal; color: var(--ink-three); }
    .slip p { display: flex; gap: 14px; margin: 6px 0 0; }
    .slip p.first { margin: 0 0 4px; color: var(--ink-two); }
    .by { display: flex; margin-bottom: 6px; border-bottom: 1px solid var(--hairline); }
    .by button { padding: 2px 10px 5px; border: 0; border-bottom: 2px solid transparent; background: none; color: var(--ink-two); font: inherit; cursor: pointer; }
    .by button[aria-pressed='true'] { border-bottom-color: var(--ink); color: var(--ink); font-weight: 600; }
    .tied { width: max-content; max-width: 100%; padding: 0 6px; background: color-mix(in srgb, var(--stage) 86%, transparent); color: var(--ink-two); font-size: 12.5px; }
  `,
})
export class PictureString {
  readonly pictures = input.required<readonly PictureItem[]>();
  readonly fixed = input(false);
  /** Pictures that are not selected and have other corrections, in words that say which they are. */
  readonly others = input<readonly { readonly words: string; readonly pictures: readonly string[] }[]>([]);
  readonly command = output<Command>();
  /** A string that is only being tried; null when it is over. */
  readonly trial = output<readonly Correction[] | null>();

  protected readonly kinds = pickables(KINDS);
  protected readonly table = BEADS;
  protected readonly ways = [
    { by: 'colour', words: 'A colour goes away' },
    { by: 'outline', words: 'An outline stays' },
  ] as const;
  protected readonly isByOutline = (one: Correction): boolean => one.kind === 'cut-out' && one.by === 'outline';
  /** What of a bead can be set: an outline knows no colour and no distance from one. */
  protected readonly numbersOf = (one: Correction): readonly BeadNumber[] =>
    BEADS[one.kind].numbers.filter(({ attribute }) => attribute !== 'distance' || !this.isByOutline(one));
  protected readonly colourOf = (one: Correction): string | undefined =>
    this.isByOutline(one) ? undefined : BEADS[one.kind].colour;

  /** Which bead lies open. */
  protected readonly open = signal<number | null>(null);
  protected readonly dragged = signal<number | null>(null);
  protected readonly first = computed(() => this.pictures()[0]!);
  protected readonly beads = computed((): readonly Correction[] => this.first().corrections ?? []);
  protected readonly bead = computed(() => this.beads()[this.open() ?? -1]);
  protected readonly alike = computed(() => {
    const one = JSON.stringify(this.beads());
    return this.pictures().every(({ corrections = [] }) => JSON.stringify(corrections) === one);
  });

  protected readonly edges = EDGES;
  /** Whether the edges lie open. */
  protected readonly cutting = signal(false);

  /** Whether a bead or the edges lie open. */
  readonly opened = output<boolean>();
  private shownId = '';

  constructor() {
    effect(() => this.opened.emit(this.cutting() || (this.open() !== null && this.bead() !== undefined)));
    effect(() => {
      const { id } = this.first();
      untracked(() => id !== this.shownId && this.open.set(null));
      this.shownId = id;
    });
  }

  /** One string for all selected pictures. */
  protected change(beads: readonly Correction[], label: string): void {
    this.trial.emit(null);
    const value = beads.length ? [...beads] : undefined;
    this.command.emit(
      setAttributes(
        this.pictures().map(({ id }) => id),
        'corrections',
        value,
        label,
      ),
    );
  }

  /** Ties the string to pictures that are not selected, too. */
  protected giveTo(pictures: readonly string[]): void {
    const label = `The same corrections for ${pictures.length === 1 ? 'a picture' : `${pictures.length} pictures`}`;
    this.command.emit(setAttributes([...pictures], 'corrections', [...this.beads()], label));
  }

  protected add(kind: CorrectionKind): void {
    const { length } = this.beads();
    this.change([...this.beads(), BEADS[kind].fresh], `${kind} put on`);
    this.open.set(length);
  }

  protected edgesAsked(): void {
    this.open.set(null);
    this.cutting.update((is) => !is);
  }

  protected percentOff(edge: Edge): number {
    return Number((100 * cutOff(this.first(), edge)).toFixed(2));
  }

  protected cut(edge: Edge, field: HTMLInputElement): void {
    const value = Number(field.value.trim().replace(',', '.'));
    if (field.value.trim() !== '') this.cutTo(edge, value);
    field.value = String(this.percentOff(edge));
  }

  /** @param percent of the side, 0 to below 100 */
  protected cutTo(edge: Edge, percent: number): void {
    if (percent >= 0 && percent < 100) this.command.emit(cutEdge(this.pictures(), edge, percent / 100));
  }

  protected press(at: number): void {
    this.cutting.set(false);
    if (this.open() === at && !this.fixed()) this.lift();
    else this.open.set(at);
  }

  private replace(at: number, bead: Correction, label: string): void {
    this.change(
      this.beads().map((one, i) => (i === at ? bead : one)),
      label,
    );
  }

  protected lift(): void {
    const [at, one] = [this.open(), this.bead()];
    if (at === null || !one) return;
    const { off, ...rest } = one;
    this.replace(at, (off ? rest : { ...rest, off: true }) as Correction, `${one.kind} ${off ? 'put on' : 'lifted off'}`);
  }

  protected take(): void {
    const [at, one] = [this.open(), this.bead()];
    if (at === null || !one) return;
    this.open.set(null);
    this.change(
      this.beads().filter((_, i) => i !== at),
      `${one.kind} taken away`,
    );
  }

  protected set(attribute: string, value: string | number): void {
    this.setAll({ [attribute]: value });
  }

  protected setAll(values: object): void {
    const [at, one] = [this.open(), this.bead()];
    if (at !== null && one) this.replace(at, { ...one, ...values } as Correction, `${one.kind} set`);
  }

  /** The points of one way mean nothing to the other. */
  protected cutBy(by: 'colour' | 'outline'): void {
    const one = this.bead();
    if (one?.kind !== 'cut-out' || one.by === by) return;
    // An outline may never have been told a distance.
    this.setAll({ by, points: [], distance: one.distance || (BEADS['cut-out'].fresh as typeof one).distance });
  }

  /** While a slider is held, the picture follows; the step is made when it is let go. */
  protected trying(attribute: string, value: number): void {
    const [at, one] = [this.open(), this.bead()];
    if (at !== null && one)
      this.trial.emit(this.beads().map((bead, i) => (i === at ? ({ ...one, [attribute]: value } as Correction) : bead)));
  }

  protected typed(attribute: string, field: HTMLInputElement, least: number, most: number): void {
    const value = Number(field.value.trim().replace(',', '.').replace('−', '-'));
    const one = this.bead() as unknown as Record<string, number>;
    if (field.value.trim() !== '' && value >= least && value <= most) this.set(attribute, value);
    else field.value = String(one[attribute]);
  }

  private moved(from: number, to: number): void {
    const beads = [...this.beads()];
    const [one] = beads.splice(from, 1);
    if (!one || to < 0 || to > beads.length) return;
    beads.splice(to, 0, one);
    this.change(beads, `${one.kind} moved`);
    this.open.set(to);
  }

  protected shift(by: number): void {
    const at = this.open();
    if (at !== null) this.moved(at, at + by);
  }

  protected drop(event: DragEvent, to: number): void {
    const from = this.dragged();
    this.dragged.set(null);
    if (from === null || from === to) return;
    event.preventDefault();
    event.stopPropagation();
    this.moved(from, to);
  }
}
