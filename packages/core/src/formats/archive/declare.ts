import * as z from 'zod';
import type { Declaration, Options, Rendition } from '../../contracts/declaration';
import type { PartList } from '../../contracts/schemas';

/** How boards are kept beside the master: as pages to read for good, as pixels, or as pixels that lost something. */
const BOARDS = ['pages', 'pixels', 'pixels with loss'] as const;
/** Whether its pictures are to be looked at, and not to be produced from. */
export const isLossy = ({ boards }: Options): boolean => boards === 'pixels with loss';

const ofBoards: Readonly<Record<(typeof BOARDS)[number], Pick<Rendition, 'target' | 'options' | 'loses'>>> = {
  pages: { target: 'pdf', options: { version: 'A-2b' } },
  pixels: { target: 'tiff', options: {} },
  'pixels with loss': { target: 'jpeg', options: { quality: 85 }, loses: true },
};
const PREVIEWS = [256, 1024] as const;

/** What is derived of each part: to be read without this program, and to be seen in lists. */
function renditions({ boards, previews }: Options): Rendition[] {
  const kept = 'renditions';
  const seen = (of: PartList, width: number): Rendition => ({
    of,
    folder: `previews/${width}`,
    target: 'png',
    options: { width },
  });
  return [
    { of: 'boards', folder: kept, ...ofBoards[boards as (typeof BOARDS)[number]] },
    { of: 'texts', folder: kept, target: 'pdf', options: { version: 'A-2b' } },
    { of: 'tables', folder: kept, target: 'csv', options: {} },
    { of: 'solids', folder: kept, target: 'step', options: {} },
    ...(previews === 'none' ? [] : PREVIEWS.flatMap((width) => [seen('boards', width), seen('solids', width)])),
  ];
}

/** All of a master, to be kept for good: itself, and what reads without this program, with checksums of every file. */
export const archiveDeclaration: Declaration = {
  id: 'archive',
  label: 'Archive package',
  offered: 95,
  standard: 'BagIt 1.0 (RFC 8493), in a zip archive',
  mediaType: 'application/zip',
  writer: '1',
  options: z.strictObject({
    boards: z
      .enum(BOARDS)
      .default('pages')
      .describe('What boards are kept as, beside the master itself')
      .meta({
        words: {
          pages: 'PDF/A pages',
          pixels: 'TIFF, without loss',
          'pixels with loss': 'JPEG, with loss: to look at, never to produce from',
        },
        only: { part: 'boards' },
      }),
    originals: z
      .enum(['with', 'without'])
      .default('with')
      .describe('Files that were brought in lie beside the master, too')
      .meta({ words: { with: 'Beside the master', without: 'Only in the master' } }),
    previews: z
      .enum(['two sizes', 'none'])
      .default('two sizes')
      .describe('Small pictures for lists')
      .meta({ words: { 'two sizes': '256 and 1,024 pixels wide', none: 'None' } }),
  }),
  versions: null,
  named: (options) => (isLossy(options) ? 'lossy' : ''),
  encloses: () => true,
  renditions,
  use: () => 'keep',
  extension: () => 'zip',
  carries: () => ({}),
  tolerance: {},
  holds: { leaves: 'many', files: () => 'one', mark: 'inside' },
  limits: { bytes: 512 * 1024 * 1024 },
  recognise: { structure: (_head, entries) => entries.some((name) => /^([^/]+\/)?bagit\.txt$/.test(name)) },
};
