import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import {
  type Anchor,
  type Board,
  type Command,
  Failure,
  type Field,
  type Item,
  type Master,
  type Paint,
  type Patch,
  SPOTS,
  type Spot,
  boxOfItem,
  computedItem,
  drawnMaster,
  findNode,
  hasSlots,
  itemKind,
  moveItems,
  nodeInWords,
  removeItems,
  resizeItem,
  resolveBoard,
  scopeOfMaster,
  setAttribute,
  setFormula,
  setPart,
} from '@inkwell-twin/core/web';
import { widthOnStage } from '../stage/paint';
import { type Amount, AmountField, readAmount } from './amount-field';
import { ArrangeActs } from './arrange-acts';
import { valueOf } from './fields';
import { PaintField } from './paint-field';
import { type PartChange, WordingField } from './wording-field';

/** The property slip of what is selected. A value is taken over on Enter or on leaving the field. */
@Component({
  selector: 'twin-slip',
  host: { '[class.wide]': 'wide()' },
  imports: [AmountField, ArrangeActs, PaintField, WordingField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header>
      <strong>{{ title() }}</strong>
      @if (layer(); as name) {
        <span>on {{ name }}</span>
      }
      @if (wide()) {
        <span class="by-whom">{{ usedBy().length ? 'Carried by ' + usedBy().join(', ') : 'No copy carries this.' }}</span>
      }
      <button type="button" class="link away" [disabled]="fixed()" (click)="remove()">Delete</button>
      <button type="button" class="link" (click)="closed.emit()" aria-label="Close the slip">
        <i class="pi pi-times" aria-hidden="true"></i>
      </button>
    </header>
    <div class="body">
    @if (single(); as item) {
      <div class="fields">
      @for (field of fields(); track field.attribute) {
        <label [class.half]="field.kind === 'number' && field.label.length < 8 && !item.formulas?.[field.attribute]" [class.high]="field.kind === 'wording'">
          <span>{{ field.label }}</span>
          @switch (field.kind) {
            @case ('number') {
              <twin-amount
                [master]="master()"
                [label]="field.label"
                [value]="$any(value(item, field))"
                [formula]="item.formulas?.[field.attribute]"
                [unit]="field.unit ?? ''"
                [wanted]="wanted(field)"
                [least]="field.least"
                [most]="field.most"
                [unsaid]="field.unsaid"
                [fixed]="fixed()"
                [problem]="problems()[field.attribute] ?? ''"
                (changed)="amount(item, field, $event)"
                (trial)="tryAmount(item, field, $event)"
              />
            }
            @case ('symbol') {
              <select (change)="set(item, field, $any($event.target).value || undefined)" [disabled]="fixed()" [attr.aria-label]="field.label">
                @if (field.unsaid) {
                  <option value="" [selected]="!value(item, field)">{{ field.unsaid }}</option>
                }
                @for (one of master().symbols; track one.id) {
                  <option [value]="one.id" [selected]="one.id === value(item, field)">{{ one.name }}</option>
                }
              </select>
            }
            @case ('yes') {
              <input
                type="checkbox"
                [checked]="value(item, field) === true"
                (change)="set(item, field, $any($event.target).checked || undefined)"
                [disabled]="fixed()"
                [attr.aria-label]="field.label"
              />
            }
            @case ('words') {
              <input
                class="mono"
                [value]="value(item, field) ?? ''"
                [placeholder]="field.unsaid ?? ''"
                (change)="set(item, field, $any($event.target).value || undefined)"
                [disabled]="fixed()"
                maxlength="50"
                [attr.aria-label]="field.label"
              />
            }
            @case ('anchor') {
              <select (change)="anchor(item, field, $any($event.target).value)" [disabled]="fixed() || !anchorOf(item, field)" [attr.aria-label]="field.label">
                @for (spot of spots; track spot) {
                  <option [value]="spot" [selected]="spot === anchorOf(item, field)?.spot">{{ spot }} of {{ anchorName(item, field) }}</option>
                } @empty {
                  <option>a place on the board</option>
                }
              </select>
            }
            @case ('wording') {
              <twin-wording-field
                [item]="$any(raw(item))"
                [label]="field.label"
                [fixed]="fixed()"
                (changed)="words(item, $event)"
                (partChanged)="part(item, $event)"
                (wrong)="problem.set($event)"
              />
            }
            @case ('choice') {
              <select
                (change)="set(item, field, $any($event.target).value)"
                [disabled]="fixed()"
                [attr.aria-label]="field.label"
              >
                @for (one of field.choices; track one) {
                  <option [value]="one" [selected]="one === (value(item, field) ?? field.choices![0])">{{ one }}</option>
                }
              </select>
            }
            @case ('part') {
              <select (change)="set(item, field, $any($event.target).value)" [disabled]="fixed()" [attr.aria-label]="field.label">
                @for (one of partsOf(field); track one.id) {
                  <option [value]="one.id" [selected]="one.id === value(item, field)">{{ one.name }}</option>
                } @empty {
                  <option value="" selected>gone</option>
                }
              </select>
            }
            @case ('column') {
              <select (change)="set(item, field, $any($event.target).value || undefined)" [disabled]="fixed()" [attr.aria-label]="field.label">
                <option value="" [selected]="!value(item, field)">{{ field.unsaid }}</option>
                @for (one of columnsOf(item, field); track one.id) {
                  <option [value]="one.id" [selected]="one.id === value(item, field)">{{ one.name }}</option>
                }
              </select>
            }
            @case ('share') {
              <span class="measure"
                ><input
                  class="mono"
                  inputmode="decimal"
                  [value]="percent(item, field)"
                  (change)="share(item, field, $any($event.target))"
                  [disabled]="fixed()"
                  [attr.aria-label]="field.label"
                />
                %</span
              >
            }
            @case ('lengths') {
              <span class="measure"
                ><input
                  class="mono"
                  [value]="lengthsOf(item, field)"
                  (change)="lengths(item, field, $any($event.target))"
                  [disabled]="fixed()"
                  placeholder="none"
                  [attr.aria-label]="field.label"
                />
                {{ field.unit }}</span
              >
            }
            @case ('paint') {
              <twin-paint-field
                [paint]="paintOf(item, field)"
                [label]="field.label"
                [fixed]="fixed() || !!item.formulas?.[field.attribute]"
                (changed)="set(item, field, $event)"
              />
              @if (colours().length) {
                <select class="by" (change)="colourBy(item, field, $any($event.target).value)" [disabled]="fixed()" [attr.aria-label]="field.label + ' by a parameter'">
                  <option value="" [selected]="!item.formulas?.[field.attribute]">as given here</option>
                  @for (one of colours(); track one) {
                    <option [value]="one" [selected]="one === item.formulas?.[field.attribute]">{{ one }}</option>
                  }
                </select>
              }
            }
          }
        </label>
      }
      </div>
      @if (box(); as size) {
        <label>
          <span>Size</span>
          <span class="measure pair">
            <input class="mono" inputmode="decimal" #w [value]="short(size.maxX - size.minX)" (change)="resize(w, h)" [disabled]="fixed()" aria-label="Width" /> ×
            <input class="mono" inputmode="decimal" #h [value]="short(size.maxY - size.minY)" (change)="resize(w, h)" [disabled]="fixed()" aria-label="Height" /> mm
          </span>
        </label>
      }
    } @else {
      <p>{{ selection().length }} objects are selected. Drag them, or use the arrow keys.</p>
    }
    @if (problems()[''] || problems()['text']; as words) {
      <p class="wrong" role="alert">{{ words }}</p>
    }
    <label>
      <span>Move by</span>
      <span class="measure">
        <input class="mono" inputmode="decimal" value="0" #dx [disabled]="fixed()" aria-label="Move right by" /> →
        <input class="mono" inputmode="decimal" value="0" #dy [disabled]="fixed()" aria-label="Move up by" /> ↑
        <button type="button" class="link" [disabled]="fixed()" (click)="shift(dx, dy)">Move</button>
      </span>
    </label>
    <details [open]="wide()">
      <summary>Lay out, combine, repeat</summary>
    <twin-arrange
        [master]="master()"
        [board]="board()"
        [items]="raws()"
        [fixed]="fixed()"
        (command)="command.emit($event)"
        (picked)="picked.emit($event)"
        (points)="points.emit($event)"
      />
    </details>
    @if (!wide()) {
      <p class="used">{{ usedBy().length ? 'Carried by ' + usedBy().join(', ') : 'No copy carries this.' }}</p>
    }
    @if (problem()) {
      <p class="wrong" role="alert">{{ problem() }}</p>
    }
    </div>
  `,
  styles: `
    :host { display: block; overflow: auto; padding: 10px 12px 12px; border: 1px solid var(--hairline); border-radius: 8px; background: var(--raised); box-shadow: 0 2px 10px rgb(20 33 58 / 8%); }
    :host(.wide) { max-width: 100%; }
    :host(.wide) .body { display: flex; flex-flow: column wrap; gap: 0 22px; max-height: 206px; align-content: flex-start; }
    :host(.wide) .body > * { width: 250px; }
    :host(.wide) .fields { display: contents; }
    :host(.wide) .fields label { width: 250px; }
    :host(.wide) .fields label.half { grid-template-columns: 88px minmax(0, 1fr); }
    :host(.wide) .half twin-amount { --at: flex-start; --wide: 84px; }
    details { margin-top: 4px; }
    summary { cursor: pointer; color: var(--ink-two); }
    :host(.wide) summary { display: none; }
    header { display: flex; gap: 6px; align-items: baseline; margin-bottom: 6px; }
    header strong { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
    header span { color: var(--ink-two); white-space: nowrap; }
    header button { color: var(--ink-two); }
    header .away { margin-left: auto; color: var(--action); }
    :host(.wide) header strong { flex: none; max-width: 40%; }
    :host(.wide) details { width: 290px !important; margin: 0; }
    header .by-whom { overflow: hidden; text-overflow: ellipsis; margin-left: 12px; }
    header .by-whom + .away { margin-left: auto; }
    label { display: grid; grid-template-columns: 88px minmax(0, 1fr); align-items: center; gap: 6px; min-height: 28px; }
    label > span:first-child { color: var(--ink-two); }
    .fields { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); column-gap: 10px; }
    .fields label { grid-column: 1 / -1; }
    .fields label.high { display: block; }
    .fields label.half { grid-column: auto; grid-template-columns: auto 1fr; }
    .half twin-amount { --at: flex-end; --wide: 50px; }
    .by { grid-column: 2; color: var(--ink-two); font-size: 12px; }
    .measure { display: flex; align-items: center; gap: 6px; color: var(--ink-two); }
    input:not([type]), select { width: 100%; min-width: 0; padding: 2px 6px; border: 1px solid transparent; border-radius: 4px; background: none; color: var(--ink); font-size: 13px; }
    select { font: inherit; }
    input:not([type]):hover, input:not([type]):focus, select:hover { border-color: var(--hairline); background: var(--sheet); }
    .measure input { width: 84px; border-color: var(--hairline-soft); }
    .pair { gap: 4px; }
    .pair input { width: 54px; }
    label .measure:has(button) input { width: 40px; padding: 2px 4px; }
    .measure:has(button) { gap: 4px; }
    em { font-style: normal; color: var(--ink-three); }
    .used { margin: 6px 0 8px; color: var(--ink-two); font-size: 12.5px; }
    .wrong { margin-bottom: 8px; padding-left: 8px; border-left: 3px solid var(--ink); }
  `,
})
export class Slip {
  /** Whether there is room for several columns. */
  readonly wide = input(false);
  readonly master = input.required<Master>();
  readonly board = input.required<Board>();
  readonly items = input.required<readonly Item[]>();
  readonly selection = input.required<readonly string[]>();
  readonly usedBy = input.required<readonly string[]>();
  readonly fixed = input(false);
  readonly command = output<Command>();
  readonly closed = output<void>();
  readonly picked = output<readonly string[]>();
  readonly points = output<string>();
  /** What the master would be while one types; null where nothing is typed. */
  readonly trial = output<readonly Patch[] | null>();

  protected readonly problem = signal('');
  /** The object as it comes to be: what is computed of it computed. */
  protected readonly single = computed(() => {
    const [item] = this.items();
    if (!item || this.items().length > 1) return null;
    return {
      ...computedItem(item, scopeOfMaster(this.master())).item,
      ...(item.formulas ? { formulas: item.formulas } : {}),
    } as Item;
  });
  protected readonly raw = (item: Item): Item => this.items().find(({ id }) => id === item.id) ?? item;
  protected readonly raws = computed(() => this.items());
  /** What can't be computed of it, by the attribute. */
  protected readonly problems = computed((): Readonly<Record<string, string>> => {
    const item = this.single();
    if (!item) return {};
    const { problems } = drawnMaster(this.master(), widthOnStage);
    return Object.fromEntries(problems.flatMap((one) => (one.node === item.id ? [[one.attribute, one.message]] : [])));
  });
  /** The parameters that are colours. */
  protected readonly colours = computed(() =>
    (this.master().parameters ?? []).flatMap(({ name, measure }) => (measure === 'colour' ? [name] : [])),
  );
  protected readonly spots = Object.keys(SPOTS) as Spot[];
  protected readonly anchorOf = (item: Item, field: Field): { of: string; spot: Spot } | null => {
    const anchor = valueOf(item, field.attribute) as Anchor;
    return 'of' in anchor ? anchor : null;
  };
  protected readonly anchorName = (item: Item, field: Field): string => {
    const anchor = this.anchorOf(item, field);
    const node = anchor && findNode(this.master(), anchor.of);
    return node ? nodeInWords(node) : 'what is gone';
  };
  protected readonly wanted = (field: Field): 'length' | 'angle' | 'number' =>
    field.unit === 'mm' ? 'length' : field.unit === '°' ? 'angle' : 'number';
  /** What can be set; how a line is drawn only where there is one. */
  protected readonly fields = computed(() => {
    const item = this.single();
    if (!item) return [];
    const lined = valueOf(item, 'style.stroke') !== null;
    return itemKind(item).fields.filter(({ ofLine }) => lined || !ofLine);
  });
  /** The box of an object that has no measures of its own. */
  protected readonly box = computed(() => {
    const item = this.single();
    if (!item || itemKind(item).sized) return null;
    return boxOfItem(resolveBoard(this.master(), this.board(), null, widthOnStage), item.id);
  });
  protected readonly title = computed(() => (this.single() ? nodeInWords(this.single()!) : `${this.items().length} objects`));
  protected readonly layer = computed(() => this.master().layers.find(({ id }) => id === this.single()?.layer)?.name);
  protected readonly short = (value: number): string => String(Number(value.toFixed(2)));
  /** The parts that a field chooses from, and the columns of the table that another field names. */
  protected readonly partsOf = ({ of }: Field): readonly { id: string; name: string }[] =>
    this.master()[of as 'tables' | 'solids' | 'texts'] ?? [];
  protected readonly columnsOf = (item: Item, { of }: Field): readonly { id: string; name: string }[] =>
    this.master().tables?.find(({ id }) => id === valueOf(item, of!))?.columns ?? [];
  protected readonly value = (item: Item, field: Field): unknown => valueOf(item, field.attribute);

  protected readonly paintOf = (item: Item, field: Field): Paint | null =>
    (valueOf(item, field.attribute) as Paint | null) ?? null;
  protected readonly percent = (item: Item, field: Field): string =>
    String(Number((100 * ((valueOf(item, field.attribute) as number | undefined) ?? 1)).toFixed(1)));
  protected readonly lengthsOf = (item: Item, field: Field): string =>
    ((valueOf(item, field.attribute) as number[] | undefined) ?? []).map((length) => Number(length.toFixed(3))).join(' ');

  protected part(item: Item, { from, to, change }: PartChange): void {
    this.problem.set('');
    this.command.emit(setPart(this.master(), item.id, from, to, change));
  }

  /** A share in percent; the whole is nothing worth a word. */
  protected share(item: Item, field: Field, input: HTMLInputElement): void {
    this.problem.set('');
    const value = Number(input.value.trim().replace(',', '.').replace('%', '')) / 100;
    if (input.value.trim() !== '' && value >= 0 && value <= 1) return this.set(item, field, value === 1 ? undefined : value);
    this.problem.set(`${field.label}: “${input.value}” is not from 0 to 100 percent.`);
    input.value = this.percent(item, field);
  }

  /** Lengths by turns, parted by blanks; none at all is a whole line. */
  protected lengths(item: Item, field: Field, input: HTMLInputElement): void {
    this.problem.set('');
    const parts = input.value
      .trim()
      .replace(/mm|[;/]/g, ' ')
      .split(/\s+/)
      .filter(Boolean);
    const values = parts.map((part) => Number(part.replace(',', '.')));
    if (values.every((value) => value >= 0) && values.length <= 32) {
      // An odd list goes on with gaps and dashes changed about.
      const even = values.length % 2 ? [...values, ...values] : values;
      return this.set(item, field, even.some((value) => value > 0) ? even : undefined);
    }
    this.problem.set(`${field.label}: “${input.value}” is not a list of lengths such as 2 1.`);
    input.value = this.lengthsOf(item, field);
  }

  protected set(item: Item, field: Field, value: unknown): void {
    this.problem.set('');
    if (JSON.stringify(value) !== JSON.stringify(valueOf(item, field.attribute)))
      this.command.emit(setAttribute(this.master(), item.id, field.attribute, value));
  }

  /** A measure as it was typed, mm; what is none is said. */
  private parse(field: HTMLInputElement, label: string, least = -Infinity): number | undefined {
    try {
      const { value } = readAmount(field.value, this.master(), 'length');
      if (value >= least) return value;
      this.problem.set(`${label}: “${field.value}” is not at least ${least}.`);
    } catch (error) {
      if (!(error instanceof Failure)) throw error;
      this.problem.set(`${label}: ${error.message}`);
    }
    return undefined;
  }

  /** The patches that give an attribute what was typed. */
  private amountCommand(item: Item, { attribute }: Field, amount: Amount): Command {
    if ('nothing' in amount) return setAttribute(this.master(), item.id, attribute, undefined);
    if ('value' in amount) return setAttribute(this.master(), item.id, attribute, amount.value);
    return setFormula(this.master(), item.id, attribute, amount.formula);
  }

  protected amount(item: Item, field: Field, amount: Amount): void {
    const formula = item.formulas?.[field.attribute];
    const same =
      'formula' in amount
        ? amount.formula === formula
        : formula === undefined && ('nothing' in amount ? undefined : amount.value) === valueOf(item, field.attribute);
    if (!same) this.command.emit(this.amountCommand(item, field, amount));
  }

  protected tryAmount(item: Item, field: Field, amount: Amount | null): void {
    this.trial.emit(amount && this.amountCommand(item, field, amount).patches);
  }

  /** A wording is filled in where it names parameters in braces, and there are some. */
  protected words(item: Item, text: unknown): void {
    const raw = this.raw(item);
    if (raw.kind !== 'text' || text === raw.text) return;
    const command = setAttribute(this.master(), item.id, 'text', text);
    const slots = hasSlots(String(text)) && (this.master().parameters?.length ?? 0) > 0;
    const filled: Patch[] =
      slots === (raw.slots === true) ? [] : [{ op: 'set', node: item.id, attribute: 'slots', value: slots ? true : undefined }];
    this.command.emit({ ...command, patches: [...command.patches, ...filled] });
  }

  protected anchor(item: Item, field: Field, spot: Spot): void {
    const anchor = this.anchorOf(item, field);
    if (anchor) this.set(item, field, { of: anchor.of, spot });
  }

  protected colourBy(item: Item, { attribute }: Field, name: string): void {
    if (name) this.command.emit(setFormula(this.master(), item.id, attribute, name));
    else this.command.emit(setAttribute(this.master(), item.id, attribute, valueOf(item, attribute)));
  }

  protected resize(width: HTMLInputElement, height: HTMLInputElement): void {
    this.problem.set('');
    const [item, box] = [this.single(), this.box()];
    const [w, h] = [this.parse(width, 'Width', 0.01), this.parse(height, 'Height', 0.01)];
    if (item && box && w !== undefined && h !== undefined) this.command.emit(resizeItem(this.master(), item.id, box, w, h));
  }

  protected shift(dx: HTMLInputElement, dy: HTMLInputElement): void {
    this.problem.set('');
    const [x, y] = [this.parse(dx, 'Move right'), this.parse(dy, 'Move up')];
    if (x !== undefined && y !== undefined && (x || y)) this.command.emit(moveItems(this.master(), this.selection(), x, y));
  }

  protected remove(): void {
    this.command.emit(removeItems(this.master(), this.selection()));
  }
}
