import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { FONTS, type FontName, type RunLook, type TextItem, lookWithin } from '@inkwell-twin/core/web';
import { InputText } from 'primeng/inputtext';
import { Textarea } from 'primeng/textarea';
import { ColourField } from '../../../shared/colour-field';
import { Pick, pickables } from '../../../shared/pick';
import { typedIn } from '../../../shared/typed';

/** Letters of a wording that are to look otherwise. */
export interface PartChange {
  readonly from: number;
  readonly to: number;
  readonly change: RunLook;
}

/** The letters that are marked, and how they look. */
interface Part {
  readonly from: number;
  readonly to: number;
  readonly words: string;
  readonly look: RunLook;
  /** What is not the same in all of them. */
  readonly mixed: ReadonlySet<string>;
  /** Whether they look otherwise than the rest. */
  readonly own: boolean;
}

/** The wording of a text: letters that are marked in it can be given a look of their own. */
@Component({
  selector: 'twin-wording-field',
  imports: [ColourField, InputText, Pick, Textarea],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <textarea
      pTextarea
      pSize="small"
      rows="2"
      [value]="shown()"
      (change)="take(typedIn($event))"
      (input)="type(typedIn($event))"
      (blur)="typed.set(null)"
      (select)="mark($event)"
      (pointerup)="mark($event)"
      (keyup)="mark($event)"
      [disabled]="fixed()"
      [attr.aria-label]="label()"
    ></textarea>
    @if (part(); as one) {
      <div class="part" role="group" [attr.aria-label]="'Look of “' + one.words + '”'">
        <p>
          <q>{{ one.words }}</q>
          @if (one.own) {
            <button type="button" class="link" [disabled]="fixed()" (click)="set(REST)">As the rest</button>
          }
        </p>
        <label
          ><span>Font</span>
          <twin-pick label="Font of the part" [options]="fonts()" [value]="fontOf(one)" [fixed]="fixed()" (chosen)="set({ font: font($event) })" />
        </label>
        <label
          ><span>Size</span>
          <span class="measure"
            ><input
              pInputText
              pSize="small"
              class="mono"
              inputmode="decimal"
              [value]="one.mixed.has('size') ? '' : short(one.look.size ?? item().size)"
              [placeholder]="one.mixed.has('size') ? 'several' : ''"
              (change)="number($event, 'size', 0.1)"
              [disabled]="fixed()"
              aria-label="Letter size of the part"
            />
            mm</span
          >
        </label>
        <label
          ><span>Spacing</span>
          <span class="measure"
            ><input
              pInputText
              pSize="small"
              class="mono"
              inputmode="decimal"
              [value]="one.mixed.has('spacing') ? '' : short(one.look.spacing ?? item().spacing ?? 0)"
              [placeholder]="one.mixed.has('spacing') ? 'several' : ''"
              (change)="number($event, 'spacing', -0.9)"
              [disabled]="fixed()"
              aria-label="Letter spacing of the part"
            />
            em</span
          >
        </label>
        <label
          ><span>Colour</span>
          <twin-colour
            label="Colour of the part"
            [value]="one.look.colour ?? plain()"
            [fixed]="fixed()"
            (changed)="set({ colour: $event })"
          />
        </label>
      </div>
    } @else if (!fixed()) {
      <small>Mark letters to give them a look of their own.</small>
    }
  `,
  styles: `
    :host { display: block; min-width: 0; }
    textarea { width: 100%; min-width: 0; margin: 2px 0; padding: 2px 6px; background: none; resize: vertical; }
    small { display: block; color: var(--ink-three); font-size: 12px; }
    .part { margin: 2px 0 6px; padding: 4px 0 4px 8px; border-left: 3px solid var(--ink-two); }
    .part p { display: flex; justify-content: space-between; gap: 6px; margin: 0 0 2px; }
    q { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
    label { display: grid; grid-template-columns: 56px minmax(0, 1fr); align-items: center; gap: 6px; min-height: 26px; }
    label > span:first-child { color: var(--ink-two); }
    .measure { display: flex; align-items: center; gap: 6px; color: var(--ink-two); }
    .measure input { width: 64px; min-width: 0; padding: 2px 4px; border-color: var(--hairline-soft); background: none; }
  `,
})
export class WordingField {
  readonly item = input.required<TextItem>();
  readonly label = input.required<string>();
  readonly fixed = input(false);
  readonly changed = output<string>();
  readonly partChanged = output<PartChange>();
  readonly wrong = output<string>();

  protected readonly typedIn = typedIn;
  /** The fonts to choose from: the one of the rest first, or that there are several. */
  protected readonly fonts = computed(() => [
    { value: '', label: this.part()?.mixed.has('font') ? 'several' : 'as the rest' },
    ...pickables(FONTS),
  ]);
  protected readonly fontOf = ({ look, mixed }: Part): string => (mixed.has('font') ? '' : (look.font ?? ''));
  protected readonly REST: RunLook = { font: undefined, size: undefined, spacing: undefined, colour: undefined };
  /** Letters that are marked, and in which wording of which text. */
  protected readonly marked = signal<{
    readonly id: string;
    readonly text: string;
    readonly from: number;
    readonly to: number;
  } | null>(null);
  /** What is being typed and was not taken over yet: what others change meanwhile does not write over it. */
  protected readonly typed = signal<{ readonly id: string; readonly text: string } | null>(null);
  protected readonly shown = computed(() => {
    const [typed, { id, text }] = [this.typed(), this.item()];
    return typed?.id === id ? typed.text : text;
  });
  protected readonly part = computed((): Part | null => {
    const [marked, { id, text, runs = [] }] = [this.marked(), this.item()];
    if (marked?.id !== id || marked.text !== text) return null;
    const { from, to } = marked;
    const { look, mixed } = lookWithin(runs, from, to);
    const own = mixed.size > 0 || Object.values(look).some((value) => value !== undefined);
    return { from, to, words: text.slice(from, to), look, mixed, own };
  });
  protected readonly plain = computed(() => {
    const { fill } = this.item().style;
    return typeof fill === 'string' ? fill : '#14213a';
  });
  protected readonly short = (value: number): string => String(Number(value.toFixed(3)));
  protected readonly font = (name: string): FontName | undefined => FONTS.find((one) => one === name);

  protected type(text: string): void {
    this.typed.set({ id: this.item().id, text });
    this.marked.set(null);
  }

  protected take(text: string): void {
    this.typed.set(null);
    this.changed.emit(text);
  }

  protected mark(event: Event): void {
    const { selectionStart: from, selectionEnd: to, value } = event.target as HTMLTextAreaElement;
    const { id, text } = this.item();
    // A wording that was typed and not taken over yet has other letters.
    this.marked.set(value === text && to > from ? { id, text, from, to } : null);
  }

  protected set(change: RunLook): void {
    const part = this.part();
    if (part) this.partChanged.emit({ from: part.from, to: part.to, change });
  }

  protected number(event: Event, name: 'size' | 'spacing', least: number): void {
    const field = event.target as HTMLInputElement;
    const text = field.value
      .trim()
      .replace(',', '.')
      .replace(/\s*(mm|em)$/, '');
    const value = Number(text);
    if (!text) return this.set({ [name]: undefined });
    const most = name === 'spacing' ? 10 : 1e4;
    if (value >= least && value <= most) return this.set({ [name]: value === (this.item()[name] ?? 0) ? undefined : value });
    this.wrong.emit(`“${field.value}” is not a number from ${least} to ${most}.`);
    field.value = this.short(this.part()?.look[name] ?? this.item()[name] ?? 0);
  }
}
