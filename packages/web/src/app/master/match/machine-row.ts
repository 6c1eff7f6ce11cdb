import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import type { CopyView } from '@inkwell-twin/api';
import { ROUTES } from '@inkwell-twin/api/light';
import { declarationOf, machineOf, optionFields } from '@inkwell-twin/core/web';
import { Machines } from '../../bench/bench.service';
import { Api } from '../../services/api.service';

/** Which machines hold a copy, of which revision, and the way onto one: over the network, or by a stick. */
@Component({
  selector: 'twin-machine-row',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (one of machines(); track one.id) {
      <p>
        @if (one.held; as held) {
          The <a routerLink="/bench">{{ one.name }}</a> holds {{ held.rev === copy().rev ? 'this' : 'that of r' + held.rev }}{{ held.taken ? '' : ', and has not said yet what it got' }}.
        } @else { The <a routerLink="/bench">{{ one.name }}</a> does not hold it. }
        @if (!one.held || one.held.rev !== copy().rev) {
          <button type="button" class="link" (click)="send(one.id)">Send it</button>
        }
        <a [href]="stick(one.id)" download>For a stick</a>
      </p>
    }
    @if (problem()) { <p class="problem" role="alert">{{ problem() }}</p> }
  `,
  styles: `
    p { margin: 0; }
    p > * + * { margin-left: 10px; }
    .problem { padding-left: 8px; border-left: 3px solid var(--ink); }
  `,
})
export class MachineRow {
  private readonly api = inject(Api);
  private readonly bench = inject(Machines);
  private readonly view = toSignal(this.bench.view);
  readonly copy = input.required<CopyView>();
  private readonly copyId = computed(() => this.copy().id);
  protected readonly problem = linkedSignal({ source: this.copyId, computation: () => '' });
  /** The machines that it is for, each with what it holds of it. */
  protected readonly machines = computed(() => {
    const { target, options, recipe } = this.copy();
    const field = optionFields(declarationOf(target)).find(({ kind }) => kind === 'machine');
    const word = String(options[field?.name ?? ''] ?? '');
    const own = word ? machineOf(word).id : '';
    return (this.view()?.machines ?? [])
      .filter(({ id, language }) => field && (own ? id === own : language === field.language))
      .map(({ id, name, holds }) => {
        const held = holds.find(({ copy }) => copy?.recipe === recipe);
        return { id, name, held: held && { rev: held.copy!.rev, taken: held.says !== null } };
      });
  });

  protected stick = (machine: string): string =>
    `${ROUTES.forStick.path.replace(':machine', encodeURIComponent(machine))}?copy=${encodeURIComponent(this.copy().id)}`;

  protected send(machine: string): void {
    this.api.call('sendToMachine', { machine }, { copy: this.copy().id }).subscribe({
      next: () => {
        this.problem.set('');
        this.bench.look();
      },
      error: (error: Error) => this.problem.set(error.message),
    });
  }
}
