import { type Axis, Failure, type Making, type Plan, type PlanStep, type PlannedEdges, type Placing } from '@inkwell-twin/core';
import type { AnyShape, Edge, Shape3D } from 'replicad';
import { type Kernel, kernelWords } from './kernel';
import { flatShape } from './outline';

const AXIS: Readonly<Record<Axis, [number, number, number]>> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };
const AT: Readonly<Record<Axis, 0 | 1 | 2>> = { x: 0, y: 1, z: 2 };

/** What was read from files that plans name, by hash and part. */
export type FileShapes = ReadonlyMap<string, Shape3D>;
export const fileKey = (sha: string, part: number): string => `${sha} ${part}`;

/** A shape whose own right, up and out are put where those of a plane are. */
function onPlane(shape: Shape3D, plane: 'xy' | 'xz' | 'yz'): Shape3D {
  if (plane === 'xy') return shape;
  // Right x, up z, and so out against y; or right y, up z, out x.
  return plane === 'xz' ? shape.rotate(90, [0, 0, 0], [1, 0, 0]) : shape.rotate(120, [0, 0, 0], [1, 1, 1]);
}

function diagonalOf(shape: AnyShape | undefined): { middle: number[]; reach: number } {
  if (!shape) return { middle: [0, 0, 0], reach: 1000 };
  const { bounds } = shape.boundingBox;
  const [low, high] = bounds;
  return {
    middle: [0, 1, 2].map((k) => (low[k]! + high[k]!) / 2),
    reach: Math.hypot(...[0, 1, 2].map((k) => high[k]! - low[k]!)) + 1,
  };
}

function made({ r }: Kernel, making: Making, before: Shape3D | undefined, files: FileShapes): Shape3D {
  switch (making.make) {
    case 'prism': {
      const { plane, offset, by, outlines } = making;
      // Out is against y on that plane, and a distance along y is meant.
      const way = plane === 'xz' ? -1 : 1;
      const sketch = flatShape(r, outlines).sketchOnPlane('XY', way * offset) as { extrude(by: number): Shape3D };
      return onPlane(sketch.extrude(way * by), plane);
    }
    case 'turning': {
      const { plane, angle, outlines } = making;
      const sketch = flatShape(r, outlines).sketchOnPlane('XY') as {
        revolve(axis: number[], options: { origin: number[]; angle: number }): Shape3D;
      };
      return onPlane(sketch.revolve([0, 1, 0], { origin: [0, 0, 0], angle: Math.min(360, angle) }), plane);
    }
    case 'bore': {
      const { axis, at, diameter, depth, sink } = making;
      const direction = AXIS[axis];
      const { middle, reach } = diagonalOf(before);
      const far = reach + Math.abs(at[AT[axis]] - middle[AT[axis]]!);
      const from = (along: number): [number, number, number] => [
        at[0] + direction[0] * along,
        at[1] + direction[1] * along,
        at[2] + direction[2] * along,
      ];
      const back: [number, number, number] = [-direction[0], -direction[1], -direction[2]];
      let tool: Shape3D =
        depth === null
          ? r.makeCylinder(diameter / 2, 2 * far, from(far), back)
          : r.makeCylinder(diameter / 2, depth, [...at], back);
      if (sink) {
        // Down to where it is as wide as the hole: its tip would drill on.
        const deep = (sink.diameter - diameter) / 2 / Math.tan((sink.angle * Math.PI) / 360);
        const cone = r
          .draw([0, 0])
          .lineTo([sink.diameter / 2, 0])
          .lineTo([diameter / 2, -deep])
          .lineTo([0, -deep])
          .close()
          .sketchOnPlane('XZ') as { revolve(axis: number[]): Shape3D };
        let head = cone.revolve([0, 0, 1]);
        if (axis === 'x') head = head.rotate(90, [0, 0, 0], [0, 1, 0]);
        if (axis === 'y') head = head.rotate(-90, [0, 0, 0], [1, 0, 0]);
        tool = tool.fuse(head.translate([...at]));
      }
      return tool;
    }
    case 'file': {
      const found = files.get(fileKey(making.sha, making.part));
      if (!found) throw new Failure('solid-invalid', 'The file that it takes its shape from holds no such solid any more.');
      return found.clone() as Shape3D;
    }
  }
}

const placed = (shape: Shape3D, places: readonly Placing[]): Shape3D =>
  places.reduce<Shape3D>(
    (one, place) => ('by' in place ? one.translate([...place.by]) : one.rotate(place.angle, [...place.centre], AXIS[place.axis])),
    shape.clone() as Shape3D,
  );

