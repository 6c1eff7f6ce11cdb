import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { VerdictName } from '@inkwell-twin/api';

const COLOURS: Record<VerdictName, string> = {
  'in step': 'var(--in-step)',
  accepted: 'var(--in-step)',
  behind: 'var(--behind)',
  touched: 'var(--touched)',
  crossed: 'var(--crossed)',
  gone: 'var(--gone)',
  unreadable: 'var(--unreadable)',
  'not checked': 'var(--ink-three)',
};

const DROP = 'M6 1.5C4.2 4.6 2 6.6 2 9a4 4 0 0 0 8 0C10 6.600 7.800 4.600 6 1.500z';
/** The same drop with a bite out of its side. */
const NOTCHED = 'M6 1.5C4.2 4.6 2 6.6 2 9a4 4 0 0 0 7.300 2.250L6.800 8.700l3.100-.600C9.600 5.800 7.600 4.300 6 1.500z';

export const colourOfVerdict = (verdict: VerdictName): string => COLOURS[verdict];

/** Two drops, the master's and the copy's: shape tells how they stand to each other, colour helps. */
@Component({
  selector: 'twin-verdict-mark',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      viewBox="1 0 22 17"
      [attr.width]="width()"
      [attr.height]="width() * 0.77"
      role="img"
      [attr.aria-label]="label()"
      [style.color]="colour()"
    >
      <title>{{ label() }}</title>
      <g transform="translate(0 1)"><path [attr.d]="drop" fill="currentColor" /></g>
      <g [attr.transform]="lowered() ? 'translate(11.5 4)' : 'translate(11.5 1)'">
        @switch (verdict()) {
          @case ('in step') {
            <path [attr.d]="drop" fill="currentColor" />
          }
          @case ('behind') {
            <path
              [attr.d]="drop"
              fill="none"
              stroke="currentColor"
              stroke-width="1.500"
              [attr.stroke-dasharray]="pending() ? '2 1.300' : null"
            />
          }
          @case ('touched') {
            <path [attr.d]="notched" fill="currentColor" />
          }
          @case ('crossed') {
            <path [attr.d]="notched" fill="currentColor" />
          }
          @case ('gone') {
            <path
              [attr.d]="drop"
              fill="none"
              stroke="currentColor"
              stroke-width="1.300"
              stroke-dasharray="1.200 1.500"
            />
          }
          @case ('unreadable') {
            <path [attr.d]="drop" fill="none" stroke="currentColor" stroke-width="1.300" />
            <path d="M1 12.500 11 2.500" stroke="currentColor" stroke-width="1.600" />
          }
          @case ('accepted') {
            <path [attr.d]="drop" fill="currentColor" transform="translate(1.500 2.200) scale(.75)" />
            <circle cx="6" cy="8.200" r="5.600" fill="none" stroke="currentColor" stroke-width="1.200" />
          }
          @default {
            <path [attr.d]="drop" fill="none" stroke="currentColor" stroke-width="1" opacity=".6" />
          }
        }
      </g>
    </svg>
  `,
  styles: ':host { display: inline-flex; flex: none; } svg { display: block; overflow: visible; }',
  host: { '[attr.data-verdict]': 'verdict()' },
})
export class VerdictMark {
  readonly verdict = input.required<VerdictName>();
  readonly width = input(25);
  /** True while a draft would bring this about. */
  readonly pending = input(false);

  protected readonly drop = DROP;
  protected readonly notched = NOTCHED;
  protected readonly lowered = computed(() => this.verdict() === 'behind' || this.verdict() === 'crossed');
  protected readonly colour = computed(() => colourOfVerdict(this.verdict()));
  protected readonly label = computed(() => (this.pending() ? 'would fall behind' : this.verdict()));
}
