import type { NewerView } from '@inkwell-twin/api';
import { Failure, derive, lookAtNewer, recipeOf } from '@inkwell-twin/core';
import { boardFor } from '../compute/tasks/board-for';
import type { Engine } from '../compute/engine';

/** Most boards that are drawn, and pixels of their longer sides. */
const [MOST_BOARDS, PIXELS] = [12, 1400];

/** A master that a newer version wrote, as far as it can be looked at: pictures of its boards, and what they don't show. */
export async function viewOfNewer({ services }: Engine, bytes: Uint8Array): Promise<NewerView> {
  const { master, resources, notShown, ...facts } = lookAtNewer(bytes);
  const told = [...notShown];
  const pictures: { name: string; png: string }[] = [];
  if (master) {
    const own = {
      ...services,
      resource: (sha: string) => {
        const found = resources.get(sha);
        if (!found) throw new Failure('resource-missing', 'A picture that the file links to is not in it.');
        return found;
      },
    };
    const drawn = await boardFor(master, own);
    for (const board of drawn.boards.slice(0, MOST_BOARDS)) {
      const width = Math.max(1, Math.round(PIXELS * Math.min(1, board.width / board.height)));
      // eslint-disable-next-line no-restricted-syntax -- the picture of a board is a file of one kind
      const recipe = recipeOf('png', { width }, { of: 'boards', ids: [board.id] }, 'look');
      try {
        const { files } = await derive({ master: drawn, rev: facts.rev, time: '' }, recipe, own);
        pictures.push({ name: board.name, png: Buffer.from(files[0]!.bytes).toString('base64') });
      } catch (error) {
        // What can't be drawn is told of like what isn't known.
        told.push({ kind: `the board ${board.name} (${(error as Error).message})`, count: 1 });
      }
    }
    if (drawn.boards.length > MOST_BOARDS) told.push({ kind: 'more boards', count: drawn.boards.length - MOST_BOARDS });
  }
  return { ...facts, pictures, notShown: told.map(({ kind, count }) => ({ kind, count })) };
}

/** The same for a file on the shelf. @throws Failure `not-found` */
export async function newerOnShelf(engine: Engine, path: string): Promise<NewerView> {
  const at = path.lastIndexOf('/');
  const bytes = at > 0 ? engine.shelf.read(path.slice(0, at), path.slice(at + 1)) : null;
  if (!bytes) throw new Failure('not-found', `There is no file ${path} on the shelf any more.`);
  return viewOfNewer(engine, bytes);
}