/** Whether boxes keep apart, so that all tools may cut at once. */
function apart(shapes: readonly Shape3D[]): boolean {
  const boxes = shapes.map((shape) => shape.boundingBox.bounds).sort(([a], [b]) => a[0] - b[0]);
  return boxes.every(([low, high], i) => {
    for (let j = i + 1; j < boxes.length && boxes[j]![0][0] <= high[0] + 1e-6; j++) {
      const [otherLow, otherHigh] = boxes[j]!;
      const meets = [1, 2].every((k) => low[k as 1] <= otherHigh[k as 1] + 1e-6 && otherLow[k as 1] <= high[k as 1] + 1e-6);
      if (meets) return false;
    }
    return true;
  });
}

const near = (a: number, b: number): boolean => Math.abs(a - b) < 1e-4;
type Vector = { x: number; y: number; z: number; delete(): void };
const numbersOf = (vector: Vector): [number, number, number] => {
  const numbers: [number, number, number] = [vector.x, vector.y, vector.z];
  vector.delete();
  return numbers;
};
const pointsOf = (edge: Edge): [number, number, number][] => [0, 0.25, 0.5, 0.75, 1].map((at) => numbersOf(edge.pointAt(at)));

function fits(edge: Edge, { along, on, form }: PlannedEdges): boolean {
  const straight = edge.geomType === 'LINE';
  if (form && (form === 'straight') !== straight) return false;
  if (!along && !on) return true;
  const points = pointsOf(edge);
  if (along) {
    if (!straight) return false;
    const across = [0, 1, 2].filter((k) => k !== AT[along]) as (0 | 1 | 2)[];
    if (across.some((k) => !near(points[0]![k], points[4]![k]))) return false;
  }
  return !on || points.every((point) => near(point[AT[on.axis]], on.value));
}

const distanceTo = (edge: Edge, spot: readonly number[]): number => {
  const points = pointsOf(edge);
  let best = Infinity;
  for (let i = 1; i < points.length; i++) {
    const [a, b] = [points[i - 1]!, points[i]!];
    const along = [0, 1, 2].map((k) => b[k]! - a[k]!);
    const length = along.reduce((sum, value) => sum + value * value, 0);
    const share =
      length > 0 ? Math.min(1, Math.max(0, along.reduce((sum, value, k) => sum + value * (spot[k]! - a[k]!), 0) / length)) : 0;
    best = Math.min(best, Math.hypot(...[0, 1, 2].map((k) => a[k]! + share * along[k]! - spot[k]!)));
  }
  return best;
};

/** The edges of a shape that rules mean, as numbers among all of them. */
function chosen(edges: readonly Edge[], rules: readonly PlannedEdges[]): Set<number> {
  const found = new Set<number>();
  for (const rule of rules) {
    const fitting = edges.flatMap((edge, i) => (fits(edge, rule) ? [i] : []));
    if (rule.near) {
      const distances = fitting.map((i) => distanceTo(edges[i]!, rule.near!));
      const least = Math.min(...distances);
      if (fitting.length) found.add(fitting[distances.indexOf(least)]!);
    } else for (const i of fitting) found.add(i);
  }
  return found;
}

function rounded(shape: Shape3D, step: Extract<PlanStep, { do: 'fillet' | 'chamfer' }>): Shape3D {
  const edges = shape.edges;
  const which = chosen(edges, step.edges);
  if (!which.size) throw new Failure('solid-invalid', 'no edge fits what is said of it. Say which edges are meant otherwise.');
  const wanted = [...which].map((i) => edges[i]!);
  const size = (edge: Edge): number | null => (wanted.some((one) => one.isSame(edge)) ? step.size : null);
  return step.do === 'fillet' ? shape.fillet(size) : shape.chamfer(size);
}

type Join = Extract<PlanStep, { do: 'join' }>;

/** What a step makes, in all its places. */
function toolsOf(shape: Shape3D | undefined, step: Join, kernel: Kernel, files: FileShapes): Shape3D[] {
  const one = made(kernel, step.making, shape, files);
  return step.places.map((place) => placed(one, place));
}

function joined(shape: Shape3D | undefined, step: Join, kernel: Kernel, files: FileShapes): Shape3D {
  const tools = toolsOf(shape, step, kernel, files);
  if (!shape) {
    if (step.join !== 'add') throw new Failure('solid-invalid', 'it comes first, and there is nothing yet to cut or to share.');
    return tools.slice(1).reduce<Shape3D>((sum, tool) => sum.fuse(tool), tools[0]!);
  }
  const together = tools.length > 1 && apart(tools) ? [kernel.r.makeCompound(tools) as Shape3D] : tools;
  if (step.join === 'cut') return together.reduce<Shape3D>((rest, tool) => rest.cut(tool), shape);
  if (step.join === 'add') return together.reduce<Shape3D>((sum, tool) => sum.fuse(tool), shape);
  const all = tools.slice(1).reduce<Shape3D>((sum, tool) => sum.fuse(tool), tools[0]!);
  return shape.intersect(all);
}

