import { type Board, type Item, type Layer, type Master, itemKinds, newId } from '@inkwell-twin/core/web';

/** What can be put on a board from here, of a master that has what it shows; more comes in from drawings. */
export const additionsTo = (master: Master): { kind: string; label: string }[] =>
  itemKinds().flatMap(({ id, fresh }) =>
    fresh && (!fresh.of || master[fresh.of]?.length) ? [{ kind: id, label: fresh.label }] : [],
  );

/** A new object in the middle of a board, of a size that can be seen there. */
export function newItem(kind: string, master: Master, board: Board, layer: Layer): Item {
  const about = {
    cx: board.width / 2,
    cy: board.height / 2,
    unit: Math.min(board.width, board.height) / 10,
    colour: layer.colour,
  };
  const { of, make } = itemKinds().find(({ id }) => id === kind)!.fresh!;
  const made = make({ ...about, part: of ? (master[of]?.[0]?.id ?? '') : '' });
  return { kind, id: newId(), layer: layer.id, ...made } as Item;
}
