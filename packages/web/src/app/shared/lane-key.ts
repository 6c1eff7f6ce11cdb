import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

/** The key that gives a lane its room: it can be pressed here, too, and says what it does. */
@Component({
  selector: 'twin-lane-key',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button type="button" (click)="pressed.emit()" [title]="does() + ' (key ' + key() + ')'" [attr.aria-label]="does()">
      <kbd>{{ key() }}</kbd>
    </button>
  `,
  styles: `
    :host { display: inline-flex; flex: none; }
    button { padding: 4px; margin: -4px; border: 0; background: none; cursor: pointer; }
    kbd { display: inline-grid; place-items: center; width: 18px; height: 18px; border: 1px solid var(--hairline); border-radius: 4px; background: var(--raised); color: var(--ink-three); font: 11px var(--mono); }
    button:hover kbd { border-color: var(--action); color: var(--action); }
  `,
})
export class LaneKey {
  readonly key = input.required<string>();
  /** What it does, in words. */
  readonly does = input.required<string>();
  readonly pressed = output<void>();
}
