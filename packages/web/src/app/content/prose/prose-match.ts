import { ChangeDetectionStrategy, Component, ElementRef, computed, effect, inject, input } from '@angular/core';
import type { Difference } from '@inkwell-twin/api';
import { type ProseBlock, type ProseBody, type ProseSpan, textOf, wordDiff } from '@inkwell-twin/core/texts';

/** Paragraphs that are shown about each that differs, and paragraphs that are shown in all. */
const [AROUND, MOST] = [1, 300];

/** Words that are the same on both sides, or what each says in their place. */
interface Piece {
  readonly same: string;
  readonly master: string;
  readonly copy: string;
}
interface Line {
  readonly kind: 'gap' | 'same' | 'changed' | 'missing' | 'added';
  readonly what: string;
  readonly pieces: readonly Piece[];
  /** What differs beside the wording. */
  readonly looks: readonly string[];
  readonly differences: readonly number[];
}

const shown = (text: string): string => text.replaceAll('\uFFFC', '†').replaceAll('\n', ' ⏎ ');
const WORDING = new Set<string>(['words changed', 'row missing', 'row added', 'paragraph missing', 'paragraph added']);

/** All the words of a block, a row of a table a line. */
function spansOf(block: ProseBlock): readonly ProseSpan[] {
  if (block.block === 'words') return block.spans;
  if (block.block !== 'table') return block.block === 'picture' ? block.caption : [];
  const plain = (text: string): ProseSpan => ({ text, marks: [], link: '', note: null });
  return block.grid.flatMap((row, r) => [
    ...(r ? [plain('\n')] : []),
    ...row.flatMap((cell, c) => (c ? [plain(' | '), ...cell] : cell)),
  ]);
}
const whatOf = (block: ProseBlock): string =>
  block.block === 'words'
    ? block.role === 'body'
      ? ''
      : block.role
    : block.block === 'break'
      ? block.of === 'page'
        ? 'new page'
        : 'line across'
      : block.block;

