import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  untracked,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { ProgressBar } from 'primeng/progressbar';
import { catchError, debounceTime, of, switchMap } from 'rxjs';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { Checkbox } from 'primeng/checkbox';
import type { BodyOf, Choice as LeftOut, Scope, TargetView } from '@inkwell-twin/api';
import {
  type Master,
  PART_LISTS,
  declarationOf,
  findNode,
  nodeInWords,
  optionsByMaster,
  tooLargeFor,
} from '@inkwell-twin/core/web';
import type { Place } from '../../content/face';
import { Api } from '../../services/api.service';
import { counted, sizeInWords } from '../../shared/words';
import { Choice } from '../../shared/choice';
import { AsItWillBe } from './as-it-will-be';
import { ContactSheet } from './contact-sheet';
import { FitSize } from './fit-size';
import { Forecast } from './forecast';
import { cellWords, rowsOf, worstFirst } from './ladder';
import { OptionField, type OptionValue } from './option-field';
import { KeepSettings } from './keep-settings';
import { MachineFit } from './machine-fit';
import { Presets } from './presets.service';
import { PasswordField } from './password-field';
import { Stair } from './stair';
import { Taken, type TakenWay } from './taken';
import { VariantChoice } from './variant-choice';

type Recipe = BodyOf<'carry'>;
type Purpose = TargetView['group'];
const PURPOSES: readonly { readonly value: Purpose; readonly label: string }[] = [
  { value: 'delivery', label: 'To deliver' },
  { value: 'keep', label: 'To keep for good' },
  { value: 'older', label: 'For another program, or an older one' },
  { value: 'machine', label: 'To a machine' },
  { value: 'data', label: 'As data' },
  { value: 'review', label: 'To be looked over' },
  { value: 'proxy', label: 'Small, to work with' },
];
/** Stands for all boards where a board can be chosen; no board can have it as its id. */
const ALL = ' all';
/** Likewise for the objects that were chosen on one. */
const CHOSEN = ' chosen';
const REMEMBERED = 'inkwell-options-';
/** So many options are named before they are looked at. */
const NAMED = 7;
/** Options that the fit of a machine asks for. */
const OF_MACHINES = new Set<TargetView['options'][number]['kind']>(['machine', 'objects']);

/** Whether copies of a target can be for something. */
const isFor = ({ group, also }: TargetView, purpose: Purpose): boolean =>
  group === purpose || also.some((one) => one.group === purpose);

/** What was chosen for a target the last time; nothing where that can't be read. */
function remembered(target: string): Record<string, OptionValue> {
  try {
    return JSON.parse(localStorage.getItem(REMEMBERED + target) ?? '{}') as Record<string, OptionValue>;
  } catch {
    return {};
  }
}

/** Derives a copy: for whom, what part, as what; what becomes of this document on the way; then writes it. */
@Component({
  selector: 'twin-derive-panel',
  imports: [
    AsItWillBe,
    Button,
    Checkbox,
    Choice,
    ContactSheet,
    FitSize,
    FormsModule,
    InputText,
    KeepSettings,
    MachineFit,
    OptionField,
    PasswordField,
    ProgressBar,
    Stair,
    Taken,
  ],
  providers: [Forecast, Presets, VariantChoice],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './derive-panel.html',
  styleUrl: './derive-panel.css',
  host: { '(keydown.escape)': 'closed.emit()' },
})
export class DerivePanel {
  private readonly api = inject(Api);
  protected readonly forecast = inject(Forecast);
  protected readonly variants = inject(VariantChoice);
  readonly master = input.required<Master>();
  readonly id = input.required<string>();
  readonly head = input.required<number>();
  readonly draftChanges = input(0);
  readonly closed = output<void>();
  readonly written = output<string>();
  /** Objects to show in full: those of the line one looks at, or all that arrive. */
  readonly highlighted = output<ReadonlySet<string> | null>();
  /** The master as the row under the pointer has it; null where no row is looked at. */
  readonly varied = output<Master | null>();
  /** The part that one looked at. */
  readonly seen = input('');
  /** The objects that were chosen there. */
  readonly objects = input<readonly string[]>([]);
  readonly boardChosen = output<string>();
  /** Where in the master something is that will be otherwise in the copy. */
  readonly place = output<Place>();

