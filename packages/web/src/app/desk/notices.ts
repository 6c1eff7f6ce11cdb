import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { NoticeView } from '@inkwell-twin/api';
import { Api } from '../services/api.service';

/** What a person should know about masters until it is mended or closed. */
@Component({
  selector: 'twin-notices',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (one of notices(); track one.id) {
      <div role="alert">
        <i class="pi pi-exclamation-circle" aria-hidden="true"></i>
        <span><a [routerLink]="['/masters', one.master]"><strong>{{ one.title }}</strong></a> {{ one.message }}</span>
        <span class="ways">
          @if (one.recipe; as recipe) {
            <button type="button" class="link" (click)="again(recipe)">Derive again</button>
          }
          <button type="button" class="link" (click)="archive.emit(one.master)">Archive the master</button>
          <button type="button" class="link" (click)="close(one.id)">Close</button>
        </span>
      </div>
    }
  `,
  styles: `
    div { display: flex; align-items: baseline; gap: 10px; padding: 8px 14px; border-top: 1px solid var(--hairline-soft); }
    .ways { display: flex; gap: 16px; margin-left: auto; white-space: nowrap; }
  `,
})
export class Notices {
  private readonly api = inject(Api);
  readonly notices = input.required<readonly NoticeView[]>();
  readonly archive = output<string>();
  readonly changed = output<void>();
  readonly failed = output<string>();

  protected again(recipe: string): void {
    this.api.call('deriveRecipe', { id: recipe }).subscribe({
      next: () => this.changed.emit(),
      error: (error: Error) => this.failed.emit(error.message),
    });
  }

  protected close(id: string): void {
    this.api.call('dismiss', { id }).subscribe({
      next: () => this.changed.emit(),
      error: (error: Error) => this.failed.emit(error.message),
    });
  }
}
