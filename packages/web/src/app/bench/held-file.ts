import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import type { HeldFile, VerdictName } from '@inkwell-twin/api';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { VerdictMark } from '../shared/verdict-mark';
import { durationInWords, timeInWords } from '../shared/words';

/** One file that a machine holds: of what it is, whether that is still right, what the machine says of it. */
@Component({
  selector: 'twin-held-file',
  imports: [Button, FormsModule, InputText, RouterLink, VerdictMark],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let it = file();
    <div class="head">
      @if (mark(); as verdict) { <twin-verdict-mark [verdict]="verdict" [width]="26" /> }
      <p>
        @if (it.copy; as copy) {
          <a [routerLink]="['/masters', copy.master]" [queryParams]="{ copy: copy.now }">{{ copy.title }}</a>, {{ copy.label }}, of r{{ copy.rev }}.
        }
        <strong>{{ stands() }}</strong>
        @if (it.copy?.why; as why) { <span class="why">{{ why }}.</span> }
      </p>
    </div>
    <p class="says">
      <code>{{ it.file }}</code>
      @if (it.says; as says) {
        @if (says.runs) { got whole at {{ time(says.time) }}; it would run {{ duration(says.seconds) }} }
        @else { got at {{ time(says.time) }}; <strong>it would stop</strong>@if (says.alarms[0]; as alarm) {, at {{ alarm.at }}: {{ alarm.words }}} }
      } @else { the machine has not said yet what it got }
      @if (it.sent; as sent) { · sent by {{ sent.by }}, {{ time(sent.at) }} }
    </p>
    @if (asking()) {
      <form (ngSubmit)="letRun(reason)">
        <label [for]="'reason-' + it.file">Why it is run all the same</label>
        <input pInputText [id]="'reason-' + it.file" name="reason" [(ngModel)]="reason" maxlength="500" autocomplete="off" />
        <p-button type="submit" size="small" label="Run it" [disabled]="!reason.trim()" />
        <button type="button" class="link" (click)="asking.set(false)">Not now</button>
      </form>
    } @else {
      <p class="acts">
        @if (it.says) {
          <button type="button" class="link" (click)="right() ? ran.emit('') : asking.set(true)">{{ right() ? 'Run it' : 'Run it all the same …' }}</button>
        }
        <button type="button" class="link" (click)="looked.emit()">{{ open() ? 'Close the look' : 'See what the machine does' }}</button>
        <button type="button" class="link" (click)="gone.emit()">Take it away</button>
      </p>
    }
  `,
  styles: `
    :host { display: block; padding: 8px 0; border-top: 1px solid var(--hairline-soft); }
    p { margin: 0; }
    .head { display: flex; align-items: flex-start; gap: 10px; }
    .says { padding: 2px 0 0 36px; color: var(--ink-two); font-size: 12.5px; overflow-wrap: anywhere; }
    code { font: 12px var(--mono); margin-right: 6px; color: var(--ink); }
    .why { margin-left: 5px; }
    .acts { display: flex; gap: 16px; padding-left: 36px; }
    form { display: flex; flex-wrap: wrap; align-items: center; gap: 6px 12px; padding: 6px 0 0 36px; }
    form input { flex: 1 1 200px; }
  `,
})
export class HeldFileRow {
  readonly file = input.required<HeldFile>();
  /** Somebody lets it run; with a reason, where one is needed. */
  readonly ran = output<string>();
  readonly gone = output<void>();
  /** It is looked at in its order just now; somebody wants that, or no longer. */
  readonly open = input(false);
  readonly looked = output<void>();
  private readonly name = computed(() => `${this.file().file} ${this.file().copy?.id ?? ''}`);
  protected readonly asking = linkedSignal({ source: this.name, computation: () => false });
  protected reason = '';
  protected readonly time = timeInWords;
  protected readonly duration = durationInWords;
  protected readonly right = computed(() => {
    const { other, copy } = this.file();
    return !other && (copy?.stands === 'in step' || copy?.stands === 'accepted');
  });
  protected letRun(reason: string): void {
    this.asking.set(false);
    this.reason = '';
    this.ran.emit(reason.trim());
  }

  protected readonly mark = computed((): VerdictName | null => {
    const { other, copy } = this.file();
    if (other) return 'touched';
    return copy && (copy.stands === 'withdrawn' ? 'gone' : copy.stands);
  });
  protected readonly stands = computed(() => {
    const { other, copy } = this.file();
    if (other) return 'These are not the bytes that were sent.';
    if (!copy) return 'Nobody here knows what this is.';
    if (copy.stands === 'behind') return `Behind: the master is at r${copy.head}.`;
    if (copy.stands === 'withdrawn') return 'The copy was withdrawn.';
    if (copy.stands === 'not checked') return 'A check of it is under way.';
    return copy.stands === 'accepted' ? 'Accepted as it is.' : 'In step: it says what the master says.';
  });
}
