import { tmpdir } from 'node:os';

/** Where pictures stop being held in memory, and where those that are larger are laid down; tests set both. */
export const limits = {
  /** Pixels that are held; of more, some rows at a time. */
  held: 40_000_000,
  folder: tmpdir(),
};
