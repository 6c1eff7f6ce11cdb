import { type DefaultTreeAdapterTypes, parse } from 'parse5';
import { plainNumber } from '../../base/bytes/numbers';
import { decodeMarkup } from '../../base/bytes/text';
import { Tally } from '../../contracts/tally';
import { type Grid, type GridColumn, type GridSummary, plainColumn } from '../../content/grid/grid';
import type { ColumnType } from '../../document/tables/schema';
import { MOST_COLUMNS } from '../../document/tables/schema';
import { daysOf } from '../../evaluate/tables/dates';
import { numberFrom } from '../../evaluate/tables/typed';
import type { Services } from '../../contracts/services';
import type { Leaf } from '../../contracts/leaf';
import type { NotUnderstood } from '../../contracts/not-understood';
import { TEXT_STYLE } from '../texts/html-write';
import { leafOf, picturesOn, textsOn } from './pages';
import { isPlainSheet, presentOn } from './plain-sheet';
import { type Colours, PLAIN_COLOURS, reportShown } from './shown';
import { CLASSES, STYLE } from './write';

type Element = DefaultTreeAdapterTypes.Element;
type Node = DefaultTreeAdapterTypes.ChildNode;

const isElement = (node: Node): node is Element => 'tagName' in node;
const attribute = (element: Element, name: string): string | null =>
  element.attrs.find((one) => one.name === name)?.value ?? null;
const inner = (element: Element): Node[] => element.childNodes;

/** Whether an element's own words keep it from being seen. */
const isHidden = (element: Element): boolean =>
  attribute(element, 'hidden') !== null ||
  /(^|;)\s*(display\s*:\s*none|visibility\s*:\s*hidden)/i.test(attribute(element, 'style') ?? '');

function* all(node: { childNodes: Node[] }): Generator<Element> {
  // Pages may nest deep: walked with a stack of its own.
  const stack = [...node.childNodes].reverse();
  while (stack.length) {
    const next = stack.pop()!;
    if (!isElement(next)) continue;
    yield next;
    for (const child of inner(next).slice().reverse()) stack.push(child);
  }
}

/** The words below an element, without those of the elements that are passed over. */
function textIn(element: Element, without: ReadonlySet<string> = new Set()): string {
  let text = '';
  const stack: Node[] = [...element.childNodes].reverse();
  while (stack.length) {
    const next = stack.pop()!;
    if (next.nodeName === '#text') text += (next as DefaultTreeAdapterTypes.TextNode).value;
    else if (isElement(next)) {
      if (next.tagName === 'br') text += '\n';
      else if (!without.has(next.tagName)) for (const child of inner(next).slice().reverse()) stack.push(child);
    }
  }
  return text;
}
const plain = (text: string): string => text.replace(/^[ \t\r\n\f]+|[ \t\r\n\f]+$/g, '');

const typeOfClass = new Map(Object.entries(CLASSES).map(([type, name]) => [name, type as ColumnType | 'untyped']));
typeOfClass.set('text', 'text');

interface Cell {
  readonly words: string;
  readonly number: number;
}
function cellOf(element: Element): Cell {
  const words = textIn(element);
  for (const child of inner(element)) {
    if (!isElement(child) || plain(textIn(element)) !== plain(textIn(child))) continue;
    const value = attribute(child, 'value');
    const number = value === null ? NaN : plainNumber(value);
    if (child.tagName === 'data' && !Number.isNaN(number)) return { words, number: agrees(number, words) };
    const time = attribute(child, 'datetime');
    if (child.tagName === 'time' && time !== null) return { words, number: agreesDate(daysOf(time), words) };
  }
  return { words, number: NaN };
}
/** What one sees counts: all digits of a number are taken only where they round to what is shown. */
const agrees = (value: number, words: string): number => {
  const shown = numberFrom(plain(words), '.');
  const decimals = plain(words).split('.')[1]?.length ?? 0;
  return Math.abs(shown - value) <= 0.5000001 * 10 ** -decimals ? value : NaN;
};
const agreesDate = (value: number, words: string): number =>
  daysOf(plain(words)) === value || Math.abs(daysOf(plain(words)) - value) < 1 / 1440 ? value : NaN;

