import { FRAME, pulledUp } from '../by-hand';
import type { ItemKind } from '../kind';
import { FRAMED, frameFields, framed, freshFrame, letters, partId, z } from '../placed';

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
  ...FRAMED,
  arrival: { what: 'Texts in frames', becomes: 'arrive as lines of words: they flow no more' },
  readPart: ({ text }) => ({ list: 'texts', id: text }),
  fields: [{ attribute: 'text', label: 'Text', kind: 'part', of: 'texts' }, ...frameFields(1)],
  offered: 6,
  byHand: [{ label: 'text frame', way: 'frame', words: FRAME, from: pulledUp }],
  fresh: {
    label: 'text frame',
    of: 'texts',
    make: freshFrame('text', [8, 8], 3.7),
  },
};
