import { Failure } from '../../base/failure/failure';
import { type Matrix, apply, identity, meanScale, multiply, rotation, translation } from '../../base/geometry/matrix';
import { type Outline, fromPoints, transformOutline, withClosingLine } from '../../base/geometry/outline';
import type { Point } from '../../base/geometry/point';
import { type Run, runAlong } from '../../base/geometry/run';
import { flatten } from '../../base/geometry/flatten';
import { itemKind } from '../../document/items';
import type { MotifLine } from '../../document/items/kinds/motif-line';
import { OBJECT_LIMIT, tooManyObjects } from '../../document/limits';
import type { Item, PathItem, Style, SymbolDefinition } from '../../document/schema';

/** The symbols of a master with what is in them drawn. */
export interface Symbols {
  readonly get: (id: string) => SymbolDefinition | undefined;
}

/** How far from the true one a bent outline may lie, mm. */
const BENT_WITHIN = 0.01;
/** Halvings of a stretch while it is bent. */
const MOST_HALVINGS = 9;

/** The places of marks along a line, mm from its start. */
function stationsOf(length: number, closed: boolean, { spacing, offset = 0, even }: MotifLine): number[] {
  const room = closed ? length : length - Math.max(0, offset);
  if (!(room >= 0)) return [];
  let [step, count] = [spacing, Math.floor(room / spacing + 1e-9)];
  if (even) {
    count = Math.max(closed ? 1 : 0, Math.round(room / spacing));
    step = count ? room / count : spacing;
  }
  // A closed line ends where it begins: there the last step leads back to the first mark.
  const marks = closed ? Math.max(1, even ? count : Math.floor((room - 1e-9) / spacing) + 1) : count + 1;
  if (marks > OBJECT_LIMIT) throw tooManyObjects(marks);
  return Array.from({ length: marks }, (_, i) => offset + i * step).filter(
    (at) => closed || (at >= -1e-9 && at <= length + 1e-9),
  );
}

const beside = ([x, y]: Point, direction: number, aside: number): Point => [
  x - aside * Math.sin(direction),
  y + aside * Math.cos(direction),
];

/** A point of a symbol, its anchor at 0, on the line: along it by its x, to its left by its y. */
const bend =
  (run: Run, station: number, aside: number) =>
  ([x, y]: Point): Point => {
    const { at, direction } = run.at(station + x);
    return beside(at, direction, aside + y);
  };

/** An outline bent point by point, halved where a chord would leave the true curve. */
function bentOutline(outline: Outline, map: (point: Point) => Point): Outline {
  const flat = flatten(withClosingLine(outline), BENT_WITHIN / 2);
  const points: Point[] = [];
  const halve = (a: Point, b: Point, from: Point, to: Point, depth: number): void => {
    const middle: Point = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
    const bent = map(middle);
    const off = Math.hypot(bent[0] - (from[0] + to[0]) / 2, bent[1] - (from[1] + to[1]) / 2);
    // The first halvings are always made: a middle may lie on the chord where what is around it does not.
    if (depth >= 2 && (off <= BENT_WITHIN || depth >= MOST_HALVINGS)) return;
    halve(a, middle, from, bent, depth + 1);
    points.push(bent);
    halve(middle, b, bent, to, depth + 1);
  };
  let [a, from] = [[flat[0]!, flat[1]!] as Point, map([flat[0]!, flat[1]!])];
  points.push(from);
  for (let i = 2; i < flat.length; i += 2) {
    const b: Point = [flat[i]!, flat[i + 1]!];
    const to = map(b);
    halve(a, b, from, to, 0);
    points.push(to);
    [a, from] = [b, to];
  }
  if (outline.closed) points.pop();
  return fromPoints(points, outline.closed);
}

const wider = (style: Style, matrix: Matrix): Style =>
  matrix === identity ? style : { ...style, strokeWidth: style.strokeWidth * meanScale(matrix) };

export const symbolCycle = (name: string, node: string): Failure =>
  new Failure('symbol-cycle', `The symbol ${name} uses itself, directly or through another.`, { node });

/** The items of a symbol bent along a line: shapes as outlines of their own, words and pictures as they are where they stand. */
function bentItems(
  items: readonly Item[],
  matrix: Matrix,
  layer: string | null,
  id: string,
  map: (point: Point) => Point,
  symbols: Symbols,
  open: readonly string[],
): Item[] {
  return items.flatMap((item): Item[] => {
    const own = item.transform ? multiply(matrix, item.transform) : matrix;
    const on = item.layer ?? layer;
    const kind = itemKind(item);
    if ('items' in item)
      return [{ ...item, id, layer: on, transform: undefined, items: bentItems(item.items, own, on, id, map, symbols, open) }];
    const used = kind.openContents?.(item).symbol;
    if (used !== undefined) {
      const symbol = symbols.get(used);
      if (!symbol) throw new Failure('symbol-missing', `The symbol ${used} is not in this master.`, { node: id });
      if (open.includes(symbol.id)) throw symbolCycle(symbol.name, id);
      const [x, y] = symbol.anchor;
      return bentItems(symbol.items, multiply(own, translation(-x, -y)), on, id, map, symbols, [...open, symbol.id]);
    }
    const outlines = kind.paint ? undefined : kind.outlines?.(item);
    if (outlines && 'style' in item)
      return [
        {
          kind: 'path',
          id,
          layer: on,
          style: wider(item.style, own),
          outlines: outlines.map(
            (one) => bentOutline(own === identity ? one : transformOutline(one, own), map) as PathItem['outlines'][number],
          ),
        },
      ];
    // Letters and pictures keep their form: they are set where their own origin comes to lie, turned with the line.
    const origin = apply(own, [0, 0]);
    const [to, ahead] = [map(origin), map([origin[0] + 0.01, origin[1]])];
    const turned = multiply(translation(...to), rotation(Math.atan2(ahead[1] - to[1], ahead[0] - to[0])));
    return [{ ...item, id, layer: on, transform: multiply(turned, multiply(translation(-origin[0], -origin[1]), own)) }];
  });
}

function markAt(item: MotifLine, symbol: string, run: Run, station: number, symbols: Symbols): Item[] {
  const { id, manner, aside = 0 } = item;
  if (manner === 'bend') {
    const definition = symbols.get(symbol);
    if (!definition) throw new Failure('symbol-missing', `The symbol ${symbol} is not in this master.`, { node: id });
    const [x, y] = definition.anchor;
    return bentItems(definition.items, translation(-x, -y), null, id, bend(run, station, aside), symbols, [symbol]);
  }
  const { at, direction } = run.at(station);
  const place = translation(...beside(at, direction, aside));
  const transform = manner === 'follow' ? multiply(place, rotation(direction)) : place;
  return [{ kind: 'use', id, layer: null, transform, symbol }];
}

/**
 * The marks of a motif line, all under its own id.
 * @throws Failure `too-many-objects` where the steps are too many, `symbol-missing`, `symbol-cycle`
 */
export function motifItems(item: MotifLine, symbols: Symbols): Item[] {
  let count = 0;
  return item.outlines.flatMap((outline) => {
    const run = runAlong(outline);
    const stations = stationsOf(run.length, run.closed, item);
    count += stations.length;
    if (count > OBJECT_LIMIT) throw tooManyObjects(count, { node: item.id });
    return stations.flatMap((station, i) => {
      const end = run.closed ? undefined : i === 0 ? item.first : i === stations.length - 1 ? item.last : undefined;
      return markAt(item, end ?? item.symbol, run, station, symbols);
    });
  });
}
