import { type Difference, type DifferenceKind, difference } from '../../contracts/difference';
import type { CompareSettings, Comparison } from '../../contracts/kind';
import type { MeshCarries } from './features';
import { type SurfaceDeviation, offSurface } from './distance';
import { apartBy, holesOf, inOrder, pairHoles } from './holes';
import { matchTriangles } from './match';
import { boxOfMesh, middleOf, seamsOf, sizesOf, volumeAndArea } from './measure';
import type { Hole, Mesh } from '../../contracts/mesh';

/** Below this, corners can't be told apart: single precision, mm. */
const LEAST = 1e-3;
/** Units that people mix up, as factors. */
const UNITS: readonly (readonly [number, string])[] = [
  [25.4, '25.4 times as large: inches were taken for millimetres'],
  [1 / 25.4, '25.4 times too small: millimetres were taken for inches'],
  [10, '10 times as large: centimetres were taken for millimetres'],
  [0.1, '10 times too small: millimetres were taken for centimetres'],
  [1000, '1000 times as large: metres were taken for millimetres'],
  [1e-3, '1000 times too small: millimetres were taken for metres'],
];
/** Entries of a difference that are shown, at most. */
const MOST_SHOWN = 5000;
/** Places that are told one by one, at most. */
const MOST_PLACES = 40;

type Spot = readonly [number, number, number];
const mm = (value: number): string => `${Number(value.toFixed(Math.abs(value) < 0.1 ? 3 : 2))} mm`;
const placeOf = ([x, y, z]: Spot): string => `x ${mm(x)}, y ${mm(y)}, z ${mm(z)}`;

interface Sides {
  readonly master: Mesh;
  readonly copy: Mesh;
  readonly tolerance: number;
  readonly what: string;
}

/** Differences in size: of another unit, or along single axes. */
function sizeDifferences({ master, copy, tolerance, what }: Sides): { found: Difference[]; scaled: boolean } {
  const [a, b] = [boxOfMesh(master), boxOfMesh(copy)];
  if (!a || !b) return { found: [], scaled: false };
  const [s, t] = [sizesOf(a), sizesOf(b)];
  const unit = UNITS.find(([factor]) => s.every((size, k) => Math.abs(size * factor - t[k]!) <= 2 * tolerance + 1e-3 * t[k]!));
  if (unit) {
    const said = (sizes: readonly number[]) => sizes.map((size) => mm(size)).join(' × ');
    return { found: [difference('unit changed', `${what}, ${unit[1]}`, { master: said(s), copy: said(t) })], scaled: true };
  }
  const found = (['x', 'y', 'z'] as const).flatMap((axis, k) =>
    Math.abs(s[k]! - t[k]!) > 2 * tolerance
      ? [
          difference('resized', `${what} along ${axis}`, {
            amount: Math.abs(s[k]! - t[k]!),
            unit: 'mm',
            master: mm(s[k]!),
            copy: mm(t[k]!),
          }),
        ]
      : [],
  );
  return { found, scaled: false };
}

/** Holes told one by one. @returns the differences, and the holes of either side that explain what is off around them */
function holeDifferences(
  { master, copy, tolerance }: Sides,
  shownOf: (hole: Hole, side: Mesh) => number[],
): { found: Difference[]; around: Hole[] } {
  const [own, others] = [inOrder(master.exact?.holes ?? holesOf(master)), inOrder(copy.exact?.holes ?? holesOf(copy))];
  const found: Difference[] = [];
  const around: Hole[] = [];
  for (const { master: i, copy: j, apart } of pairHoles(own, others)) {
    const [a, b] = [i === null ? null : own[i]!, j === null ? null : others[j]!];
    const what = i === null ? `Hole of ${mm(b!.diameter)}` : `Hole ${i + 1} of ${own.length}`;
    const hole = (a ?? b)!;
    const at = {
      place: boxAround(hole),
      spot: [...hole.at] as [number, number, number],
      masterEntries: a ? shownOf(a, master) : [],
      copyEntries: b ? shownOf(b, copy) : [],
    };
    const said = (kind: DifferenceKind, amount: number | null, sides: [string, string] | null = null) => {
      found.push(
        difference(kind, what, {
          ...at,
          ...(amount === null ? {} : { amount: Number(amount.toFixed(6)), unit: 'mm' }),
          ...(sides ? { master: sides[0], copy: sides[1] } : {}),
        }),
      );
      around.push(...[a, b].filter((one) => one !== null));
    };
    if (!a) said('hole added', b!.diameter);
    else if (!b) said('hole missing', a.diameter);
    else {
      const wider = b.diameter - a.diameter;
      const deeper = b.depth - a.depth;
      if (Math.abs(wider) > 2 * tolerance) said('hole changed', Math.abs(wider), [mm(a.diameter), mm(b.diameter)]);
      else if (Math.abs(deeper) > 2 * tolerance && isBlind(a, b))
        said('hole changed', Math.abs(deeper), [`${mm(a.depth)} deep`, `${mm(b.depth)} deep`]);
      if (apart > tolerance) said('hole moved', apart, [placeOf(a.at), placeOf(b.at)]);
    }
  }
  return { found, around };
}
const isBlind = (a: Hole, b: Hole): boolean => apartBy(a, b) < a.diameter / 2;

