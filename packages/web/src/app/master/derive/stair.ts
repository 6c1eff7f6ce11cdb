import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { AnswerOf } from '@inkwell-twin/api';
import { counted, sizeInWords } from '../../shared/words';

type Rung = AnswerOf<'carry'>['rungs'][number];

/** How high the lowest step is, and how much the highest is above it, pixels. */
const [LOW, RISE] = [58, 30];

/** The versions of a target as a stair from old to new: what each loses of this document, and how large it is. */
@Component({
  selector: 'twin-stair',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { role: 'radiogroup', 'aria-label': 'Version' },
  template: `
    @for (step of steps(); track step.version) {
      <button
        type="button"
        role="radio"
        [attr.aria-checked]="step.version === chosen()"
        [class.on]="step.version === chosen()"
        [style.height.px]="step.height"
        (click)="picked.emit(step.version)"
      >
        <strong>{{ step.version }}</strong>
        <span>{{ step.loss }}</span>
        @if (step.bytes !== null) {
          <code>{{ size(step.bytes) }}</code>
        }
      </button>
    }
  `,
  styles: `
    :host { display: flex; flex-wrap: wrap; align-items: flex-end; gap: 8px; margin: 14px 0 0; }
    button { display: flex; flex: 1 1 104px; flex-direction: column; align-items: flex-start; min-width: 0; padding: 5px 9px; border: 1px solid var(--hairline); border-radius: 2px 2px 0 0; background: var(--raised); color: var(--ink); font: inherit; text-align: left; cursor: pointer; overflow: hidden; }
    button:hover { border-color: var(--action); }
    .on { border-color: var(--action); background: var(--action-soft); }
    span { color: var(--ink-two); font-size: 12px; line-height: 1.3; }
    code { color: var(--ink-two); font-size: 11.5px; }
  `,
})
export class Stair {
  readonly rungs = input.required<readonly Rung[]>();
  readonly chosen = input.required<string>();
  readonly picked = output<string>();
  protected readonly size = sizeInWords;

  protected readonly steps = computed(() => {
    const rungs = this.rungs();
    return rungs.map(({ version, bytes, report }, at) => ({
      version,
      bytes,
      height: LOW + Math.round((RISE * at) / Math.max(1, rungs.length - 1)) + 20,
      loss: lossOf(report.lines),
    }));
  });
}

/** What a version loses, shortly: what it leaves out before what it only comes near. */
function lossOf(lines: Rung['report']['lines']): string {
  const count = (outcome: string): number =>
    lines.filter((one) => one.outcome === outcome).reduce((sum, one) => sum + Math.max(1, one.count), 0);
  const [out, near] = [count('left out'), count('approximated')];
  if (out) return `${counted(out, 'object')} left out`;
  return near ? `${counted(near, 'object')} approximated` : 'keeps all that matters';
}
