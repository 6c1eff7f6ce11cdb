import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import type { MasterView } from '@inkwell-twin/api';
import { Api } from '../services/api.service';
import { counted, sizeInWords } from '../shared/words';

/** What an older native version means for a master: nothing is touched yet, or what is left of it can go. */
@Component({
  selector: 'twin-older-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section role="status" aria-label="Older native version">
      @if (older().updated) {
        <p>
          Left of native version {{ older().version }}: {{ counted(older().files.length, 'file') }}, {{ size(total()) }}.
          <button type="button" class="link" (click)="shown.set(!shown())" [attr.aria-expanded]="shown()">{{ shown() ? 'Hide them' : 'Show them' }}</button>
          @if (asking()) {
            <button type="button" class="link" (click)="remove()">Take these {{ older().files.length }} files away for good</button>
            <button type="button" class="link" (click)="asking.set(false)">Keep them</button>
          } @else {
            <button type="button" class="link" (click)="asking.set(true); shown.set(true)">Take them away …</button>
          }
        </p>
        @if (shown()) {
          <ul>
            @for (one of older().files; track one.file) {
              <li><code>{{ one.file }}</code> {{ size(one.size) }}</li>
            }
          </ul>
        }
      } @else {
        <p>This master is of native version {{ older().version }}. Nothing on the shelf is touched until you update it.</p>
      }
      @if (problem()) {
        <p role="alert">{{ problem() }}</p>
      }
    </section>
  `,
  styles: `
    section { padding: 8px 20px; border-bottom: 1px solid var(--hairline); background: var(--raised); color: var(--ink-two); }
    p { margin: 0; }
    .link { margin-left: 12px; }
    ul { display: flex; flex-wrap: wrap; gap: 2px 20px; margin: 6px 0 0; padding: 0; list-style: none; }
  `,
})
export class OlderPanel {
  private readonly api = inject(Api);
  readonly masterId = input.required<string>();
  readonly older = input.required<NonNullable<MasterView['older']>>();
  readonly changed = output<void>();
  protected readonly shown = signal(false);
  protected readonly asking = signal(false);
  protected readonly problem = signal('');
  protected readonly counted = counted;
  protected readonly size = sizeInWords;
  protected readonly total = computed(() => this.older().files.reduce((sum, { size }) => sum + size, 0));

  protected remove(): void {
    this.asking.set(false);
    this.api.call('removeLeftovers', { id: this.masterId() }).subscribe({
      next: ({ stayed }) => {
        if (stayed.length) this.problem.set(`Changed since it was opened, and so still there: ${stayed.join(', ')}.`);
        this.changed.emit();
      },
      error: (error: Error) => this.problem.set(error.message),
    });
  }
}
