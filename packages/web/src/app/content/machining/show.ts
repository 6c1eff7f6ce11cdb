import { type Box, type Machining, MOTIONS, boxOfPolyline, flatten, plainStyle } from '@inkwell-twin/core/web';
import { NO_CELLS } from '../../master/stage/brush';
import { isOnPath, paintPath } from '../../master/stage/paint';
import type { Manner, Shown } from '../shown';

/** Moves through the air are faint; the deeper a tool works, the darker is its way. */
const AIR: Manner = { stroke: '#9fb0c6', fill: null, width: 0.6 };
const DEPTHS = ['#6f86ab', '#4c658f', '#2f4a75', '#14213a'] as const;

/** How close chords of arcs are, mm. */
const CHORD = 0.02;

/** The points of a move, from where the one before it ended. */
export function pointsOf({ ends, centres, motion }: Machining, entry: number): number[] {
  const to = [ends[3 * entry]!, ends[3 * entry + 1]!] as const;
  const from = entry ? ([ends[3 * entry - 3]!, ends[3 * entry - 2]!] as const) : to;
  const known = [from, to].filter(([x, y]) => !Number.isNaN(x + y));
  if (known.length < 2) return (known[0] ?? [0, 0]).concat(known[0] ?? [0, 0]) as number[];
  const way = MOTIONS[motion[entry]!]!;
  if (way !== 'clockwise' && way !== 'anticlockwise') return [...from, ...to];
  const centre = [centres[2 * entry]!, centres[2 * entry + 1]!] as const;
  return flatten({ start: from, segments: [{ kind: 'arc', to, centre, clockwise: way === 'clockwise' }], closed: false }, CHORD);
}

/** What a machine does: its moves, darker where they are deeper. */
export function showMachining(moves: Machining): Shown {
  const made: { path: Path2D; box: Box }[] = [];
  let deepest = 0;
  for (let i = 0; i < moves.count; i++) deepest = Math.min(deepest, moves.ends[3 * i + 2]! || 0);
  const partOf = (entry: number) => {
    let part = made[entry];
    if (!part) {
      const points = pointsOf(moves, entry);
      const path = new Path2D();
      path.moveTo(points[0]!, points[1]!);
      for (let i = 2; i < points.length; i += 2) path.lineTo(points[i]!, points[i + 1]!);
      made[entry] = part = { path, box: boxOfPolyline(points) };
    }
    return part;
  };
  const mannerOf = (entry: number): Manner => {
    if (!moves.motion[entry]) return AIR;
    const { colour } = moves.tools[moves.tool[entry]!]!;
    if (colour) return { stroke: colour, fill: null, width: 1 };
    const share = deepest < 0 ? (moves.ends[3 * entry + 2]! || 0) / deepest : 1;
    const stroke = DEPTHS[Math.min(DEPTHS.length - 1, Math.max(0, Math.floor(share * DEPTHS.length)))]!;
    return { stroke, fill: null, width: 1 };
  };
  return {
    fonts: [],
    sheet: null,
    spans: [],
    cell: NO_CELLS,
    background: null,
    count: moves.count,
    paint: (context, entry, view, manner) => {
      const { path, box } = partOf(entry);
      paintPath(context, path, plainStyle, view, () => box, manner ?? mannerOf(entry));
    },
    boxOf: (entry) => partOf(entry).box,
    *corners(entry) {
      const points = pointsOf(moves, entry);
      for (let i = 0; i < points.length; i += 2) yield [points[i]!, points[i + 1]!];
    },
    isHit: (entry, x, y, reach) => isOnPath(partOf(entry).path, plainStyle, x, y, reach),
  };
}
