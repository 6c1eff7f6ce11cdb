import { ChangeDetectionStrategy, Component, DestroyRef, computed, effect, inject, signal, untracked } from '@angular/core';
import type { Subscription } from 'rxjs';
import {
  FEATURE_OPS,
  type Feature,
  type Master,
  type Parameter,
  type Solid,
  allItems,
  nodeInWords,
  unpackObject,
} from '@inkwell-twin/core/web';
import {
  type Box3,
  type Mesh,
  OP_WORDS,
  addFeature,
  addParameter,
  amountFrom,
  boxOfMesh,
  featureInWords,
  objectsOf,
  parameterWords,
  removeParameter,
  renameParameter,
  setInFeature,
  setParameter,
  sizesOf,
} from '@inkwell-twin/core/solids';
import { InputText } from 'primeng/inputtext';
import { Api } from '../../services/api.service';
import { counted } from '../../shared/words';
import { PartRoom } from '../part-room';
import type { SolidPlace } from './index';
import type { ShownSolid, Spot } from './scene';
import { SolidSlip } from './solid-slip';
import { SolidView } from './solid-view';
import { ColourField } from '../../shared/colour-field';
import { MenuButton } from '../../shared/menu-button';

interface Made {
  readonly mesh: Mesh;
  readonly facts: { readonly volume: number; readonly area: number; readonly bodies: number; readonly holes: number } | null;
  readonly values: readonly number[];
}
/** What is typed is made after so long, ms. */
const PAUSE = 120;
const short = (value: number): string => String(Number(value.toPrecision(6)));

/** A solid of the master: how it looks, and the features and parameters that it is made of. */
@Component({
  selector: 'twin-solid-face',
  imports: [ColourField, InputText, MenuButton, SolidSlip, SolidView],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './solid-face.html',
  styleUrl: './solid-face.css',
})
export class SolidFace {
  protected readonly room = inject(PartRoom);
  private readonly found = this.room.part('solids');
  protected readonly master = computed((): Master => this.room.master()!);
  protected readonly solid = computed((): Solid => this.found()!);
  private readonly masterId = this.room.masterId;
  protected readonly fixed = this.room.fixed;
  /** A place to point at. */
  private readonly wanted = computed((): Spot | null => {
    const at = this.room.wanted();
    return at?.of === 'solid' ? ((at as SolidPlace).at as Spot) : null;
  });

  private readonly api = inject(Api);
  protected readonly made = signal<Made | null>(null);
  protected readonly problem = signal('');
  protected readonly working = signal(false);
  protected readonly chosen = signal('');
  protected readonly aims = signal(false);
  protected readonly counted = counted;
  protected readonly ops = FEATURE_OPS.filter((op) => op !== 'file').map((op) => ({ value: op, label: OP_WORDS[op] }));
  protected readonly opWords = OP_WORDS;
  private asked = '';
  private timer: ReturnType<typeof setTimeout> | undefined;
  private running: Subscription | undefined;

