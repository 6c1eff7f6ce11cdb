import { boxesOverlap, widened } from '../../base/geometry/measure';
import type { DisplayStyle } from '../../contracts/display-list';
import type { Drawing } from '../../contracts/drawing';
import { boxOfEntry, placesOf } from './places';
import { sameEntry } from './same';

/** More things between fills and their lines than these are not looked through. */
const LOOKS = 200_000;

/**
 * A drawing in which a fill and the line right over it are one thing again, where they were painted as two: that looks the same
 * as long as nothing lies between them and neither shows through. What stood for the line stays, and shows no more.
 * @param tolerance how far the two may be apart, mm
 * @returns null where there are none
 */
export function joined(drawing: Drawing, tolerance: number): Drawing | null {
  const { count, layer, spans } = drawing;
  const style = (entry: number): DisplayStyle => drawing.looks[drawing.look[entry]!]!;
  const places = placesOf(drawing);
  const cell = (entry: number, dx = 0, dy = 0) =>
    `${Math.round(places.x(entry) / (4 * tolerance)) + dx} ${Math.round(places.y(entry) / (4 * tolerance)) + dy}`;
  const lines = new Map<string, number[]>();
  for (let k = 0; k < count; k++) {
    const { fill, stroke, opacity } = style(k);
    if (fill !== null || stroke === null || opacity !== 1) continue;
    const key = cell(k);
    lines.set(key, [...(lines.get(key) ?? []), k]);
  }
  if (!lines.size) return null;
  const same = sameEntry(drawing, drawing, tolerance);
  const inked = (entry: number) => widened(boxOfEntry(drawing, entry, 0.1), style(entry).strokeWidth);
  let left = LOOKS;
  const isFree = (under: number, over: number): boolean => {
    if ((left -= over - under) < 0) return false;
    if (spans.some(({ first, end }) => (under >= first && under < end) !== (over >= first && over < end))) return false;
    const box = inked(over);
    for (let k = under + 1; k < over; k++) if (boxesOverlap(box, inked(k))) return false;
    return true;
  };
  const looks = [...drawing.looks];
  const look = drawing.look.slice();
  const taken = new Set<number>();
  const unseen = looks.length;
  for (let j = 0; j < count; j++) {
    const { fill, fillRule, fillOpacity = 1, stroke, opacity } = style(j);
    if (fill === null || stroke !== null || opacity !== 1) continue;
    const near = [-1, 0, 1].flatMap((dx) => [-1, 0, 1].flatMap((dy) => lines.get(cell(j, dx, dy)) ?? []));
    const k = near.find((one) => one > j && !taken.has(one) && layer[one] === layer[j] && same(j, one) && isFree(j, one));
    if (k === undefined) continue;
    taken.add(k);
    if (looks.length === unseen) looks.push({ ...style(k), fill: null, stroke: null });
    look[j] = looks.push({ ...style(k), fill, fillRule, fillOpacity }) - 1;
    look[k] = unseen;
  }
  return taken.size ? { ...drawing, looks, look } : null;
}
