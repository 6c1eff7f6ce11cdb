import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { CopyView, RevisionView } from '@inkwell-twin/api';
import { colourOfVerdict } from './verdict-mark';
import { linesOf, sumOf, worstOf } from './series';
import { counted } from './words';

interface Bar {
  /** Of variants that stand together, the one that stopped first. */
  readonly copy: CopyView;
  readonly isOn: boolean;
  readonly y: number;
  readonly from: string;
  readonly to: string;
  readonly short: boolean;
  readonly point: boolean;
  readonly colour: string;
  readonly label: string;
}

/** From the upper edge to the line, and from there to the first bar, px; and where there is room for one line of text only. */
const [EDGE, NARROW_EDGE, NARROW] = [9, 5, 30];
/** Between two bars, px: where there is room, and where many have to do with little. */
const [STEP, LEAST_STEP] = [9, 1.5];

/** The thread: a line with a tick per revision, and a bar per copy from where it was made to where it last matched. */
@Component({
  selector: 'twin-thread',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      [attr.height]="height()"
      width="100%"
      [attr.role]="interactive() ? 'group' : 'img'"
      [attr.aria-label]="summary()"
    >
      <line [attr.x1]="at(1)" [attr.x2]="at(head())" [attr.y1]="edge()" [attr.y2]="edge()" class="line" />
      @if (draft()) {
        <line [attr.x1]="at(head())" [attr.x2]="at(head() + 1)" [attr.y1]="edge()" [attr.y2]="edge()" class="line dashed" />
        <circle [attr.cx]="at(head() + 1)" [attr.cy]="edge()" r="5" class="draft"><title>Draft</title></circle>
      }
      @for (revision of revisions(); track revision.rev) {
        <circle
          [attr.cx]="at(revision.rev)"
          [attr.cy]="edge()"
          [attr.r]="revision.rev === head() ? 5.5 : 3"
          class="tick"
          [class.chosen]="revision.rev === chosen()"
          [attr.role]="interactive() ? 'button' : null"
          [attr.tabindex]="interactive() ? 0 : null"
          [attr.aria-label]="interactive() ? 'Look at r' + revision.rev : null"
          [attr.aria-pressed]="interactive() ? revision.rev === chosen() : null"
          (click)="choose.emit(revision.rev)"
          (keydown.enter)="choose.emit(revision.rev)"
        >
          <title>r{{ revision.rev }}, {{ revision.author }}: {{ revision.message }}</title>
        </circle>
      }
      @for (bar of bars(); track bar.copy.id) {
        <g
          [style.color]="bar.colour"
          class="bar"
          [class.selected]="bar.isOn"
          (click)="pick.emit(bar.copy.id)"
        >
          <title>{{ bar.label }}</title>
          <line [attr.x1]="bar.from" [attr.x2]="at(head())" [attr.y1]="bar.y" [attr.y2]="bar.y" class="reach" />
          @if (bar.short) {
            <line [attr.x1]="bar.to" [attr.x2]="at(head())" [attr.y1]="bar.y" [attr.y2]="bar.y" class="rest" />
          }
          @if (!bar.point) {
            <line [attr.x1]="bar.from" [attr.x2]="bar.to" [attr.y1]="bar.y" [attr.y2]="bar.y" class="span" />
          }
          <circle [attr.cx]="bar.from" [attr.cy]="bar.y" r="2.600" class="start" />
        </g>
      }
    </svg>
  `,
  styles: `
    :host { display: block; min-width: 0; }
    svg { display: block; overflow: visible; }
    .line { stroke: var(--ink); stroke-width: 1.5; }
    .dashed { stroke-dasharray: 3 3; }
    .tick { fill: var(--ink); }
    .tick[role] { cursor: pointer; stroke: transparent; stroke-width: 12; }
    .tick:focus { outline: none; }
    .tick:focus-visible { stroke: var(--action); stroke-width: 6; paint-order: stroke; }
    .tick.chosen { stroke: var(--action); stroke-width: 4; paint-order: stroke; }
    .draft { fill: var(--sheet); stroke: var(--ink); stroke-width: 1.5; stroke-dasharray: 2 2; }
    .bar { cursor: pointer; }
    .reach { stroke: transparent; stroke-width: 9; stroke-linecap: round; }
    .bar:hover .span { stroke-width: 4.5; }
    .span { stroke: currentColor; stroke-width: 3; stroke-linecap: round; }
    .rest { stroke: currentColor; stroke-width: 1.5; stroke-dasharray: 1 3; opacity: 0.75; }
    .start { fill: var(--sheet); stroke: currentColor; stroke-width: 1.6; }
    .selected .span { stroke-width: 5; }
  `,
})
export class Thread {
  readonly revisions = input.required<readonly RevisionView[]>();
  readonly copies = input.required<readonly CopyView[]>();
  readonly draft = input(false);
  readonly selected = input<string | null>(null);
  readonly chosen = input<number | null>(null);
  /** Whether revisions can be chosen, by hand and by keyboard. */
  readonly interactive = input(false);
  readonly choose = output<number>();
  /** The height that it has to do with, px; 0 for what it takes. */
  readonly within = input(0);
  /** A copy's id, when its bar is clicked. */
  readonly pick = output<string>();

  /** Copies by themselves, and variants together: a bar each. */
  private readonly lines = computed(() => linesOf(this.copies()));
  protected readonly edge = computed(() => {
    const within = this.within();
    if (!within || within >= NARROW) return EDGE;
    return this.lines().length ? NARROW_EDGE : within / 2;
  });
  protected readonly head = computed(() => this.revisions().at(-1)?.rev ?? 1);
  /** Between two bars, px. */
  private readonly step = computed(() => {
    const within = this.within();
    const bars = Math.max(1, this.lines().length - 1);
    return within ? Math.max(LEAST_STEP, Math.min(STEP, (within - 2 * this.edge() - 4) / bars)) : STEP;
  });
  protected readonly height = computed(
    () => this.within() || 2 * this.edge() + this.step() * Math.max(0, this.lines().length - 1) + 8,
  );
  protected readonly summary = computed(
    () => `${counted(this.revisions().length, 'revision')}, ${counted(this.copies().length, 'copy', 'copies')}`,
  );

  protected readonly bars = computed((): Bar[] =>
    this.lines().map((line, i) => {
      const copy = line.copies.reduce((first, one) => (one.until < first.until ? one : first));
      const from = Math.min(...line.copies.map(({ rev }) => rev));
      const until = Math.max(copy.until, from);
      const ended = copy.endedBy ? `; ${copy.endedBy}` : '';
      return {
        copy,
        isOn: line.copies.some(({ id }) => id === this.selected()),
        y: 2 * this.edge() + this.step() * i,
        from: this.at(from),
        to: this.at(until),
        short: until < this.head(),
        point: until === from,
        colour: colourOfVerdict(worstOf(line)),
        label: line.series ? `${line.series.label}, ${sumOf(line)}` : `${copy.label}, made at r${from}: ${copy.verdict}${ended}`,
      };
    }),
  );

  /** Place of a revision along the line: the first at the left, the head near the right, room for the draft beyond it. */
  protected at(rev: number): string {
    const count = Math.max(1, this.head() - 1);
    if (rev > this.head()) return '98%';
    const right = this.draft() ? 91 : 98;
    return this.head() === 1 ? (rev > 1 ? '98%' : '2%') : `${1 + ((rev - 1) / count) * (right - 1)}%`;
  }
}
