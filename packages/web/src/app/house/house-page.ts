import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { firstValueFrom } from 'rxjs';
import { Button } from 'primeng/button';
import type { DeskRow, HouseView } from '@inkwell-twin/api';
import {
  FONTS,
  type FontName,
  HouseRules,
  LETTER_STYLES,
  type Master,
  NAME_PARTS,
  NO_RULES,
  type NamePart,
  PROCESSES,
  type Preset,
  SEPARATORS,
  fileName,
  houseRules,
  labelOf,
  namingOf,
  standardsOf,
  usualOptions,
} from '@inkwell-twin/core/web';
import { Checkbox } from 'primeng/checkbox';
import { InputText } from 'primeng/inputtext';
import { FormsModule } from '@angular/forms';
import { Api } from '../services/api.service';
import { ServerEvents } from '../services/events.service';
import { TopBar } from '../shared/top-bar';
import { Latest } from '../shared/latest';
import { timeInWords } from '../shared/words';
import { ColourField } from '../shared/colour-field';
import { MachinesSection } from './machines-section';
import { MenuButton } from '../shared/menu-button';
import { Pick, pickables } from '../shared/pick';
import { typedIn } from '../shared/typed';
import { checkNumber, checkNumbers } from '../shared/checked';
import { CheckedField } from '../shared/checked-field';

const SHAPE = HouseRules.shape;
const NAMES = SHAPE.names.shape;

/** What the parts of a name are called, and what stands for them in the example. */
const PARTS: Readonly<Record<NamePart, { readonly words: string; readonly example: string | number }>> = {
  owner: { words: 'owner', example: 'Ines Okoro' },
  title: { words: 'what it is', example: 'Metal shop drawing' },
  board: { words: 'board', example: 'Front' },
  date: { words: 'date', example: '2026-11-27' },
  rev: { words: 'revision', example: 7 },
  version: { words: 'version', example: 'R12' },
};

