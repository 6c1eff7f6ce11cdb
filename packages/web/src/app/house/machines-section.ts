import { ChangeDetectionStrategy, Component, computed, effect, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { MultiSelect } from 'primeng/multiselect';
import { InputText } from 'primeng/inputtext';
import { TableModule } from 'primeng/table';
import {
  MACHINE_PROCESSES,
  MachineProfile,
  type MachineTool,
  SHIPPED_MACHINES,
  machineFrom,
  machineText,
} from '@inkwell-twin/core/web';
import { CheckedField } from '../shared/checked-field';
import { checkNumber } from '../shared/checked';
import { MenuButton } from '../shared/menu-button';
import { typedIn } from '../shared/typed';

/** A number of a machine: where it stands, how it is called, and its unit. */
interface Measure {
  readonly path: readonly string[];
  readonly label: string;
  readonly unit: string;
}
const measure = (path: string, label: string, unit: string): Measure => ({ path: path.split('.'), label, unit });

const MEASURES: readonly Measure[] = [
  measure('area.width', 'Width', 'mm'),
  measure('area.height', 'Depth of the bed', 'mm'),
  measure('area.depth', 'Height', 'mm'),
  measure('stock.thickness', 'Stock', 'mm'),
  measure('stock.below', 'May go below it by', 'mm'),
  measure('safeHeight', 'Safe height', 'mm'),
  measure('rapid', 'Through the air', 'mm/min'),
  measure('acceleration', 'Acceleration', 'mm/s²'),
  measure('changeSeconds', 'Change of a tool', 's'),
  measure('limits.moves', 'Most moves', ''),
];
const TOOL_MEASURES = [
  { key: 'diameter', label: 'Width', unit: 'mm' },
  { key: 'pass', label: 'A pass', unit: 'mm' },
  { key: 'flute', label: 'At most', unit: 'mm' },
  { key: 'feed', label: 'Feed', unit: 'mm/min' },
  { key: 'plunge', label: 'Down', unit: 'mm/min' },
  { key: 'speed', label: 'Turns', unit: '/min' },
] as const satisfies readonly { key: keyof MachineTool; label: string; unit: string }[];

/** The machines of the house: its own, which can be changed, and those of the bench. */
@Component({
  selector: 'twin-machines-section',
  imports: [CheckedField, FormsModule, InputText, MenuButton, MultiSelect, TableModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Machines</h2>
    <p class="free">Beside those of the bench: {{ bench }}. What is made for a machine is held against it before anything is written.</p>
    @for (machine of machines(); track machine.id; let i = $index) {
      <details [open]="machines().length === 1">
        <summary>
          <strong>{{ machine.name }}</strong> <span class="free">{{ machine.language }}, {{ machine.area.width }} × {{ machine.area.height }} mm</span>
        </summary>
        <div class="measures">
          <label>Name <input pInputText pSize="small" [value]="machine.name" (change)="edit(i, ['name'], value($event).trim())" [attr.aria-label]="'Name of machine ' + (i + 1)" maxlength="80" /></label>
          @for (one of measures; track one.label) {
            <label>
              {{ one.label }}
              <twin-checked [label]="one.label + ' of ' + machine.name" [unit]="one.unit" [value]="'' + at(machine, one.path)" [check]="check(one.label, one.unit)" (taken)="edit(i, one.path, $event!)" (problem)="problem.emit({ field: i + one.label, words: $event })" />
            </label>
          }
        </div>
        <p-table [value]="machine.tools" size="small" [tableStyle]="{ 'min-width': '680px' }">
          <ng-template #header>
            <tr>
              <th scope="col">Tool</th>
              @for (one of toolMeasures; track one.key) {
                <th scope="col">{{ one.label }}, {{ one.unit }}</th>
              }
              <th scope="col">Does</th>
              <th scope="col"><span class="unseen">Take out</span></th>
            </tr>
          </ng-template>
          <ng-template #body let-tool let-k="rowIndex">
            <tr>
              <td>{{ tool.number }} <input pInputText pSize="small" [value]="tool.name" (change)="editTool(i, k, 'name', value($event).trim())" [attr.aria-label]="'Name of tool ' + tool.number + ' of ' + machine.name" maxlength="80" /></td>
              @for (one of toolMeasures; track one.key) {
                <td><twin-checked [label]="one.label + ' of tool ' + tool.number + ' of ' + machine.name" [value]="'' + tool[one.key]" [check]="check(one.label, one.unit)" (taken)="editTool(i, k, one.key, $event!)" (problem)="problem.emit({ field: i + '.' + k + one.key, words: $event })" /></td>
              }
              <td>
                <p-multiselect
                  [options]="processes"
                  [ngModel]="tool.does"
                  (ngModelChange)="does(i, k, $event)"
                  [ariaLabel]="'What tool ' + tool.number + ' of ' + machine.name + ' does'"
                  [showHeader]="false"
                  appendTo="body"
                  size="small"
                />
              </td>
              <td>
                @if (machine.tools.length > 1) {
                  <button type="button" class="link" (click)="takeTool(i, k)" [attr.aria-label]="'Take out tool ' + tool.number"><i class="pi pi-times" aria-hidden="true"></i></button>
                }
              </td>
            </tr>
          </ng-template>
        </p-table>
        @if (wrong()[i]; as words) {
          <p class="wrong" role="alert">{{ words }}</p>
        }
        <p class="acts">
          <button type="button" class="link" (click)="addTool(i)">Add a tool</button>
          <button type="button" class="link" (click)="save(machine)">Export as a file</button>
          <button type="button" class="link" (click)="take(i)">Take out this machine</button>
        </p>
      </details>
    }
    <p class="acts">
      <twin-menu-button label="Begin a machine like one" name="Add a machine" [options]="models" (chosen)="add($event)" />
      <button type="button" class="link" (click)="file.click()">A machine from a file …</button>
      <input #file type="file" hidden accept=".json,application/json" (change)="bringIn(file)" aria-label="File of a machine" />
    </p>
    @if (said()) {
      <p class="wrong" role="alert">{{ said() }}</p>
    }
  `,
  styles: `
    :host { display: block; }
    h2 { margin: 0 0 6px; font-size: 14px; }
    summary strong { margin-right: 8px; }
    td:first-child { white-space: nowrap; }
    details { padding: 6px 0; border-top: 1px solid var(--hairline-soft); overflow-x: auto; }
    summary { cursor: pointer; }
    .measures { display: grid; grid-template-columns: repeat(auto-fill, minmax(200px, 1fr)); gap: 4px 18px; margin: 8px 0; --wide: 74px; }
    .measures label { display: flex; align-items: center; justify-content: space-between; gap: 8px; color: var(--ink-two); }
    p-table { --wide: 64px; }
    .free { color: var(--ink-three); }
    .acts { display: flex; flex-wrap: wrap; gap: 6px 18px; align-items: center; }
    .wrong { padding-left: 8px; border-left: 3px solid var(--ink); }
    .unseen { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); }
  `,
})
export class MachinesSection {
  readonly machines = input.required<readonly MachineProfile[]>();
  /** What becomes of the machines: told as a change, so that two that come at once are both made. */
  readonly changed = output<(before: readonly MachineProfile[]) => readonly MachineProfile[]>();
  /** What is wrong in a field, each time that this changes. */
  readonly problem = output<{ readonly field: string; readonly words: string }>();
  protected readonly said = signal('');
  protected readonly measures = MEASURES;
  protected readonly toolMeasures = TOOL_MEASURES;
  protected readonly bench = SHIPPED_MACHINES.map(({ name }) => name).join(', ');
  protected readonly models = SHIPPED_MACHINES.map(({ id, name }) => ({ value: id, label: name }));
  protected readonly processes = [...MACHINE_PROCESSES];
  protected readonly value = typedIn;
  /** Of each machine what does not go together in it; empty where all does. */
  protected readonly wrong = computed(() =>
    this.machines().map((machine) => {
      const parsed = MachineProfile.safeParse(machine);
      return parsed.success ? '' : `${parsed.error.issues[0]!.path.join(' ')} ${parsed.error.issues[0]!.message}.`;
    }),
  );

  protected at = (machine: MachineProfile, path: readonly string[]): unknown =>
    path.reduce<unknown>((node, key) => (node as Record<string, unknown>)[key], machine);

  protected check = (label: string, unit: string) => (text: string) =>
    checkNumber(text, MachineProfile.shape.rapid.or(MachineProfile.shape.safeHeight), { label, unit });

  constructor() {
    effect(() => this.problem.emit({ field: 'machines', words: this.wrong().find(Boolean) ?? '' }));
  }

  private emit(change: (before: readonly MachineProfile[]) => readonly MachineProfile[]): void {
    this.said.set('');
    this.changed.emit(change);
  }
  private replace(i: number, change: (machine: MachineProfile) => MachineProfile): void {
    this.emit((before) => before.map((one, k) => (k === i ? change(one) : one)));
  }
  private replaceTool(i: number, k: number, change: Partial<MachineTool>): void {
    this.replace(i, (machine) => ({
      ...machine,
      tools: machine.tools.map((tool, t) => (t === k ? { ...tool, ...change } : tool)),
    }));
  }

  protected edit(i: number, path: readonly string[], value: string | number): void {
    const change = (node: Record<string, unknown>, [key = '', ...rest]: readonly string[]): Record<string, unknown> => ({
      ...node,
      [key]: rest.length ? change(node[key] as Record<string, unknown>, rest) : value,
    });
    if (value !== '') this.replace(i, (machine) => change(machine as never, path) as never);
  }

  protected editTool(i: number, k: number, key: keyof MachineTool, value: string | number): void {
    if (value !== '') this.replaceTool(i, k, { [key]: value });
  }
  /** A tool does something: the last thing that it does stays. */
  protected does(i: number, k: number, does: MachineTool['does']): void {
    if (does.length) this.replaceTool(i, k, { does });
  }
  protected addTool(i: number): void {
    this.replace(i, (machine) => {
      const number = Math.max(...machine.tools.map((tool) => tool.number)) + 1;
      return { ...machine, tools: [...machine.tools, { ...machine.tools[0]!, number, name: `Tool ${number}` }] };
    });
  }
  protected takeTool(i: number, k: number): void {
    this.replace(i, (machine) => ({ ...machine, tools: machine.tools.filter((_, t) => t !== k) }));
  }
  protected take(i: number): void {
    this.emit((before) => before.filter((_, k) => k !== i));
  }

  protected add(id: string): void {
    const model = SHIPPED_MACHINES.find((one) => one.id === id);
    if (model) this.put(model, `${model.name} of ours`);
  }
  /** Puts a machine behind the others, under an id that is not taken. */
  private put(machine: MachineProfile, name: string): void {
    this.emit((before) => {
      const taken = new Set([...before, ...SHIPPED_MACHINES].map(({ id }) => id));
      let number = 2;
      while (taken.has(`${machine.id}-${number}`)) number++;
      return [...before, { ...machine, id: taken.has(machine.id) ? `${machine.id}-${number}` : machine.id, name }];
    });
  }

  protected async bringIn(field: HTMLInputElement): Promise<void> {
    const file = field.files?.[0];
    field.value = '';
    if (!file) return;
    try {
      let value: unknown;
      try {
        value = JSON.parse(await file.text());
      } catch {
        throw new Error(`${file.name} is no machine: it can’t be read as JSON.`);
      }
      const machine = machineFrom(value);
      this.put(machine, machine.name);
    } catch (error) {
      this.said.set((error as Error).message);
    }
  }

  protected save(machine: MachineProfile): void {
    const url = URL.createObjectURL(new Blob([machineText(machine)], { type: 'application/json' }));
    const link = Object.assign(document.createElement('a'), { href: url, download: `machine_${machine.id}.json` });
    link.click();
    URL.revokeObjectURL(url);
  }
}
