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
  templateUrl: './picture-string.html',
  styleUrl: './picture-string.css',
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
