import { type Matrix, apply, identity, invert, multiply, scaling, translation } from '../base/geometry/matrix';
import type { Box } from '../base/geometry/measure';
import { type RunLook, itemKind, withRun } from './items';
import { shifted } from './parameters';
import type { Patch } from './patches';
import type { Board, Item, Layer, Master } from './schema';
import { nodeInWords, pathTo, pathsTo } from './tree';

/** A command: words for the list of changes, and the patches that do it. */
export interface Command {
  readonly label: string;
  readonly patches: Patch[];
}

export const set = (node: string, attribute: string, value: unknown): Patch => ({ op: 'set', node, attribute, value });
/** Items by their ids, each with the nodes that lead to it; what is not there is left out. */
export function itemsOf(master: Master, ids: readonly string[]): { item: Item; path: ReturnType<typeof pathTo> }[] {
  const paths = pathsTo(master, ids);
  return ids.flatMap((id) => {
    const path = paths.get(id);
    const item = path?.at(-1);
    return item && 'kind' in item ? [{ item, path }] : [];
  });
}
export const boardName = (path: ReturnType<typeof pathTo>) =>
  path?.find((node): node is Board => 'background' in node)?.name ?? '';
const millimetres = (value: number) => `${Number(Math.abs(value).toFixed(2))} mm`;

/** "4 mm right", "3 mm up and 2 mm left". */
export function shiftInWords(dx: number, dy: number): string {
  const parts = [
    Math.abs(dx) >= 0.005 ? `${millimetres(dx)} ${dx > 0 ? 'right' : 'left'}` : '',
    Math.abs(dy) >= 0.005 ? `${millimetres(dy)} ${dy > 0 ? 'up' : 'down'}` : '',
  ].filter(Boolean);
  return parts.join(' and ') || 'nowhere';
}

/** From the axes of what holds an item to the board: the transforms of the groups around it. */
export function axesAround(path: ReturnType<typeof pathTo>): Matrix {
  let outer = identity;
  for (const node of path!.slice(0, -1)) if ('kind' in node && node.transform) outer = multiply(outer, node.transform);
  return outer;
}

/** Moves objects by dx, dy mm on the board. Shapes with a place keep their transform; the others get it changed. */
export function moveItems(master: Master, ids: readonly string[], dx: number, dy: number): Command {
  const found = itemsOf(master, ids);
  const patches = found.flatMap(({ item, path }): Patch[] => {
    // The shift is given on the board; inside moved or turned groups it has to be brought into their own axes. What holds
    // others lies in the axes around it, a shape in its own.
    const { openContents: opens, placed } = itemKind(item);
    const outer = !opens && item.transform ? multiply(axesAround(path), item.transform) : axesAround(path);
    const back = invert([outer[0], outer[1], outer[2], outer[3], 0, 0]);
    const [x, y] = back ? apply(back, [dx, dy]) : [dx, dy];
    if (placed) {
      const before = placed(item, 0, 0);
      return Object.entries(placed(item, x, y)).flatMap(([attribute, value]): Patch[] => {
        const by = Number((value - before[attribute]!).toFixed(9));
        const formula = item.formulas?.[attribute];
        // What is computed goes on being computed, from that much farther on.
        if (formula !== undefined) return by ? [set(item.id, `formulas.${attribute}`, shifted(formula, by))] : [];
        return [set(item.id, attribute, value)];
      });
    }
    const own = item.transform ?? identity;
    const moved = opens ? multiply(translation(x, y), own) : multiply(own, translation(x, y));
    return [set(item.id, 'transform', moved)];
  });
  const first = found[0];
  const what = found.length === 1 && first ? `${nodeInWords(first.item)} on ${boardName(first.path)}` : `${found.length} objects`;
  return { label: `${what}: moved ${shiftInWords(dx, dy)}`, patches };
}

/**
 * Gives an object without measures of its own (path, polyline, group, symbol use) another width or height, its lower left
 * corner staying where it is.
 * @param box the object's box on the board now, mm
 */
export function resizeItem(master: Master, id: string, box: Box, width: number, height: number): Command {
  const [found] = itemsOf(master, [id]);
  const [w, h] = [box.maxX - box.minX, box.maxY - box.minY];
  const outer = found && axesAround(found.path);
  const back = outer && invert(outer);
  if (!found || !outer || !back || !(w > 0 || h > 0)) return { label: 'nothing', patches: [] };
  const about = multiply(
    translation(box.minX, box.minY),
    multiply(scaling(w > 0 ? width / w : 1, h > 0 ? height / h : 1), translation(-box.minX, -box.minY)),
  );
  const transform = multiply(multiply(back, multiply(about, outer)), found.item.transform ?? identity);
  const size = `${Number(width.toFixed(2))} × ${Number(height.toFixed(2))} mm`;
  return {
    label: `${nodeInWords(found.item)} on ${boardName(found.path)}: size now ${size}`,
    patches: [set(id, 'transform', transform)],
  };
}

