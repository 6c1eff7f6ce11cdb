import { measureBy } from '../fonts/font-book';
import type { Fonts } from '../../contracts/fonts';
import { Failure } from '../../base/failure/failure';
import type { Outline } from '../../base/geometry/outline';
import type { Point } from '../../base/geometry/point';
import { canonical, digest } from '../../document/hash';
import { resolveBoard } from '../resolve';
import type { Master } from '../../document/schema';
import type { EdgeRule, Feature, Joining, Solid, SolidOutline } from '../../document/solids/schema';
import { allItems } from '../../document/tree';
import type { Making, Placing, Plan, PlanStep, PlannedEdges, Spot } from '../../contracts/plan';
import { type Values, valuesOf } from './values';

const MOST_COPIES = 2000;

const invalid = (where: string, message: string): Failure => new Failure('solid-invalid', `${where}: ${message}`);

function polygon(points: readonly Point[]): Outline {
  const [start, ...rest] = points as [Point, ...Point[]];
  return { start, segments: rest.map((to) => ({ kind: 'line', to })), closed: true };
}

function circle(x: number, y: number, r: number): Outline {
  const half = (to: Point) => ({ kind: 'arc', to, centre: [x, y], clockwise: false }) as const;
  return { start: [x + r, y], segments: [half([x - r, y]), half([x + r, y])], closed: true };
}

/** A rectangle about its middle, with rounded corners. */
function rectangle(x: number, y: number, width: number, height: number, corner: number): Outline {
  const [l, r, b, t] = [x - width / 2, x + width / 2, y - height / 2, y + height / 2];
  const c = corner;
  if (!c) {
    return polygon([
      [l, b],
      [r, b],
      [r, t],
      [l, t],
    ]);
  }
  const line = (to: Point) => ({ kind: 'line', to }) as const;
  const arc = (to: Point, centre: Point) => ({ kind: 'arc', to, centre, clockwise: false }) as const;
  return {
    start: [l + c, b],
    segments: [
      line([r - c, b]),
      arc([r, b + c], [r - c, b + c]),
      line([r, t - c]),
      arc([r - c, t], [r - c, t - c]),
      line([l + c, t]),
      arc([l, t - c], [l + c, t - c]),
      line([l, b + c]),
      arc([l + c, b], [l + c, b + c]),
    ],
    closed: true,
  };
}

/** Outlines of an object on a board, in its board's millimetres. @throws Failure `solid-invalid` */
function outlinesOfObject(master: Master, object: string, fonts: Fonts, where: string): Outline[] {
  for (const board of master.boards) {
    if (![...allItems(board.items)].some(({ id }) => id === object)) continue;
    const { entries } = resolveBoard(master, board, new Set([object]), measureBy(fonts));
    const closed = entries.flatMap((entry) => (entry.kind === 'path' ? entry.outlines.filter((one) => one.closed) : []));
    if (closed.length) return closed;
    throw invalid(where, 'the object on the board has no closed outline. Close it, or choose another.');
  }
  throw invalid(where, 'the object whose outline it takes is not on a board any more. Choose another.');
}

interface Planning {
  readonly master: Master;
  readonly fonts: Fonts;
  readonly values: Values;
}

