import type { Box } from '../../base/geometry/measure';
import { joinBoxes } from '../../base/geometry/measure';
import { type Difference, difference } from '../../contracts/difference';
import type { NameOf } from '../../evaluate/matching/outlines';
import type { ClipShape } from '../../document/effects';
import type { DisplayStyle } from '../../contracts/display-list';
import { plainStyle } from '../../contracts/display-list';
import { DrawingBuilder, sourceAt } from './drawing';
import type { Drawing } from '../../contracts/drawing';
import { PLAIN_SPAN, type Span, type SpanLook } from '../../contracts/spans';

const SHARE = 0.005;
const FILLED: DisplayStyle = { ...plainStyle, fill: '#000000' };

/** Areas as a drawing, so that they are compared as drawings are. */
export function areaOf(clip: readonly ClipShape[] | null): Drawing {
  const builder = new DrawingBuilder();
  const layer = builder.layer('');
  for (const { outlines, rule } of clip ?? []) {
    for (const outline of outlines) builder.paths.add(outline);
    builder.path(layer, builder.look({ ...FILLED, fillRule: rule }));
  }
  return builder.finish(null, null);
}

interface SpanSettings {
  readonly nameOf: NameOf;
  readonly boxOf: (entry: number) => Box;
  /** Whether two drawings say the same. */
  readonly alike: (master: Drawing, copy: Drawing) => boolean;
}

/**
 * What is laid down as one: the same things together, by the same rules.
 * @param partner of each of the master's entries, that of the copy; -1 where it has none
 */
export function compareSpans(master: Drawing, copy: Drawing, partner: Int32Array, settings: SpanSettings): Difference[] {
  if (!master.spans.length && !copy.spans.length) return [];
  const { nameOf, boxOf, alike } = settings;
  const back = new Map([...partner].flatMap((j, i) => (j < 0 ? [] : [[j, i] as const])));
  const keyOf = (entries: readonly number[]) => [...entries].sort((a, b) => a - b).join(' ');
  const range = ({ first, end }: Span) => Array.from({ length: end - first }, (_, k) => first + k);
  /** The copy's spans by the master's entries that are in them. */
  const free = new Map<string, Span[]>();
  for (const span of copy.spans) {
    const key = keyOf(range(span).flatMap((j) => back.get(j) ?? []));
    free.set(key, [...(free.get(key) ?? []), span]);
  }
  const found: Difference[] = [];
  const report = (entries: readonly number[], one: SpanLook, other: SpanLook) => {
    const [first] = entries;
    const source = first === undefined ? null : sourceAt(master, first);
    const name = (source !== null && nameOf?.(source)) || 'Objects';
    const what = entries.length > 1 ? `${name} and ${entries.length - 1} more, taken as one` : name;
    const place = entries.length ? joinBoxes(entries.map(boxOf)) : null;
    const copyEntries = entries.flatMap((i) => (partner[i]! < 0 ? [] : [partner[i]!]));
    const add = (kind: Difference['kind'], a: string, b: string) =>
      found.push(difference(kind, what, { master: a, copy: b, place, masterEntries: [...entries], copyEntries, source }));
    if (Math.abs(one.opacity - other.opacity) > SHARE)
      add('restyled', `opacity ${one.opacity.toFixed(2)}`, `opacity ${other.opacity.toFixed(2)}`);
    if (one.blend !== other.blend) add('restyled', `mixes by ${one.blend}`, `mixes by ${other.blend}`);
    const said = (is: unknown, words: string) => (is ? words : `not ${words}`);
    if ((one.clip || other.clip) && !(one.clip && other.clip && alike(areaOf(one.clip), areaOf(other.clip))))
      add(
        'clipped otherwise',
        said(one.clip, 'clipped'),
        said(other.clip, other.clip && one.clip ? 'clipped elsewhere' : 'clipped'),
      );
    const [a, b] = [one.mask, other.mask];
    const sameMask = a && b && a.kind === b.kind && (a.cell === b.cell || alike(master.cells[a.cell]!, copy.cells[b.cell]!));
    if ((a || b) && !sameMask)
      add('masked otherwise', said(a, 'masked'), said(b, a && b ? 'masked by something else' : 'masked'));
  };
  for (const span of master.spans) {
    const all = range(span);
    const known = all.filter((i) => partner[i]! >= 0);
    // What is missing altogether is said elsewhere.
    if (!known.length) continue;
    const other = free.get(keyOf(known))?.shift();
    report(all, span, other ?? PLAIN_SPAN);
  }
  for (const [key, spans] of free) for (const span of spans) if (key) report(key.split(' ').map(Number), PLAIN_SPAN, span);
  return found;
}
