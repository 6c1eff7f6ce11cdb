import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { Button } from 'primeng/button';
import {
  type Board,
  type Command,
  type Field,
  type Item,
  type Master,
  type Paint,
  boxOfItem,
  itemKind,
  moveItems,
  nodeInWords,
  removeItems,
  resizeItem,
  resolveBoard,
  setAttribute,
  setPart,
} from '@inkwell-twin/core/web';
import { valueOf } from './fields';
import { PaintField } from './paint-field';
import { type PartChange, WordingField } from './wording-field';

/** The property slip of what is selected. A value is taken over on Enter or on leaving the field. */
@Component({
  selector: 'twin-slip',
  imports: [Button, PaintField, WordingField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header>
      <strong>{{ title() }}</strong>
      @if (layer(); as name) {
        <span>on {{ name }}</span>
      }
      <button type="button" class="link" (click)="closed.emit()" aria-label="Close the slip">
        <i class="pi pi-times" aria-hidden="true"></i>
      </button>
    </header>
    @if (single(); as item) {
      <div class="fields">
      @for (field of fields(); track field.attribute) {
        <label [class.half]="field.kind === 'number' && field.label.length < 8" [class.high]="field.kind === 'wording'">
          <span>{{ field.label }}</span>
          @switch (field.kind) {
            @case ('number') {
              <span class="measure"
                ><input
                  class="mono"
                  inputmode="decimal"
                  [value]="shown(item, field)"
                  [placeholder]="field.unsaid ?? ''"
                  (change)="number(item, field, $event)"
                  [disabled]="fixed()"
                  [attr.aria-label]="field.label"
                />
                {{ field.unit }}</span
              >
            }
            @case ('wording') {
              <twin-wording-field
                [item]="$any(item)"
                [label]="field.label"
                [fixed]="fixed()"
                (changed)="set(item, field, $event)"
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
                [fixed]="fixed()"
                (changed)="set(item, field, $event)"
              />
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
    <label>
      <span>Move by</span>
      <span class="measure">
        <input class="mono" inputmode="decimal" value="0" #dx [disabled]="fixed()" aria-label="Move right by" /> →
        <input class="mono" inputmode="decimal" value="0" #dy [disabled]="fixed()" aria-label="Move up by" /> ↑
        <button type="button" class="link" [disabled]="fixed()" (click)="shift(dx, dy)">Move</button>
      </span>
    </label>
    @if (usedBy().length) {
      <p class="used">Carried by {{ usedBy().join(', ') }}</p>
    } @else {
      <p class="used">No copy carries this.</p>
    }
    @if (problem()) {
      <p class="wrong" role="alert">{{ problem() }}</p>
    }
    <p-button
      label="Delete"
      size="small"
      severity="secondary"
      [outlined]="true"
      [disabled]="fixed()"
      (onClick)="remove()"
    />
  `,
  styles: `
    :host { display: block; width: 278px; max-height: calc(100vh - 300px); overflow: auto; padding: 10px 12px 12px; border: 1px solid var(--hairline); border-radius: 8px; background: var(--raised); box-shadow: 0 2px 10px rgb(20 33 58 / 8%); }
    header { display: flex; gap: 6px; align-items: baseline; margin-bottom: 6px; }
    header strong { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
    header span { color: var(--ink-two); white-space: nowrap; }
    header button { margin-left: auto; color: var(--ink-two); }
    label { display: grid; grid-template-columns: 88px minmax(0, 1fr); align-items: center; gap: 6px; min-height: 28px; }
    label > span:first-child { color: var(--ink-two); }
    .fields { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); column-gap: 10px; }
    .fields label { grid-column: 1 / -1; }
    .fields label.high { display: block; }
    .fields label.half { grid-column: auto; grid-template-columns: auto 1fr; }
    .half .measure { justify-content: flex-end; }
    .half .measure input { width: 50px; }
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
  readonly master = input.required<Master>();
  readonly board = input.required<Board>();
  readonly items = input.required<readonly Item[]>();
  readonly selection = input.required<readonly string[]>();
  readonly usedBy = input.required<readonly string[]>();
  readonly fixed = input(false);
  readonly command = output<Command>();
  readonly closed = output<void>();

  protected readonly problem = signal('');
  protected readonly single = computed(() => (this.items().length === 1 ? this.items()[0]! : null));
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
    return boxOfItem(resolveBoard(this.master(), this.board()), item.id);
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

  protected shown(item: Item, field: Field): string {
    const value = valueOf(item, field.attribute);
    return typeof value === 'number' ? String(Number(value.toFixed(3))) : String(value ?? '');
  }

  protected set(item: Item, field: Field, value: unknown): void {
    this.problem.set('');
    if (JSON.stringify(value) !== JSON.stringify(valueOf(item, field.attribute)))
      this.command.emit(setAttribute(this.master(), item.id, field.attribute, value));
  }

  /** A number with a decimal point or comma; what is not one is said and put back. */
  private parse(field: HTMLInputElement, label: string, least = -Infinity, most = 1e6, unit = 'mm'): number | undefined {
    const value = Number(
      field.value
        .trim()
        .replace(',', '.')
        .replace(/\s*(mm|em)$/, ''),
    );
    if (field.value.trim() !== '' && Number.isFinite(value) && value >= least && value <= most && value > -1e6) return value;
    const numbers = unit === 'mm' ? 'a number of millimetres' : 'a number';
    const bound = value < least ? `at least ${least}` : `at most ${most}`;
    this.problem.set(`${label}: “${field.value}” is not ${field.value.trim() && Number.isFinite(value) ? bound : numbers}.`);
    return undefined;
  }

  protected number(item: Item, field: Field, event: Event): void {
    const target = event.target as HTMLInputElement;
    this.problem.set('');
    if (field.unsaid !== undefined && !target.value.trim()) return this.set(item, field, undefined);
    const value = this.parse(target, field.label, field.least, field.most, field.unit);
    if (value === undefined) target.value = this.shown(item, field);
    else this.set(item, field, value);
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