interface Heading {
  readonly name: string;
  readonly unit: string;
  readonly type: ColumnType | null;
  readonly decimals: number | null;
  readonly key: boolean;
}
function headingOf(element: Element): Heading {
  const small = inner(element)
    .filter(isElement)
    .find(({ tagName }) => tagName === 'small');
  const type = (attribute(element, 'class') ?? '')
    .split(/\s+/)
    .map((name) => typeOfClass.get(name as never))
    .find(Boolean);
  const digits = attribute(element, 'data-digits');
  return {
    name: plain(textIn(element, new Set(['small']))),
    unit: small ? plain(textIn(small)) : '',
    type: type && type !== 'untyped' ? type : null,
    decimals: digits !== null && /^\d{1,2}$/.test(digits) ? Number(digits) : null,
    key: attribute(element, 'data-key') !== null,
  };
}

const cellsOf = (row: Element): Element[] =>
  inner(row).filter((one): one is Element => isElement(one) && (one.tagName === 'td' || one.tagName === 'th'));
/** The rows of a table; those of tables that stand in its cells are theirs. */
const rowsOf = (table: Element): Element[] =>
  inner(table)
    .filter(isElement)
    .flatMap((one) => (one.tagName === 'tr' ? [one] : ['thead', 'tbody', 'tfoot'].includes(one.tagName) ? rowsOf(one) : []));

function columnOf(head: Heading, cells: readonly (Cell | undefined)[]): GridColumn {
  const { name, unit, type, decimals } = head;
  const filled = cells.filter((cell) => cell && plain(cell.words));
  const read = (cell: Cell): number => {
    const words = plain(cell.words);
    if (!Number.isNaN(cell.number)) return cell.number;
    if (type === 'date') return daysOf(words);
    if (type === 'yes or no') return words === 'yes' ? 1 : words === 'no' ? 0 : NaN;
    return numberFrom(words, '.');
  };
  // A column of another program says nothing of its kind: it is words, read as what all of them are.
  if (!type)
    return {
      ...plainColumn,
      name,
      unit,
      type: 'untyped',
      words: cells.map((cell) => (cell ? (Number.isNaN(cell.number) ? plain(cell.words) : String(cell.number)) : '')),
    };
  if (type === 'text' || type === 'category')
    return { ...plainColumn, name, unit, type, decimals, words: cells.map((cell) => cell?.words ?? '') };
  const numbers = new Float64Array(cells.length).fill(NaN);
  let words: string[] | null = null;
  cells.forEach((cell, row) => {
    if (!cell || !plain(cell.words)) return;
    const value = read(cell);
    if (Number.isNaN(value)) (words ??= new Array<string>(cells.length).fill(''))[row] = plain(cell.words);
    else numbers[row] = value;
  });
  return { ...plainColumn, name, unit, type, decimals, numbers, words: filled.length ? words : null };
}

function reportHidden(rows: readonly Element[], tally: Tally): void {
  for (const row of rows) {
    if (isHidden(row)) tally.add('hidden row');
    for (const cell of cellsOf(row)) {
      if (Number(attribute(cell, 'colspan') ?? 1) > 1 || Number(attribute(cell, 'rowspan') ?? 1) > 1)
        tally.add('cell across several');
      if (isHidden(cell)) tally.add('hidden cell');
    }
  }
}

function gridOf(table: Element, tally: Tally): Grid | null {
  const rows = rowsOf(table);
  const headed = rows.findIndex((row) => cellsOf(row).length > 0 && cellsOf(row).every(({ tagName }) => tagName === 'th'));
  const first = headed < 0 ? 0 : headed;
  if (!rows[first]) return null;
  const heads = cellsOf(rows[first]).map(headingOf);
  const body = rows.slice(first + 1);
  reportHidden(rows, tally);
  const cells = body.map((row) => cellsOf(row).map(cellOf));
  const width = Math.min(
    MOST_COLUMNS,
    cells.reduce((most, row) => Math.max(most, row.length), heads.length),
  );
  const columns = Array.from({ length: width }, (_, i) =>
    columnOf(
      heads[i] ?? { name: `Column ${i + 1}`, unit: '', type: null, decimals: null, key: false },
      cells.map((row) => row[i]),
    ),
  );
  return { columns, count: body.length, key: heads.findIndex(({ key }) => key), summaries: [], decimal: '.' };
}

const summariesOf = (table: Element): GridSummary[] =>
  rowsOf(table).flatMap((row) => {
    const [head, value] = cellsOf(row);
    if (!head || !value) return [];
    const { name, unit, decimals } = headingOf(head);
    const { words, number } = cellOf(value);
    return [
      { name, unit, decimals, formula: null, value: Number.isNaN(number) ? numberFrom(plain(words), '.') : number, source: '' },
    ];
  });

