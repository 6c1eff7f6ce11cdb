import { type Box, boxOfPolyline } from '../../base/geometry/measure';
import type { Difference } from '../../contracts/difference';
import { type Ink, colourOf, inkOf, inkOfBox, liesOn, reachOf } from '../../evaluate/matching/ink';
import type { Placing } from '../../evaluate/matching/order';
import { type NameOf, orderDifferences, wordsFor } from '../../evaluate/matching/outlines';
import type { Pair } from '../../evaluate/matching/pair';
import { FINER } from '../../evaluate/matching/pieces';
import { sourceAt } from './drawing';
import type { Drawing } from '../../contracts/drawing';
import { polylineOf } from './pieces';
import { boxOfWords } from './texts';

/** What `wordsFor` wants to know of an entry. */
export const described = (drawing: Drawing, entry: number) => ({
  entry,
  layer: drawing.layers[drawing.layer[entry]!]!.name,
  style: drawing.looks[drawing.look[entry]!]!,
  source: sourceAt(drawing, entry),
  closed: drawing.paths.closed[drawing.firstOutline[entry]!] === 1,
});

/** What an entry is called. */
const nameOfEntry = (drawing: Drawing, entry: number, nameOf: NameOf): string => {
  const words = drawing.texts[drawing.text[entry]!];
  const source = sourceAt(drawing, entry);
  if (words) return (source !== null && nameOf?.(source)) || `“${words.text.slice(0, 60)}”`;
  return wordsFor(described(drawing, entry), nameOf);
};

const polylinesOf = (drawing: Drawing, entry: number, tolerance: number): number[][] => {
  const found: number[][] = [];
  for (let o = drawing.firstOutline[entry]!; o < drawing.firstOutline[entry + 1]!; o++)
    found.push(polylineOf(drawing, o, tolerance / FINER));
  return found;
};
const grownBox = ({ minX, minY, maxX, maxY }: Box, by: number): Box => ({
  minX: minX - by,
  minY: minY - by,
  maxX: maxX + by,
  maxY: maxY + by,
});

/** So often it is worked out whether ink lies on ink; where boxes overlap more often, that counts. */
const MOST_INKS = 5000;

/** Whether it shows which of two entries of a drawing comes first. */
function orderShowsIn(drawing: Drawing, tolerance: number): (one: Placing, other: Placing) => boolean {
  const styleAt = (entry: number) => drawing.looks[drawing.look[entry]!]!;
  const inks = new Map<number, Ink | null>();
  const inkAt = (entry: number): Ink | null => {
    const found = inks.get(entry);
    if (found !== undefined) return found;
    const words = drawing.texts[drawing.text[entry]!];
    const made = words ? inkOfBox(boxOfWords(words)) : inkOf(polylinesOf(drawing, entry, tolerance), styleAt(entry));
    inks.set(entry, made);
    return made;
  };
  let left = MOST_INKS;
  return ({ a: { entry: one } }, { a: { entry: other } }) => {
    if (one === other) return false;
    // Asked first, as it costs nothing: of one colour there may be any number.
    const colour = colourOf(styleAt(one));
    if (colour !== null && colour === colourOf(styleAt(other))) return false;
    if (left-- <= 0) return true;
    const [a, b] = [inkAt(one), inkAt(other)];
    return a === null || b === null || liesOn(a, b, tolerance);
  };
}

/** Things that now cover what they did not cover, of whatever kind: text covers outlines as outlines cover text. */
export function orderOf(
  master: Drawing,
  copy: Drawing,
  partner: Int32Array,
  matched: readonly Pair[],
  texts: readonly Placing[],
  nameOf: NameOf,
  tolerance: number,
): Difference[] {
  const others = [
    ...matched.map(({ a, b }) => [a.entry, b.entry] as const),
    ...texts.map(({ a, b }) => [a.entry, b.entry] as const),
  ];
  const all = [...[...partner].flatMap((j, i) => (j < 0 ? [] : [[i, j] as const])), ...others].sort(([i], [k]) => i - k);
  if (all.every(([, j], at) => at === 0 || all[at - 1]![1] <= j)) return [];
  const boxes = (drawing: Drawing, entry: number): Box[] => {
    const words = drawing.texts[drawing.text[entry]!];
    if (words) return [boxOfWords(words)];
    const reach = reachOf(drawing.looks[drawing.look[entry]!]!);
    return polylinesOf(drawing, entry, tolerance).map((points) => grownBox(boxOfPolyline(points), reach));
  };
  const placings: Placing[] = [];
  partner.forEach((j, i) => {
    if (j < 0) return;
    const what = () => nameOfEntry(master, i, nameOf);
    const source = sourceAt(master, i);
    for (const box of boxes(master, i)) placings.push({ a: { entry: i, box }, b: { entry: j, box }, what, source });
  });
  for (const { a, b } of matched) {
    const box = grownBox(a.box, reachOf(a.style));
    placings.push({ a: { entry: a.entry, box }, b, what: () => wordsFor(a, nameOf), source: a.source });
  }
  const found = orderDifferences([...placings, ...texts], 'paint', orderShowsIn(master, tolerance));
  // An object of several outlines is out of place once.
  const seen = new Set<number>();
  return found.filter(({ masterEntries: [entry] }) => !seen.has(entry!) && seen.add(entry!));
}
