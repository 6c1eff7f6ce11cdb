import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import {
  AXES,
  type Command,
  type EdgeRule,
  type Feature,
  type Master,
  type Solid,
  type SolidOutline,
  allItems,
  nodeInWords,
} from '@inkwell-twin/core/web';
import {
  amountFrom,
  edgesInWords,
  moveFeature,
  outlineInWords,
  removeFeature,
  setInFeature,
  valueAt,
} from '@inkwell-twin/core/solids';
import { InputText } from 'primeng/inputtext';
import { Textarea } from 'primeng/textarea';
import { BEGINNINGS, type Field, SHAPE_WORDS, fieldsOf } from './fields';
import { MenuButton } from '../../shared/menu-button';
import { Pick, pickables } from '../../shared/pick';

/** What a feature is made of, to be changed where it stands. */
@Component({
  selector: 'twin-solid-slip',
  imports: [InputText, MenuButton, Pick, Textarea],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="wide">Name <input pInputText pSize="small" [value]="feature().name" maxlength="200" [disabled]="fixed()" (change)="rename($event)" /></label>
    @if (outline(); as own) {
      <label>Outline
        <twin-pick label="Outline" [options]="shapes()" [value]="own.shape" [fixed]="fixed()" (chosen)="reshape($event)" />
      </label>
      @if (own.shape === 'object') {
        <label class="wide">Object
          <twin-pick label="Object whose outline it takes" [options]="objects()" [value]="own.object" [fixed]="fixed()" (chosen)="set(['outline', 'object'], $event, 'object')" />
        </label>
      }
      @if (own.shape === 'points') {
        <label class="wide">Corners, one a line
          <textarea pTextarea pSize="small" rows="5" class="mono" [value]="corners(own)" [disabled]="fixed()" (change)="setCorners($event)" spellcheck="false"></textarea>
        </label>
      }
    }
    @if (repeated(); as own) {
      <label class="wide">Repeats
        <twin-pick label="What it repeats" [options]="earlier()" [value]="own" [fixed]="fixed()" (chosen)="set(['of'], $event, 'what it repeats')" />
      </label>
    }
    @for (field of fields(); track field.label + field.path.join('.')) {
      <label>{{ field.label }}{{ field.unit ? ', ' + field.unit : '' }}
        @if (field.choices; as choices) {
          <twin-pick [label]="field.label" [options]="choices" [value]="at(field)" [fixed]="fixed()" (chosen)="set(field.path, $event, field.label)" />
        } @else {
          <input pInputText pSize="small" class="mono short" [value]="at(field)" [placeholder]="field.otherwise ?? ''" maxlength="300" [disabled]="fixed()" (change)="amount(field, $event)" spellcheck="false" />
        }
      </label>
    }
    @if (hole(); as own) {
      <label>Sunk to ⌀, mm <input pInputText pSize="small" class="mono short" [value]="own.sink?.diameter ?? ''" placeholder="not sunk" [disabled]="fixed()" (change)="sink('diameter', $event)" spellcheck="false" /></label>
      @if (own.sink) { <label>Sides meet at, ° <input pInputText pSize="small" class="mono short" [value]="own.sink.angle" [disabled]="fixed()" (change)="sink('angle', $event)" spellcheck="false" /></label> }
    }
    @if (edges(); as rules) {
      <ul class="edges" aria-label="Edges that are meant">
        @for (rule of rules; track $index) {
          <li>
            <span>{{ edgesInWords(rule) }}</span>
            @if (!fixed() && rules.length > 1) { <button type="button" class="link" [attr.aria-label]="'Leave out ' + edgesInWords(rule)" (click)="dropEdges($index)">Leave out</button> }
          </li>
        }
      </ul>
      @if (!fixed()) {
        <p class="acts wide">
          <twin-menu-button label="Add edges" name="Add edges along an axis" [options]="axes" (chosen)="addEdges($event)" />
          <button type="button" class="link" [attr.aria-pressed]="aims()" (click)="aim.emit(!aims())">{{ aims() ? 'Click an edge on the solid …' : 'Choose on the solid' }}</button>
        </p>
      }
    }
    @if (!fixed()) {
      <p class="acts wide">
        <button type="button" class="link" (click)="move(-1)">Earlier</button>
        <button type="button" class="link" (click)="move(1)">Later</button>
        <button type="button" class="link" (click)="command.emit(removed())">Remove</button>
        <button type="button" class="link" (click)="closed.emit()">Close</button>
      </p>
    }
  `,
  styles: `
    :host { display: grid; grid-template-columns: 1fr 1fr; gap: 8px 12px; padding: 8px 0 12px; }
    label { display: flex; flex-direction: column; gap: 2px; min-width: 0; color: var(--ink-two); font-size: 12px; }
    .wide { grid-column: 1 / -1; }
    input, textarea { width: 100%; box-sizing: border-box; min-height: 28px; padding: 0 8px; border: 1px solid var(--hairline); border-radius: 4px; background: var(--sheet); color: var(--ink); font: inherit; font-size: 13px; }
    .mono { font-family: var(--mono); font-size: 12px; }
    textarea { padding: 6px 8px; }
    .edges { grid-column: 1 / -1; margin: 0; padding: 0; list-style: none; color: var(--ink-two); font-size: 12.5px; }
    .edges li { display: flex; justify-content: space-between; gap: 12px; padding: 3px 0; border-bottom: 1px solid var(--hairline-soft); }
    .acts { display: flex; flex-wrap: wrap; align-items: end; gap: 4px 16px; margin: 2px 0 0; }
  `,
})
export class SolidSlip {
  readonly master = input.required<Master>();
  readonly solid = input.required<Solid>();
  readonly feature = input.required<Feature>();
  readonly fixed = input(false);
  /** Whether the next click on the solid chooses an edge. */
  readonly aims = input(false);
  readonly command = output<Command>();
  readonly closed = output<void>();
  readonly aim = output<boolean>();

  protected readonly axes = [...pickables(AXES), { value: 'round' as const, label: 'round ones' }];
  protected readonly edgesInWords = edgesInWords;
  protected readonly fields = computed(() => fieldsOf(this.feature()));
  protected readonly outline = computed(() => {
    const feature = this.feature();
    return 'outline' in feature ? feature.outline : null;
  });
  protected readonly edges = computed(() => {
    const feature = this.feature();
    return 'edges' in feature ? feature.edges : null;
  });
  protected readonly hole = computed(() => {
    const feature = this.feature();
    return feature.op === 'hole' ? feature : null;
  });
  protected readonly repeated = computed(() => {
    const feature = this.feature();
    return 'of' in feature ? feature.of : null;
  });
  protected readonly earlier = computed(() => {
    const { features } = this.solid();
    return features
      .slice(
        0,
        features.findIndex(({ id }) => id === this.feature().id),
      )
      .filter(({ op }) => op !== 'fillet' && op !== 'chamfer')
      .map(({ id, name }) => ({ value: id, label: name }));
  });
  /** Objects on boards, for their outlines. */
  protected readonly objects = computed(() =>
    this.master().boards.flatMap((board) =>
      [...allItems(board.items)]
        .filter(({ kind }) => kind !== 'picture')
        .map((item) => ({ value: item.id, label: `${nodeInWords(item)} (${board.name})` })),
    ),
  );
  protected readonly shapes = computed(() =>
    (Object.keys(SHAPE_WORDS) as SolidOutline['shape'][])
      .filter((value) => value !== 'object' || this.objects().length)
      .map((value) => ({ value, label: SHAPE_WORDS[value] })),
  );

  protected word = (event: Event): string => (event.target as HTMLInputElement).value;
  protected at = (field: Field): string => String(valueAt(this.feature(), field.path) ?? '');

  protected set(path: Field['path'], value: unknown, what: string): void {
    this.command.emit(setInFeature(this.feature(), path, value, what));
  }

  protected amount({ path, label, unit, otherwise }: Field, event: Event): void {
    const words = this.word(event).trim();
    if (words) this.set(path, amountFrom(words, unit === '°' ? 'angle' : unit === '' ? 'number' : 'length'), `${label} ${words}`);
    else if (otherwise) this.set(path, undefined, `${label}: ${otherwise}`);
    else (event.target as HTMLInputElement).value = String(valueAt(this.feature(), path) ?? '');
  }

  protected sink(what: 'diameter' | 'angle', event: Event): void {
    const words = this.word(event).trim();
    const before = this.hole()?.sink;
    if (!words) this.set(['sink'], undefined, 'not sunk');
    else
      this.set(
        ['sink'],
        {
          diameter: before?.diameter ?? 0,
          angle: before?.angle ?? 90,
          [what]: amountFrom(words, what === 'angle' ? 'angle' : 'length'),
        },
        `sunk to ${words}`,
      );
  }

  protected rename(event: Event): void {
    const name = this.word(event).trim();
    if (name) this.set(['name'], name, `name ${name}`);
    else (event.target as HTMLInputElement).value = this.feature().name;
  }

  protected reshape(shape: SolidOutline['shape']): void {
    const next = BEGINNINGS[shape](this.objects()[0]?.value ?? '');
    this.set(
      ['outline'],
      next,
      outlineInWords(next, (id) => this.objects().find((one) => one.value === id)?.label),
    );
  }

  protected corners = (outline: Extract<SolidOutline, { shape: 'points' }>): string =>
    outline.points.map(([x, y]) => `${x}; ${y}`).join('\n');
  protected setCorners(event: Event): void {
    const points = this.word(event)
      .split('\n')
      .map((line) => line.split(';').map((part) => part.trim()))
      .filter((parts) => parts.some(Boolean));
    if (points.length < 3 || points.some((parts) => parts.length !== 2 || parts.some((part) => !part))) {
      (event.target as HTMLTextAreaElement).value = this.corners(this.outline() as Extract<SolidOutline, { shape: 'points' }>);
      return;
    }
    this.set(
      ['outline', 'points'],
      points.map((parts) => parts.map((part) => amountFrom(part))),
      `${points.length} corners`,
    );
  }

  protected addEdges(value: (typeof this.axes)[number]['value']): void {
    const rule: EdgeRule = value === 'round' ? { form: 'round' } : { along: value };
    this.set(['edges'], [...this.edges()!, rule], `and ${edgesInWords(rule)}`);
  }
  protected dropEdges(at: number): void {
    const rules = this.edges()!;
    this.set(
      ['edges'],
      rules.filter((_, i) => i !== at),
      `without ${edgesInWords(rules[at]!)}`,
    );
  }

  protected move(by: -1 | 1): void {
    const command = moveFeature(this.solid(), this.feature().id, by);
    if (command) this.command.emit(command);
  }
  protected removed = (): Command => removeFeature(this.solid(), this.feature().id);
}
