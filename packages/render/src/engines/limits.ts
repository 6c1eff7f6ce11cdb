import { tmpdir } from 'node:os';

/** Pixels of a picture that may come in. */
export const PIXEL_LIMIT = 450_000_000;
/** Pixels that are opened at once, unpacked, where they must all be there. */
export const WHOLE_LIMIT = 120_000_000;

/** Where pictures stop being held in memory, and where those that are larger are laid down; tests set both. */
export const limits = {
  /** Pixels that are held; of more, some rows at a time. */
  held: 40_000_000,
  folder: tmpdir(),
};