  private readonly wantedPurpose = signal<Purpose>('delivery');
  protected readonly purpose = computed(
    () => this.purposes().find(({ value }) => value === this.wantedPurpose())?.value ?? this.purposes()[0]?.value ?? 'delivery',
  );
  private readonly targets = signal<readonly TargetView[]>([]);
  /** The purposes that there are targets for. */
  protected readonly purposes = computed(() => PURPOSES.filter(({ value }) => this.fitting().some((one) => isFor(one, value))));
  private readonly chosenTarget = signal('');
  /** The parts of the master, with the list that each is in. */
  private readonly parts = computed(() =>
    PART_LISTS.flatMap((of) => (this.master()[of] ?? []).map(({ id, name }) => ({ of, id, name }))),
  );
  /** The targets that say something of a part of this master. */
  private readonly fitting = computed(() =>
    this.targets().filter(({ says }) => this.parts().some(({ of }) => says.includes(of))),
  );
  /** All targets of the purpose; those for what one looked at come first. */
  private readonly candidates = computed(() => {
    // Who looks at a table of variants means the boards that its rows vary.
    const seen = this.variants.isSeen() ? 'boards' : this.parts().find(({ id }) => id === this.seen())?.of;
    const all = this.fitting().filter((one) => isFor(one, this.purpose()));
    return seen ? [...all.filter(({ says }) => says.includes(seen)), ...all.filter(({ says }) => !says.includes(seen))] : all;
  });
  protected readonly targetChoices = computed(() => this.candidates().map(({ id, label }) => ({ value: id, label })));
  protected readonly target = computed(
    () => this.candidates().find(({ id }) => id === this.chosenTarget()) ?? this.candidates()[0],
  );
  /** Under what its options are remembered: apart where it is for something else than usual. */
  private readonly memory = computed(() => {
    const { id = '', group } = this.target() ?? {};
    return group === this.purpose() ? id : `${id} ${this.purpose()}`;
  });
  protected readonly options = signal<Record<string, OptionValue>>({});
  protected readonly fields = computed(() => {
    const target = this.target();
    // The version is chosen in the table below; with one choice there is nothing to choose.
    return (target?.options ?? []).filter(
      (one) =>
        one.name !== target!.version &&
        !OF_MACHINES.has(one.kind) &&
        !(one.kind === 'choice' && one.choices.length < 2) &&
        this.isMeaningful(one),
    );
  });
  /** Whether a target is for any machine where none is named. */
  protected readonly anyMachine = computed(() => this.target()?.options.find(({ kind }) => kind === 'machine')?.default === '');
  /** The standard of the machines that the target is for; empty where it is for none. */
  protected readonly language = computed(() => this.target()?.options.find(({ kind }) => kind === 'machine')?.language ?? '');
  /** How many things have to be settled before a machine can do it; below 0 as long as that is not known. */
  protected readonly toSettle = signal(0);
  protected readonly nameOf = computed(() => {
    const master = this.master();
    return (id: string): string => {
      const node = findNode(master, id);
      return node ? nodeInWords(node) : id;
    };
  });
  /** Whether an option means something for the part that is chosen, and what occurs there. */
  private isMeaningful({ only: { part, feature, machine, with: others } }: TargetView['options'][number]): boolean {
    if (Object.entries(others ?? {}).some(([name, values]) => !values.includes(String(this.options()[name])))) return false;
    if (machine && !this.options()['machine']) return false;
    const chosen = this.parts().find(({ id }) => id === (this.ofChosen() ? this.seen() : this.board()));
    if (part && !(chosen ? chosen.of === part : this.parts().some(({ of }) => of === part))) return false;
    return !feature || (this.forecast.carry()?.occurs.includes(feature) ?? false);
  }
  protected readonly leftOut = signal<ReadonlySet<string>>(new Set());
  private readonly chosenBoard = signal('');
  protected readonly boards = computed(() => {
    if (this.target()?.whole) return [];
    const boards = this.parts()
      .filter(({ of }) => this.target()?.says.includes(of))
      .map(({ id, name }) => ({ value: id, label: name }));
    const all = this.target()?.many && boards.length > 1 ? [{ value: ALL, label: 'All of them' }] : [];
    const count = boards.some(({ value }) => value === this.seen()) && this.isBoard(this.seen()) ? this.there().length : 0;
    return [...boards, ...all, ...(count ? [{ value: CHOSEN, label: `What is chosen: ${counted(count, 'object')}` }] : [])];
  });
  private readonly isBoard = (id: string): boolean => this.parts().some((one) => one.id === id && one.of === 'boards');
  /** What was chosen and is in the revision that copies are derived from. */
  private readonly there = computed(() => this.objects().filter((id) => findNode(this.master(), id)));
  /** Whether a copy of what was chosen is as large as that, or as its board. */
  protected readonly trimmed = signal(true);
  protected readonly ofChosen = computed(() => this.board() === CHOSEN);
  protected readonly board = computed(
    () =>
      [this.chosenBoard(), this.seen()].find((id) => this.boards().some(({ value }) => value === id)) ??
      this.boards()[0]?.value ??
      '',
  );
  protected readonly recipe = computed((): Recipe | null => {
    const target = this.target();
    if (!target || !(this.board() || target.whole) || !Object.keys(this.options()).length) return null;
    const part = this.parts().find(({ id }) => id === this.board());
    const scope: Scope = this.ofChosen()
      ? { of: 'boards', ids: [this.seen()], objects: [...this.there()], ...(this.trimmed() ? { trimmed: true as const } : {}) }
      : part
        ? { of: part.of, ids: [part.id] }
        : { of: 'master' };
    const choices = [...this.leftOut()].map((feature): LeftOut => ({ feature, take: 'left out' }));
    return { target: target.id, options: this.options(), scope, choices };
  });
  /** What fits a machine that is named. */
  protected readonly fits = computed(() => this.language() !== '' && Boolean(this.options()['machine']) && this.toSettle() === 0);
  /** Whether one looks at the copy as it will be; that takes as long as writing it, and is asked for, but for a machine's work. */
  protected readonly foreseeing = linkedSignal(() => this.fits());
  /** The copy that one looks at: of several, that of the row that is shown, or else of the first. */
  protected readonly foreseen = computed((): BodyOf<'foresee'> | null => {
    const [recipe, table] = [this.recipe(), this.variants.table()];
    const row = this.variants.shown() || this.variants.chosen()[0]?.row;
    return recipe && { ...recipe, row: table && row ? { table, row } : null };
  });
  private readonly presets = inject(Presets);
  /** Settings that are kept under a name for what is chosen, after those of the last time. */
  protected readonly settingsChoices = computed(() => {
    const own = this.presets.all().filter(({ target }) => target === this.target()?.id);
    return own.length ? [{ value: '', label: 'As the last time' }, ...own.map(({ name }) => ({ value: name, label: name }))] : [];
  });
  /** What is kept under the name that was chosen, as long as nothing of it is changed. */
  protected readonly settingsName = computed(
    () =>
      this.presets
        .all()
        .find(
          ({ target, options, without }) =>
            target === this.target()?.id &&
            Object.entries(this.options()).every(([name, value]) => options[name] === value) &&
            without.length === this.leftOut().size &&
            without.every((feature) => this.leftOut().has(feature)),
        )?.name ?? '',
  );
  protected readonly settings = computed(() => ({
    target: this.target()?.id ?? '',
    options: this.options(),
    without: [...this.leftOut()],
    eachUpdate: false,
  }));
  /** The ways to hand over that the copy will be too large for. */
  protected readonly tooLarge = computed(() => {
    const [rules, bytes] = [this.presets.rules(), this.rung()?.bytes];
    return rules && bytes ? tooLargeFor(rules, bytes) : [];
  });
  /** The size that somebody asked it to fit to, MB; 0 as long as nobody did. */
  protected readonly fitTo = signal(0);
  protected readonly problem = signal('');
  protected readonly line = signal<string | null>(null);
  protected readonly writing = signal(false);
  /** Whether what is seldom asked for lies open. */
  protected readonly more = signal(false);
  /** What somebody called it; null as long as nobody did. */
  protected readonly typedLabel = signal<string | null>(null);
  /** What it is called: by what it is and of what, until somebody says otherwise. */
  protected readonly label = computed(() => {
    const part = this.parts().find(({ id }) => id === (this.ofChosen() ? this.seen() : this.board()));
    return (
      this.typedLabel() ??
      [this.ofChosen() ? `part of ${part?.name ?? ''}` : part?.name, this.target()?.label].filter(Boolean).join(', ')
    );
  });
  private readonly ladder = computed(() => (this.forecast.carry() ? rowsOf(this.forecast.carry()!) : []));
  /** Which version is chosen; the only one where there is one. */
  protected readonly rungAt = computed(() =>
    Math.max(
      0,
      this.forecast.carry()?.rungs.findIndex(({ version }) => version === this.options()[this.target()?.version ?? '']) ?? 0,
    ),
  );
  protected readonly rung = computed(() => this.forecast.carry()?.rungs[this.rungAt()] ?? null);
  /** What becomes of each thing in the version that is chosen. */
  protected readonly rows = computed(() =>
    worstFirst(this.ladder().map(({ key, what, count, cells }) => ({ key, what, count, cell: cells[this.rungAt()] ?? null }))),
  );
  /** What can be left out of this document: each once, and only what it has. */
  protected readonly features = computed(() => {
    const there = new Set(this.forecast.carry()?.occurs);
    return (this.target()?.features ?? []).filter(({ name }) => there.has(name) || this.leftOut().has(name));
  });
  /** What a copy by these options is locked with; null where it can't be. */
  protected readonly cipher = computed(() => {
    const target = this.target();
    return target && Object.keys(this.options()).length ? (declarationOf(target.id).locks?.(this.options()) ?? null) : null;
  });
  /** Whether it is written again with each update. */
  protected readonly eachUpdate = signal(false);
  /** What is to open the copy; empty where nothing is asked. It is asked anew for each. */
  protected readonly password = signal('');
  /** What lies under “more”. */
  protected readonly moreWords = computed(() => {
    const all = this.fields().map(({ name }) => name);
    const names = all.length > NAMED ? [...all.slice(0, NAMED), `${all.length - NAMED} more`] : all;
    return [...names, ...(this.cipher() ? ['password'] : []), ...(this.features().length ? ['what to leave out'] : [])].join(
      ', ',
    );
  });
  /** Why nothing can be written yet; empty where it can. */
  protected readonly waitsFor = computed(() => {
    if (this.writing()) return 'It is being asked for.';
    if (!this.recipe()) return 'Choose what it is for first.';
    if (this.language() && this.toSettle() > 0) return 'It does not fit the machine yet: see above.';
    if (this.forecast.problem()) return 'It can’t be written so: see above.';
    if (!this.forecast.carry()) return 'What becomes of the document is worked out first.';
    if (this.variants.waitsFor()) return this.variants.waitsFor();
    return this.label().trim() ? '' : 'Give it a name first.';
  });
  protected readonly words = cellWords;
  protected readonly size = sizeInWords;
  protected readonly counted = counted;

