import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { DeskRow } from '@inkwell-twin/api';
import { Button } from 'primeng/button';
import { VerdictMark } from '../shared/verdict-mark';
import { counted } from '../shared/words';

/** Says which copies are out there before a master is deleted. */
@Component({
  selector: 'twin-delete-form',
  imports: [Button, VerdictMark],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div role="group" aria-label="Delete">
      <p>
        @if (row().copies.length) {
          <strong>{{ counted(row().copies.length, 'copy', 'copies') }} of it {{ row().copies.length === 1 ? 'is' : 'are' }} out there</strong>, on the shelf and with whoever has them; they stay, and nobody looks after them any more:
        } @else {
          There are no copies of it.
        }
      </p>
      @if (row().copies.length) {
        <ul>
          @for (one of shown(); track one.id) {
            <li><twin-verdict-mark [verdict]="one.verdict" [width]="14" /> <code>{{ one.file }}</code> r{{ one.rev }}</li>
          }
          @if (row().copies.length > shown().length) {
            <li>and {{ row().copies.length - shown().length }} more</li>
          }
        </ul>
      }
      <p>For 30 days it can be brought back as it is, with its history{{ row().draftChanges ? ', your draft' : '' }} and its copies. Its file on the shelf stays.</p>
      <span class="acts">
        <p-button label="Delete it" severity="secondary" [outlined]="true" (onClick)="confirmed.emit()" />
        <button type="button" class="link" (click)="closed.emit()">Keep it</button>
      </span>
    </div>
  `,
  styles: `
    div { display: grid; gap: 8px; padding: 12px 14px; border-top: 1px solid var(--hairline-soft); background: var(--raised); }
    p { margin: 0; color: var(--ink-two); }
    ul { display: flex; flex-wrap: wrap; gap: 4px 18px; margin: 0; padding: 0; list-style: none; }
    li { display: inline-flex; align-items: center; gap: 6px; color: var(--ink-two); }
    .acts { display: inline-flex; gap: 14px; align-items: center; }
  `,
})
export class DeleteForm {
  readonly row = input.required<DeskRow>();
  readonly confirmed = output<void>();
  readonly closed = output<void>();
  protected readonly counted = counted;
  protected readonly shown = computed(() => this.row().copies.slice(0, 12));
}
