import { ChangeDetectionStrategy, Component, computed, input, linkedSignal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { RadioButton } from 'primeng/radiobutton';
import type { Meeting } from '../../services/draft-journal';
import { counted } from '../../shared/words';

type Choice = 'mine' | 'theirs';

/** Two sides changed the same: both are shown, and one says for each place which counts. Nothing is chosen unasked. */
@Component({
  selector: 'twin-meeting-panel',
  imports: [Button, FormsModule, RadioButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section role="alert" aria-label="Changes that meet">
      <p>
        <strong>{{ counted(meeting().clashes.length, 'place') }} changed on both sides.</strong> Everything else
        goes together. Say for each which counts:
      </p>
      <ul>
        @for (clash of meeting().clashes; track clash.key) {
          <li role="radiogroup" [attr.aria-label]="clash.what">
            <span class="what">{{ clash.what }}</span>
            @for (side of sides; track side) {
              <label [class.on]="choices().get(clash.key) === side"
                ><p-radiobutton
                  size="small"
                  [name]="clash.key"
                  [value]="side"
                  [ariaLabel]="words()[side] + ': ' + clash[side]"
                  [ngModel]="choices().get(clash.key)"
                  (ngModelChange)="choose(clash.key, side)"
                />
                <span class="side">{{ words()[side] }}</span>
                <code>{{ clash[side] }}</code></label
              >
            }
          </li>
        }
      </ul>
      <p-button label="Go on with these" [disabled]="open() > 0" (onClick)="meeting().settle(choices())" />
      @if (open()) {
        <span class="open">{{ counted(open(), 'place') }} still to be said</span>
      }
    </section>
  `,
  styles: `
    section { padding: 12px 20px 14px; border-bottom: 1px solid var(--hairline); background: var(--raised); }
    ul { list-style: none; margin: 8px 0 12px; padding: 0; max-height: 220px; overflow: auto; }
    li { display: grid; grid-template-columns: minmax(160px, 1fr) minmax(0, 1.4fr) minmax(0, 1.4fr); gap: 12px; padding: 5px 0; border-top: 1px solid var(--hairline-soft); align-items: baseline; }
    label { display: flex; gap: 8px; align-items: baseline; min-width: 0; cursor: pointer; }
    label code { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
    .what { font-weight: 600; }
    .side { color: var(--ink-two); white-space: nowrap; }
    .on .side { color: var(--ink); font-weight: 600; }
    .open { margin-left: 12px; color: var(--ink-two); }
  `,
})
export class MeetingPanel {
  readonly meeting = input.required<Meeting>();
  protected readonly sides: readonly Choice[] = ['mine', 'theirs'];
  protected readonly words = computed(() => this.meeting().sides ?? { mine: 'Yours', theirs: 'There now' });
  protected readonly counted = counted;
  protected readonly choices = linkedSignal<Meeting, ReadonlyMap<string, Choice>>({
    source: this.meeting,
    computation: () => new Map(),
  });
  protected readonly open = computed(() => this.meeting().clashes.filter(({ key }) => !this.choices().has(key)).length);

  protected choose(key: string, side: Choice): void {
    this.choices.update((choices) => new Map([...choices, [key, side]]));
  }
}
