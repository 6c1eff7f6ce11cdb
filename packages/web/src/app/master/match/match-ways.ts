import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { SelectButton } from 'primeng/selectbutton';
import type { Compared } from './compared';

/** The ways to look at a comparison, for the head of whatever shows it. */
@Component({
  selector: 'twin-match-ways',
  imports: [FormsModule, SelectButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (compared().sides()) {
      <p-selectbutton
        [options]="compared().ways()"
        [ngModel]="compared().way()"
        (ngModelChange)="compared().way.set($event)"
        optionLabel="label"
        optionValue="value"
        [allowEmpty]="false"
        size="small"
        aria-label="Ways to look"
      />
    }
  `,
  styles: `
    :host { flex: none; }
  `,
})
export class MatchWays {
  readonly compared = input.required<Compared>();
}
