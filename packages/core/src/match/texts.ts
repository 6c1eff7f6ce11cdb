import { apply } from '../geometry/matrix';
import { type Box, emptyBox, growBox } from '../geometry/measure';
import type { DisplayList, TextEntry } from '../projection/display-list';
import type { Difference } from './difference';
import { lookDifferences } from './looks';
import type { Placing } from './order';

interface Placed {
  readonly entry: TextEntry;
  readonly index: number;
}

const textsOf = (list: DisplayList): Placed[] =>
  list.entries.flatMap((entry, index) => (entry.kind === 'text' ? [{ entry, index }] : []));
const apart = (a: TextEntry, b: TextEntry): number => Math.hypot(a.frame[4] - b.frame[4], a.frame[5] - b.frame[5]);
const angle = ({ frame }: TextEntry): number => (Math.atan2(frame[1], frame[0]) * 180) / Math.PI;

function boxOf({ frame, size, text, align }: TextEntry): Box {
  // Six tenths of an em is a fair mean width; the place is for showing, not for measuring.
  const width = text.length * size * 0.6;
  const left = align === 'start' ? 0 : align === 'middle' ? -width / 2 : -width;
  const box = emptyBox();
  for (const x of [left, left + width]) for (const y of [-0.25 * size, 0.8 * size]) growBox(box, ...apply(frame, [x, y]));
  return box;
}

const join = (a: Box, b: Box): Box => ({
  minX: Math.min(a.minX, b.minX),
  minY: Math.min(a.minY, b.minY),
  maxX: Math.max(a.maxX, b.maxX),
  maxY: Math.max(a.maxY, b.maxY),
});
const quoted = (text: string) => `“${text}”`;

/** Compares the texts of two lists: string, place, turn, size, font and look; and says which text is which. */
export function compareTexts(
  master: DisplayList,
  copy: DisplayList,
  tolerance: number,
  nameOf?: (source: string) => string | undefined,
): { differences: Difference[]; placings: Placing[] } {
  const found: Difference[] = [];
  const placings: Placing[] = [];
  const as = new Set(textsOf(master));
  const bs = new Set(textsOf(copy));
  const called = ({ text, source }: TextEntry): string => (source !== undefined && nameOf?.(source)) || quoted(text.slice(0, 60));
  const report = (kind: Difference['kind'], a: Placed | null, b: Placed | null, rest: Partial<Difference>) =>
    found.push({
      kind,
      what: called((a ?? b)!.entry),
      count: 1,
      place: a && b ? join(boxOf(a.entry), boxOf(b.entry)) : boxOf((a ?? b)!.entry),
      amount: null,
      unit: '',
      master: null,
      copy: null,
      masterEntries: a ? [a.index] : [],
      copyEntries: b ? [b.index] : [],
      source: a?.entry.source ?? null,
      ...rest,
    });
  const match = (test: (a: TextEntry, b: TextEntry) => boolean) => {
    for (const a of as) {
      let best: Placed | undefined;
      for (const b of bs) if (test(a.entry, b.entry) && (!best || apart(a.entry, b.entry) < apart(a.entry, best.entry))) best = b;
      if (!best) continue;
      as.delete(a);
      bs.delete(best);
      compareOne(a, best);
      placings.push({
        a: { entry: a.index, box: boxOf(a.entry) },
        b: { entry: best.index, box: boxOf(best.entry) },
        what: () => called(a.entry),
        source: a.entry.source ?? null,
      });
    }
  };
  const compareOne = (a: Placed, b: Placed) => {
    const [x, y] = [a.entry, b.entry];
    if (x.text !== y.text) report('retyped', a, b, { master: quoted(x.text), copy: quoted(y.text) });
    const distance = apart(x, y);
    if (distance > tolerance) report('moved', a, b, { amount: distance, unit: 'mm' });
    const size = Math.abs(x.size - y.size);
    if (size > tolerance)
      report('resized', a, b, {
        amount: size,
        unit: 'mm',
        master: `${x.size.toFixed(2)} mm`,
        copy: `${y.size.toFixed(2)} mm`,
      });
    const slant = Math.max(...[0, 1, 2, 3].map((i) => Math.abs(x.frame[i]! - y.frame[i]!)));
    // The far end of the line moves by its length times the turn.
    if (slant * x.size * Math.max(1, x.text.length * 0.6) > 4 * tolerance)
      report('turned', a, b, { amount: Math.abs(angle(x) - angle(y)), unit: '°' });
    if (x.font !== y.font) report('font changed', a, b, { master: x.font, copy: y.font });
    if (x.align !== y.align) report('moved', a, b, { master: `aligned ${x.align}`, copy: `aligned ${y.align}` });
    for (const { kind, master, copy, amount } of lookDifferences(x, y))
      report(kind, a, b, { master, copy, amount, unit: amount === null ? '' : 'mm' });
  };
  match((a, b) => a.text === b.text && apart(a, b) <= tolerance);
  match((a, b) => apart(a, b) <= tolerance);
  match((a, b) => a.text === b.text);
  match((a, b) => apart(a, b) <= Math.max(a.size, b.size) && a.layer === b.layer);
  for (const a of as) report('missing', a, null, {});
  for (const b of bs) report('added', null, b, {});
  return { differences: found, placings };
}
