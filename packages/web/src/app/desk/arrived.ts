import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { Identified } from '@inkwell-twin/api';
import { InputText } from 'primeng/inputtext';
import { ProgressBar } from 'primeng/progressbar';
import { VerdictMark } from '../shared/verdict-mark';
import { counted } from '../shared/words';
import { type Arrival, Arrivals } from './arrivals';
import { JobPanel } from '../bench/job-panel';
import { DroppedPanel } from './dropped-panel';
import { LookPanel } from './look-panel';
import { NewerPanel } from './newer-panel';

/** So many answers are shown in full; the rest are folded away. */
const SHOWN = 4;

/** What became of the files that were brought, what is asked about one, and which is being read. */
@Component({
  selector: 'twin-arrived',
  imports: [DroppedPanel, InputText, JobPanel, LookPanel, NewerPanel, ProgressBar, RouterLink, VerdictMark],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './arrived.html',
  styleUrl: './arrived.css',
})
export class Arrived {
  protected readonly arrivals = inject(Arrivals);
  protected readonly counted = counted;
  protected readonly shown = computed(() => this.arrivals.arrived().slice(0, SHOWN));
  protected readonly folded = computed(() => this.arrivals.arrived().slice(SHOWN));
  protected readonly brought = ({ kind }: Arrival): boolean => kind === 'brought';
  protected readonly known = ({ kind }: Arrival): boolean => kind === 'known';
  protected readonly canHold = ({ kind, verdict }: Identified): boolean =>
    kind === 'alike' || (kind === 'copy' && verdict !== null && verdict !== 'unreadable');
  /** One that is as it was written has nothing to bring. */
  protected readonly canAttach = ({ kind, copy, verdict }: Identified): boolean =>
    copy !== null && (kind === 'alike' || (kind === 'copy' && (verdict === 'touched' || verdict === 'crossed')));
  /** What became of those that are folded away, in a sentence. */
  protected readonly rest = computed(() => {
    const count = (kind: Arrival['kind']): number => this.folded().filter((one) => one.kind === kind).length;
    const parts = [
      [count('brought'), 'came in as masters'],
      [count('known'), 'are known'],
      [count('attached'), 'stand for a copy'],
      [count('failed'), 'could not be read'],
    ] as const;
    return parts
      .filter(([some]) => some)
      .map(([some, words]) => `${some} ${words}`)
      .join(', ');
  });
}
