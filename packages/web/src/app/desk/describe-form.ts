import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import type { DeskRow } from '@inkwell-twin/api';
import type { Description } from '@inkwell-twin/core/web';
import { Api } from '../services/api.service';
import { DescribeFields } from '../shared/describe-fields';
import { counted } from '../shared/words';

/** Says something of one master or of many at once: each gets it as a revision of its own. */
@Component({
  selector: 'twin-describe-form',
  imports: [DescribeFields],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<twin-describe-fields [many]="words()" [owned]="true" [busy]="busy()" [note]="note()" [problem]="problem()" (say)="keep($event)" (closed)="closed.emit()" />`,
})
export class DescribeForm {
  private readonly api = inject(Api);
  readonly rows = input.required<readonly DeskRow[]>();
  readonly said = output<void>();
  readonly closed = output<void>();
  protected readonly busy = signal(false);
  protected readonly problem = signal('');
  protected readonly words = computed(() => this.rows().map(({ keywords }) => keywords));
  protected readonly note = computed(() => {
    const which = this.words().length > 1 ? `each of ${counted(this.words().length, 'master')} that it changes` : 'this master';
    return `Becomes the next revision of ${which}. Copies that carry it are outdated by that.`;
  });

  protected keep(what: Description): void {
    this.busy.set(true);
    this.problem.set('');
    const { add = [], remove = [], ...rest } = what;
    const body = { masters: this.rows().map(({ id }) => id), add: [...add], remove: [...remove], ...rest };
    this.api.call('describe', {}, body).subscribe({
      next: ({ failed }) => {
        this.busy.set(false);
        if (failed.length) this.problem.set(`${counted(failed.length, 'master')} could not be changed: ${failed[0]!.message}`);
        else this.said.emit();
      },
      error: (error: Error) => {
        this.busy.set(false);
        this.problem.set(error.message);
      },
    });
  }
}
