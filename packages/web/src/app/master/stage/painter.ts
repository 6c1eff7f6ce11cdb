import { type Matrix, type Outline, type ResolvedBoard, identity, translation } from '@inkwell-twin/core/web';
import { paintGrid, themeColour } from './canvas-surface';
import type { GestureLook } from './gestures/gesture';
import { Lifted } from './lifted';
import { pathOfOutlines } from './outline-path';
import { paintBrackets, paintFrame, paintHandleLines, paintLayout, paintSnapped } from './over';
import { boardAxes, paintEntry, paintSheet } from './paint';
import { cellsOf, spansOf } from './resolved-scene';
import { paintScene } from './scene';
import type { SnapLine } from './snap';
import { Snapshot } from './snapshot';
import type { View } from './view';
import type { Box } from '@inkwell-twin/core/web';

type Context = CanvasRenderingContext2D;

/** Objects above which a moving view shows its last painting. */
const MANY = 2000;

/** All that is on a stage at one moment, mm where nothing else is said. */
export interface Scenery {
  readonly view: View;
  /** Of the stage, pixels. */
  readonly size: { readonly width: number; readonly height: number };
  readonly resolved: ResolvedBoard;
  /** Whether the board is drawn as a sheet. */
  readonly isSheet: boolean;
  readonly selection: readonly string[];
  readonly highlighted: ReadonlySet<string> | null;
  /** Guides, grid and margins are shown. */
  readonly isEditable: boolean;
  /** What the gesture under way changes; null where none is. */
  readonly look: GestureLook | null;
  /** What a pull of the handles does to the selection. */
  readonly pull: Matrix | null;
  /** The box that brackets stand about; null where something else says what is chosen. */
  readonly bracketed: Box | null;
  readonly snapped: readonly SnapLine[];
  /** What is drawn by hand: its box, and its outlines. */
  readonly drawn: { readonly box: Box | null; readonly outlines: readonly Outline[] | null };
  /** Outlines whose points are held. */
  readonly held: readonly Outline[] | null;
}

/** Paints a stage: a board of any size, with what moves on it, and what lies over it. */
export class Painter {
  private readonly snapshot: Snapshot;
  private readonly lifted = new Lifted();

  /** @param again is called when a view that moved has come to rest */
  constructor(again: () => void) {
    this.snapshot = new Snapshot(again);
  }

  /** What is on the board has changed. */
  drop(): void {
    this.snapshot.drop();
    this.lifted.drop();
  }
  stop(): void {
    this.snapshot.stop();
  }

  /** @param ratio pixels of the canvas for one of the stage */
  paint(context: Context, ratio: number, now: Scenery): void {
    const { view, size, resolved, look, pull, selection, highlighted } = now;
    const { board, entries } = resolved;
    const many = entries.length > MANY;
    const still = !look?.shift && !pull;
    if (still) this.lifted.drop();
    if (many && still && this.snapshot.show(context, view, ratio)) return this.paintOver(context, ratio, now);
    const ground = (own: Context) => {
      paintGrid(own, view, ratio, size.width, size.height);
      boardAxes(own, view, ratio);
      if (now.isSheet) paintSheet(own, board, board.background, view, themeColour('--hairline'));
    };
    const chosen = new Set(selection);
    const { dx, dy } = look?.shift ?? { dx: 0, dy: 0 };
    const map = pull ?? (dx || dy ? translation(dx, dy) : identity);
    const cells = cellsOf(resolved);
    const moves = (at: number) => {
      const { source, within } = entries[at]!;
      return chosen.has(source) || within.some(({ id }) => chosen.has(id));
    };
    const paint = (own: Context, at: number, by: Matrix | null) => {
      const entry = entries[at]!;
      const isMoved = by !== null && moves(at);
      if (isMoved) own.transform(...by);
      if (highlighted && !highlighted.has(entry.source))
        paintEntry(own, entry, view, { stroke: '#c3ccd4', fill: entry.style.fill ? '#e4e9ea' : null, width: 1 });
      else paintEntry(own, entry, view, undefined, cells);
      if (isMoved) boardAxes(own, view, ratio);
    };
    const scene = (by: Matrix | null) => ({
      count: entries.length,
      spans: spansOf(resolved),
      paint: (own: Context, at: number) => paint(own, at, by),
      cell: cells,
    });
    if (many && !still) {
      const held = { contents: resolved, selection, highlighted, view };
      this.lifted.paint(context, held, scene, moves, map, ground, (own) => boardAxes(own, view, ratio));
    } else {
      ground(context);
      boardAxes(context, view, ratio);
      paintScene(context, scene(still ? null : map));
      if (many) this.snapshot.keep(context, view);
    }
    this.paintOver(context, ratio, now);
  }

  /** What is drawn over the board: guides, what something is laid to, frames, and what is drawn by hand. */
  private paintOver(context: Context, ratio: number, now: Scenery): void {
    const { view, size, look, drawn, held } = now;
    const { dx, dy } = look?.shift ?? { dx: 0, dy: 0 };
    if (now.bracketed) paintBrackets(context, now.bracketed, view, ratio, dx, dy);
    if (now.isEditable) {
      const { board } = now.resolved;
      const dragged = look?.guide;
      const guides = board.guides?.map((guide, i) => (dragged?.index === i ? { ...guide, at: dragged.at ?? -1e9 } : guide));
      paintLayout(context, { ...board, ...(guides ? { guides } : {}) }, view, ratio, size);
    }
    paintSnapped(context, now.snapped, view, ratio, size);
    for (const box of [look?.frame, drawn.box]) if (box) paintFrame(context, box, view, ratio);
    if (drawn.outlines) {
      boardAxes(context, view, ratio);
      context.strokeStyle = themeColour('--action');
      context.lineWidth = 1.5 / view.scale;
      context.stroke(pathOfOutlines(drawn.outlines));
    }
    if (held) {
      boardAxes(context, view, ratio);
      paintHandleLines(context, held, view);
    }
  }
}
