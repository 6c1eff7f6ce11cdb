import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { ProgressBar } from 'primeng/progressbar';
import { TopBar } from '../shared/top-bar';
import { counted } from '../shared/words';
import { Machines } from './bench.service';
import { MachineCard } from './machine-card';

/** The machines as they stand in the workshop: what lies on each, and whether that is still right. */
@Component({
  selector: 'twin-bench-page',
  imports: [MachineCard, ProgressBar, TopBar],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <twin-top-bar />
    <main>
      <header>
        <h1>Bench</h1>
        @if (view()) { <p role="status">{{ sentence() }}</p> }
      </header>
      <div class="floor">
        @for (one of machines(); track one.id) { <twin-machine-card [machine]="one" [attr.data-machine]="one.id" [class.busy]="one.holds.length" /> }
      </div>
      @if (!view()) { <p-progressbar mode="indeterminate" /> }
    </main>
  `,
  styles: `
    :host { display: flex; flex-direction: column; min-height: 100vh; background: var(--stage); }
    main { display: flex; flex-direction: column; gap: 12px; width: 100%; max-width: 1240px; margin: 0 auto; padding: 18px 20px; }
    .floor { display: grid; grid-template-columns: repeat(auto-fit, minmax(min(100%, 360px), 1fr)); gap: 12px; align-items: stretch; }
    .busy { grid-column: 1 / -1; }
    h1 { margin: 0 0 4px; font-size: 22px; }
    p { max-width: 74ch; margin: 0; color: var(--ink-two); }
    p-progressbar { display: block; height: 3px; }
  `,
})
export class BenchPage {
  protected readonly view = toSignal(inject(Machines).view);
  /** Those that hold something stand in front. */
  protected readonly machines = computed(() =>
    [...(this.view()?.machines ?? [])].sort((a, b) => Number(b.holds.length > 0) - Number(a.holds.length > 0)),
  );
  protected readonly sentence = computed(() => {
    const all = (this.view()?.machines ?? []).flatMap(({ holds }) => holds);
    const wrong = all.filter(({ other, copy }) => other || !copy || copy.stands === 'behind' || copy.stands === 'withdrawn');
    if (!all.length) return 'No machine holds anything. A copy for one is sent from where it stands: Match, Machine.';
    if (!wrong.length) return `${counted(all.length, 'file')} on the machines, and each says what its master says.`;
    return `${counted(all.length, 'file')} on the machines; ${counted(wrong.length, 'is', 'are')} not what the masters say now.`;
  });
}