function outlinesOf(outline: SolidOutline, where: string, { master, fonts, values: { amount } }: Planning): Outline[] {
  const size = (value: Parameters<typeof amount>[0], what: string): number => {
    const found = amount(value, `${where}, ${what}`);
    if (found > 1e-6) return found;
    throw invalid(`${where}, ${what}`, `it is ${found}, and must be above zero.`);
  };
  if (outline.shape === 'points')
    return [
      polygon(outline.points.map(([x, y], i) => [amount(x, `${where}, point ${i + 1}`), amount(y, `${where}, point ${i + 1}`)])),
    ];
  const [x, y] = [amount(outline.x, `${where}, x`), amount(outline.y, `${where}, y`)];
  switch (outline.shape) {
    case 'rectangle': {
      const [width, height] = [size(outline.width, 'width'), size(outline.height, 'height')];
      const corner = outline.corner === undefined ? 0 : amount(outline.corner, `${where}, corner`);
      if (corner < 0 || corner > Math.min(width, height) / 2 - 1e-9)
        if (corner) throw invalid(`${where}, corner`, `${corner} mm does not fit into ${width} × ${height} mm.`);
      return [rectangle(x, y, width, height, corner)];
    }
    case 'circle':
      return [circle(x, y, size(outline.diameter, 'diameter') / 2)];
    case 'regular': {
      const sides = Math.round(amount(outline.sides, `${where}, sides`));
      if (sides < 3 || sides > 360) throw invalid(`${where}, sides`, `there are ${sides}, and there must be 3 to 360.`);
      const r = size(outline.across, 'across') / 2 / Math.cos(Math.PI / sides);
      const corner = (i: number): Point => {
        const turn = (2 * Math.PI * (i + 0.5)) / sides - Math.PI / 2;
        return [x + r * Math.cos(turn), y + r * Math.sin(turn)];
      };
      return [polygon(Array.from({ length: sides }, (_, i) => corner(i)))];
    }
    case 'object':
      return outlinesOfObject(master, outline.object, fonts, where).map((one) => shifted(one, x, y));
  }
}

function shifted({ start, segments, closed }: Outline, dx: number, dy: number): Outline {
  const move = ([x, y]: Point): Point => [x + dx, y + dy];
  return {
    start: move(start),
    closed,
    segments: segments.map((one) =>
      one.kind === 'line'
        ? { ...one, to: move(one.to) }
        : one.kind === 'arc'
          ? { ...one, to: move(one.to), centre: move(one.centre) }
          : { ...one, to: move(one.to), c1: move(one.c1), c2: move(one.c2) },
    ),
  };
}

type Amounts = readonly [Parameters<Values['amount']>[0], Parameters<Values['amount']>[0], Parameters<Values['amount']>[0]];

function making(feature: Feature, planning: Planning): { making: Making; join: Joining } | null {
  const { amount } = planning.values;
  const of = (value: Amounts[number], what: string) => amount(value, `${feature.name}, ${what}`);
  const above = (value: Amounts[number], what: string): number => {
    const found = of(value, what);
    if (found > 1e-6) return found;
    throw invalid(`${feature.name}, ${what}`, `it is ${found}, and must be above zero.`);
  };
  switch (feature.op) {
    case 'extrude': {
      const by = of(feature.by, 'by');
      if (Math.abs(by) < 1e-6) throw invalid(`${feature.name}, by`, 'it is 0, which makes nothing.');
      return {
        join: feature.join,
        making: {
          make: 'prism',
          plane: feature.plane,
          offset: of(feature.offset, 'offset'),
          outlines: outlinesOf(feature.outline, feature.name, planning),
          by,
        },
      };
    }
    case 'revolve': {
      const angle = above(feature.angle, 'angle');
      if (angle > 360 + 1e-9) throw invalid(`${feature.name}, angle`, `it is ${angle}°, more than once round.`);
      const outlines = outlinesOf(feature.outline, feature.name, planning);
      return { join: feature.join, making: { make: 'turning', plane: feature.plane, outlines, angle } };
    }
    case 'hole': {
      const diameter = above(feature.diameter, 'diameter');
      const sink = feature.sink
        ? { diameter: above(feature.sink.diameter, 'sink'), angle: above(feature.sink.angle, 'angle of the sink') }
        : null;
      if (sink && (sink.diameter <= diameter || sink.angle >= 180))
        throw invalid(feature.name, 'the sink must be wider than the hole, and its angle below 180°.');
      return {
        join: 'cut',
        making: {
          make: 'bore',
          axis: feature.axis,
          at: spotOf(feature.at, feature.name, planning.values),
          diameter,
          depth: feature.depth === undefined ? null : above(feature.depth, 'depth'),
          sink,
        },
      };
    }
    case 'file':
      return { join: 'add', making: { make: 'file', sha: feature.resource, format: feature.format, part: feature.part } };
    default:
      return null;
  }
}

