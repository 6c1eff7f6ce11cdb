import { ChangeDetectionStrategy, Component, type OnInit, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { DeskRow } from '@inkwell-twin/api';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Api } from '../services/api.service';
import { counted } from '../shared/words';

const words = (text: string): string[] =>
  text
    .split(/[,;]/)
    .map((one) => one.trim())
    .filter(Boolean);

/** Says something of one master or of many at once: each gets it as a revision of its own. */
@Component({
  selector: 'twin-describe-form',
  imports: [Button, FormsModule, InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="keep()" aria-label="Describe">
      <label>Keywords <input pInputText name="add" [(ngModel)]="add" maxlength="600" placeholder="Lantern Fen, trail 2" /></label>
      @if (shared().length) {
        <span class="shared">
          @for (one of shared(); track one.word) {
            <button type="button" (click)="toggle(one.word)" [class.off]="off().has(one.word)" [title]="off().has(one.word) ? 'Leave it' : 'Take it off'">
              {{ one.word }}@if (rows().length > 1) { <small>{{ one.count }}</small> } <i class="pi" [class.pi-times]="!off().has(one.word)" [class.pi-undo]="off().has(one.word)" aria-hidden="true"></i>
            </button>
          }
        </span>
      }
      <label>Caption <input pInputText name="caption" [(ngModel)]="caption" maxlength="5000" placeholder="left as it is" /></label>
      <label>Rights <input pInputText name="rights" [(ngModel)]="rights" maxlength="1000" placeholder="left as they are" /></label>
      <label>Owner <input pInputText name="owner" [(ngModel)]="owner" maxlength="200" placeholder="left as it is" /></label>
      <span class="acts">
        <p-button type="submit" [label]="rows().length > 1 ? 'Say it of ' + rows().length : 'Say it'" [disabled]="busy()" />
        <button type="button" class="link" (click)="closed.emit()">Not now</button>
      </span>
      <p [attr.role]="problem() ? 'alert' : null">{{ problem() || 'Becomes the next revision of ' + (rows().length > 1 ? 'each of ' + counted(rows().length, 'master') + ' that it changes' : 'this master') + '. Copies that carry it are outdated by that.' }}</p>
    </form>
  `,
  styles: `
    form { display: flex; flex-wrap: wrap; align-items: center; gap: 8px 14px; padding: 10px 14px; border-top: 1px solid var(--hairline-soft); background: var(--raised); }
    label { display: inline-flex; align-items: center; gap: 8px; font-weight: 600; }
    input[pInputText] { width: 200px; }
    .shared { display: inline-flex; flex-wrap: wrap; gap: 6px; }
    .shared button { border: 1px solid var(--hairline); border-radius: 4px; background: var(--sheet); color: var(--ink); font: inherit; font-size: 12.5px; padding: 2px 7px; cursor: pointer; }
    .shared .off { text-decoration: line-through; color: var(--ink-three); }
    .shared .pi { font-size: 9px; }
    small { color: var(--ink-three); }
    .acts { display: inline-flex; gap: 14px; align-items: center; margin-left: auto; }
    p { flex: 1 0 100%; margin: 0; color: var(--ink-two); }
  `,
})
export class DescribeForm implements OnInit {
  private readonly api = inject(Api);
  readonly rows = input.required<readonly DeskRow[]>();
  readonly said = output<void>();
  readonly closed = output<void>();
  protected readonly counted = counted;
  protected readonly busy = signal(false);
  protected readonly problem = signal('');
  protected readonly shared = signal<readonly { word: string; count: number }[]>([]);
  protected readonly off = signal<ReadonlySet<string>>(new Set());
  protected add = '';
  protected caption = '';
  protected rights = '';
  protected owner = '';

  ngOnInit(): void {
    const counts = new Map<string, number>();
    for (const word of this.rows().flatMap(({ keywords }) => keywords)) counts.set(word, (counts.get(word) ?? 0) + 1);
    this.shared.set([...counts].map(([word, count]) => ({ word, count })));
  }

  protected toggle(word: string): void {
    this.off.update((off) => {
      const next = new Set(off);
      if (!next.delete(word)) next.add(word);
      return next;
    });
  }

  protected keep(): void {
    const text = (value: string): string | undefined => value.trim() || undefined;
    const [caption, rights, owner] = [text(this.caption), text(this.rights), text(this.owner)];
    const body = {
      masters: this.rows().map(({ id }) => id),
      add: words(this.add),
      remove: [...this.off()],
      ...(caption ? { caption } : {}),
      ...(rights ? { rights } : {}),
      ...(owner ? { owner } : {}),
    };
    if (!body.add.length && !body.remove.length && !caption && !rights && !owner)
      return this.problem.set('Nothing is said yet: write a keyword, a caption, rights or an owner.');
    this.busy.set(true);
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
