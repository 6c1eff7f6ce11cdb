import { Tally } from '../../contracts/tally';
import type { Measure } from '../../document/items';
import type { NotUnderstood } from '../../contracts/not-understood';
import { isOffered } from './conditions';
import { parseLength } from './lengths';
import { StyleSheet, parseColour } from './style';
import type { Properties } from './properties';
import { shippedFont } from './text';
import { textOf } from './xml';
import type { XmlElement } from './xml-element';

/** Letters that look alike. */
interface Piece {
  readonly text: string;
  readonly properties: Properties;
  readonly size: number;
}
/** A line before it is broken, and what it is set by. */
interface Line {
  readonly pieces: Piece[];
  readonly align: 'start' | 'middle' | 'end';
  readonly height: number | null;
  readonly breaks: boolean;
}
/** What is handed on in a text that is no drawing: these are not properties of drawings. */
interface Setting {
  readonly properties: Properties;
  readonly align: Line['align'];
  readonly height: number | null;
  readonly breaks: boolean;
}

const NAME = 'foreignObject';
/** Elements that begin and end a line (HTML, 15.3.3 and what follows). */
const BLOCKS = new Set(
  'address article aside blockquote body center dd div dl dt figure footer form h1 h2 h3 h4 h5 h6 header html li main nav ol p pre section table tr ul'.split(
    ' ',
  ),
);
/** Elements whose letters look otherwise by themselves (HTML, 15.3.4). */
const OF_THEMSELVES: Readonly<Record<string, Properties>> = {
  b: { 'font-weight': 'bold' },
  strong: { 'font-weight': 'bold' },
  th: { 'font-weight': 'bold' },
  i: { 'font-style': 'italic' },
  em: { 'font-style': 'italic' },
  code: { 'font-family': 'monospace' },
  small: { 'font-size': 'smaller' },
  ...Object.fromEntries(
    [2, 1.5, 1.17, 1, 0.83, 0.67].map((em, i) => [`h${i + 1}`, { 'font-weight': 'bold', 'font-size': `${em}em` }]),
  ),
};
const ALIGN: Readonly<Record<string, Line['align']>> = {
  left: 'start',
  start: 'start',
  center: 'middle',
  right: 'end',
  end: 'end',
};
/** Nothing of these is seen as words. */
const UNSEEN = new Set(['head', 'script', 'style', 'template', 'title']);
/** Shares of the size of letters: from one line to the next, and from the top of letters to where they stand. */
const [NORMAL, STANDS] = [1.2, 0.8];

const localName = ({ name }: XmlElement): string => name.replace(/^.*:/, '').toLowerCase();
const sizeOf = (properties: Properties): number => parseLength(properties['font-size'], 0) ?? 16;

/** What became of the parts of a document that are written in another language. */
interface TakenWords {
  readonly notes: readonly NotUnderstood[];
}

/**
 * Parts in another language than that of drawings, mostly labels in HTML, as texts of their words, set as that language sets
 * them: no library here draws the rest of it. Where a document has something of its own for readers like this one, that is
 * taken. Changes the tree.
 */
export function takeWords(root: XmlElement, measure: Measure): TakenWords {
  const found: [element: XmlElement, around: Properties][] = [];
  const sheet = new StyleSheet();
  const gather = (element: XmlElement): boolean =>
    element.name === NAME || element.children.some((child) => typeof child !== 'string' && gather(child));
  if (!gather(root)) return { notes: [] };
  const styles = (element: XmlElement): void => {
    if (element.name === 'style') sheet.add(textOf(element));
    for (const child of element.children) if (typeof child !== 'string') styles(child);
  };
  styles(root);
  const walk = (element: XmlElement, around: Properties): void => {
    const properties = sheet.propertiesOf(element, around);
    if (element.name === NAME) found.push([element, properties]);
    else for (const child of element.children) if (typeof child !== 'string') walk(child, properties);
  };
  walk(root, {});
  const tally = new Tally();
  for (const [element, properties] of found) {
    const { children } = element.parent!;
    const at = children.indexOf(element);
    const others = children.filter((child) => typeof child !== 'string' && child.name !== NAME && isOffered(child));
    if (element.parent!.name === 'switch' && others.length) {
      tally.addUnseen('foreign object, whose stand-in is taken');
      children.splice(at, 1);
    } else if (properties['display'] === 'none') children.splice(at, 1);
    else {
      const texts = asTexts(element, properties, sheet, measure, tally);
      tally.add(texts.children.length ? 'foreign object, taken as its words' : `element ${NAME}`);
      children[at] = texts;
    }
  }
  return { notes: tally.list() };
}

/** The lines of what stands in an element. */
class Gathering {
  readonly lines: Line[] = [];
  private open: Line | null = null;

  constructor(
    private readonly sheet: StyleSheet,
    private readonly tally: Tally,
  ) {}

  end(): void {
    this.open = null;
  }

  private add(text: string, { properties, align, height, breaks }: Setting): void {
    const words = text.replace(/\s+/g, ' ');
    const line = this.open ?? { pieces: [], align, height, breaks };
    const before = line.pieces.at(-1);
    const shown = !before || before.text.endsWith(' ') ? words.replace(/^ /, '') : words;
    if (!shown) return;
    if (!this.open) this.lines.push((this.open = line));
    line.pieces.push({ text: shown, properties, size: sizeOf(properties) });
  }

