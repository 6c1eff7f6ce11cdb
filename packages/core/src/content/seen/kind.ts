import { type Scope, solidsOf } from '../../contracts/scope';
import type { ResolvedBoard } from '../../evaluate/resolve';
import type { Board, Master } from '../../document/schema';
import { resolveBoards } from '../../evaluate/boards/source';
import { declaration } from './index';
import type { ContentKind } from '../../contracts/kind';
import { kind as rasterKind } from '../raster/kind';
import type { Raster } from '../../contracts/raster';
import { type SeenCarries } from './features';

/** The paper that a solid is seen on, and the box that it fits into, mm. */
const [WIDTH, HEIGHT, MARGIN] = [120, 90, 6];
const LAYER = { id: 'edges', name: 'Edges', colour: '#14213a', visible: true, locked: false, process: 'print' } as const;

/** Solids as they are seen from one side, for targets of pixels. A copy of one says pixels. */
export const kind: ContentKind<ResolvedBoard, Raster, SeenCarries> = {
  ...rasterKind,
  ...declaration,
  staged: (master: Master, scope: Scope, { solids }: SeenCarries): Master => {
    const view = typeof solids === 'object' ? solids.view : 'isometric';
    const boards = solidsOf(master, scope).map(({ id, name }): Board => ({
      id,
      name,
      width: WIDTH,
      height: HEIGHT,
      background: null,
      items: [
        {
          kind: 'solid-view',
          id,
          layer: LAYER.id,
          solid: id,
          view,
          scale: 1,
          fit: [WIDTH - 2 * MARGIN, HEIGHT - 2 * MARGIN],
          hidden: 'left out',
          x: WIDTH / 2,
          y: HEIGHT / 2,
          size: 3,
        },
      ],
    }));
    return { ...master, layers: [LAYER], symbols: [], boards };
  },
  resolve: (master, _scope, services) => resolveBoards(master, { of: 'master' }, services),
  adapt: (source, carries, lines, services) => {
    lines.line('solids', 'approximated', 'Solids', 'become a picture: no solid can be made of it again')(source.board.id);
    return rasterKind.adapt(source, carries, lines, services);
  },
};