const spotOf = ([x, y, z]: Amounts, where: string, { amount }: Values): Spot => [
  amount(x, `${where}, x`),
  amount(y, `${where}, y`),
  amount(z, `${where}, z`),
];

const edgesOf = ({ along, on, form, near }: EdgeRule, where: string, values: Values): PlannedEdges => ({
  ...(along ? { along } : {}),
  ...(on ? { on: { axis: on.axis, value: values.amount(on.value, `${where}, place of the edges`) } } : {}),
  ...(form ? { form } : {}),
  ...(near ? { near: spotOf(near, where, values) } : {}),
});

/** Places of a repetition without its first: that is where the feature is already. */
function placingsOf(feature: Extract<Feature, { op: 'row' | 'ring' }>, values: Values): Placing[] {
  const count = Math.round(values.amount(feature.count, `${feature.name}, count`));
  if (count < 1 || count > MOST_COPIES)
    throw invalid(`${feature.name}, count`, `it is ${count}, and must be 1 to ${MOST_COPIES}.`);
  const more = Array.from({ length: count - 1 }, (_, i) => i + 1);
  if (feature.op === 'row') {
    const [x, y, z] = spotOf(feature.step, `${feature.name}, step`, values);
    return more.map((k) => ({ by: [k * x, k * y, k * z] }));
  }
  const angle = values.amount(feature.angle, `${feature.name}, angle`);
  const centre = spotOf(feature.centre, feature.name, values);
  return more.map((k) => ({ axis: feature.axis, centre, angle: k * angle }));
}

/**
 * What a solid is made of, with every amount computed and every outline taken from its board.
 * @throws Failure `solid-invalid` that names the feature and the amount
 */
export function planSolid(master: Master, solid: Solid, fonts: Fonts): Plan {
  const planning: Planning = { master, fonts, values: valuesOf(solid) };
  const made = new Map<string, { making: Making; join: Joining; places: Placing[][] }>();
  const steps: PlanStep[] = [];
  let copies = 0;
  for (const feature of solid.features) {
    const { id, name } = feature;
    const found = making(feature, planning);
    if (found) {
      made.set(id, { ...found, places: [[]] });
      steps.push({ id, name, do: 'join', ...found, places: [[]] });
    } else if (feature.op === 'row' || feature.op === 'ring') {
      const first = made.get(feature.of);
      if (!first) throw invalid(name, 'what it repeats is not there, comes later, or can’t be repeated.');
      const further = placingsOf(feature, planning.values).flatMap((next) => first.places.map((place) => [...place, next]));
      copies += further.length;
      if (copies > MOST_COPIES) throw invalid(name, `there are more than ${MOST_COPIES} repetitions in this solid.`);
      made.set(id, { ...first, places: [...first.places, ...further] });
      if (further.length) steps.push({ id, name, do: 'join', join: first.join, making: first.making, places: further });
    } else if (feature.op === 'fillet' || feature.op === 'chamfer') {
      const amount = feature.op === 'fillet' ? feature.radius : feature.distance;
      const size = planning.values.amount(amount, `${name}, ${feature.op === 'fillet' ? 'radius' : 'distance'}`);
      if (size <= 1e-6) throw invalid(name, `it is ${size} mm, and must be above zero.`);
      steps.push({ id, name, do: feature.op, size, edges: feature.edges.map((rule) => edgesOf(rule, name, planning.values)) });
    }
  }
  const hash = digest(canonical(steps.map(({ name: _name, ...step }) => step)));
  return { id: solid.id, name: solid.name, colour: solid.colour ?? '', steps, hash };
}
