import Flatbush from 'flatbush';
import { apply } from '../../base/geometry/matrix';
import { type Box, emptyBox, growBox, joinBoxes } from '../../base/geometry/measure';
import { type Difference, difference } from '../../contracts/difference';
import { lookDifferences } from '../../evaluate/matching/looks';
import type { Sameness } from '../../evaluate/matching/paints';
import type { Placing } from '../../evaluate/matching/order';
import type { NameOf } from '../../evaluate/matching/outlines';
import { sourceAt } from './drawing';
import type { Drawing, Words } from '../../contracts/drawing';
import { apart, sizedApart, slantBetween, spacedApart } from './same';

/** A text of a drawing. */
interface Text extends Words {
  readonly entry: number;
  readonly layer: string;
  readonly style: Drawing['looks'][number];
  readonly source: string | null;
}

const textAt = (drawing: Drawing, entry: number): Text => ({
  ...drawing.texts[drawing.text[entry]!]!,
  entry,
  layer: drawing.layers[drawing.layer[entry]!]!.name,
  style: drawing.looks[drawing.look[entry]!]!,
  source: sourceAt(drawing, entry),
});

const angle = ({ frame }: Words): number => (Math.atan2(frame[1], frame[0]) * 180) / Math.PI;

/** About where a text stands: six tenths of an em is a fair mean width; the place is for showing, not for measuring. */
export function boxOfWords({ frame, size, text, align, spacing = 0 }: Words): Box {
  const width = text.length * Math.max(0, size * 0.6 + spacing);
  const left = align === 'start' ? 0 : align === 'middle' ? -width / 2 : -width;
  const box = emptyBox();
  for (const x of [left, left + width]) for (const y of [-0.25 * size, 0.8 * size]) growBox(box, ...apply(frame, [x, y]));
  return box;
}

const quoted = (text: string) => `“${text}”`;

/** Texts of one side that have no partner yet, found by where they stand. */
class Standing {
  private readonly index: Flatbush | undefined;
  private left: number;

  constructor(
    private readonly texts: readonly Text[],
    private readonly free: ReadonlySet<Text>,
  ) {
    this.left = texts.length;
    // A few are looked through faster than any index is built.
    if (texts.length <= FEW) return;
    this.index = new Flatbush(texts.length);
    for (const { frame } of texts) this.index.add(frame[4], frame[5], frame[4], frame[5]);
    this.index.finish();
  }

  /** The nearest free one within a distance that passes. */
  nearest({ frame }: Text, within: number, passes: (text: Text) => boolean = () => true): Text | undefined {
    if (!this.left) return undefined;
    if (!this.index) return this.nearestOfFew(frame, within, passes);
    let anyFree = false;
    const [found] = this.index.neighbors(frame[4], frame[5], 1, within, (i) => {
      const isFree = this.free.has(this.texts[i]!);
      anyFree ||= isFree;
      return isFree && passes(this.texts[i]!);
    });
    if (!anyFree && within === Infinity) this.left = 0;
    return found === undefined ? undefined : this.texts[found];
  }

  private nearestOfFew(frame: Words['frame'], within: number, passes: (text: Text) => boolean): Text | undefined {
    let [best, distance]: [Text | undefined, number] = [undefined, Infinity];
    for (const text of this.texts) {
      const far = Math.hypot(text.frame[4] - frame[4], text.frame[5] - frame[5]);
      if (far > within || far >= distance || !this.free.has(text) || !passes(text)) continue;
      [best, distance] = [text, far];
    }
    return best;
  }
}

const FEW = 16;

function grouped(texts: Iterable<Text>): Map<string, Text[]> {
  const groups = new Map<string, Text[]>();
  for (const text of texts) {
    const list = groups.get(text.text);
    if (list) list.push(text);
    else groups.set(text.text, [text]);
  }
  return groups;
}

/**
 * Compares texts that are not simply the same: string, place, turn, size, font and look; and says which text is which.
 * @param as entries of the master's side, in order
 * @param bs entries of the copy's side, in order
 */
