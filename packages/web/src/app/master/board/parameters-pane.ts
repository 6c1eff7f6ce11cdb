import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import {
  type Command,
  Failure,
  type Master,
  PARAMETER_KINDS,
  type Parameter,
  type Patch,
  addParameter,
  addVariantTable,
  drawnMaster,
  isQuantity,
  newId,
  removeParameter,
  renameParameter,
  scopeOfMaster,
  setAttribute,
  usesOfParameter,
  variantColumns,
} from '@inkwell-twin/core/web';
import { InputText } from 'primeng/inputtext';
import { counted } from '../../shared/words';
import { Pick, pickables } from '../../shared/pick';

interface Row {
  readonly parameter: Parameter;
  /** What it is worth, where that is not just what is written. */
  readonly worth: string;
  readonly problem: string;
  readonly uses: readonly { readonly id: string; readonly words: string }[];
}

const UNIT = { length: 'mm', angle: '°' } as const;

/** The parameters of a master: what measures, colours and words are computed of. A change shows while it is typed. */
@Component({
  selector: 'twin-parameters',
  imports: [InputText, Pick],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>Parameters</h3>
    @for (row of rows(); track row.parameter.id) {
      <section [attr.aria-label]="'Parameter ' + row.parameter.name">
        <div class="line">
          <input pInputText pSize="small" class="mono name" [value]="row.parameter.name" [disabled]="fixed()" (change)="rename(row.parameter, $event)" aria-label="Name" spellcheck="false" />
          <button type="button" class="link uses" [disabled]="!row.uses.length" (click)="open.set(open() === row.parameter.id ? '' : row.parameter.id)" [attr.aria-expanded]="open() === row.parameter.id">
            {{ row.uses.length ? counted(row.uses.length, 'use') : 'not used' }}
          </button>
          <button type="button" class="link" [disabled]="fixed()" (click)="command.emit(remove(row.parameter))" [attr.aria-label]="'Delete parameter ' + row.parameter.name" title="Delete; what names it keeps what it is worth now">
            <i class="pi pi-times" aria-hidden="true"></i>
          </button>
        </div>
        <div class="line two">
          <span aria-hidden="true">=</span>
          <input pInputText pSize="small"
            class="mono value"
            [value]="row.parameter.value"
            [disabled]="fixed()"
            (input)="try(row.parameter, $event)"
            (change)="set(row.parameter, $event)"
            [attr.aria-label]="'Value of ' + row.parameter.name"
            [attr.aria-invalid]="row.problem ? 'true' : null"
            spellcheck="false"
          />
          <twin-pick
            [label]="'Kind of ' + row.parameter.name"
            [options]="kinds"
            [value]="row.parameter.measure ?? 'number'"
            [fixed]="fixed()"
            [plain]="true"
            (chosen)="kind(row.parameter, $event)"
          />
        </div>
        @if (row.worth) {
          <p class="worth">= {{ row.worth }}</p>
        }
        @if (row.problem) {
          <p class="wrong" role="alert">{{ row.problem }}</p>
        }
        @if (open() === row.parameter.id) {
          <ul>
            @for (use of row.uses; track $index) {
              <li><button type="button" class="link" (click)="picked.emit([use.id])">{{ use.words }}</button></li>
            }
          </ul>
        }
      </section>
    } @empty {
      <p class="none">Nothing is computed yet. A parameter is a value with a name: write it into any measure, as in <code>width / 2 - 4</code>, and into a text as <code>{{ '{' }}width{{ '}' }}</code>.</p>
    }
    @if (wrong()) {
      <p class="wrong" role="alert">{{ wrong() }}</p>
    }
    <button type="button" class="link add" [disabled]="fixed()" (click)="command.emit(add())">Add a parameter</button>
    @if (rows().length && !hasVariants()) {
      <button type="button" class="link add" [disabled]="fixed()" (click)="variants()" title="A table with a column for each of these: every row becomes a copy of its own">Make a table of variants</button>
    }
    @if (problems().length) {
      <h3>What can’t be computed</h3>
      <ul>
        @for (one of problems(); track $index) {
          <li><button type="button" class="link" (click)="picked.emit([one.node])">{{ one.message }}</button></li>
        }
      </ul>
    }
  `,
  styles: `
    :host { display: block; overflow: auto; background: var(--sheet); padding: 8px 12px; }
    h3 { margin: 4px 0 6px; font-size: 13px; }
    section { padding: 6px 0; border-top: 1px solid var(--hairline-soft); }
    .line { display: flex; align-items: center; gap: 5px; }
    .two { margin-top: 2px; padding-left: 6px; color: var(--ink-two); font-size: 12.5px; }
    input { min-width: 0; padding: 2px 5px; border: 1px solid transparent; border-radius: 4px; background: none; color: var(--ink); font-size: 12.5px; }
    input:hover, input:focus { border-color: var(--hairline); background: var(--raised); }
    .name { flex: 1; font-weight: 600; }
    .value { flex: 1; border-color: var(--hairline-soft); }
    [aria-invalid] { border-left: 3px solid var(--ink); }
    .worth { margin: 1px 0 0 22px; color: var(--ink-two); font-size: 12.5px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
    .uses { margin-left: auto; white-space: nowrap; }
    .wrong { margin: 4px 0 0; padding-left: 8px; border-left: 3px solid var(--ink); font-size: 12.5px; }
    .none { color: var(--ink-two); }
    .add { margin: 8px 0; }
    ul { margin: 4px 0; padding-left: 14px; font-size: 12.5px; }
    li .link { text-align: left; white-space: normal; }
  `,
})
export class ParametersPane {
  readonly master = input.required<Master>();
  readonly fixed = input(false);
  readonly command = output<Command>();
  readonly trial = output<readonly Patch[] | null>();
  readonly picked = output<readonly string[]>();
  /** A part to look at. */
  readonly shown = output<string>();

  protected readonly kinds = pickables(PARAMETER_KINDS);
  protected readonly counted = counted;
  protected readonly wrong = signal('');
  protected readonly open = signal('');
  private readonly drawn = computed(() => drawnMaster(this.master()));
  protected readonly problems = computed(() => {
    const own = new Set((this.master().parameters ?? []).map(({ id }) => id));
    return this.drawn().problems.filter(({ node }) => !own.has(node));
  });
  protected readonly rows = computed((): Row[] => {
    const master = this.master();
    const scope = scopeOfMaster(master);
    const problems = new Map(scope.problems.map(({ node, message }) => [node, message]));
    return (master.parameters ?? []).map((parameter) => {
      const problem = problems.get(parameter.id) ?? '';
      const uses = usesOfParameter(master, parameter.name).map(({ node, words }) => ({ id: node.id, words }));
      return { parameter, problem, uses, worth: problem ? '' : this.worthOf(parameter, scope) };
    });
  });

  private worthOf({ name, value, measure }: Parameter, { named }: ReturnType<typeof scopeOfMaster>): string {
    try {
      const worth = named(name);
      const unit = measure === 'length' || measure === 'angle' ? ` ${UNIT[measure]}` : '';
      if (isQuantity(worth)) return typeof value === 'number' ? '' : `${Number(worth.value.toFixed(3))}${unit}`;
      return String(worth) === value ? '' : String(worth);
    } catch {
      return '';
    }
  }

  /** What was typed as a value: a number where it is one. */
  private valueOf({ measure }: Parameter, text: string): string | number {
    const plain = text.trim().replace(/^([+-]?\d+),(\d+)$/, '$1.$2');
    if (measure === 'text') return text;
    return plain !== '' && Number.isFinite(Number(plain)) && measure !== 'colour' ? Number(plain) : plain;
  }

  /** Whether there is a table whose rows give these their values. */
  protected readonly hasVariants = computed(() =>
    (this.master().tables ?? []).some((one) => variantColumns(this.master(), one).length > 0),
  );

  protected variants(): void {
    const id = newId();
    this.command.emit(addVariantTable(this.master(), id));
    this.shown.emit(id);
  }

  protected add = (): Command => addParameter(this.master());
  protected remove = (parameter: Parameter): Command => removeParameter(this.master(), parameter.id);

  protected try(parameter: Parameter, event: Event): void {
    const value = this.valueOf(parameter, (event.target as HTMLInputElement).value);
    this.trial.emit(
      value === '' && parameter.measure !== 'text' ? null : [{ op: 'set', node: parameter.id, attribute: 'value', value }],
    );
  }

  protected set(parameter: Parameter, event: Event): void {
    const field = event.target as HTMLInputElement;
    const value = this.valueOf(parameter, field.value);
    this.trial.emit(null);
    this.wrong.set('');
    if (value === '' && parameter.measure !== 'text') {
      this.wrong.set(`${parameter.name}: a value is needed, or how it is computed.`);
      field.value = String(parameter.value);
    } else if (value !== parameter.value) this.command.emit(setAttribute(this.master(), parameter.id, 'value', value));
  }

  protected rename(parameter: Parameter, event: Event): void {
    const field = event.target as HTMLInputElement;
    this.wrong.set('');
    try {
      const command = renameParameter(this.master(), parameter.id, field.value.trim());
      if (command.patches.length) this.command.emit(command);
    } catch (error) {
      if (!(error instanceof Failure)) throw error;
      this.wrong.set(error.message);
      field.value = parameter.name;
    }
  }

  protected kind(parameter: Parameter, measure: string): void {
    this.command.emit(setAttribute(this.master(), parameter.id, 'measure', measure));
  }
}
