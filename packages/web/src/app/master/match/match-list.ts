import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { Difference } from '@inkwell-twin/api';
import { formatAmount } from '@inkwell-twin/core/web';
import type { Compared } from './compared';

/** Where a copy differs, one line each; or that all of it was read back and says what it should. */
@Component({
  selector: 'twin-match-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let it = compared();
    @if (it.match(); as found) {
      @if (found.differences.length) {
        <table>
          <thead>
            <tr>
              <th scope="col">Difference</th>
              <th scope="col">What</th>
              <th scope="col">Amount</th>
            </tr>
          </thead>
          <tbody>
            @for (one of found.differences.slice(0, 200); track $index) {
              <tr [class.on]="it.chosen() === $index" (click)="pick.emit($index)">
                <td><button type="button" class="bare" [attr.aria-pressed]="it.chosen() === $index">{{ one.kind }}</button></td>
                <td [attr.colspan]="amount(one) ? 1 : 2">
                  <span class="what" [title]="one.what">{{ one.what }}</span>
                  @if (one.master !== null) {
                    <span class="sides">master <b>{{ one.master }}</b>, copy <b class="copy">{{ one.copy }}</b></span>
                  }
                </td>
                @if (amount(one); as words) { <td class="mono">{{ words }}</td> }
              </tr>
            }
          </tbody>
        </table>
        @if (found.differences.length > 200) { <p class="more">and {{ found.differences.length - 200 }} more</p> }
      } @else if (found.sides) {
        <p class="same">{{ it.equalInWords() }}</p>
      }
    }
  `,
  styles: `
    :host { display: block; }
    table { width: 100%; border-collapse: collapse; table-layout: fixed; }
    th { padding: 3px 14px; text-align: left; font-weight: 400; color: var(--ink-two); border-bottom: 1px solid var(--hairline-soft); }
    th:nth-child(1) { width: 29%; }
    th:nth-child(3) { width: 25%; }
    td { padding: 5px 14px; border-bottom: 1px solid var(--hairline-soft); vertical-align: top; cursor: pointer; }
    .what { display: block; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
    .sides { display: block; color: var(--ink-two); font-size: 12.5px; overflow-wrap: anywhere; }
    .sides b { color: var(--ink); font-weight: 500; }
    .sides .copy { color: var(--difference); }
    td:first-child button::first-letter { text-transform: uppercase; }
    td.mono, th:last-child { text-align: right; white-space: nowrap; }
    tr:hover td { background: var(--sheet); }
    tr.on td { background: var(--difference-soft); }
    .same, .more { padding: 4px 14px 10px; color: var(--ink-two); }
  `,
})
export class MatchList {
  readonly compared = input.required<Compared>();
  readonly pick = output<number>();
  protected amount = ({ amount, unit }: Difference): string => (amount === null ? '' : formatAmount(amount, unit));
}