  protected readonly shown = computed((): ShownSolid[] => {
    const made = this.made();
    return made ? [{ mesh: made.mesh, colour: this.solid().colour ?? '' }] : [];
  });
  protected readonly spots = computed(() => {
    const wanted = this.wanted();
    return wanted ? [{ at: wanted, chosen: true }] : [];
  });
  protected readonly box = computed((): Box3 | null => {
    const made = this.made();
    return made && boxOfMesh(made.mesh);
  });
  protected readonly facts = computed((): { words: string; value: string }[] => {
    const [made, box] = [this.made(), this.box()];
    if (!made || !box) return [];
    const facts = [
      {
        words: 'Size',
        value: `${sizesOf(box)
          .map((size) => short(Number(size.toFixed(3))))
          .join(' × ')} mm`,
      },
    ];
    if (made.facts)
      facts.push(
        { words: 'Volume', value: `${short(made.facts.volume / 1000)} cm³` },
        { words: 'Surface', value: `${short(made.facts.area / 100)} cm²` },
        { words: 'Holes', value: String(made.facts.holes) },
      );
    if (made.facts && made.facts.bodies !== 1) facts.push({ words: 'Bodies', value: String(made.facts.bodies) });
    facts.push({ words: 'Drawn as', value: counted(made.mesh.triangles.length / 3, 'triangle') });
    return facts;
  });
  protected readonly words = computed(() => parameterWords(this.solid()));
  private readonly names = computed(() => {
    const names = new Map<string, string>(this.solid().features.map(({ id, name }) => [id, name]));
    const wanted = new Set(objectsOf(this.solid()));
    if (wanted.size)
      for (const board of this.master().boards)
        for (const item of allItems(board.items)) if (wanted.has(item.id)) names.set(item.id, nodeInWords(item));
    return names;
  });

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      clearTimeout(this.timer);
      this.running?.unsubscribe();
    });
    effect(() => {
      const [master, solid] = [this.master(), this.solid()];
      untracked(() => this.ask(master, solid));
    });
  }

  /** Has the solid made, a little after the last change. */
  private ask(master: Master, solid: Solid): void {
    const takes = objectsOf(solid);
    const boards = takes.length
      ? master.boards.filter((board) => [...allItems(board.items)].some(({ id }) => takes.includes(id)))
      : [];
    const body = { solid, boards, layers: boards.length ? master.layers : [], symbols: boards.length ? master.symbols : [] };
    const key = JSON.stringify(body);
    if (key === this.asked) return;
    const isOther = !this.asked.includes(`"id":"${solid.id}"`);
    this.asked = key;
    if (isOther) this.made.set(null);
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.load(body), isOther ? 0 : PAUSE);
  }

  private load(body: Parameters<Api['solid']>[1]): void {
    this.running?.unsubscribe();
    this.working.set(true);
    this.running = this.api.solid(this.masterId(), body).subscribe({
      next: ({ facts, values, body: wired }) => {
        this.made.set({ mesh: unpackObject<Mesh>({ head: wired.head, buffers: wired.buffers }), facts, values });
        this.problem.set('');
        this.working.set(false);
      },
      error: (error: Error) => {
        this.problem.set(error.message);
        this.working.set(false);
      },
    });
  }

  protected sentence = (feature: Feature): string => featureInWords(feature, (id) => this.names().get(id));
  protected choose(id: string): void {
    this.aims.set(false);
    this.chosen.set(this.chosen() === id ? '' : id);
  }

  protected add(op: (typeof this.ops)[number]['value']): void {
    const { command, id } = addFeature(this.solid(), op, this.box(), this.chosen() || undefined);
    this.room.run(command);
    this.chosen.set(id);
  }

  /** An edge was chosen on the solid: that nearest to the place. */
  protected picked(spot: Spot): void {
    const feature = this.solid().features.find(({ id }) => id === this.chosen());
    if (!feature || !('edges' in feature)) return;
    const near = spot.map((value) => Number(value.toFixed(2))) as [number, number, number];
    this.aims.set(false);
    this.room.run(setInFeature(feature, ['edges'], [...feature.edges, { near }], 'one more edge'));
  }

  protected amount(parameter: Parameter, event: Event): void {
    const field = event.target as HTMLInputElement;
    const words = field.value.trim();
    if (words) this.room.run(setParameter(parameter, amountFrom(words)));
    else field.value = String(parameter.value);
  }
  protected rename(parameter: Parameter, event: Event): void {
    const field = event.target as HTMLInputElement;
    const name = field.value.trim();
    if (name) this.room.run(renameParameter(this.solid(), parameter.id, name));
    else field.value = parameter.name;
  }
  protected worth = (i: number): string => {
    const value = this.made()?.values[i];
    return value === undefined ? '' : short(value);
  };
  protected isFormula = ({ value }: Parameter): boolean => typeof value === 'string';
  protected addParameter = (): void => this.room.run(addParameter(this.solid()));
  protected removeParameter = (one: Parameter): void => this.room.run(removeParameter(this.solid(), one));

  protected recolour(value: string): void {
    this.room.run({
      label: `${this.solid().name}: colour`,
      patches: [{ op: 'set', node: this.solid().id, attribute: 'colour', value }],
    });
  }
  protected renameSolid(event: Event): void {
    const field = event.target as HTMLInputElement;
    const value = field.value.trim();
    if (value)
      this.room.run({
        label: `Rename to ${value}`,
        patches: [{ op: 'set', node: this.solid().id, attribute: 'name', value }],
      });
    else field.value = this.solid().name;
  }
}
