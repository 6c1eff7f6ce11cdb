import { type Matrix, type PlacedGradient, type Stop, multiply } from '@inkwell-twin/core';

/** A gradient as the library gives it: colours along its length, from a first point or circle to a second. */
export type Shading = readonly [
  kind: 'RadialAxial',
  type: 'axial' | 'radial',
  bbox: unknown,
  stops: readonly (readonly [offset: number, colour: string])[],
  from: readonly [number, number],
  to: readonly [number, number],
  inner: number | null,
  outer: number | null,
];

/** How much longer a gradient is made where it ends, so that there is room for nothing. */
const ROOM = 1 / 16;

/** Stops of a gradient that shows nothing before and after, on a length that has room for that. */
function ended(stops: readonly Stop[], before: number, after: number): Stop[] {
  const length = 1 + before + after;
  const moved = stops.map((stop) => ({ ...stop, offset: (before + stop.offset) / length }));
  const gone = (stop: Stop, offset: number): Stop => ({ ...stop, offset, opacity: 0 });
  const [first, last] = [moved[0]!, moved.at(-1)!];
  return [
    ...(before ? [gone(first, 0), gone(first, first.offset)] : []),
    ...moved,
    ...(after ? [gone(last, last.offset), gone(last, 1)] : []),
  ];
}

/**
 * A gradient that was read.
 * @param at from its axes to the board's
 * @returns a word for what it is where it is of a kind that is not known
 */
export function gradientOf(found: unknown, at: Matrix): PlacedGradient | string {
  const [kind, type, , colours, from, to, inner, outer] = found as Shading;
  if (kind !== 'RadialAxial') return 'colours over a mesh';
  const shown = colours.filter(([, colour]) => /^#[0-9a-f]{6}$/.test(colour));
  if (!shown.length) return 'gradient without colours';
  let stops: Stop[] = shown.map(([offset, colour]) => ({ offset, colour }));
  // One that ends shows nothing beyond.
  const [begins, ends] = [colours[0] !== shown[0], colours.at(-1) !== shown.at(-1)];
  if (type === 'axial') {
    const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
    const placed = multiply(at, [dx, dy, -dy, dx, from[0], from[1]]);
    if (!begins && !ends) return { kind: 'linear', at: placed, stops };
    const [before, after] = [begins ? ROOM : 0, ends ? ROOM : 0];
    const length = 1 + before + after;
    return { kind: 'linear', at: multiply(placed, [length, 0, 0, length, -before, 0]), stops: ended(stops, before, after) };
  }
  const [r0, r1] = [inner ?? 0, outer ?? 0];
  if (!(r1 > r0)) return 'gradient between two circles';
  const [fx, fy] = [(from[0] - to[0]) / r1, (from[1] - to[1]) / r1];
  if (r0 > 0) {
    if (Math.hypot(fx, fy) > 1e-6) return 'gradient between two circles';
    const start = r0 / r1;
    stops = stops.map(({ offset, colour }) => ({ offset: start + offset * (1 - start), colour }));
  }
  const focus = Math.hypot(fx, fy) > 1e-9 ? { focus: [fx, fy] as [number, number] } : {};
  // Within its inner circle it shows nothing, and beyond its outer one: only what is around one middle has room for that.
  if (ends || (begins && r0 > 0)) {
    if (focus.focus) return 'gradient between two circles';
    const reach = r1 * (1 + ROOM);
    if (begins && r0 > 0) stops = [{ ...stops[0]!, offset: 0, opacity: 0 }, { ...stops[0]!, opacity: 0 }, ...stops];
    return { kind: 'radial', at: multiply(at, [reach, 0, 0, reach, to[0], to[1]]), stops: ended(stops, 0, ends ? ROOM : 0) };
  }
  return { kind: 'radial', at: multiply(at, [r1, 0, 0, r1, to[0], to[1]]), ...focus, stops };
}

/** The colour of stops at a place: red, green, blue. */
function colourAt(stops: readonly Stop[], at: number): number[] {
  const next = stops.findIndex(({ offset }) => offset > at);
  const after = next < 0 ? stops.at(-1)! : stops[next]!;
  const before = next < 0 ? after : stops[Math.max(0, next - 1)]!;
  const way = after.offset > before.offset ? Math.max(0, (at - before.offset) / (after.offset - before.offset)) : 0;
  return [1, 3, 5].map((i) => {
    const [a, b] = [parseInt(before.colour.slice(i, i + 2), 16), parseInt(after.colour.slice(i, i + 2), 16)];
    return a + (b - a) * way;
  });
}
const hex = (value: number): string => Math.round(value).toString(16).padStart(2, '0');

/** A gradient seen through another of the same extent, whose lightness says how much shows; null where they lie apart. */
export function veiled(gradient: PlacedGradient, veil: PlacedGradient): PlacedGradient | null {
  // One that ends already lets through what it does.
  if ([...gradient.stops, ...veil.stops].some(({ opacity }) => opacity !== undefined)) return null;
  const size = Math.max(...gradient.at.map(Math.abs), 1);
  const near = (a: number, b: number) => Math.abs(a - b) < 1e-4 * size;
  if (gradient.kind !== veil.kind || !gradient.at.every((value, i) => near(value, veil.at[i]!))) return null;
  const offsets = [...new Set([...gradient.stops, ...veil.stops].map(({ offset }) => offset))].sort((a, b) => a - b);
  const stops = offsets.map((offset): Stop => {
    const colour = `#${colourAt(gradient.stops, offset).map(hex).join('')}`;
    return { offset, colour, opacity: colourAt(veil.stops, offset)[0]! / 255 };
  });
  return { ...gradient, stops: atOnce(stops) };
}

/** How far apart the places are at which the library looks at colours along a gradient, as a share of it. */
const SAMPLE = 1 / 840;

/**
 * Stops of which what begins or ends between two samples does so in the middle of them. Rings that follow each other stay slopes of one
 * sample: their colours go on changing, and would be those of another place.
 */
function atOnce(stops: readonly Stop[]): Stop[] {
  const placed = [...stops];
  for (let i = 0; i + 1 < placed.length; i++) {
    const [one, next] = [placed[i]!, placed[i + 1]!];
    const isStep = one.colour === next.colour && Math.abs((one.opacity ?? 1) - (next.opacity ?? 1)) > 0.5;
    if (!isStep || next.offset - one.offset > 1.02 * SAMPLE) continue;
    const offset = (one.offset + next.offset) / 2;
    placed[i] = { ...one, offset };
    placed[i + 1] = { ...next, offset };
  }
  return placed;
}
