import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { PartRoom } from '../../content/part-room';
import { DraftSession } from '../../services/draft-session';
import { Impact } from '../../services/impact.service';
import { VerdictMark } from '../../shared/verdict-mark';

/** What a draft would outdate, while it is written. */
@Component({
  selector: 'twin-impact-note',
  imports: [VerdictMark],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (room.outdated().length) {
      <strong>{{ session.changes() === 1 ? 'This edit' : 'These edits' }} would outdate</strong>
      <p>
        @for (copy of room.outdated(); track copy.id) {
          <span><twin-verdict-mark verdict="behind" [pending]="true" [width]="20" /> {{ copy.label }}</span>
        }
      </p>
      <p>and leave {{ untouched() }} in step.</p>
    } @else {
      <strong>No copy that is in step carries what you changed.</strong>
    }
  `,
  styles: `
    :host { display: block; flex: 1 1 190px; max-width: 320px; padding: 8px 10px; border-radius: 8px; background: color-mix(in srgb, var(--stage) 86%, transparent); }
    p { display: flex; flex-wrap: wrap; gap: 2px 14px; color: var(--ink-two); }
    :host-context(.notes.wide) p { flex-wrap: nowrap; }
    span { display: inline-flex; align-items: center; gap: 6px; }
  `,
  host: { role: 'region', 'aria-live': 'polite', 'aria-label': 'What this draft would outdate' },
})
export class ImpactNote {
  protected readonly room = inject(PartRoom);
  protected readonly session = inject(DraftSession);
  private readonly impact = inject(Impact);
  protected readonly untouched = computed(
    () => this.room.copies().filter(({ id, verdict }) => verdict === 'in step' && !this.impact.outdated().has(id)).length,
  );
}
