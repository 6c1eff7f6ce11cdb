import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Button } from 'primeng/button';
import { DraftSession } from '../../services/draft-session';
import { counted, timeInWords } from '../../shared/words';

/** A draft that was kept, with what it changed: one goes on with it or not. */
@Component({
  selector: 'twin-draft-offer',
  imports: [Button],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (session.offered(); as draft) {
      <section role="region" aria-label="A draft was kept">
        <p>
          <strong>A draft with {{ counted(draft.position, 'change') }} was kept</strong>{{ draft.updatedAt ? ', last on ' + time(draft.updatedAt) : '' }}:
        </p>
        <ul>
          @for (step of draft.steps.slice(0, draft.position).slice(-5); track $index) { <li>{{ step.label }}</li> }
        </ul>
        <p-button label="Go on with it" (onClick)="session.resume()" />
        <p-button label="Discard it" severity="secondary" [outlined]="true" (onClick)="discard()" />
      </section>
    }
  `,
  styles: `
    :host { display: contents; }
    section { position: absolute; top: 14px; left: 14px; right: 14px; max-width: 520px; padding: 12px 16px; border: 1px solid var(--hairline); border-left: 3px solid var(--action); border-radius: 8px; background: var(--raised); }
    ul { margin: 6px 0 10px; padding-left: 18px; color: var(--ink-two); }
    p-button + p-button { margin-left: 8px; }
  `,
})
export class DraftOffer {
  protected readonly session = inject(DraftSession);
  protected readonly counted = counted;
  protected readonly time = timeInWords;

  protected discard(): void {
    this.session.discard().catch((error: Error) => this.session.problem.set(error.message));
  }
}
