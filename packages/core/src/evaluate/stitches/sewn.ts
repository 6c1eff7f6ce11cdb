import { type Box, boxOfPolyline } from '../../base/geometry/measure';
import { type Matrix, apply } from '../../base/geometry/matrix';
import { flatten } from '../../base/geometry/flatten';
import { type Outline, transformOutline } from '../../base/geometry/outline';
import type { Point } from '../../base/geometry/point';
import type { Work } from '../../document/schema-parts';
import { isClosed } from '../machines/jobs';
import { ringOf, united } from '../machines/offset';
import type { StitchSettings } from './settings';
import { along, lengthOf } from './ways/along';
import { fill } from './ways/fill';
import { satin } from './ways/satin';

/** How far chords lie off their curves, mm. */
const CHORD = 0.02;
/** A line that is narrower is sewn along, where nobody says otherwise; and a column that is narrower holds no thread, mm. */
const [COLUMN, NARROWEST] = [1, 0.8];
/** What is shorter gets no stitch, mm. */
const NOTHING = 0.3;

/** What an object asks a needle for. */
export interface Asked {
  readonly source: string;
  readonly work: Work | undefined;
  /** Lines on the board, each as wide as it is drawn, mm; 0 for one that has no width. */
  readonly lines: readonly { readonly outline: Outline; readonly width: number; readonly colour: string }[];
  readonly area: { readonly outlines: readonly Outline[]; readonly colour: string } | null;
}

/** What is sewn in one go with one thread. */
export interface Sewn {
  readonly source: string;
  /** `#rrggbb` */
  readonly colour: string;
  /** The needle that somebody named. */
  readonly needle: number | undefined;
  /** Where the needle goes in, chain by chain, mm on the machine. */
  readonly runs: readonly (readonly Point[])[];
  readonly box: Box;
  /** The narrowest column, where one is too narrow for satin; null elsewhere. */
  readonly narrow: number | null;
}

const chainOf = (outline: Outline): Point[] => {
  const flat = flatten(outline, CHORD);
  const points: Point[] = [];
  for (let i = 0; i + 1 < flat.length; i += 2) points.push([flat[i]!, flat[i + 1]!]);
  if (
    isClosed(outline) &&
    points.length > 1 &&
    Math.hypot(points[0]![0] - points.at(-1)![0], points[0]![1] - points.at(-1)![1]) > 1e-6
  )
    points.push(points[0]!);
  return points;
};

/** What is sewn for an object. @param at from the board to the machine */
export function sewnOf({ source, work, lines, area }: Asked, at: Matrix, settings: StitchSettings): Sewn[] {
  const own = work?.stitch ?? {};
  const density = own.density ?? settings.density;
  const length = own.length ?? settings.length;
  const pull = own.pull ?? settings.pull;
  const under = own.under ?? settings.under;
  const made: Sewn[] = [];
  const add = (colour: string, runs: readonly (readonly Point[])[], narrow: number | null): void => {
    const all = runs.filter((run) => run.length > 1 && lengthOf(run) > NOTHING);
    if (!all.length) return;
    const box = boxOfPolyline(all.flat(2));
    made.push({ source, colour, needle: work?.tool, runs: all, box, narrow });
  };
  const sewLine = (outline: Outline, width: number, colour: string): void => {
    const chain = chainOf(transformOutline(outline, at));
    if (chain.length < 2) return;
    const wantsColumn = own.as === 'satin' || (own.as !== 'run' && width >= COLUMN);
    const tooNarrow = wantsColumn && width < NARROWEST;
    if (!wantsColumn || (tooNarrow && settings.narrow === 'along')) add(colour, [along(chain, length)], null);
    else add(colour, satin(chain, { width: Math.max(width, 0.1) + pull, density, under }), tooNarrow ? width : null);
  };
  const sewArea = (outlines: readonly Outline[], colour: string): void => {
    const rings = united(outlines.map((outline) => ringOf(transformOutline(outline, at))));
    add(colour, fill(rings, { angle: own.angle ?? 0, density, length: 1.5 * length, pull: pull / 2, under }), null);
  };
  if (area && own.as !== 'run' && own.as !== 'satin') sewArea(area.outlines, area.colour);
  else if (area && !lines.length) for (const outline of area.outlines) sewLine(outline, 0, area.colour);
  if (own.as === 'fill' && !area && lines[0])
    sewArea(
      lines.map(({ outline }) => outline),
      lines[0].colour,
    );
  else for (const { outline, width, colour } of lines) sewLine(outline, width, colour);
  return made;
}

/** A line of text as its centre lines on the board. @param frame from the line's own axes to the board */
export function strokesOnBoard(
  strokes: readonly (readonly Point[])[],
  { frame, size, shift }: { readonly frame: Matrix; readonly size: number; readonly shift: number },
): Outline[] {
  return strokes.map((stroke) => {
    const [start, ...rest] = stroke.map(([x, y]) => apply(frame, [x * size + shift, y * size]));
    return { start: start!, segments: rest.map((to) => ({ kind: 'line' as const, to })), closed: false };
  });
}