  constructor() {
    this.api.call('targets').subscribe({
      next: ({ targets }) => this.targets.set(targets),
      error: (error: Error) => this.problem.set(error.message),
    });
    effect(() => {
      const target = this.target();
      if (!target) return;
      // What the master says of its copies counts more than how somebody derived another one last.
      const names = target.options.map(({ name }) => name);
      const own = untracked(() => optionsByMaster<OptionValue>(this.master(), names, {}));
      // What makes it fit for what it is to be counts most.
      const fit = target.also.find(({ group }) => group === this.purpose())?.options;
      this.takeOptions(remembered(this.memory()), { ...own, ...fit });
      this.leftOut.set(new Set());
    });
    effect(() => {
      const recipe = this.recipe();
      if (recipe) untracked(() => this.forecast.ask(this.id(), recipe));
    });
    effect(() => {
      this.variants.master.set(this.master());
      this.variants.seen.set(this.seen());
      this.variants.fits.set((this.target()?.says.includes('boards') && !this.target()?.whole) ?? false);
    });
    effect(() => {
      const master = this.variants.varied();
      this.varied.emit(master);
      const board = master && untracked(() => this.parts().find(({ id }) => id === this.board()));
      if (board) this.boardChosen.emit(board.name);
    });
    effect(() => {
      this.forecast.carry();
      untracked(() => {
        this.line.set(null);
        this.choose(null);
      });
    });
  }

