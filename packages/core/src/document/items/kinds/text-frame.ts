import { FRAME, pulledUp } from '../by-hand';
import { type ItemKind, measure } from '../kind';
import { framed, letters, moved, opensNothing, partId, z } from '../placed';
import { stretchedFrame } from '../shaped';

declare module '../union' {
  interface Items {
    'text-frame': TextFrame;
  }
}

/** A place on a board that a flowing text runs through; frames of one text are filled board by board, in their order. */
export const TextFrame = z.object({
  kind: z.literal('text-frame'),
  ...framed,
  text: partId,
  /** Size of its letters, mm. */
  size: letters,
});
export type TextFrame = z.infer<typeof TextFrame>;

export const kind: ItemKind<TextFrame> = {
  id: 'text-frame',
  schema: TextFrame,
  words: () => 'text frame',
  lists: [],
  openContents: opensNothing,
  arrival: { what: 'Texts in frames', becomes: 'arrive as lines of words: they flow no more' },
  readPart: ({ text }) => ({ list: 'texts', id: text }),
  placed: moved,
  mapShape: stretchedFrame,
  sized: true,
  fields: [
    { attribute: 'text', label: 'Text', kind: 'part', of: 'texts' },
    measure('size', 'Letter size', 0.5),
    measure('x', 'Across'),
    measure('y', 'Up'),
    measure('width', 'Width', 1),
    measure('height', 'Height', 1),
  ],
  offered: 6,
  byHand: [{ label: 'text frame', way: 'frame', words: FRAME, from: pulledUp }],
  fresh: {
    label: 'text frame',
    of: 'texts',
    make: ({ cx, cy, unit, part }) => ({
      text: part,
      x: cx - 4 * unit,
      y: cy - 4 * unit,
      width: 8 * unit,
      height: 8 * unit,
      size: 3.7,
    }),
  },
};