  walk(element: XmlElement, setting: Setting): void {
    for (const child of element.children) {
      if (typeof child === 'string') {
        this.add(child, setting);
        continue;
      }
      const name = localName(child);
      if (UNSEEN.has(name)) continue;
      if (name === 'br') {
        if (!this.open) this.add('\u200a', setting);
        this.end();
        continue;
      }
      const by = OF_THEMSELVES[name];
      const around = by ? this.sheet.propertiesOf({ ...child, name, attributes: by, children: [] }, setting.properties) : null;
      const properties = this.sheet.propertiesOf(child, around ?? setting.properties);
      if (properties['display'] === 'none' || properties['visibility'] === 'hidden') continue;
      if (/^(img|svg|video|canvas|input|button|select|textarea|iframe|hr|math)$/.test(name)) {
        this.tally.add(`${name} in a foreign object`);
        continue;
      }
      const { 'line-height': tall, 'white-space': blanks, 'text-align': align } = properties;
      const box = properties['background-color'] ?? properties['background'] ?? properties['border'];
      if (box && !/^(none|transparent|inherit|unset|0)\b|,\s*0\)$/.test(box)) this.tally.add('box of a foreign object');
      const centred = /center/.test(properties['justify-content'] ?? '') || name === 'center';
      const inner: Setting = {
        properties,
        align: (align ? ALIGN[align] : undefined) ?? (centred ? 'middle' : setting.align),
        height: tall && tall !== 'normal' ? heightOf(tall, sizeOf(properties)) : setting.height,
        breaks: blanks ? !/^(nowrap|pre)$/.test(blanks) : setting.breaks,
      };
      const block = BLOCKS.has(name) || /^(block|flex|table|grid)$/.test(properties['display'] ?? '');
      if (block) this.end();
      this.walk(child, inner);
      if (block) this.end();
      else if (name === 'td' || name === 'th') this.add(' ', inner);
    }
  }
}

/** How far it is to the next line, as a share of the letters. */
const heightOf = (text: string, size: number): number | null =>
  /^[\d.]+$/.test(text) ? Number(text) : size > 0 ? (parseLength(text, size, size) ?? NORMAL * size) / size : null;

/** A line in as many as it takes, broken at blanks. */
function* broken({ pieces, ...line }: Line, width: number, measure: Measure): Generator<Line> {
  let row: Piece[] = [];
  let far = 0;
  const runs = ({ properties, size }: Piece, text: string) => measure(shippedFont(properties).font, text) * size;
  for (const piece of pieces)
    for (const word of piece.text.match(/\S+\s*|\s+/g) ?? []) {
      const own = runs(piece, word.trimEnd());
      if (line.breaks && row.length && far + own > width + 1e-6) {
        yield { ...line, pieces: row };
        [row, far] = [[], 0];
      }
      const last = row.at(-1);
      if (last?.properties === piece.properties) row[row.length - 1] = { ...last, text: last.text + word };
      else row.push({ ...piece, text: word });
      far += runs(piece, word);
    }
  if (row.length) yield { ...line, pieces: row };
}

function asTexts(element: XmlElement, properties: Properties, sheet: StyleSheet, measure: Measure, tally: Tally): XmlElement {
  const { x, y, width, height, style: _style, class: _class, ...others } = element.attributes;
  const [left, top] = [parseLength(x, 0) ?? 0, parseLength(y, 0) ?? 0];
  const [across, down] = [parseLength(width, 0) ?? 0, parseLength(height, 0) ?? 0];
  const gathering = new Gathering(sheet, tally);
  gathering.walk(element, { properties, align: 'start', height: null, breaks: across > 0 });
  const lines = gathering.lines.flatMap((line) => [...broken(line, across, measure)]);
  const tallest = ({ pieces }: Line) => Math.max(...pieces.map(({ size }) => size));
  const steps = lines.map((line) => (line.height ?? NORMAL) * tallest(line));
  const all = steps.reduce((sum, step) => sum + step, 0);
  const centred = down > 0 && standsInMiddle(element);
  let at = centred ? top + (down - all) / 2 : top;
  const group: XmlElement = { name: 'g', attributes: others, children: [], parent: element.parent, line: element.line };
  lines.forEach((line, i) => {
    const size = tallest(line);
    const base = at + (steps[i]! - size) / 2 + STANDS * size;
    at += steps[i]!;
    const anchor = { start: left, middle: left + across / 2, end: left + across }[line.align];
    const text: XmlElement = {
      name: 'text',
      attributes: { x: `${anchor}`, y: `${base}`, 'text-anchor': line.align, 'xml:space': 'preserve' },
      children: [],
      parent: group,
      line: element.line,
    };
    line.pieces.forEach((piece, k) => text.children.push(spanOf(piece, k === line.pieces.length - 1, text)));
    if (textOf(text).trim()) group.children.push(text);
  });
  return group;
}

/** Whether words stand in the middle of a box that has a height of its own. */
const standsInMiddle = ({ children }: XmlElement): boolean =>
  children.some((child) => {
    if (typeof child === 'string') return false;
    const style = (child.attributes['style'] ?? '').replace(/\s/g, '');
    return (/(^|;)align-items:[a-z]*center/.test(style) && /(^|;)height:/.test(style)) || standsInMiddle(child);
  });

function spanOf({ text, properties, size }: Piece, last: boolean, parent: XmlElement): XmlElement {
  const colour = parseColour(properties['color'] ?? '#000000') ?? '#000000';
  const said = (name: string): Properties => (properties[name] ? { [name]: properties[name] } : {});
  return {
    name: 'tspan',
    attributes: {
      'font-size': `${size}`,
      ...said('font-family'),
      ...said('font-weight'),
      ...said('font-style'),
      fill: colour,
      stroke: 'none',
    },
    children: [last ? text.trimEnd() : text],
    parent,
    line: parent.line,
  };
}