  private readonly naming = toObservable(
    computed(() => {
      const [first] = this.variants.chosen();
      return { recipe: this.recipe(), label: [this.label().trim(), first?.name].filter(Boolean).join(' ') };
    }),
  );
  /** The name that the copy will get; empty until it is named. */
  protected readonly name = toSignal(
    this.naming.pipe(
      debounceTime(120),
      switchMap(({ recipe, label }) =>
        recipe && label
          ? this.api.call('copyName', { id: this.id() }, { ...recipe, label }).pipe(catchError(() => of(null)))
          : of(null),
      ),
    ),
    { initialValue: null },
  );

  /** What stands under the name, and what was chosen to become of it; another name is asked about anew. */
  protected readonly standing = computed(() => (this.variants.table() ? null : (this.name()?.standing ?? null)));
  protected readonly way = linkedSignal<string | undefined, TakenWay>({
    source: () => this.name()?.wanted,
    computation: () => 'both',
  });

  /** Options of the target: those that count most, or else those kept, or else what is usual. */
  private takeOptions(kept: Record<string, OptionValue>, own: Record<string, OptionValue>): void {
    const known = (name: string, { choices }: TargetView['options'][number]) =>
      choices.length ? choices.some(({ value }) => value === kept[name]) : name in kept;
    const options = this.target()?.options ?? [];
    this.options.set(
      Object.fromEntries(
        options.map((one) => [one.name, own[one.name] ?? (known(one.name, one) ? kept[one.name]! : one.default)]),
      ),
    );
  }

