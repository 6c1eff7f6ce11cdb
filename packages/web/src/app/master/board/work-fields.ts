import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MACHINE_PROCESSES, type MachineProcess, SIDES, Work, machinesOf, workInWords } from '@inkwell-twin/core/web';
import { checkNumber } from '../../shared/checked';
import { CheckedField } from '../../shared/checked-field';
import { Pick, type Pickable, pickables } from '../../shared/pick';
import { StitchFields } from './stitch-fields';
import { HouseMachines } from '../house-machines.service';

/** What says that something is left to the layer, the machine or its tools. */
const LEFT = '';
const SHAPE = Work.shape;

/** How a machine works a layer or an object: what its profile alone does not say. */
@Component({
  selector: 'twin-work-fields',
  imports: [CheckedField, Pick, StitchFields],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <details [open]="words() !== ''">
      <summary>Worked {{ words() || 'as usual' }}</summary>
      <div class="fields">
        @if (layer(); as usual) {
          <span>As</span>
          <twin-pick [label]="'Process of ' + name()" [options]="processes(usual)" [value]="work()?.process ?? ''" [fixed]="fixed()" (chosen)="say('process', $event)" />
        }
        <span>Tool</span>
        <twin-pick [label]="'Tool for ' + name()" [options]="tools()" [value]="'' + (work()?.tool ?? '')" [fixed]="fixed()" (chosen)="say('tool', $event ? +$event : '')" />
        @if (isSewn()) {
        <twin-stitch-fields [name]="name()" [work]="work()" [fixed]="fixed()" (changed)="changed.emit({ stitch: $event })" />
        } @else {
        <span>Side</span>
        <twin-pick [label]="'Side of ' + name()" [options]="sides" [value]="work()?.side ?? 'by nesting'" [fixed]="fixed()" (chosen)="say('side', $event === 'by nesting' ? '' : $event)" />
        <span>Depth</span>
        <twin-checked [label]="'Depth of ' + name() + ', mm'" unit="mm" placeholder="usual" [value]="'' + (work()?.depth ?? '')" [check]="depth" (taken)="say('depth', $event ?? '')" />
        <span>Bridges</span>
        <twin-checked [label]="'Bridges of ' + name()" placeholder="usual" [value]="'' + (work()?.tabs ?? '')" [check]="tabs" (taken)="say('tabs', $event ?? '')" />
        }
      </div>
    </details>
  `,
  styles: `
    :host { display: block; }
    summary { padding: 2px 12px 2px 34px; cursor: pointer; color: var(--ink-two); font-size: 12.5px; }
    .fields { display: grid; grid-template-columns: 60px minmax(0, 170px); align-items: center; gap: 3px 8px; padding: 2px 12px 6px 34px; --wide: 70px; }
    .fields > span { color: var(--ink-two); }
  `,
})
export class WorkFields {
  private readonly machines = inject(HouseMachines);
  readonly name = input.required<string>();
  readonly work = input<Work | undefined>();
  /** What its layer says is done with it. */
  readonly process = input.required<string>();
  /** What its layer says, of an object; null of a layer itself. */
  readonly layer = input<string | null>(null);
  readonly fixed = input(false);
  /** One thing that is said otherwise; undefined leaves it to the machine. */
  readonly changed = output<Partial<Record<keyof Work, unknown>>>();

  protected readonly words = computed(() => workInWords(this.work()));
  protected readonly isSewn = computed(() => (this.work()?.process ?? this.process()) === 'stitch');
  protected readonly sides = pickables(SIDES);
  protected processes = (usual: string): readonly Pickable[] => [
    { value: LEFT, label: `as its layer: ${usual}` },
    ...pickables(MACHINE_PROCESSES),
  ];
  /** The tools of the machines that can do it at all; each with its machine where there are several. */
  protected readonly tools = computed((): readonly Pickable[] => {
    const process = this.work()?.process ?? this.process();
    const able = machinesOf(this.machines.own()).filter(({ tools }) =>
      tools.some(({ does }) => (does as readonly string[]).includes(process)),
    );
    const names = new Map<number, string[]>();
    for (const { name, tools } of able)
      for (const tool of tools)
        names.set(tool.number, [...(names.get(tool.number) ?? []), able.length > 1 ? `${tool.name} (${name})` : tool.name]);
    const numbered = [...names].sort(([a], [b]) => a - b);
    return [
      { value: LEFT, label: 'the usual one' },
      ...numbered.map(([number, all]) => ({ value: String(number), label: `${number}: ${all.join(', ')}` })),
    ];
  });
  protected readonly depth = (text: string) =>
    checkNumber(text, SHAPE.depth.unwrap().nullable(), { label: 'Depth', unit: 'mm', optional: true });
  protected readonly tabs = (text: string) =>
    checkNumber(text, SHAPE.tabs.unwrap().nullable(), { label: 'Bridges', optional: true });

  protected say(key: keyof Work, value: string | number | MachineProcess): void {
    const next = value === LEFT ? undefined : value;
    if (next !== this.work()?.[key]) this.changed.emit({ [key]: next });
  }
}