const boxAround = ({ at: [x, y], diameter }: Hole) => ({
  minX: x - diameter / 2,
  minY: y - diameter / 2,
  maxX: x + diameter / 2,
  maxY: y + diameter / 2,
});

/** Whether a place is on the wall of a hole, or at its rim. */
function isAt(place: Spot, { at, axis, diameter, depth }: Hole, slack: number): boolean {
  const between = place.map((value, k) => value - at[k]!);
  const along = between.reduce((sum, value, k) => sum + value * axis[k]!, 0);
  const out = Math.hypot(...between.map((value, k) => value - along * axis[k]!));
  return Math.abs(along) <= depth / 2 + diameter / 2 + slack && out <= diameter / 2 + slack;
}

/** Puts places that lie next to each other together. */
function clusters(
  off: readonly (SurfaceDeviation & { side: 'master' | 'copy' })[],
  near: number,
): (SurfaceDeviation & { side: 'master' | 'copy' })[][] {
  const cells = new Map<string, number>();
  const parent = off.map((_, i) => i);
  const root = (i: number): number => {
    let at = i;
    while (parent[at] !== at) at = parent[at] = parent[parent[at]!]!;
    return at;
  };
  off.forEach(({ place }, i) => {
    const [a, b, c] = place.map((value) => Math.floor(value / near)) as [number, number, number];
    for (let dx = -1; dx <= 1; dx++)
      for (let dy = -1; dy <= 1; dy++)
        for (let dz = -1; dz <= 1; dz++) {
          const there = cells.get(`${a + dx} ${b + dy} ${c + dz}`);
          if (there !== undefined) parent[root(i)] = root(there);
        }
    const key = `${a} ${b} ${c}`;
    if (!cells.has(key)) cells.set(key, i);
  });
  const groups = new Map<number, (SurfaceDeviation & { side: 'master' | 'copy' })[]>();
  off.forEach((one, i) => {
    const at = root(i);
    const group = groups.get(at);
    if (group) group.push(one);
    else groups.set(at, [one]);
  });
  return [...groups.values()];
}

/** Where the surfaces are apart, place by place, the worst first. */
function surfaceDifferences(off: readonly (SurfaceDeviation & { side: 'master' | 'copy' })[], near: number): Difference[] {
  const some = off.length > 20_000 ? [...off].sort((a, b) => b.distance - a.distance).slice(0, 20_000) : off;
  return clusters(some, near)
    .map((group) => {
      const worst = group.reduce((best, one) => (one.distance > best.distance ? one : best));
      const xs = group.map(({ place }) => place[0]);
      const ys = group.map(({ place }) => place[1]);
      return difference('reshaped', `At ${worst.place.map((value) => Number(value.toFixed(1))).join(', ')}`, {
        amount: worst.distance,
        unit: 'mm',
        spot: [...worst.place],
        place: { minX: min(xs), minY: min(ys), maxX: max(xs), maxY: max(ys) },
        masterEntries: entries(group, 'master'),
        copyEntries: entries(group, 'copy'),
      });
    })
    .sort((a, b) => b.amount! - a.amount!)
    .slice(0, MOST_PLACES);
}
const min = (values: readonly number[]): number => values.reduce((a, b) => Math.min(a, b), Infinity);
const max = (values: readonly number[]): number => values.reduce((a, b) => Math.max(a, b), -Infinity);
const entries = (group: readonly (SurfaceDeviation & { side: 'master' | 'copy' })[], side: 'master' | 'copy'): number[] =>
  group
    .filter((one) => one.side === side)
    .map(({ triangle }) => triangle)
    .slice(0, MOST_SHOWN);

