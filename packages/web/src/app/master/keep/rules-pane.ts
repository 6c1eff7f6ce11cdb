import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { finalize, firstValueFrom } from 'rxjs';
import type { AnswerOf, HouseView } from '@inkwell-twin/api';
import {
  type Breach,
  type Command,
  type Master,
  findNode,
  hasStandards,
  houseBreaches,
  mendAll,
  nodeInWords,
} from '@inkwell-twin/core/web';
import { Api } from '../../services/api.service';
import { ServerEvents } from '../../services/events.service';
import { Latest } from '../../shared/latest';
import { counted } from '../../shared/words';

/** Objects of a breach that are named one by one. */
const NAMED = 4;

/** What of a master is not as the house has it, each with its repair. */
@Component({
  selector: 'twin-rules',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>Held against the house rules <button type="button" class="link" (click)="closed.emit()">Close</button></h3>
    @if (house(); as one) {
      <p class="of">{{ one.rules.house || (one.at ? 'Kept by ' + one.by : 'No rules are kept yet') }}. <a routerLink="/house">Look at them</a></p>
      @for (breach of breaches(); track breach.words) {
        <section [attr.aria-label]="breach.words">
          <p>{{ breach.words }}</p>
          <p class="uses">
            @for (node of breach.nodes.slice(0, named); track node) {
              <button type="button" class="link" (click)="picked.emit(node)">{{ words(node) }}</button>
            }
            @if (breach.nodes.length > named) { <span>and {{ breach.nodes.length - named }} more</span> }
          </p>
          @if (breach.repair; as repair) {
            <button type="button" class="link" [disabled]="fixed()" (click)="command.emit(repair)"><strong>Mend</strong>: {{ repair.label }}</button>
          } @else {
            <p class="by-hand">Nothing mends it by itself.</p>
          }
        </section>
      }
      @for (one of names(); track one.id) {
        <section [attr.aria-label]="'Name ' + one.file">
          <p>The file <code>{{ one.file }}</code> is not called as the house writes names.</p>
          <button type="button" class="link" [disabled]="busy()" (click)="rename(one)">
            <strong>Mend</strong>: {{ one.kind === 'master' ? 'call it' : 'derive it again as' }} <code>{{ one.proposed }}</code>
          </button>
        </section>
      }
      @if (!breaches().length && !names().length) {
        <p class="none">{{ standards() ? 'All of it is as the house has it.' : 'The house says nothing of what is drawn; the names are as it writes them.' }}</p>
      }
      @if (mendable().length > 1 && !fixed()) {
        <p class="all"><button type="button" class="link" (click)="mendAll()">Mend {{ counted(mendable().length, 'breach', 'breaches') }} at once</button></p>
      }
    }
    @if (problem()) { <p class="problem" role="alert">{{ problem() }}</p> }
  `,
  styles: `
    :host { display: block; overflow: auto; padding: 10px 12px; background: var(--sheet); border-right: 1px solid var(--hairline); }
    h3 { display: flex; justify-content: space-between; margin: 0; font-size: 13px; }
    p { margin: 0; overflow-wrap: anywhere; }
    .of { margin-bottom: 6px; color: var(--ink-two); font-size: 12px; }
    section { padding: 8px 0 8px 9px; margin-left: -12px; border-top: 1px solid var(--hairline-soft); border-left: 3px solid var(--ink); }
    .uses { display: flex; flex-wrap: wrap; gap: 0 10px; font-size: 12px; color: var(--ink-two); }
    .uses .link { font-weight: 400; text-align: left; }
    section > .link { font-weight: 400; text-align: left; }
    .by-hand, .none { color: var(--ink-two); }
    .all { padding-top: 8px; border-top: 1px solid var(--hairline-soft); }
    code { font: 12px var(--mono); }
    .problem { margin-top: 8px; padding: 6px 8px; border-left: 3px solid var(--ink); background: var(--raised); }
  `,
})
export class RulesPane {
  private readonly api = inject(Api);
  readonly master = input.required<Master>();
  readonly masterId = input.required<string>();
  /** The folder of the master's file on the shelf. */
  readonly folder = input.required<string>();
  readonly fixed = input(false);
  readonly command = output<Command>();
  readonly picked = output<string>();
  readonly closed = output<void>();

  protected readonly house = signal<HouseView | null>(null);
  protected readonly names = signal<AnswerOf<'wrongNames'>['names']>([]);
  protected readonly problem = signal('');
  /** From the press of a mend until its outcome is listed: a list that moves under a second press would take it. */
  protected readonly busy = signal(false);
  private readonly latest = new Latest();
  protected readonly named = NAMED;
  protected readonly counted = counted;
  protected readonly breaches = computed((): readonly Breach[] => {
    const house = this.house();
    return house ? houseBreaches(this.master(), house.rules) : [];
  });
  protected readonly mendable = computed(() => this.breaches().filter(({ repair }) => repair));
  protected readonly standards = computed(() => hasStandards(this.house()!.rules));

  constructor() {
    effect(() => {
      this.masterId();
      this.look();
    });
    inject(ServerEvents)
      .all.pipe(takeUntilDestroyed())
      .subscribe(({ kind, master }) => {
        if (kind === 'again' || ((kind === 'master' || kind === 'copies') && master === this.masterId())) this.look();
      });
  }

  /** @param after once the names have come, or others about the same did */
  private look(after = (): void => undefined): void {
    const id = this.masterId();
    const error = (problem: Error): void => this.problem.set(problem.message);
    this.latest.ask(this.api.call('house'), { next: (house) => this.house.set(house), error }, 'house', id);
    const names = this.api.call('wrongNames', { id }).pipe(finalize(after));
    this.latest.ask(names, { next: (found) => this.names.set(found.names), error }, 'names', id);
  }

  protected words = (id: string): string => {
    const node = findNode(this.master(), id);
    return node ? nodeInWords(node) : id;
  };

  protected mendAll(): void {
    this.command.emit(mendAll(this.master(), this.house()!.rules));
  }

  /** The master's file moves to its proper name; a copy is derived again, which names it anew. */
  protected async rename({ kind, id, proposed }: AnswerOf<'wrongNames'>['names'][number]): Promise<void> {
    this.busy.set(true);
    this.problem.set('');
    const folder = this.folder();
    const place = folder.includes('/') ? folder.slice(0, folder.lastIndexOf('/')) : '';
    const name = proposed.replace(/\.[^.]*$/, '');
    try {
      if (kind === 'master') await firstValueFrom(this.api.call('move', { id }, { place, name, copies: 'follow' }));
      else await firstValueFrom(this.api.call('deriveAgain', { id }));
    } catch (error) {
      this.problem.set((error as Error).message);
    }
    this.look(() => this.busy.set(false));
  }
}