/** All that style sheets of ours say, for tables and for texts. */
const OURS = `${STYLE}\n${TEXT_STYLE}`;

/** What shows on a page besides tables. */
const OTHER = new Set([
  'img',
  'svg',
  'video',
  'audio',
  'canvas',
  'iframe',
  'object',
  'embed',
  'form',
  'input',
  'button',
  'p',
  'h1',
  'h2',
  'h3',
  'h4',
  'h5',
  'h6',
  'ul',
  'ol',
  'dl',
  'pre',
  'blockquote',
  'link',
]);

/** What holds words that are read, or that are never shown. */
const IN_TABLES = new Set(['title', 'style', 'script', 'table', 'td', 'th', 'caption', 'template', 'noscript']);
const isLoose = (node: Node): boolean =>
  node.nodeName === '#text' && plain((node as DefaultTreeAdapterTypes.TextNode).value) !== '';
function isWithin(element: Element, tagName: string): boolean {
  for (let node: DefaultTreeAdapterTypes.ParentNode | null = element; node && 'tagName' in node; node = node.parentNode)
    if (node.tagName === tagName) return true;
  return false;
}

const squeezed = (text: string): string => text.replace(/\s+/g, ' ').trim();
/** Whether a page of ours is called as something that stands in it. */
const isCalled = (title: string, names: readonly string[]): boolean =>
  names.some((name) => (name ? squeezed(name) === squeezed(title) : /^(Text|Tables)$/.test(title)));

/** The tables and texts of a page; of what else shows on it, how much there is. Scripts are never run. */
export async function readHtml(
  bytes: Uint8Array,
  services: Partial<Services>,
): Promise<{
  tables: { name: string; grid: Grid }[];
  texts: Leaf<'prose'>[];
  mark: string | null;
  notUnderstood: readonly NotUnderstood[];
}> {
  const elements = [...all(parse(decodeMarkup(bytes)))];
  const tally = new Tally();
  const tables: { name: string; grid: Grid }[] = [];
  const [root] = elements;
  const pages = textsOn(elements);
  const language = (root && attribute(root, 'lang')) ?? '';
  const title = elements.find(({ tagName }) => tagName === 'title');
  const pictures = await picturesOn(elements, services);
  const inTexts = new Set(pages.flatMap((page) => [...all(page)]));
  let mark: string | null = null;
  const present = presentOn(elements);
  const colours = new Map<unknown, Colours>();
  for (const element of elements) {
    if (inTexts.has(element)) continue;
    const { tagName, parentNode } = element;
    colours.set(element, reportShown(element, colours.get(parentNode) ?? PLAIN_COLOURS, tally));
    if (!IN_TABLES.has(tagName) && !pages.includes(element) && inner(element).some(isLoose) && !isWithin(element, 'table'))
      tally.add('words beside tables');
    if (tagName === 'meta' && attribute(element, 'name') === 'origin') mark = attribute(element, 'content');
    else if (tagName === 'script') tally.add('script');
    else if (tagName === 'style') {
      if (!isPlainSheet(textIn(element), OURS, pages.length ? 'texts' : 'tables', present)) tally.add('style sheet');
    } else if (OTHER.has(tagName)) tally.add(tagName === 'p' || /^h\d$/.test(tagName) ? 'words beside tables' : tagName);
    else if (tagName === 'table') {
      if (isHidden(element)) tally.add('hidden table');
      const last = tables.at(-1);
      if (attribute(element, 'class') === 'summaries' && last) {
        reportHidden(rowsOf(element), tally);
        tables[tables.length - 1] = { ...last, grid: { ...last.grid, summaries: summariesOf(element) } };
      } else {
        const caption = inner(element)
          .filter(isElement)
          .find((one) => one.tagName === 'caption');
        const grid = gridOf(element, tally);
        if (grid) tables.push({ name: caption ? plain(textIn(caption)) : '', grid });
      }
    }
  }
  const name = title ? textIn(title) : '';
  const texts = pages.map((page) => leafOf(page, { language, name, pictures, colours: colours.get(page)! }, tally));
  if (mark !== null && !isCalled(name, [...texts.map(({ label }) => label), ...tables.map((one) => one.name)]))
    tally.add('another title of the page');
  return { tables, texts, mark, notUnderstood: tally.list() };
}
