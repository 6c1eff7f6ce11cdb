import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { Attention, VerdictName } from '@inkwell-twin/api';
import { Button } from 'primeng/button';
import { VerdictMark } from '../shared/verdict-mark';
import { needsOf } from './needs';

/** What needs someone today, in one line: how many copies of each trouble, and the two ways to go about it. */
@Component({
  selector: 'twin-today',
  imports: [Button, RouterLink, VerdictMark],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section aria-label="What needs someone today">
      <strong>Today</strong>
      @for (need of needs(); track need.verdict) {
        <button type="button" (click)="show.emit(need.verdict)" [title]="need.sentence + ' Show only masters with such copies.'">
          <twin-verdict-mark [verdict]="need.verdict" [width]="24" /> {{ need.copies }} {{ need.verdict }}
        </button>
      }
      <ng-content />
      <span class="gap"></span>
      @if (needs()[0]; as first) {
        <a [routerLink]="['/masters', first.master]" [queryParams]="{ copy: first.copy }">Settle one by one</a>
      }
      @if (behind(); as count) {
        <p-button
          [label]="'Derive all behind (' + count + ')'"
          severity="secondary"
          [outlined]="true"
          [disabled]="busy()"
          (onClick)="deriveBehind.emit()"
        />
      }
    </section>
  `,
  styles: `
    section { display: flex; flex-wrap: wrap; align-items: center; gap: 8px 20px; min-height: 52px; padding: 8px 14px; margin-bottom: 14px; border: 1px solid var(--hairline); border-radius: 8px; background: var(--raised); }
    button { display: inline-flex; align-items: center; gap: 6px; padding: 2px 0; border: 0; background: none; color: var(--ink); font: inherit; cursor: pointer; }
    button:hover { text-decoration: underline; }
    .gap { flex: 1; }
    a { font-weight: 600; }
  `,
})
export class Today {
  readonly attention = input.required<readonly Attention[]>();
  readonly busy = input(false);
  readonly show = output<VerdictName>();
  readonly deriveBehind = output<void>();

  protected readonly needs = computed(() => needsOf(this.attention()));
  protected readonly behind = computed(() => this.attention().find(({ verdict }) => verdict === 'behind')?.copies ?? 0);
}
