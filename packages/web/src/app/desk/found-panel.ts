import { ChangeDetectionStrategy, Component, inject, output, signal } from '@angular/core';
import type { NewerView, OlderView } from '@inkwell-twin/api';
import { Api } from '../services/api.service';

/** Native files on the shelf that belong to no master of the Desk: older ones can be opened from where they lie. */
@Component({
  selector: 'twin-found-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (one of found(); track one.path) {
      <div role="status">
        <i class="pi pi-inbox" aria-hidden="true"></i>
        <span>
          On the shelf lies <code>{{ one.path }}</code>@if (one.version) {, “{{ one.title }}” of native version {{ one.version }}}.
          {{ one.trouble ?? 'Opening it touches nothing there; its first update puts a file of now beside it.' }}
        </span>
        <span class="ways">
          @if (one.newer) {
            <button type="button" class="link" (click)="look(one.path)">Look at it</button>
          }
          @if (!one.trouble) {
            <button type="button" class="link" (click)="open(one.path)">Open it</button>
          }
          <button type="button" class="link" (click)="pass(one.path)">Not now</button>
        </span>
      </div>
    }
    @if (problem()) {
      <div role="alert">{{ problem() }}</div>
    }
  `,
  styles: `
    div { display: flex; align-items: baseline; gap: 10px; padding: 8px 14px; border-top: 1px solid var(--hairline-soft); color: var(--ink-two); }
    .ways { display: flex; gap: 16px; margin-left: auto; white-space: nowrap; }
  `,
})
export class FoundPanel {
  private readonly api = inject(Api);
  readonly opened = output<string>();
  /** One that a newer version wrote is looked at. */
  readonly seen = output<NewerView>();
  readonly found = signal<readonly OlderView[]>([]);
  protected readonly problem = signal('');

  constructor() {
    // What is of the version of now comes in by a drop, like everything else.
    this.api.call('foundOnShelf').subscribe({
      next: ({ found }) => this.found.set(found.filter(({ version }) => version < 3)),
      error: () => undefined,
    });
  }

  protected pass(path: string): void {
    this.found.update((all) => all.filter((one) => one.path !== path));
  }

  protected look(path: string): void {
    this.api.call('newerOnShelf', {}, { path }).subscribe({
      next: (view) => this.seen.emit(view),
      error: (error: Error) => this.problem.set(error.message),
    });
  }

  protected open(path: string): void {
    this.api.call('openFromShelf', {}, { path }).subscribe({
      next: ({ id }) => this.opened.emit(id),
      error: (error: Error) => this.problem.set(error.message),
    });
  }
}
