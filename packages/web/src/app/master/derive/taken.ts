import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { StandingFile } from '@inkwell-twin/api';
import { Choice } from '../../shared/choice';
import { VerdictMark } from '../../shared/verdict-mark';
import { sizeInWords, timeInWords } from '../../shared/words';

/** What becomes of a copy whose name is taken. */
export type TakenWay = 'both' | 'replace';

/** Shows what stands under the name that a copy would get, and asks what is to become of it. */
@Component({
  selector: 'twin-taken',
  imports: [Choice, VerdictMark],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (standing().copy?.picture; as picture) {
      <img [src]="picture" alt="" />
    }
    <p role="status">
      <strong>{{ wanted() }}</strong> is taken.
      @if (standing().copy; as copy) {
        There stands the copy “{{ copy.label }}” of r{{ copy.rev }} <twin-verdict-mark [verdict]="copy.verdict" />, {{ about() }}.
      } @else {
        A file that was not written here stands there, {{ about() }}.
      }
    </p>
    <div>
      <twin-choice label="The name is taken" look="chips" [choices]="ways()" [value]="way()" (chosen)="chosen.emit($event)" />
      <button type="button" class="link" (click)="other.emit()">Another name</button>
    </div>
    <small>{{ consequence() }}</small>
  `,
  styles: `
    :host { display: grid; grid-template-columns: auto minmax(0, 1fr); gap: 4px 12px; align-items: center; margin-bottom: 10px; padding: 10px 12px; border: 1px solid var(--hairline); border-left: 3px solid var(--action); border-radius: 6px; background: var(--raised); }
    img { grid-row: span 3; width: 84px; height: 64px; object-fit: contain; border: 1px solid var(--hairline-soft); background: #fff; }
    p, div, small { grid-column: 2; }
    p { margin: 0; overflow-wrap: anywhere; }
    p twin-verdict-mark { vertical-align: -4px; }
    div { display: flex; flex-wrap: wrap; gap: 4px 14px; align-items: center; }
    div twin-choice { margin: 0; }
    small { color: var(--ink-two); }
  `,
})
export class Taken {
  readonly standing = input.required<StandingFile>();
  readonly wanted = input.required<string>();
  /** The name that it gets beside what stands there. */
  readonly free = input.required<string>();
  readonly way = input.required<TakenWay>();
  readonly chosen = output<TakenWay>();
  /** Somebody would rather name it otherwise. */
  readonly other = output<void>();

  protected readonly about = computed(() => {
    const { size, time } = this.standing();
    return time ? `${sizeInWords(size)}, changed ${timeInWords(time)}` : sizeInWords(size);
  });
  protected readonly ways = computed(() => [
    { value: 'both' as const, label: `Keep both, this one as ${this.free()}` },
    { value: 'replace' as const, label: 'Replace it' },
  ]);
  protected readonly consequence = computed(() => {
    if (this.way() === 'both') return 'What stands there stays as it is.';
    return this.standing().copy
      ? 'That copy is withdrawn. Its file goes, unless somebody changed it: then it gets another name.'
      : 'That file gets another name, and is kept.';
  });
}
