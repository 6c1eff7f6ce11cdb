import type { Style } from '../../master/schema';
import type { Reading } from './context';
import { LINE_EFFECTS, effectsIn } from './effects';
import { parseLength } from './lengths';
import { type Properties, alphaOf, parseColour, shareOf } from './style';

/** What a look is made of: equal values of these are equal looks. */
const PARTS = [
  'fill',
  'stroke',
  'stroke-width',
  'fill-rule',
  'opacity',
  'fill-opacity',
  'stroke-opacity',
  'color',
  'paint-order',
  ...Object.keys(LINE_EFFECTS),
];

/** Looks of shapes, one object for each: a drawing has few, and many shapes. */
export class Looks {
  private readonly known = new Map<string, { style: Style; notes: readonly string[] }>();

  private last: Properties | null = null;
  private lastScale = 0;
  private lastStyle: Style | null = null;

  constructor(private readonly reading: Reading) {}

  /** @param scale how lengths grow on the way to the board, mm per user unit */
  of(properties: Properties, scale: number): Style {
    if (properties === this.last && scale === this.lastScale) return this.lastStyle!;
    let key = `${scale}`;
    for (const part of PARTS) key += `|${properties[part] ?? ''}`;
    let found = this.known.get(key);
    if (!found) this.known.set(key, (found = this.make(properties, scale)));
    for (const note of found.notes) this.reading.tally.add(note);
    // What has nothing to be noted is asked for again and again with the same properties.
    this.last = found.notes.length ? null : properties;
    [this.lastScale, this.lastStyle] = [scale, found.style];
    return found.style;
  }

  private paintKind(text: string): string {
    const id = /^url\(\s*['"]?#([^'")]+)/.exec(text)?.[1];
    return (id && this.reading.ids.get(id)?.name) || 'of an unknown kind';
  }

  private make(properties: Properties, scale: number): { style: Style; notes: readonly string[] } {
    const notes: string[] = [];
    const current = (properties['color'] && parseColour(properties['color'])) || '#000000';
    const colour = (name: 'fill' | 'stroke', otherwise: string | null): string | null => {
      const text = properties[name];
      if (text === undefined) return otherwise;
      const parsed = parseColour(
        text.replace(/^url\([^)]*\)\s+(?=\S)/, (url) => (notes.push(`${name} ${this.paintKind(url)}`), '')),
        current,
      );
      if (parsed !== undefined) return parsed;
      notes.push(`${name} ${this.paintKind(text)}`);
      return name === 'fill' ? '#808080' : null;
    };
    const fill = colour('fill', '#000000');
    const stroke = colour('stroke', null);
    const own = shareOf(properties['opacity']);
    const inFill = shareOf(properties['fill-opacity']) * alphaOf(properties['fill']);
    const inStroke = shareOf(properties['stroke-opacity']) * alphaOf(properties['stroke']);
    const inner = fill && !stroke ? inFill : stroke && !fill ? inStroke : inFill === inStroke ? inFill : 1;
    if (fill && stroke && inFill !== inStroke) notes.push('fill and line of different opacity');
    if (stroke) notes.push(...effectsIn(properties, LINE_EFFECTS));
    if (fill && stroke && /^\s*stroke/.test(properties['paint-order'] ?? '')) notes.push('line under its fill');
    const width = (parseLength(properties['stroke-width'], this.reading.viewport.userWidth) ?? 1) * scale;
    const style: Style = {
      fill,
      ...(properties['fill-rule'] === 'evenodd' ? { fillRule: 'evenodd' as const } : {}),
      stroke,
      strokeWidth: stroke ? width : 0,
      ...(own * inner < 1 ? { opacity: own * inner } : {}),
    };
    return { style, notes };
  }
}