export function compareTexts(
  master: Drawing,
  as: readonly number[],
  copy: Drawing,
  bs: readonly number[],
  within: Sameness,
  nameOf: NameOf,
): { differences: Difference[]; placings: Placing[] } {
  const { tolerance } = within;
  const found: Difference[] = [];
  const placings: Placing[] = [];
  const freeA = new Set(as.map((entry) => textAt(master, entry)));
  const freeB = new Set(bs.map((entry) => textAt(copy, entry)));
  const called = ({ text, source }: Text): string => (source !== null && nameOf?.(source)) || quoted(text.slice(0, 60));
  const report = (kind: Difference['kind'], a: Text | null, b: Text | null, rest: Partial<Difference>) =>
    found.push(
      difference(kind, called((a ?? b)!), {
        place: joinBoxes([a, b].flatMap((text) => (text ? [boxOfWords(text)] : []))),
        masterEntries: a ? [a.entry] : [],
        copyEntries: b ? [b.entry] : [],
        source: a?.source ?? null,
        ...rest,
      }),
    );
  const compareOne = (x: Text, y: Text) => {
    if (x.text !== y.text) report('retyped', x, y, { master: quoted(x.text), copy: quoted(y.text) });
    const distance = apart(x, y);
    if (distance > tolerance) report('moved', x, y, { amount: distance, unit: 'mm' });
    const size = Math.abs(x.size - y.size);
    const [digits, end] = [size > tolerance ? 2 : 4, sizedApart(x, y)];
    if (size > tolerance || end > 4 * tolerance)
      report('resized', x, y, {
        amount: size,
        unit: 'mm',
        master: `${x.size.toFixed(digits)} mm`,
        copy: `${y.size.toFixed(digits)} mm${digits > 2 ? `, ends about ${end.toFixed(2)} mm elsewhere` : ''}`,
      });
    if (slantBetween(x, y) > 4 * tolerance) report('turned', x, y, { amount: Math.abs(angle(x) - angle(y)), unit: '°' });
    if (x.font !== y.font) report('font changed', x, y, { master: x.font, copy: y.font });
    if (spacedApart(x, y) > 4 * tolerance)
      report('restyled', x, y, {
        amount: Math.abs((x.spacing ?? 0) - (y.spacing ?? 0)),
        unit: 'mm',
        master: `letters ${(x.spacing ?? 0).toFixed(3)} mm apart`,
        copy: `letters ${(y.spacing ?? 0).toFixed(3)} mm apart`,
      });
    if (x.align !== y.align) report('moved', x, y, { master: `aligned ${x.align}`, copy: `aligned ${y.align}` });
    for (const { kind, master: one, copy: other, amount } of lookDifferences(x, y, () => boxOfWords(x), within))
      report(kind, x, y, { master: one, copy: other, amount, unit: amount === null ? '' : 'mm' });
  };
  const settle = (a: Text, b: Text) => {
    freeA.delete(a);
    freeB.delete(b);
    compareOne(a, b);
    placings.push({
      a: { entry: a.entry, box: boxOfWords(a) },
      b: { entry: b.entry, box: boxOfWords(b) },
      what: () => called(a),
      source: a.source,
    });
  };
  const match = (partner: (a: Text) => Text | undefined) => {
    for (const a of freeA) {
      const b = freeB.size ? partner(a) : undefined;
      if (b) settle(a, b);
    }
  };
  const sameWords = () => {
    const standing = new Map([...grouped(freeB)].map(([text, list]) => [text, new Standing(list, freeB)]));
    return (a: Text, within: number) => standing.get(a.text)?.nearest(a, within);
  };
  const here = sameWords();
  match((a) => here(a, tolerance));
  let around = new Standing([...freeB], freeB);
  match((a) => around.nearest(a, tolerance));
  // Of many that say the same and all moved, those that come in the same place of the order are the same.
  const inOrder = grouped(freeB);
  for (const [text, list] of grouped(freeA)) {
    const others = inOrder.get(text);
    if (others?.length === list.length && list.length > 1) list.forEach((a, i) => settle(a, others[i]!));
  }
  const anywhere = sameWords();
  match((a) => anywhere(a, Infinity));
  around = new Standing([...freeB], freeB);
  const largest = [...freeB].reduce((most, { size }) => Math.max(most, size), 0);
  match((a) =>
    around.nearest(a, Math.max(a.size, largest), (b) => b.layer === a.layer && apart(a, b) <= Math.max(a.size, b.size)),
  );
  for (const a of freeA) report('missing', a, null, {});
  for (const b of freeB) report('added', null, b, {});
  return { differences: found, placings };
}
