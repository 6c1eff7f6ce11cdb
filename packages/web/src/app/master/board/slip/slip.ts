import { NgComponentOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, forwardRef, input, output, signal } from '@angular/core';
import {
  type Board,
  type Command,
  type Field,
  type Item,
  type Master,
  type Patch,
  boxOfItem,
  computedItem,
  drawnMaster,
  itemKind,
  moveItems,
  nodeInWords,
  removeItems,
  resizeItem,
  resolveBoard,
  scopeOfMaster,
  isWorked,
  setWork,
} from '@inkwell-twin/core/web';
import { widthOnStage } from '../../stage/paint';
import { ArrangeActs } from '../arrange-acts';
import { FIELD_FACES } from './field-faces';
import { valueOf } from './fields';
import { WorkFields } from '../work-fields';
import { PairRow } from './pair-row';
import { SlipRoom } from './slip-room';

const SIZE = [
  { label: 'Width', sign: '×' },
  { label: 'Height', sign: 'mm' },
] as const;
const WAY = [
  { label: 'Move right by', sign: '→' },
  { label: 'Move up by', sign: '↑' },
] as const;

/** The property slip of what is selected. A value is taken over on Enter or on leaving the field. */
@Component({
  selector: 'twin-slip',
  host: { '[class.wide]': 'wide()' },
  imports: [ArrangeActs, NgComponentOutlet, PairRow, WorkFields],
  providers: [{ provide: SlipRoom, useExisting: forwardRef(() => Slip) }],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './slip.html',
  styleUrl: './slip.css',
})
export class Slip implements SlipRoom {
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

  protected readonly SIZE = SIZE;
  protected readonly WAY = WAY;
  protected readonly STILL = [0, 0] as const;
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
  readonly problems = computed((): Readonly<Record<string, string>> => {
    const item = this.single();
    if (!item) return {};
    const { problems } = drawnMaster(this.master(), widthOnStage);
    return Object.fromEntries(problems.flatMap((one) => (one.node === item.id ? [[one.attribute, one.message]] : [])));
  });
  /** What can be set, and how each is shown; how a line is drawn only where there is one. */
  protected readonly fields = computed(() => {
    const item = this.single();
    if (!item) return [];
    const lined = valueOf(item, 'style.stroke') !== null;
    return itemKind(item)
      .fields.filter(({ ofLine }) => lined || !ofLine)
      .map((field) => ({ field, face: FIELD_FACES[field.kind], inputs: { field, item }, half: isShort(item, field) }));
  });
  /** The box of an object that has no measures of its own. */
  private readonly box = computed(() => {
    const item = this.single();
    if (!item || itemKind(item).sized) return null;
    return boxOfItem(resolveBoard(this.master(), this.board(), null, widthOnStage), item.id);
  });
  protected readonly size = computed(() => {
    const box = this.box();
    return box && ([box.maxX - box.minX, box.maxY - box.minY] as const);
  });
  protected readonly title = computed(() => (this.single() ? nodeInWords(this.single()!) : `${this.items().length} objects`));
  protected readonly layer = computed(() => this.master().layers.find(({ id }) => id === this.single()?.layer)?.name);
  /** How a machine works the object, where it is drawn by itself and on a layer for machines. */
  protected readonly worked = computed(() => {
    const item = this.single();
    const layer = this.master().layers.find(({ id }) => id === (item?.layer ?? this.master().layers[0]!.id));
    if (!item || !layer || !isWorked(layer) || !itemKind(item).outlines) return null;
    return { work: 'work' in item ? item.work : undefined, layer: layer.process };
  });
  protected readonly carriers = computed(() =>
    this.usedBy().length ? `Carried by ${this.usedBy().join(', ')}` : 'No copy carries this.',
  );

  kept(item: Item): Item {
    return this.items().find(({ id }) => id === item.id) ?? item;
  }

  send(command: Command): void {
    this.problem.set('');
    this.command.emit(command);
  }

  tryOut(patches: readonly Patch[] | null): void {
    this.trial.emit(patches);
  }

  say(problem: string): void {
    this.problem.set(problem);
  }

  protected work(change: Parameters<typeof setWork>[2]): void {
    this.send(setWork(this.master(), this.selection(), change));
  }

  protected resize([width, height]: readonly [number, number]): void {
    const [item, box] = [this.single(), this.box()];
    if (item && box) this.send(resizeItem(this.master(), item.id, box, width, height));
  }

  protected shift([x, y]: readonly [number, number]): void {
    if (x || y) this.send(moveItems(this.master(), this.selection(), x, y));
  }

  protected remove(): void {
    this.send(removeItems(this.master(), this.selection()));
  }
}

/** Whether a field is short enough that two stand beside each other. */
const isShort = (item: Item, { kind, label, attribute }: Field): boolean =>
  kind === 'number' && label.length < 8 && !item.formulas?.[attribute];