  protected takeSettings(name: string): void {
    const preset = this.presets.all().find((one) => one.name === name);
    this.takeOptions(preset?.options ?? remembered(this.memory()), {});
    this.leftOut.set(new Set(preset?.without));
  }

  protected setOption(name: string, value: OptionValue): void {
    this.options.update((options) => ({ ...options, [name]: value }));
  }

  protected setPurpose(purpose: Purpose): void {
    this.wantedPurpose.set(purpose);
  }

  protected setTarget(id: string): void {
    this.chosenTarget.set(id);
  }

  protected setBoard(id: string): void {
    this.chosenBoard.set(id);
    const board = this.parts().find((one) => one.id === id);
    if (board) this.boardChosen.emit(board.name);
  }

  protected leaveOut(feature: string, out: boolean): void {
    this.leftOut.update((before) => new Set(out ? [...before, feature] : [...before].filter((one) => one !== feature)));
  }

  /** Lights up the objects of a line; without one, everything that is not left out. */
  protected choose(key: string | null): void {
    this.line.set(this.line() === key ? null : key);
    const chosen = this.line() === null ? undefined : this.ladder().find((row) => row.key === this.line());
    const cell = chosen && (chosen.cells[this.rungAt()] ?? chosen.cells.find((one) => one !== null));
    const arriving = (this.rung()?.report.lines ?? [])
      .filter(({ outcome }) => outcome !== 'left out')
      .flatMap(({ objects }) => objects);
    // As long as nobody knows what arrives, nothing fades.
    this.highlighted.emit(this.forecast.carry() ? new Set(cell ? cell.objects : arriving) : null);
  }

  protected write(): void {
    const recipe = this.recipe();
    if (!recipe || this.waitsFor()) return;
    this.writing.set(true);
    localStorage.setItem(REMEMBERED + this.memory(), JSON.stringify(recipe.options));
    const fail = (error: Error): void => {
      this.writing.set(false);
      this.problem.set(error.message);
    };
    const table = this.variants.table();
    const password = (this.cipher() && this.password()) || null;
    if (table) {
      const rows = this.variants.leftOut().size ? this.variants.chosen().map(({ row }) => row) : null;
      this.api
        .call(
          'addVariants',
          { id: this.id() },
          {
            ...recipe,
            label: this.label(),
            table,
            rows,
            password,
            eachUpdate: this.eachUpdate(),
            serial: this.variants.serial().trim(),
          },
        )
        .subscribe({ next: () => this.written.emit(''), error: fail });
      return;
    }
    this.api
      .call(
        'addRecipe',
        { id: this.id() },
        {
          ...recipe,
          label: this.label(),
          replace: this.way() === 'replace' && this.standing() !== null,
          password,
          eachUpdate: this.eachUpdate(),
        },
      )
      .subscribe({
        next: ({ recipe }) => this.written.emit(recipe),
        error: fail,
      });
  }
}
