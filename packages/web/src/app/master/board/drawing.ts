import { type DrawnShape, type HandDrawn, type Item, type Layer, type Master, itemKinds, newId } from '@inkwell-twin/core/web';

/** Something that is drawn by hand, and the kind of item that comes of it. */
interface DrawingTool extends HandDrawn {
  readonly id: string;
  readonly kind: string;
  /** The list of which the master must have something. */
  readonly needs?: 'tables' | 'solids' | 'texts' | 'symbols';
}

/** What can be drawn by hand, in the order in which it is offered. */
export const drawingTools = (): DrawingTool[] =>
  itemKinds().flatMap(({ id, byHand = [], fresh }) =>
    byHand.map((one): DrawingTool => ({
      ...one,
      id: `${id} ${one.label}`,
      kind: id,
      ...(fresh?.of ? { needs: fresh.of } : {}),
    })),
  );

/** The item that a drawn shape is; null where too little was drawn. */
export function drawnItem(tool: DrawingTool, shape: DrawnShape, master: Master, layer: Layer): Item | null {
  const own = tool.from(shape);
  if (!own) return null;
  const fresh = itemKinds().find(({ id }) => id === tool.kind)?.fresh;
  const part = fresh?.of ? (master[fresh.of]?.[0]?.id ?? '') : '';
  const made = fresh?.make({ cx: 0, cy: 0, unit: 10, colour: layer.colour, part }) ?? {
    style: { fill: null, stroke: layer.colour, strokeWidth: 0.5 },
  };
  return { kind: tool.kind, id: newId(), layer: layer.id, ...made, ...own } as Item;
}
