import * as z from 'zod';
import { fromPoints } from '../../../base/geometry/outline';
import { pictureWord } from '../../picture-word';
import { Correction, Crop } from '../../corrections';
import { Id, drawnBase, finite, positive } from '../../schema-parts';
import { type ItemKind, measure } from '../kind';
import { stretchedFrame } from '../shaped';

declare module '../union' {
  interface Items {
    picture: PictureItem;
  }
}

/** A picture that is kept as it came, shown in a frame: cropped and corrected, each for as long as one likes. */
export const PictureItem = z.object({
  kind: z.literal('picture'),
  ...drawnBase,
  /** SHA-256 of the file that it is. */
  resource: Id,
  /** The frame, mm. */
  x: finite,
  y: finite,
  width: positive,
  height: positive,
  /** The part that fills the frame; all of it where nothing is said. */
  crop: Crop.optional(),
  corrections: z.array(Correction).max(50).optional(),
});
export type PictureItem = z.infer<typeof PictureItem>;

export const kind: ItemKind<PictureItem> = {
  id: 'picture',
  schema: PictureItem,
  words: () => 'picture',
  lists: [],
  outlines: ({ x, y, width, height }) => [
    fromPoints(
      [
        [x, y],
        [x + width, y],
        [x + width, y + height],
        [x, y + height],
      ],
      true,
    ),
  ],
  paint: ({ resource, corrections, crop, x, y, width, height }) => {
    const { left, bottom, right, top } = crop ?? { left: 0, bottom: 0, right: 1, top: 1 };
    const [across, up] = [width / (right - left), height / (top - bottom)];
    const at = [across, 0, 0, up, x - left * across, y - bottom * up] as const;
    return { kind: 'picture', picture: pictureWord(resource, corrections ?? []), at };
  },
  resource: ({ resource }) => resource,
  placed: ({ x, y }, dx, dy) => ({ x: x + dx, y: y + dy }),
  mapShape: stretchedFrame,
  sized: true,
  fields: [
    measure('x', 'Across'),
    measure('y', 'Up'),
    measure('width', 'Frame width', 0.01),
    measure('height', 'Frame height', 0.01),
    { attribute: 'style.opacity', label: 'Opacity', kind: 'share' },
  ],
};
