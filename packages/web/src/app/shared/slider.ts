import { ChangeDetectionStrategy, Component, DestroyRef, inject, input, linkedSignal, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Slider } from 'primeng/slider';

/** Milliseconds without another key after which a value that keys changed is meant. */
const REST = 400;

/** A number that is pulled along a line: said on the way, and once it is let go. Keys count as let go when they rest. */
@Component({
  selector: 'twin-slider',
  imports: [FormsModule, Slider],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p-slider
      [min]="least()"
      [max]="most()"
      [step]="step()"
      [ngModel]="held()"
      (onChange)="pulled($event.value ?? held(), $event.event)"
      (onSlideEnd)="letGo($event.value ?? held())"
      [disabled]="fixed()"
      [ariaLabel]="label()"
    />
  `,
  styles: `
    :host { display: block; min-width: 0; padding: 0 7px; }
  `,
})
export class SliderField {
  readonly label = input.required<string>();
  readonly value = input.required<number>();
  readonly least = input.required<number>();
  readonly most = input.required<number>();
  readonly step = input(1);
  readonly fixed = input(false);
  /** On the way. */
  readonly trying = output<number>();
  readonly chosen = output<number>();

  protected readonly held = linkedSignal(() => this.value());
  private rest: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    inject(DestroyRef).onDestroy(() => clearTimeout(this.rest));
  }

  protected pulled(value: number, event: Event): void {
    this.held.set(value);
    this.trying.emit(value);
    clearTimeout(this.rest);
    if (event instanceof KeyboardEvent) this.rest = setTimeout(() => this.letGo(value), REST);
  }

  protected letGo(value: number): void {
    clearTimeout(this.rest);
    if (value !== this.value()) this.chosen.emit(value);
  }
}
