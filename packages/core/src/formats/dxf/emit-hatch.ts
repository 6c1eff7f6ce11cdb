import { onBox } from '../../evaluate/gradients/gradient-box';
import { type LineFamily, cellOfFamily, mapped } from '../../content/drawing/line-families';
import { PathStore } from '../../base/geometry/paths';
import { AROUND, type DrawingSink } from '../../content/drawing/sink';
import { type Matrix, multiply } from '../../base/geometry/matrix';
import { boxOfOutlines } from '../../base/geometry/measure';
import type { Gradient, Pattern, PlacedGradient } from '../../document/paint';
import type { Style } from '../../document/schema';
import { readHatch } from './hatch-read';
import type { EmittingReader } from './telling';
import type { DxfRecord } from './records';

/** Tells of what a hatch fills: with one colour, with two, or by lines, a shape for each family of them. */
export function emitHatch(groups: DxfRecord, reader: EmittingReader, facing: Matrix | null): void {
  const { loops, gradient, lines, notes } = readHatch(groups);
  for (const note of notes) reader.tally.add(note);
  const { paths, sink } = reader;
  paths.clear();
  for (const loop of loops) paths.add(loop);
  if (!paths.count) return;
  const { layer, look, at } = reader.placed(groups, facing);
  const plain = filledAs(look);
  const emit = (style: Style) => sink.path(paths, at, layer, style, groups.type, 'hatch');
  if (lines) for (const fill of linedFills(lines, look, at, sink)) emit({ ...plain, fill });
  else emit(gradient ? { ...plain, fill: shaded(onBox(gradient, boxOfOutlines(loops)), at) } : plain);
}

/** One object for each look: a drawing has few, and many hatches. */
const fills = new WeakMap<Style, Style>();

/** The look of what is filled with the colour of a line. */
export function filledAs(look: Style): Style {
  let style = fills.get(look);
  if (!style) {
    const { stroke: fill, opacity } = look;
    const rule = { fillRule: 'evenodd' } as const;
    style = { fill, ...rule, stroke: null, strokeWidth: 0, ...(opacity === undefined ? {} : { opacity }) };
    fills.set(look, style);
  }
  return style;
}

/** Families of lines as patterns of one line each. */
function* linedFills(
  lines: readonly LineFamily[],
  { opacity: _opacity, ...line }: Style,
  at: Matrix | null,
  sink: DrawingSink,
): Generator<Pattern> {
  for (const own of lines) {
    const family = at ? mapped(own, at) : own;
    if (!family) continue;
    const { width, height, at: laid, pieces } = cellOfFamily(family);
    const key = `lines ${width} ${height} ${pieces.join(' ')} ${line.stroke as string} ${line.strokeWidth}`;
    const symbol = sink.define('cell', key, 'Hatch', () => {
      const cell = new PathStore();
      for (const [from, to] of pieces) {
        cell.clear();
        cell.move(from, height / 2);
        cell.line(to, height / 2);
        cell.end(false);
        sink.path(cell, null, AROUND, line, 'LINE', 'line');
      }
    });
    yield { kind: 'pattern', symbol, width, height, at: laid };
  }
}

/** A gradient in the axes of a hatch as one in the axes around it. */
const shaded = ({ at, ...rest }: PlacedGradient, facing: Matrix | null): Gradient => ({
  ...rest,
  within: 'item',
  at: facing ? multiply(facing, at) : at,
});