/** How the triangles hang together, where the copy's do otherwise. */
function seamDifferences({ master, copy, what }: Sides): Difference[] {
  const [a, b] = [seamsOf(master), seamsOf(copy)];
  const found: Difference[] = [];
  const at = (t: number) => (t < 0 ? {} : { spot: middleOf(copy, t), copyEntries: [t] });
  if (a.open !== b.open)
    found.push(
      difference('opened', `${what}${b.open > a.open ? '' : ', which was open'}`, {
        ...at(b.openAt),
        master: edges(a.open),
        copy: edges(b.open),
      }),
    );
  if (a.crowded < b.crowded)
    found.push(difference('doubled', what, { ...at(b.crowdedAt), master: edges(a.crowded), copy: edges(b.crowded) }));
  if (a.bodies !== b.bodies && a.open === b.open)
    found.push(
      difference(b.bodies > a.bodies ? 'body added' : 'body missing', what, { master: `${a.bodies}`, copy: `${b.bodies}` }),
    );
  return found;
}
const edges = (count: number): string => (count === 1 ? '1 edge' : `${count} edges`);

/** All in which the copy's solid is another one than the master's. */
export function compareMeshes(
  master: Mesh,
  copy: Mesh,
  { tolerance: own, carries, nameOf }: CompareSettings<MeshCarries>,
): Comparison {
  // Triangles of exact surfaces are known no better than to their chord; volumes, areas and holes are.
  const known = master.exact && copy.exact ? 1.05 * Math.max(master.chord, copy.chord) : 0;
  const tolerance = Math.max(own, LEAST, known);
  const what = nameOf?.(master.source) ?? 'Solid';
  const sides: Sides = { master, copy, tolerance, what };
  const outlines = master.triangles.length / 3;
  const found: Difference[] = [];
  if (carries.colours !== 'left out' && master.colour !== copy.colour)
    found.push(difference('recoloured', what, { master: master.colour || 'none', copy: copy.colour || 'none' }));
  const left = matchTriangles(master, copy, tolerance);
  const [m, c] = [volumeAndArea(master), volumeAndArea(copy)];
  const exactly = volumesApart(master, copy);
  if (left.master.length || left.copy.length || exactly) {
    const { found: sizes, scaled } = sizeDifferences(sides);
    found.push(...sizes);
    if (!scaled) {
      const box = boxOfMesh(master) ?? boxOfMesh(copy);
      const spacing = box ? Math.max(...sizesOf(box)) / 150 : 1;
      const isEmpty = !master.triangles.length || !copy.triangles.length;
      const off = isEmpty
        ? []
        : [
            ...offSurface(master, left.master, copy, tolerance, spacing).map((one) => ({
              ...one,
              side: 'master' as const,
            })),
            ...offSurface(copy, left.copy, master, tolerance, spacing).map((one) => ({
              ...one,
              side: 'copy' as const,
            })),
          ];
      if (isEmpty) found.push(difference(master.triangles.length ? 'missing' : 'added', what, {}));
      if (off.length || exactly) {
        const shown = (hole: Hole, side: Mesh): number[] =>
          off
            .filter((one) => (one.side === 'master') === (side === master) && isAt(one.place, hole, 4 * tolerance))
            .map(({ triangle }) => triangle)
            .slice(0, MOST_SHOWN);
        const holes = holeDifferences(sides, shown);
        found.push(...holes.found);
        const rest = off.filter(
          ({ place }) => !holes.around.some((hole) => isAt(place, hole, 4 * tolerance + hole.diameter / 20)),
        );
        found.push(...surfaceDifferences(rest, 4 * spacing));
        if (exactly || Math.abs(m.volume - c.volume) > 1e-6 * Math.abs(m.volume) + tolerance ** 3)
          found.push(
            difference('volume changed', what, {
              amount: Math.abs((copy.exact?.volume ?? c.volume) - (master.exact?.volume ?? m.volume)),
              unit: 'mm³',
              master: cubic(master.exact?.volume ?? m.volume),
              copy: cubic(copy.exact?.volume ?? c.volume),
            }),
          );
      }
      found.push(...seamDifferences(sides));
      if (m.volume * c.volume < 0)
        found.push(difference('turned inside out', what, { master: cubic(m.volume), copy: cubic(c.volume) }));
    }
  }
  return { differences: found, outlines, equal: outlines - left.master.length, counted: 'triangles' };
}

const cubic = (value: number): string => `${Number(value.toPrecision(7))} mm³`;

/** Whether a kernel measures different volumes or areas, beyond what its integration is off. */
function volumesApart({ exact: a }: Mesh, { exact: b }: Mesh): boolean {
  if (!a || !b) return false;
  return (
    Math.abs(a.volume - b.volume) > 1e-4 * Math.abs(a.volume) ||
    Math.abs(a.area - b.area) > 2e-4 * Math.abs(a.area) ||
    a.bodies !== b.bodies
  );
}
