import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import {
  type Board,
  type Command,
  type Master,
  type Patch,
  drawnMaster,
  setAttribute,
  setFormula,
  PROFILES,
} from '@inkwell-twin/core/web';
import { InputText } from 'primeng/inputtext';
import { FormsModule } from '@angular/forms';
import { Checkbox } from 'primeng/checkbox';
import { type Amount, AmountField } from './amount-field';
import { ColourField } from '../../shared/colour-field';
import { Pick, pickables } from '../../shared/pick';

type Guides = NonNullable<Board['guides']>;

/** A board by its own: name, size, ground, and what helps to lay things out on it. */
@Component({
  selector: 'twin-board-fields',
  imports: [AmountField, Checkbox, ColourField, FormsModule, InputText, Pick],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label><span>Name</span><input pInputText pSize="small" [value]="board().name" [disabled]="fixed()" (change)="name($event)" aria-label="Name of the board" maxlength="200" /></label>
    @for (side of sides; track side.attribute) {
      <label>
        <span>{{ side.label }}</span>
        <twin-amount
          [master]="master()"
          [label]="side.label + ' of the board'"
          [value]="board()[side.attribute]"
          [formula]="board().formulas?.[side.attribute]"
          [least]="0.1"
          [fixed]="fixed()"
          [problem]="problems()[side.attribute] ?? ''"
          (changed)="amount(side.attribute, $event)"
        />
      </label>
    }
    <label>
      <span>Ground</span>
      <span class="ground">
        <p-checkbox [binary]="true" size="small" [ngModel]="board().background !== null" [disabled]="fixed()" (onChange)="ground($event.checked)" ariaLabel="Has a ground" />
        @if (board().background; as colour) {
          <twin-colour label="Colour of the ground" [value]="colour" [fixed]="fixed()" (changed)="command.emit(set('background', $event))" />
        } @else {
          none
        }
      </span>
    </label>
    <label title="Of copies in pixels, where nothing else is asked for">
      <span>Pixels/in</span>
      <input pInputText pSize="small" type="number" min="1" max="2400" placeholder="as it comes" [value]="master().ppi ?? ''" [disabled]="fixed()" (change)="pixels($event)" aria-label="Pixels per inch of copies" />
    </label>
    <label title="Of copies in pixels, where nothing else is asked for">
      <span>Colours</span>
      <twin-pick label="Colours of copies in pixels" [options]="profiles" [value]="master().profile ?? ''" [fixed]="fixed()" [plain]="true" (chosen)="colours($event)" />
    </label>
    <label>
      <span>Grid</span>
      <twin-amount [master]="master()" label="Grid" [value]="board().gridStep" [least]="0.1" unsaid="none" [fixed]="fixed()" (changed)="grid($event)" />
    </label>
    <div class="guides">
      <span>Guides</span>
      <div>
        @for (guide of board().guides ?? []; track $index) {
          <p>
            {{ guide.axis === 'x' ? 'upright at' : 'level at' }}
            <twin-amount [master]="master()" [label]="'Guide ' + ($index + 1)" [value]="guide.at" [fixed]="fixed()" (changed)="guide_($index, $event)" />
            <button type="button" class="link" [disabled]="fixed()" (click)="command.emit(without($index))" [attr.aria-label]="'Take guide ' + ($index + 1) + ' away'"><i class="pi pi-times" aria-hidden="true"></i></button>
          </p>
        }
        <button type="button" class="link" [disabled]="fixed()" (click)="command.emit(with('x'))">upright</button>
        <button type="button" class="link" [disabled]="fixed()" (click)="command.emit(with('y'))">level</button>
      </div>
    </div>
  `,
  styles: `
    :host { display: block; padding: 2px 12px 8px; --wide: 70px; }
    label, .guides { display: grid; grid-template-columns: 62px minmax(0, 1fr); gap: 6px; align-items: baseline; min-height: 27px; }
    label > span:first-child, .guides > span { color: var(--ink-two); }
    label > input { min-width: 0; padding: 2px 6px; border: 1px solid transparent; border-radius: 4px; background: none; color: var(--ink); font: inherit; }
    label > input:hover, label > input:focus { border-color: var(--hairline); background: var(--raised); }
    .ground { display: flex; gap: 8px; align-items: center; }
    .guides p { display: flex; align-items: baseline; gap: 5px; margin: 0; white-space: nowrap; }
    .guides .link + .link { margin-left: 10px; }
  `,
})
export class BoardFields {
  readonly master = input.required<Master>();
  readonly board = input.required<Board>();
  readonly fixed = input(false);
  readonly command = output<Command>();

  protected readonly sides = [
    { attribute: 'width', label: 'Width' },
    { attribute: 'height', label: 'Height' },
  ] as const;
  protected readonly problems = computed((): Readonly<Record<string, string>> =>
    Object.fromEntries(
      drawnMaster(this.master()).problems.flatMap((one) => (one.node === this.board().id ? [[one.attribute, one.message]] : [])),
    ),
  );

  protected set = (attribute: string, value: unknown): Command => setAttribute(this.master(), this.board().id, attribute, value);

  protected name(event: Event): void {
    const field = event.target as HTMLInputElement;
    const name = field.value.trim();
    if (name && name !== this.board().name) this.command.emit(this.set('name', name));
    else field.value = this.board().name;
  }
  protected amount(attribute: string, amount: Amount): void {
    if ('formula' in amount) this.command.emit(setFormula(this.master(), this.board().id, attribute, amount.formula));
    else if ('value' in amount && (amount.value !== this.board()[attribute as 'width'] || this.board().formulas?.[attribute]))
      this.command.emit(this.set(attribute, amount.value));
  }
  protected readonly profiles = [{ value: '', label: 'as it comes' }, ...pickables(PROFILES)];
  /** Said of the whole master, not of one board. */
  protected pixels(event: Event): void {
    const field = event.target as HTMLInputElement;
    const value = Number(field.value);
    if (field.value && !(value >= 1 && value <= 2400)) return void (field.value = String(this.master().ppi ?? ''));
    this.command.emit(setAttribute(this.master(), this.master().id, 'ppi', field.value ? value : undefined));
  }
  protected colours(profile: string): void {
    this.command.emit(setAttribute(this.master(), this.master().id, 'profile', profile || undefined));
  }
  protected ground(has: boolean): void {
    this.command.emit(this.set('background', has ? '#ffffff' : null));
  }
  /** Guides and the grid are where they are put: a formula gives them the value that it has now. */
  protected grid(amount: Amount): void {
    this.command.emit(this.set('gridStep', 'value' in amount ? amount.value : undefined));
  }
  private guides(guides: Guides, words: string): Command {
    const patches: Patch[] = [
      { op: 'set', node: this.board().id, attribute: 'guides', value: guides.length ? guides : undefined },
    ];
    return { label: `${this.board().name}: ${words}`, patches };
  }
  protected with = (axis: 'x' | 'y'): Command => {
    const { guides = [], width, height } = this.board();
    return this.guides([...guides, { axis, at: Math.round(axis === 'x' ? width / 2 : height / 2) }], 'a guide added');
  };
  protected without = (index: number): Command =>
    this.guides(
      (this.board().guides ?? []).filter((_, i) => i !== index),
      'a guide taken away',
    );
  protected guide_(index: number, amount: Amount): void {
    if ('value' in amount)
      this.command.emit(
        this.guides(
          (this.board().guides ?? []).map((one, i) => (i === index ? { ...one, at: amount.value } : one)),
          'a guide moved',
        ),
      );
  }
}
