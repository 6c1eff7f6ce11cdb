import { ChangeDetectionStrategy, Component, type OnInit, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Description } from '@inkwell-twin/core/web';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';

const words = (text: string): string[] =>
  text
    .split(/[,;]/)
    .map((one) => one.trim())
    .filter(Boolean);

/** What is to be said of one thing or of many at once: words added and taken off, the rest replaced where it is given. */
@Component({
  selector: 'twin-describe-fields',
  imports: [Button, FormsModule, InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="keep()" aria-label="Describe">
      <label>Keywords <input pInputText name="add" [(ngModel)]="add" maxlength="600" placeholder="Lantern Fen, trail 2" /></label>
      @if (shared().length) {
        <span class="shared">
          @for (one of shared(); track one.word) {
            <button type="button" (click)="toggle(one.word)" [class.off]="off().has(one.word)" [title]="off().has(one.word) ? 'Leave it' : 'Take it off'">
              {{ one.word }}@if (many().length > 1) { <small>{{ one.count }}</small> } <i class="pi" [class.pi-times]="!off().has(one.word)" [class.pi-undo]="off().has(one.word)" aria-hidden="true"></i>
            </button>
          }
        </span>
      }
      <label>Caption <input pInputText name="caption" [(ngModel)]="caption" maxlength="5000" placeholder="left as it is" /></label>
      <label>Rights <input pInputText name="rights" [(ngModel)]="rights" maxlength="1000" placeholder="left as they are" /></label>
      @if (owned()) {
        <label>Owner <input pInputText name="owner" [(ngModel)]="owner" maxlength="200" placeholder="left as it is" /></label>
      }
      <span class="acts">
        <p-button type="submit" [label]="many().length > 1 ? 'Say it of ' + many().length : 'Say it'" [disabled]="busy()" />
        <button type="button" class="link" (click)="closed.emit()">Not now</button>
      </span>
      <p [attr.role]="problem() || empty() ? 'alert' : null">{{ problem() || empty() || note() }}</p>
    </form>
  `,
  styles: `
    :host { display: block; container-type: inline-size; }
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
    @container (max-width: 400px) {
      form { padding: 8px 0; border: 0; background: none; }
      label { flex: 1 0 100%; }
      label input[pInputText] { flex: 1; width: auto; min-width: 0; margin-left: auto; max-width: 190px; }
    }
  `,
})
export class DescribeFields implements OnInit {
  /** The keywords of each thing that is described. */
  readonly many = input.required<readonly (readonly string[])[]>();
  /** Whether what is described belongs to somebody. */
  readonly owned = input(false);
  readonly busy = input(false);
  readonly note = input('');
  readonly problem = input('');
  readonly say = output<Description>();
  readonly closed = output<void>();
  protected readonly empty = signal('');
  protected readonly shared = signal<readonly { word: string; count: number }[]>([]);
  protected readonly off = signal<ReadonlySet<string>>(new Set());
  protected add = '';
  protected caption = '';
  protected rights = '';
  protected owner = '';

  ngOnInit(): void {
    const counts = new Map<string, number>();
    for (const word of this.many().flat()) counts.set(word, (counts.get(word) ?? 0) + 1);
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
    const given = { caption: this.caption.trim(), rights: this.rights.trim(), owner: this.owner.trim() };
    const what: Description = {
      add: words(this.add),
      remove: [...this.off()],
      ...Object.fromEntries(Object.entries(given).filter(([, text]) => text)),
    };
    const nothing = !what.add!.length && !what.remove!.length && !Object.values(given).some(Boolean);
    this.empty.set(
      nothing ? `Nothing is said yet: write a keyword, a caption${this.owned() ? ', rights or an owner' : ' or rights'}.` : '',
    );
    if (!nothing) this.say.emit(what);
  }
}
