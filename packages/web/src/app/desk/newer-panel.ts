import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import type { NewerView } from '@inkwell-twin/api';

/** A master that a newer version wrote: to be looked at only, with what is not shown of it and whom to ask. */
@Component({
  selector: 'twin-newer-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section [attr.aria-label]="'Looking at ' + view().title">
      <header>
        <div>
          <h2>{{ view().title }}, to look at only</h2>
          <p>
            It is of native version {{ view().version }}, r{{ view().rev }}, written by {{ view().writer }}. To work with it, ask
            <strong>{{ view().ask || 'its sender' }}</strong> for native version 3 of it. Nothing of it is kept or changed here.
          </p>
        </div>
        <button type="button" class="link" (click)="closed.emit()">Close</button>
      </header>
      <div class="two">
        <div class="pictures">
          @if (view().pictures.length > 1) {
            <p class="tabs">
              @for (one of view().pictures; track $index) {
                <button type="button" class="link" [class.on]="at() === $index" [attr.aria-pressed]="at() === $index" (click)="at.set($index)">{{ one.name }}</button>
              }
            </p>
          }
          @if (shown(); as one) {
            <img [src]="'data:image/png;base64,' + one.png" [alt]="one.name + ', as far as it can be shown'" />
          } @else {
            <p class="none">None of it can be drawn here.</p>
          }
        </div>
        <div class="not">
          <h3>{{ view().notShown.length ? 'Not shown' : 'All that was found in it is shown.' }}</h3>
          <ul>
            @for (one of view().notShown; track one.kind) {
              <li>{{ one.kind }}@if (one.count > 1) { <b>{{ one.count }} times</b> }</li>
            }
          </ul>
        </div>
      </div>
    </section>
  `,
  styles: `
    section { margin-bottom: 14px; padding: 14px 18px; border: 1px solid var(--hairline); border-left: 3px solid var(--ink); border-radius: 8px; background: var(--raised); }
    header { display: flex; justify-content: space-between; gap: 18px; }
    h2 { margin: 0; font-size: 16px; }
    h3 { margin: 0 0 4px; font-size: 13px; }
    p { margin: 2px 0 10px; color: var(--ink-two); max-width: 78ch; }
    .two { display: grid; grid-template-columns: minmax(0, 1fr) 280px; gap: 20px; }
    .pictures { min-width: 0; }
    img { max-width: 100%; max-height: 420px; border: 1px solid var(--hairline); background: var(--stage); }
    .tabs { display: flex; flex-wrap: wrap; gap: 4px 14px; }
    .tabs .on { color: var(--ink); border-bottom: 2px solid var(--ink); }
    ul { max-height: 380px; margin: 0; padding-left: 16px; overflow: auto; }
    li { overflow-wrap: anywhere; }
    b { font-weight: 500; color: var(--ink-two); }
  `,
})
export class NewerPanel {
  readonly view = input.required<NewerView>();
  readonly closed = output<void>();
  protected readonly at = signal(0);
  protected readonly shown = computed(() => this.view().pictures[this.at()] ?? this.view().pictures[0]);
}
