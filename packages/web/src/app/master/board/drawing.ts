import { type Item, type Master, type Outline, itemKinds, newId } from '@inkwell-twin/core/web';
import type { DrawnShape, Way } from '../stage/drawing-hand';

/** Something that is drawn by hand: how, and the item that comes of it. */
interface DrawingTool {
  readonly id: string;
  readonly label: string;
  readonly way: Way;
  /** What to do, in words. */
  readonly words: string;
  readonly needs?: 'symbols' | 'tables' | 'texts';
  readonly kind: string;
  /** Attributes that the shape gives. */
  readonly from: (shape: DrawnShape, about: { readonly master: Master; readonly unit: number }) => object | null;
}

const FRAME = 'Pull up a frame. Enter puts one into the middle.';
const POINTS = 'Press for each point; press twice, or Enter, to end; press the first point to close.';
const framed = ({ box }: DrawnShape) =>
  box ? { x: round(box.minX), y: round(box.minY), width: round(box.maxX - box.minX), height: round(box.maxY - box.minY) } : null;
const round = (value: number): number => Number(value.toFixed(3));
const outlined = ({ outline }: DrawnShape) => (outline ? { outlines: [outline] } : null);
const pathOf = (outline: Outline | undefined) => (outline ? { outlines: [outline] } : null);

/** What can be drawn by hand. */
export const DRAWING_TOOLS: readonly DrawingTool[] = [
  { id: 'rectangle', label: 'rectangle', way: 'frame', words: FRAME, kind: 'rectangle', from: framed },
  {
    id: 'ellipse',
    label: 'ellipse',
    way: 'frame',
    words: FRAME,
    kind: 'ellipse',
    from: ({ box }) =>
      !box
        ? null
        : {
            cx: round((box.minX + box.maxX) / 2),
            cy: round((box.minY + box.maxY) / 2),
            rx: round((box.maxX - box.minX) / 2),
            ry: round((box.maxY - box.minY) / 2),
          },
  },
  { id: 'line', label: 'line', way: 'line', words: POINTS, kind: 'path', from: ({ outline }) => pathOf(outline) },
  {
    id: 'curve',
    label: 'curve',
    way: 'curve',
    words: `Press for each point and pull to bend. ${POINTS.slice(POINTS.indexOf('press twice'))}`,
    kind: 'path',
    from: ({ outline }) => pathOf(outline),
  },
  {
    id: 'text',
    label: 'text',
    way: 'spot',
    words: 'Press where the words begin. Enter puts them into the middle.',
    kind: 'text',
    from: ({ at }) => (!at ? null : { x: round(at[0]), y: round(at[1]), align: 'start' }),
  },
  {
    id: 'motif-line',
    label: 'motif line',
    way: 'curve',
    words: `Draw the line that the marks stand on. ${POINTS}`,
    needs: 'symbols',
    kind: 'motif-line',
    from: outlined,
  },
  { id: 'text-frame', label: 'text frame', way: 'frame', words: FRAME, needs: 'texts', kind: 'text-frame', from: framed },
];

/** The item that a drawn shape is; null where too little was drawn. */
export function drawnItem(tool: DrawingTool, shape: DrawnShape, master: Master): Item | null {
  const layer = master.layers.find(({ visible, locked }) => visible && !locked) ?? master.layers[0]!;
  const unit = 10;
  const own = tool.from(shape, { master, unit });
  if (!own) return null;
  const fresh = itemKinds().find(({ id }) => id === tool.kind)?.fresh;
  const part = fresh?.of ? (master[fresh.of]?.[0]?.id ?? '') : '';
  const made = fresh?.make({ cx: 0, cy: 0, unit, colour: layer.colour, part }) ?? {
    style: { fill: null, stroke: layer.colour, strokeWidth: 0.5 },
  };
  return { kind: tool.kind, id: newId(), layer: layer.id, ...made, ...own } as Item;
}
