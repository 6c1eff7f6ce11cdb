import { ChangeDetectionStrategy, Component, type OnInit, computed, inject, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { type AnswerOf, CONTRACTS } from '@inkwell-twin/api';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { PART, PURPOSES, SERIES, TEXT, PROFILES, type ProfileName } from '@inkwell-twin/core/web';
import { Api } from '../services/api.service';
import { Person } from '../services/person';
import { Choice } from '../shared/choice';
import { ColourField } from '../shared/colour-field';
import { Pick, pickables } from '../shared/pick';
import { Checkbox } from 'primeng/checkbox';
import { checkNumber } from '../shared/checked';
import { CheckedField } from '../shared/checked-field';

type Template = AnswerOf<'templates'>['templates'][number];
const MM = { mm: 1, cm: 10, in: 25.4, pt: 25.4 / 72 } as const;
/** Pixels are a unit here, too: of screens, at the density that its copies have, else that of the web. */
type Unit = keyof typeof MM | 'px';
const WEB_PPI = 96;
const { width: WIDTH, height: HEIGHT, ppi: PPI } = CONTRACTS.newMaster.body!.shape;

/** Starts a master: empty, from a purpose whose size, unit and background can be changed, or from a template. */
@Component({
  selector: 'twin-new-master',
  imports: [Button, Checkbox, CheckedField, Choice, ColourField, FormsModule, InputText, Pick],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="start()" aria-label="New master">
      <label for="title">What is it?</label>
      <input id="title" pInputText name="title" [(ngModel)]="title" placeholder="Gate sign, north entrance" maxlength="200" />
      <div class="purpose">
        <span>What is it for?</span>
        <twin-choice label="What is it for?" [choices]="purposes" [value]="template() ? '' : purpose()" (chosen)="choose($event)" />
      </div>
      @if (sizes().length && !template()) {
        <div class="size">
          <label>Size
            <twin-pick label="Size" [options]="sizeNames()" [value]="usual()" (chosen)="take($event)" /></label>
          <label>Width <twin-checked label="Width" [value]="shown(width())" [check]="checks().width" (taken)="width.set($event!)" (problem)="note('width', $event)" /></label>
          <label>Height <twin-checked label="Height" [value]="shown(height())" [check]="checks().height" (taken)="height.set($event!)" (problem)="note('height', $event)" /></label>
          <twin-pick label="Unit" [options]="units" [value]="unit()" (chosen)="unit.set($event)" />
          <twin-choice label="Lies" [choices]="ways" [value]="width() > height() ? 'level' : 'upright'" (chosen)="turn($event)" />
          <label class="ground"><p-checkbox [binary]="true" size="small" [ngModel]="background() !== null" [ngModelOptions]="{ standalone: true }" (ngModelChange)="background.set($event ? '#ffffff' : null)" /> background</label>
          @if (background(); as colour) {
            <twin-colour label="Background colour" [value]="colour" (changed)="background.set($event)" />
          }
          <label title="Of copies in pixels, where nothing else is asked for">Pixels per inch <twin-checked class="ppi" label="Pixels per inch" [value]="'' + (ppi() ?? '')" [check]="checks().ppi" placeholder="as it comes" (taken)="ppi.set($event)" (problem)="note('ppi', $event)" /></label>
          <twin-pick label="Colours of copies in pixels" [options]="profiles" [value]="profile()" (chosen)="profile.set($event)" />
        </div>
      }
      @if (templates().length) {
        <div class="templates" role="group" aria-label="Templates">
          <span>Or from a template</span>
          @for (one of templates(); track one.id) {
            <span class="template" [class.on]="one.id === template()">
              <button type="button" (click)="template.set(one.id === template() ? '' : one.id)" [attr.aria-pressed]="one.id === template()">
                @if (one.picture) {
                  <img [src]="one.picture" alt="" />
                }
                {{ one.name }}
              </button>
              <button type="button" class="link" (click)="remove(one)" [attr.aria-label]="'Take the template ' + one.name + ' away'" title="Take this template away"><i class="pi pi-times" aria-hidden="true"></i></button>
            </span>
          }
        </div>
      }
      <p-button type="submit" label="Start master" [disabled]="wrong() !== ''" />
      <button type="button" class="link" (click)="closed.emit()">Not now</button>
      @if (problem()) {
        <p role="alert">{{ problem() }}</p>
      } @else if (wrong()) {
        <p>To start, mend what is said above.</p>
      }
    </form>
  `,
  styles: `
    form { display: flex; flex-wrap: wrap; align-items: end; gap: 10px 16px; margin-top: 14px; padding: 14px 16px; border: 1px solid var(--hairline); border-radius: 8px; background: var(--raised); }
    form > label { width: 100%; font-weight: 600; }
    #title { width: 300px; }
    .purpose, .size, .templates { display: flex; flex-wrap: wrap; align-items: center; gap: 8px 14px; min-height: 33px; color: var(--ink-two); }
    .size, .templates { flex: 1 0 100%; }
    .size label { display: inline-flex; align-items: center; gap: 6px; }
    .ppi { --wide: 110px; }
    .template { display: inline-flex; align-items: center; gap: 4px; border: 1px solid var(--hairline); border-radius: 6px; background: var(--sheet); }
    .template.on { border-color: var(--action); background: var(--action-soft); }
    .template button:first-child { display: inline-flex; align-items: center; gap: 8px; padding: 4px 4px 4px 8px; border: 0; background: none; color: var(--ink); font: inherit; cursor: pointer; }
    .template img { max-width: 40px; max-height: 28px; background: #fff; }
    .template .link { padding: 4px 8px; }
    .template .pi { font-size: 10px; }
  `,
})
export class NewMaster implements OnInit {
  private readonly api = inject(Api);
  private readonly person = inject(Person);
  readonly started = output<string>();
  readonly closed = output<void>();
  protected readonly purposes = [
    ...PURPOSES.map(({ id, label }) => ({ value: id, label })),
    { value: SERIES.id as string, label: SERIES.label },
    { value: PART.id as string, label: PART.label },
    { value: TEXT.id as string, label: TEXT.label },
  ];
  protected readonly units = pickables<Unit>([...(Object.keys(MM) as Unit[]), 'px']);
  protected readonly ways = [
    { value: 'upright', label: 'upright' },
    { value: 'level', label: 'level' },
  ];
  protected readonly purpose = signal<string>('panel');
  protected readonly template = signal('');
  protected readonly templates = signal<readonly Template[]>([]);
  protected readonly problem = signal('');
  protected readonly width = signal(0);
  protected readonly height = signal(0);
  protected readonly unit = signal<Unit>('mm');
  protected readonly background = signal<string | null>(null);
  protected readonly ppi = signal<number | null>(null);
  protected readonly profiles = pickables(PROFILES);
  protected readonly profile = signal<ProfileName>('sRGB');
  protected readonly sizes = computed(() => PURPOSES.find(({ id }) => id === this.purpose())?.sizes ?? []);
  /** The usual sizes to choose from, and another where it has none of them. */
  protected readonly sizeNames = computed(() => [
    ...pickables(this.sizes().map(({ name }) => name)),
    ...(this.usual() ? [] : [{ value: '', label: 'another' }]),
  ]);
  /** Which of the usual sizes it has, turned or not; none for another. */
  protected readonly usual = computed(() => {
    const same = (a: number, b: number): boolean => Math.abs(a - b) < 0.01;
    const [w, h] = [this.width(), this.height()];
    const found = this.sizes().find(
      ({ width, height }) => (same(width, w) && same(height, h)) || (same(width, h) && same(height, w)),
    );
    return found?.name ?? '';
  });
  protected title = '';

  ngOnInit(): void {
    this.choose('panel');
    this.api.call('templates').subscribe({ next: ({ templates }) => this.templates.set(templates), error: () => undefined });
  }

  protected choose(id: string): void {
    this.template.set('');
    this.problems.set({});
    this.purpose.set(id);
    const purpose = PURPOSES.find((one) => one.id === id);
    if (!purpose) return;
    this.width.set(purpose.width);
    this.height.set(purpose.height);
    this.unit.set(purpose.unit);
    this.background.set(purpose.background);
    this.ppi.set(purpose.ppi ?? null);
    this.profile.set(purpose.profile ?? 'sRGB');
  }

  /** Millimetres of one of the unit. */
  private readonly factor = computed(() => {
    const unit = this.unit();
    return unit === 'px' ? 25.4 / (this.ppi() ?? WEB_PPI) : MM[unit];
  });
  protected shown = (mm: number): string => String(Number((mm / this.factor()).toFixed(3)));
  /** How each field is read: by the schema that the server checks it by. */
  protected readonly checks = computed(() => {
    const [unit, factor] = [this.unit(), this.factor()];
    const side = (label: string, schema: typeof WIDTH) => (text: string) =>
      checkNumber(text, schema.unwrap(), { label, unit, factor });
    return {
      width: side('Width', WIDTH),
      height: side('Height', HEIGHT),
      ppi: (text: string) => checkNumber(text, PPI.unwrap(), { label: 'Pixels per inch', optional: true }),
    };
  });
  /** What is wrong with the fields, by field. */
  private readonly problems = signal<Readonly<Record<string, string>>>({});
  protected readonly wrong = computed(() => Object.values(this.problems()).filter(Boolean).join(' '));
  protected note(field: string, problem: string): void {
    this.problems.update((all) => ({ ...all, [field]: problem }));
  }

  protected take(name: string): void {
    const size = this.sizes().find((one) => one.name === name);
    if (!size) return;
    this.width.set(size.width);
    this.height.set(size.height);
  }
  protected turn(way: string): void {
    const [short, long] = [Math.min(this.width(), this.height()), Math.max(this.width(), this.height())];
    this.width.set(way === 'level' ? long : short);
    this.height.set(way === 'level' ? short : long);
  }

  protected remove(one: Template): void {
    this.api.call('removeTemplate', { id: one.id }).subscribe({
      next: () => {
        this.templates.update((all) => all.filter(({ id }) => id !== one.id));
        if (this.template() === one.id) this.template.set('');
      },
      error: (error: Error) => this.problem.set(error.message),
    });
  }

  protected start(): void {
    const body = {
      title: this.title.trim(),
      purpose: this.purpose(),
      owner: this.person.name(),
      ...(this.template()
        ? { template: this.template() }
        : this.sizes().length
          ? {
              width: this.width(),
              height: this.height(),
              ...(this.unit() === 'px' ? {} : { unit: this.unit() as keyof typeof MM }),
              background: this.background(),
              ppi: this.ppi(),
              // What every copy has anyway needs no word.
              ...(this.ppi() === null && this.profile() === 'sRGB' ? {} : { profile: this.profile() }),
            }
          : {}),
    };
    this.api.call('newMaster', {}, body).subscribe({
      next: ({ id }) => this.started.emit(id),
      error: (error: Error) => this.problem.set(error.message),
    });
  }
}