/** The rules of the house: how it writes names, and what it draws with. They are kept here, or travel as a file. */
@Component({
  selector: 'twin-house-page',
  imports: [
    Button,
    Checkbox,
    CheckedField,
    ColourField,
    FormsModule,
    InputText,
    MachinesSection,
    MenuButton,
    Pick,
    RouterLink,
    TopBar,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './house-page.html',
  styleUrl: './house-page.css',
})
export class HousePage {
  private readonly api = inject(Api);
  private readonly latest = new Latest();
  protected readonly rules = signal<HouseRules>(NO_RULES);
  protected readonly kept = signal<HouseView | null>(null);
  protected readonly problem = signal('');
  protected readonly said = signal('');
  protected readonly busy = signal(false);
  protected readonly masters = signal<readonly DeskRow[]>([]);
  protected readonly changed = computed(() => JSON.stringify(this.rules()) !== JSON.stringify(this.kept()?.rules ?? NO_RULES));
  /** Somebody said others while these were written. */
  protected readonly newer = signal<HouseView | null>(null);

  protected readonly processes = pickables(PROCESSES);
  protected readonly letters = pickables(LETTER_STYLES);
  protected readonly separators = pickables(SEPARATORS);
  protected readonly endings = [
    { value: 'lower', label: 'small letters' },
    { value: 'upper', label: 'capitals' },
  ] as const;
  protected readonly time = timeInWords;
  protected readonly partWords = (part: NamePart): string => PARTS[part].words;
  protected readonly moreParts = computed(() => NAME_PARTS.filter((part) => !this.rules().names.parts.includes(part)));
  protected readonly moreFonts = computed(() => pickables(FONTS.filter((font) => !this.rules().fonts.includes(font))));
  /** Masters whose standards can be taken. */
  protected readonly teachers = computed(() => this.masters().map(({ id, title }) => ({ value: id, label: title })));
  protected readonly example = computed(() => {
    const { rule, pattern } = namingOf(this.rules());
    const parts = Object.fromEntries(NAME_PARTS.map((part) => [part, PARTS[part].example]));
    return fileName(pattern, parts, 'ending', rule);
  });

  constructor() {
    this.load();
    this.api.call('desk', {}, undefined, { order: 'name' }).subscribe({
      next: ({ masters }) => this.masters.set(masters),
      error: (error: Error) => this.problem.set(error.message),
    });
    inject(ServerEvents)
      .all.pipe(takeUntilDestroyed())
      .subscribe(({ kind }) => kind === 'again' && this.load());
  }

  /** What is written here when the answer comes is never replaced; what is being kept is not read meanwhile. */
  private load(): void {
    if (this.busy()) return;
    this.latest.ask(this.api.call('house'), {
      next: (view) => {
        const [written, kept] = [this.changed(), this.kept()];
        if (written && kept && view.at !== kept.at) return this.newer.set(view);
        // What kept the page from being shown is over.
        if (!kept) this.problem.set('');
        this.kept.set(view);
        this.newer.set(null);
        if (!written) this.rules.set(view.rules);
      },
      error: (error: Error) => this.problem.set(error.message),
    });
  }

  protected edit(change: Partial<HouseRules>): void {
    this.said.set('');
    this.problem.set('');
    this.rules.update((rules) => ({ ...rules, ...change }));
  }
  protected name(change: Partial<HouseRules['names']>): void {
    this.edit({ names: { ...this.rules().names, ...change } });
  }
  protected readonly value = typedIn;

  /** What settings say that is not usual, after what they make. */
  protected settingsWords({ target, options, without }: Preset): string {
    const usual = usualOptions(target);
    const own = Object.entries(options).filter(([name, value]) => usual[name] !== value);
    const out = without.length ? [`without ${without.join(', ')}`] : [];
    return [labelOf(target), ...own.map(([name, value]) => `${name} ${value}`), ...out].join('; ');
  }

  protected addPart(part: string): void {
    const one = NAME_PARTS.find((each) => each === part);
    if (one) this.name({ parts: [...this.rules().names.parts, one] });
  }
  protected takePart(part: NamePart): void {
    this.name({ parts: this.rules().names.parts.filter((one) => one !== part) });
  }
  protected earlier(part: NamePart): void {
    const parts = [...this.rules().names.parts];
    const at = parts.indexOf(part);
    if (at > 0) [parts[at - 1], parts[at]] = [part, parts[at - 1]!];
    this.name({ parts });
  }

  protected list<K extends 'layers' | 'lines' | 'fonts' | 'symbols' | 'presets' | 'channels'>(
    key: K,
    at: number,
    change: Partial<HouseRules[K][number]> | null,
  ): void {
    const list = this.rules()[key] as readonly HouseRules[K][number][];
    const next =
      change === null
        ? list.filter((_, i) => i !== at)
        : list.map((one, i) => (i === at ? { ...(one as object), ...(change as object) } : one));
    this.edit({ [key]: next } as Partial<HouseRules>);
  }
  protected addLayer(): void {
    this.edit({
      layers: [...this.rules().layers, { name: `Layer ${this.rules().layers.length + 1}`, process: 'print', colour: '#14213a' }],
    });
  }
  protected addChannel(): void {
    const { channels } = this.rules();
    this.edit({ channels: [...channels, { name: `way ${channels.length + 1}`, megabytes: 20 }] });
  }
  protected addLine(): void {
    this.edit({ lines: [...this.rules().lines, { name: `line ${this.rules().lines.length + 1}`, dash: [4, 2] }] });
  }
  protected addFont(font: FontName): void {
    this.edit({ fonts: [...this.rules().fonts, font] });
  }
  protected widths(widths: readonly number[]): void {
    this.edit({ widths: [...new Set(widths)].sort((a, b) => a - b) });
  }

  /** How fields are read: by the schema that the rules are kept by. */
  protected readonly checks = {
    length: (text: string) => checkNumber(text, NAMES.length, { label: 'Longest name', unit: 'characters' }),
    megabytes: (text: string) =>
      checkNumber(text, SHAPE.channels.unwrap().element.shape.megabytes, { label: 'Most that it takes', unit: 'MB' }),
    widths: (text: string) => checkNumbers(text, SHAPE.widths, 'Widths of lines', '0.1 0.25'),
    dash: (text: string) => checkNumbers(text, SHAPE.lines.element.shape.dash, 'Dashes and gaps', '4 2'),
  };
  private readonly problems = signal<Readonly<Record<string, string>>>({});
  /** Whether something stands in a field that can’t be kept. */
  protected readonly wrong = computed(() => Object.values(this.problems()).some(Boolean));
  protected note(field: string, problem: string): void {
    this.problems.update((all) => ({ ...all, [field]: problem }));
  }

  protected symbols(text: string): void {
    this.edit({
      symbols: [
        ...new Set(
          text
            .split(',')
            .map((one) => one.trim())
            .filter(Boolean),
        ),
      ],
    });
  }

  protected async learn(id: string): Promise<void> {
    const row = this.masters().find((one) => one.id === id);
    if (!row) return;
    try {
      const { document } = await firstValueFrom(this.api.call('revision', { id, rev: row.revisions.at(-1)!.rev }));
      this.edit(standardsOf(document as Master));
      this.said.set(`As ${row.title} has them. They count once they are kept.`);
    } catch (error) {
      this.problem.set((error as Error).message);
    }
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
        throw new Error(`${file.name} is no file of house rules: it can’t be read as JSON.`);
      }
      this.edit(houseRules(value));
      this.said.set(`From ${file.name}. They count once they are kept.`);
    } catch (error) {
      this.problem.set((error as Error).message);
    }
  }

  protected takeKept(): void {
    this.kept.set(this.newer() ?? this.kept());
    this.newer.set(null);
    this.rules.set(this.kept()?.rules ?? NO_RULES);
    this.problem.set('');
    this.said.set('');
  }

  protected keep(): void {
    this.busy.set(true);
    // An answer that is under way may be from before or after this: it would say that somebody else changed the rules.
    this.latest.forget();
    const sent = this.rules();
    this.api.call('sayHouse', {}, { rules: sent, knows: this.kept()?.at ?? null }).subscribe({
      next: (view) => {
        this.busy.set(false);
        this.kept.set(view);
        this.newer.set(null);
        if (this.rules() === sent) this.rules.set(view.rules);
        this.said.set('Kept. New copies are called so, and masters are held against the rest.');
        this.load();
      },
      error: (error: Error) => {
        this.busy.set(false);
        this.problem.set(error.message);
        this.load();
      },
    });
  }
}
