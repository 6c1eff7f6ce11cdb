import { NgComponentOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, type Type, effect, input, signal } from '@angular/core';
import { LostPart } from './lost-part';

/** A component that is fetched when it is first shown; says so until it is there, and where it can't be had. */
@Component({
  selector: 'twin-late',
  imports: [LostPart, NgComponentOutlet],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (type(); as one) {
      <ng-container [ngComponentOutlet]="one" [ngComponentOutletInputs]="inputs()" />
    } @else if (isLost()) {
      <twin-lost-part />
    } @else if (words()) {
      <p class="waiting" role="status">{{ words() }}</p>
    }
  `,
  styles: `
    :host { display: contents; }
    .waiting { padding: 24px; color: var(--ink-two); }
  `,
})
export class Late {
  /** Fetches it. Another one is another `twin-late`. */
  readonly load = input.required<() => Promise<Type<unknown>>>();
  readonly inputs = input<Record<string, unknown>>({});
  /** What is said until it is there. */
  readonly words = input('');
  protected readonly type = signal<Type<unknown> | null>(null);
  protected readonly isLost = signal(false);

  constructor() {
    effect(() => {
      this.load()().then(
        (type) => this.type.set(type),
        () => this.isLost.set(true),
      );
    });
  }
}
