import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { WorkView } from '@inkwell-twin/api';
import { Popover } from 'primeng/popover';
import { ProgressBar } from 'primeng/progressbar';
import { AtWork } from '../services/at-work.service';

const DOING: Readonly<Record<WorkView['kind'], string>> = {
  derive: 'Derive',
  series: 'Derive',
  check: 'Check',
  stand: 'Look through',
  orders: 'Carry out standing orders',
  file: 'Write the file of',
  picture: 'Draw the picture of',
};

/** Jobs that copies come of. */
const COPIES: ReadonlySet<WorkView['kind']> = new Set(['derive', 'series']);

/** What is at work, where anything is: how much, how far, and a way to stop each. */
@Component({
  selector: 'twin-at-work',
  imports: [Popover, ProgressBar, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (work.demo() || work.first()) {
      <button type="button" class="pill" (click)="list.toggle($event)" aria-haspopup="dialog">
        @if (work.demo(); as demo) {
          loading the demo: {{ demo.done }} of {{ demo.total }}
        } @else if (work.first(); as first) {
          at work: {{ work.total() }} <span>{{ nameOf(first) }}{{ share(first) }}</span>
        }
      </button>
    }
    <p-popover #list appendTo="body">
      <section aria-label="At work">
        @if (work.demo(); as demo) {
          <div>
            <span>Masters of the demo come to the Desk: <strong>{{ demo.done }} of {{ demo.total }}</strong></span>
            <p-progressbar [value]="(100 * demo.done) / demo.total" [showValue]="false" />
          </div>
        }
        @for (one of work.jobs(); track one.job) {
          <div>
            <span
              >{{ doing(one) }} <strong>{{ nameOf(one) }}</strong>
              @if (isCopy(one)) {
                of <a [routerLink]="['/masters', one.master.id]">{{ one.master.title }}</a>
              }
              <small>{{ one.state === 'waiting' ? 'waits' : (work.progress().get(one.job)?.message ?? '') }}</small></span
            >
            <button type="button" class="link" (click)="work.stop(one.job, problem.set)" [attr.aria-label]="'Stop: ' + nameOf(one)">Stop</button>
            @if (one.state === 'running') {
              <p-progressbar
                [mode]="work.percent(one.job) === undefined ? 'indeterminate' : 'determinate'"
                [value]="work.percent(one.job) ?? 0"
                [showValue]="false"
              />
            }
          </div>
        } @empty {
          @if (!work.demo()) {
            <p>All done.</p>
          }
        }
        @if (work.total() > work.jobs().length) {
          <p>and {{ work.total() - work.jobs().length }} more</p>
        }
        @if (problem()) {
          <p role="alert">{{ problem() }}</p>
        }
      </section>
    </p-popover>
  `,
  styles: `
    :host { display: block; flex: 0 1 auto; min-width: 0; overflow: hidden; }
    .pill { display: block; max-width: min(300px, 100%); overflow: hidden; padding: 4px 11px; border: 1px solid var(--action); border-radius: 14px; background: var(--raised); color: var(--ink); font: inherit; font-size: 13px; text-overflow: ellipsis; white-space: nowrap; cursor: pointer; }
    .pill span, small, p { color: var(--ink-two); }
    @media (max-width: 1180px) { .pill span { display: none; } }
    section { display: grid; gap: 10px; width: 380px; max-height: 60vh; overflow: auto; }
    div { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 2px 12px; align-items: baseline; }
    small { display: block; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
    p-progressbar { grid-column: 1 / -1; height: 3px; }
  `,
})
export class AtWorkButton {
  protected readonly work = inject(AtWork);
  protected readonly problem = signal('');
  protected doing = ({ kind }: WorkView): string => DOING[kind];
  protected nameOf = ({ kind, label, master }: WorkView): string => (COPIES.has(kind) ? label : master.title);
  protected isCopy = ({ kind }: WorkView): boolean => COPIES.has(kind);
  protected share(one: WorkView): string {
    const percent = this.work.percent(one.job);
    return percent === undefined ? '' : `, ${percent} %`;
  }
}