/** A text now and in a copy: what was changed in it, paragraph by paragraph, with what stands about it. */
@Component({
  selector: 'twin-prose-match',
  host: { tabindex: '0', role: 'group', 'aria-label': 'The master and the copy, paragraph by paragraph' },
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (line of lines(); track $index) {
      @if (line.kind === 'gap') {
        <p class="gap">{{ line.what }}</p>
      } @else {
        <div [class]="line.kind" [class.chosen]="isChosen(line.differences)" (click)="choose(line.differences)">
          <span class="what">{{ line.what }}</span>
          <p>@for (piece of line.pieces; track $index) {@if (piece.same) {<span>{{ piece.same }}</span>} @else {@if (piece.master) {<del>{{ piece.master }}</del>}@if (piece.copy) {<ins>{{ piece.copy }}</ins>}}}</p>
          @for (look of line.looks; track $index) { <p class="look">{{ look }}</p> }
        </div>
      }
    } @empty {
      <p class="gap">No paragraph differs.</p>
    }
  `,
  styles: `
    :host { display: block; flex: 0 1 auto; min-height: 140px; max-height: 46%; overflow: auto; padding: 10px 16px 24px; background: var(--sheet); color: var(--ink-two); font: 14.5px/1.5 'Source Serif 4', serif; }
    div { position: relative; padding: 4px 8px 4px 68px; border-radius: 4px; }
    div p { margin: 0; white-space: pre-wrap; }
    .what { position: absolute; left: 4px; top: 6px; width: 56px; color: var(--ink-three); font: 11px/1.3 'Commissioner Variable', sans-serif; text-align: right; }
    .changed, .missing, .added { color: var(--ink); cursor: pointer; }
    del { color: var(--ink); text-decoration: none; border-bottom: 2px solid var(--ink); }
    ins { margin: 0 1px 0 3px; padding: 0 2px; background: var(--difference-soft); color: color-mix(in srgb, var(--difference) 82%, var(--ink)); font-weight: 700; text-decoration: none; }
    .missing p { border-left: 3px solid var(--ink); padding-left: 8px; }
    .added p { border-left: 3px solid var(--difference); padding-left: 8px; color: color-mix(in srgb, var(--difference) 82%, var(--ink)); background: var(--difference-soft); }
    .look { color: color-mix(in srgb, var(--difference) 82%, var(--ink)); font: 12px/1.4 'Commissioner Variable', sans-serif; }
    .gap { margin: 2px 0; padding-left: 68px; color: var(--ink-three); font: 11.5px/1.6 'Commissioner Variable', sans-serif; }
    .chosen { box-shadow: inset 0 0 0 2px var(--action); }
  `,
})
export class ProseMatch {
  readonly master = input.required<ProseBody>();
  readonly copy = input.required<ProseBody>();
  /** Those of this text; of others there is only the place in the list. */
  readonly differences = input.required<readonly Difference[]>();
  readonly chosen = input<number | null>(null);
  readonly picked = input.required<(index: number) => void>();
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  protected readonly lines = computed((): Line[] => {
    const [master, copy] = [this.master().blocks, this.copy().blocks];
    const mine = new Map<number, number[]>();
    const theirs = new Map<number, number[]>();
    const partner = new Map<number, number>();
    this.differences().forEach(({ masterEntries: [i], copyEntries: [j] }, at) => {
      if (i !== undefined) mine.set(i, [...(mine.get(i) ?? []), at]);
      else if (j !== undefined) theirs.set(j, [...(theirs.get(j) ?? []), at]);
      if (i !== undefined && j !== undefined) partner.set(i, j);
    });
    const wanted = new Set<number>();
    for (const i of mine.keys()) for (let k = i - AROUND; k <= i + AROUND; k++) if (master[k]) wanted.add(k);
    const lines: Line[] = [];
    let last = -1;
    for (const i of [...wanted].sort((a, b) => a - b).slice(0, MOST)) {
      if (i > last + 1) lines.push(gap(i - last - 1, 'the same'));
      last = i;
      lines.push(this.line(master[i]!, copy[partner.get(i) ?? -1], mine.get(i) ?? []));
    }
    if (lines.length && last < master.length - 1) lines.push(gap(master.length - 1 - last, 'the same'));
    for (const [j, at] of [...theirs].slice(0, MOST))
      if (copy[j]) lines.push({ ...this.line(copy[j]!, undefined, at), kind: 'added' });
    return lines;
  });

  private line(block: ProseBlock, other: ProseBlock | undefined, at: readonly number[]): Line {
    const text = textOf(spansOf(block));
    const looks = at.flatMap((k) => {
      const { kind, what, master, copy } = this.differences()[k]!;
      return WORDING.has(kind)
        ? []
        : [`${what}: ${kind}${master !== null && copy !== null ? `, master ${master}, copy ${copy}` : ''}`];
    });
    const plain = { what: whatOf(block), looks, differences: at };
    if (!at.length) return { ...plain, kind: 'same', pieces: [{ same: shown(text), master: '', copy: '' }] };
    if (!other) return { ...plain, kind: 'missing', pieces: [{ same: shown(text), master: '', copy: '' }] };
    const theirs = textOf(spansOf(other));
    const pieces = wordDiff(text, theirs).map(({ same, master, copy }): Piece =>
      same
        ? { same: shown(text.slice(...master)), master: '', copy: '' }
        : { same: '', master: shown(text.slice(...master)), copy: shown(theirs.slice(...copy)) },
    );
    return { ...plain, kind: 'changed', pieces };
  }

  constructor() {
    effect(() => {
      this.chosen();
      setTimeout(() => this.host.nativeElement.querySelector('.chosen')?.scrollIntoView({ block: 'nearest' }));
    });
  }

  protected isChosen = (differences: readonly number[]): boolean =>
    this.chosen() !== null && differences.includes(this.chosen()!);
  protected choose(differences: readonly number[]): void {
    if (differences.length) this.picked()(differences[0]!);
  }
}

const gap = (count: number, words: string): Line => ({
  kind: 'gap',
  what: `${count} paragraph${count === 1 ? '' : 's'} ${words}`,
  pieces: [],
  looks: [],
  differences: [],
});