/** Steps that cut one after the other are one cut where their tools keep apart, from so many on. */
const MANY = 6;

const cuts = (step: PlanStep | undefined): step is Join => step?.do === 'join' && step.join === 'cut';

/** How many steps from one on cut: all of them, if it is the first of them that is asked for. */
function runLength(steps: readonly PlanStep[], at: number): number {
  let end = at;
  while (cuts(steps[end])) end++;
  return end - at;
}

/** Whether a step stands within a run of many that are cut together: a shape after it alone would lead to other triangles. */
function isWithinRun(steps: readonly PlanStep[], at: number): boolean {
  if (!cuts(steps[at]) || !cuts(steps[at + 1])) return false;
  let start = at;
  while (cuts(steps[start - 1])) start--;
  return runLength(steps, start) >= MANY;
}

/**
 * Steps whose tools keep apart, cut at once: a plate of three hundred holes is drilled in one go. Null where they touch each other, or
 * where it does not work out and each has to say for itself what is wrong.
 */
function cutTogether(shape: Shape3D, run: readonly Join[], kernel: Kernel, files: FileShapes): Shape3D | null {
  try {
    const tools = run.flatMap((step) => toolsOf(shape, step, kernel, files));
    if (!apart(tools)) return null;
    const rest = shape.cut(kernel.r.makeCompound(tools) as Shape3D);
    return rest.solids.length ? rest : null;
  } catch {
    return null;
  }
}

/** What the kernel says, where it says anything that helps. */
const inBrackets = (error: unknown): string => {
  const words = error instanceof Error ? kernelWords(error) : '';
  return words ? ` (${words})` : '';
};

/** Shapes of the last plans, by all the steps that made them: an edit of a late feature makes only what comes after it. */
const remembered = new WeakMap<Kernel, Map<string, Shape3D>>();
const MOST_PREFIXES = 96;

function remember(prefixes: Map<string, Shape3D>, key: string, shape: Shape3D): void {
  prefixes.delete(key);
  prefixes.set(key, shape);
  for (const oldest of prefixes.keys()) {
    if (prefixes.size <= MOST_PREFIXES) break;
    prefixes.delete(oldest);
  }
}

/**
 * Makes a solid step by step.
 * @throws Failure `solid-invalid` that names the feature
 */
export function makeSolid(kernel: Kernel, plan: Plan, keyOf: (steps: readonly PlanStep[]) => string, files: FileShapes): Shape3D {
  const { steps } = plan;
  if (!steps.length) throw new Failure('solid-invalid', `“${plan.name}” has no feature yet that makes anything.`);
  const keys = steps.map((_, i) => keyOf(steps.slice(0, i + 1)));
  // The memory of shapes is their kernel's: with it, they are gone.
  const prefixes = remembered.get(kernel) ?? new Map<string, Shape3D>();
  remembered.set(kernel, prefixes);
  let from = keys.findLastIndex((key, i) => prefixes.has(key) && !isWithinRun(steps, i));
  let shape: Shape3D | undefined = from < 0 ? undefined : prefixes.get(keys[from]!);
  for (from++; from < steps.length; from++) {
    const step = steps[from]!;
    const many = !cuts(steps[from - 1]) ? runLength(steps, from) : 0;
    const rest: Shape3D | null =
      shape && many >= MANY ? cutTogether(shape, steps.slice(from, from + many) as Join[], kernel, files) : null;
    if (rest) {
      shape = rest;
      from += many - 1;
      remember(prefixes, keys[from]!, shape);
      continue;
    }
    try {
      if (step.do === 'join') shape = joined(shape, step, kernel, files);
      else if (shape) shape = rounded(shape, step);
      else throw new Failure('solid-invalid', 'there is nothing yet whose edges it could take.');
      if (!shape.solids.length) throw new Failure('solid-invalid', 'nothing is left of the solid after it.');
    } catch (error) {
      const words =
        error instanceof Failure
          ? error.message
          : step.do === 'join'
            ? `it can’t be made${inBrackets(error)}`
            : `${step.size} mm does not fit at its edges${inBrackets(error)}`;
      throw new Failure('solid-invalid', `“${plan.name}”, ${step.name}: ${words.replace(/\.$/, '')}.`, { node: step.id });
    }
    remember(prefixes, keys[from]!, shape);
  }
  return shape!;
}