/** What people call an attribute. */
export const ATTRIBUTE_WORDS: Readonly<Record<string, string>> = {
  text: 'wording',
  spans: 'wording',
  grid: 'cells',
  alt: 'description',
  keywords: 'keywords',
  rights: 'rights',
  ppi: 'pixels per inch of copies',
  profile: 'colours of copies',
  link: 'link',
  title: 'title',
  role: 'role',
  size: 'letter size',
  spacing: 'letter spacing',
  leading: 'line distance',
  width: 'width',
  height: 'height',
  radius: 'corner radius',
  x: 'place across',
  y: 'place up',
  cx: 'centre across',
  cy: 'centre up',
  rx: 'half width',
  ry: 'half height',
  font: 'font',
  align: 'alignment',
  layer: 'layer',
  name: 'name',
  visible: 'visibility',
  process: 'process',
  work: 'how it is worked',
  colour: 'colour',
  background: 'background',
  'style.fill': 'fill',
  'style.stroke': 'line colour',
  'style.strokeWidth': 'line width',
  'style.opacity': 'opacity',
  'style.fillOpacity': 'opacity of the fill',
  'style.strokeOpacity': 'opacity of the line',
  'style.dash': 'dashes',
  'style.dashOffset': 'dashes',
  'style.cap': 'line ends',
  'style.join': 'corners',
  'style.miterLimit': 'corners',
  'style.pen': 'pen',
  opacity: 'opacity',
  blend: 'mixing',
  clip: 'clip',
  mask: 'soft mask',
  formulas: 'how it is computed',
  value: 'value',
  measure: 'kind',
  note: 'note',
  slots: 'wording',
  manner: 'how its marks stand',
  symbol: 'mark',
  offset: 'begin',
  aside: 'distance to the side',
  even: 'whole steps',
  first: 'first mark',
  last: 'last mark',
  outlines: 'shape',
  points: 'shape',
  from: 'one end',
  to: 'other end',
  along: 'direction',
  away: 'distance from what is measured',
  digits: 'digits',
  unit: 'unit',
  before: 'words before the number',
  after: 'words after the number',
  guides: 'guides',
  // eslint-disable-next-line no-restricted-syntax -- the lines of a board
  gridStep: 'grid',
};

/** What people call an attribute, or what computes one. */
export const wordOf = (attribute: string): string => {
  const own = attribute.startsWith('formulas.') ? attribute.slice('formulas.'.length) : attribute;
  return ATTRIBUTE_WORDS[own] ?? own;
};

/** A value as a label says it. */
function valueInWords(value: unknown): string {
  if (typeof value === 'number') return String(Number(value.toFixed(3)));
  if (value === null || value === undefined) return 'none';
  if (Array.isArray(value) && value.every((one) => typeof one === 'number')) return value.map(valueInWords).join(' ');
  if (typeof value !== 'object') return String(value);
  const { kind } = value as { readonly kind?: unknown };
  return kind === 'linear' || kind === 'radial' ? `${kind} gradient` : typeof kind === 'string' ? kind : 'changed';
}

/** Sets one attribute of any node; the label says what became of it. */
export function setAttribute(master: Master, id: string, attribute: string, value: unknown): Command {
  const path = pathTo(master, id);
  const node = path?.at(-1);
  const what = node ? nodeInWords(node) : id;
  const shown = valueInWords(value);
  const board = boardName(path);
  const place = board && board !== what ? ` on ${board}` : '';
  const word = wordOf(attribute);
  const quoted = attribute === 'text' ? `“${shown.split('\n')[0]}”` : shown;
  const along = node && 'kind' in node ? (itemKind(node).followChange?.(node, attribute, value) ?? {}) : {};
  const formula = node && 'formulas' in node ? node.formulas?.[attribute] : undefined;
  return {
    label: `${what}${place}: ${word} now ${quoted}`,
    // A value that was given is computed no more.
    patches: [
      set(id, attribute, value),
      ...(formula === undefined ? [] : [set(id, `formulas.${attribute}`, undefined)]),
      ...Object.entries(along).map(([name, other]) => set(id, name, other)),
    ],
  };
}

/** Gives letters `from` to before `to` of a text another look; what is undefined is as in the rest. */
export function setPart(master: Master, id: string, from: number, to: number, change: RunLook): Command {
  const [found] = itemsOf(master, [id]);
  if (found?.item.kind !== 'text') return { label: 'nothing', patches: [] };
  const { text, runs = [] } = found.item;
  const changed = withRun(runs, from, to, change);
  const said = Object.entries(change).map(
    ([name, value]) => `${PART_WORDS[name]} ${value === undefined ? 'as the rest' : valueInWords(value)}`,
  );
  return {
    label: `“${text.slice(from, to).slice(0, 40)}” on ${boardName(found.path)}: ${said.join(', ')}`,
    patches: [set(id, 'runs', changed.length ? changed : undefined)],
  };
}
const PART_WORDS: Readonly<Record<string, string>> = { font: 'font', size: 'size', spacing: 'spacing', colour: 'colour' };

/** Sets one attribute of several nodes in one step. */
export const setAttributes = (ids: readonly string[], attribute: string, value: unknown, label: string): Command => ({
  label: ids.length > 1 ? `${label} (${ids.length} objects)` : label,
  patches: ids.map((id) => set(id, attribute, value)),
});

/** Shows or hides a layer. */
export const setLayerVisible = (layer: Layer, visible: boolean): Command => ({
  label: `Layer ${layer.name}: ${visible ? 'shown' : 'hidden'}`,
  patches: [set(layer.id, 'visible', visible)],
});

/** Takes objects out of the master. */
export function removeItems(master: Master, ids: readonly string[]): Command {
  const found = itemsOf(master, ids);
  const patches = found.flatMap(({ item, path }): Patch[] => {
    const parent = path?.at(-2);
    return parent ? [{ op: 'remove', parent: parent.id, list: 'items', node: item.id }] : [];
  });
  const first = found[0];
  return {
    label:
      found.length === 1 && first
        ? `${nodeInWords(first.item)} on ${boardName(first.path)}: deleted`
        : `${found.length} objects deleted`,
    patches,
  };
}

/** Puts an object on top of a board. */
export function addItem(board: Board, item: Item): Command {
  return {
    label: `${nodeInWords(item)} on ${board.name}: added`,
    patches: [{ op: 'insert', parent: board.id, list: 'items', after: board.items.at(-1)?.id ?? null, node: item }],
  };
}
