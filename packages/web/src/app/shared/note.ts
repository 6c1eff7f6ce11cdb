import { ChangeDetectionStrategy, Component, input } from '@angular/core';

/** A few words that lie over what one looks at: what was done, or what can't be. */
@Component({
  selector: 'twin-note',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '<ng-content />',
  styles: `
    :host { position: absolute; top: 14px; left: 14px; max-width: 420px; padding: 8px 12px; border: 1px solid var(--hairline); border-radius: 6px; background: var(--raised); }
    :host(.foot) { top: auto; bottom: 14px; }
    :host([role='alert']) { left: auto; right: 14px; max-width: 320px; border-left: 3px solid var(--ink); }
  `,
  host: { '[attr.role]': "isProblem() ? 'alert' : 'status'", '[class.foot]': 'foot()' },
})
export class Note {
  readonly isProblem = input(false);
  /** It lies at the foot. */
  readonly foot = input(false);
}
