import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Checkbox } from 'primeng/checkbox';
import type { CopyView, DeskRow, VerdictName } from '@inkwell-twin/api';
import { MenuButton } from '../shared/menu-button';
import { Thread } from '../shared/thread';
import { VerdictMark } from '../shared/verdict-mark';
import { counted } from '../shared/words';
import { DeleteForm } from './delete-form';
import { DescribeForm } from './describe-form';
import { PlaceForm } from './place-form';
import { TemplateForm } from './template-form';

const VERDICTS: readonly VerdictName[] = [
  'in step',
  'accepted',
  'behind',
  'touched',
  'crossed',
  'gone',
  'unreadable',
  'not checked',
];
/** What can be done with a master from the Desk. */
const ACTS = [
  { value: 'place', label: 'Move or rename …' },
  { value: 'describe', label: 'Describe …' },
  { value: 'template', label: 'Make a template …' },
  { value: 'aside', label: 'Archive' },
  { value: 'delete', label: 'Delete …' },
] as const;
type Act = (typeof ACTS)[number]['value'];

/** What becomes of a master: out of the way, back, or deleted for good. */
export type Fate = 'setAside' | 'bringBack' | 'deleteMaster' | 'throwAway';

/** One master on the Desk, its thread, how its copies stand, and what can be done with it. */
@Component({
  selector: 'twin-desk-row',
  imports: [
    Checkbox,
    DeleteForm,
    DescribeForm,
    FormsModule,
    MenuButton,
    PlaceForm,
    RouterLink,
    TemplateForm,
    Thread,
    VerdictMark,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '[class.dense]': 'dense()', '[class.choosing]': 'choosing()' },
  templateUrl: './row.html',
  styleUrl: './row.css',
})
export class Row {
  readonly row = input.required<DeskRow>();
  /** Whether many rows are to fit on a screen. */
  readonly dense = input(false);
  /** Whether rows are being chosen, and this one is. */
  readonly choosing = input(false);
  readonly chosen = input(false);
  /** Whether it is archived or deleted. */
  readonly away = input(false);
  readonly choose = output<void>();
  readonly keyword = output<string>();
  /** A copy's id, when its bar is clicked. */
  readonly opened = output<string>();
  readonly fate = output<Fate>();
  /** Something of it was changed: the Desk is asked for anew. */
  readonly changed = output<void>();

  protected readonly acts = ACTS;
  protected readonly acting = signal<Exclude<Act, 'aside'> | null>(null);
  /** Whether it is asked once more before it goes for good. */
  protected readonly deleting = signal(false);
  protected readonly counted = counted;
  protected readonly counts = computed(() =>
    VERDICTS.map((verdict) => ({
      verdict,
      count: this.row().copies.filter((copy: CopyView) => copy.verdict === verdict).length,
    })).filter(({ count }) => count),
  );
  /** What else there is to know of it, in a few words. */
  protected readonly remarks = computed(() => {
    const { others, description } = this.row();
    const states = { pending: 'description not written out', gone: 'file of its description gone' } as const;
    return [
      ...(others.length ? [`${others.join(', ')}: a draft too`] : []),
      ...(description ? [description in states ? states[description as 'gone'] : 'description changed outside'] : []),
    ];
  });

  protected act(act: Act): void {
    if (act === 'aside') this.fate.emit('setAside');
    else this.acting.set(act);
  }

  protected done(): void {
    this.acting.set(null);
    this.changed.emit();
  }
}
