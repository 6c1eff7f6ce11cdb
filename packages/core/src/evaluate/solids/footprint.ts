import { digest } from '../../base/bytes/hasher';
import { type Scope, solidsIn } from '../../contracts/scope';
import { canonical, nodeHash } from '../../document/hash';
import type { Board, Item, Master, Solid } from '../../document/schema';
import { itemKind } from '../../document/items';
import { allItems } from '../../document/tree';
import type { LeafPrint } from '../../contracts/kind';

/** The objects on boards whose outlines a solid takes. */
export const objectsOf = ({ features }: Solid): string[] => [
  ...new Set(
    features.flatMap((feature) => ('outline' in feature && feature.outline.shape === 'object' ? [feature.outline.object] : [])),
  ),
];

/** What an object on a board says, with the groups that it stands in: these move and turn it. */
function hashOfObject(master: Master, id: string): string {
  const within = (items: readonly Item[], around: readonly string[]): string | null => {
    for (const item of items) {
      if (item.id === id) return [...around, nodeHash(item)].join(' ');
      const inner = itemKind(item).openContents?.(item).items;
      if (!inner) continue;
      const { items: _inner, ...own } = item as Item & { items?: unknown };
      const found = within(inner, [...around, canonical(own)]);
      if (found !== null) return found;
    }
    return null;
  };
  for (const board of master.boards) {
    const found = boardHolds(board, id) ? within(board.items, []) : null;
    // Whether it shows depends on its layer, and a symbol that it uses is drawn elsewhere.
    if (found !== null)
      return digest(
        `${found} ${canonical(master.layers.map(({ id: one, visible }) => [one, visible]))} ${master.symbols.map(nodeHash).join(' ')}`,
      );
  }
  return 'gone';
}
function boardHolds({ items }: Board, id: string): boolean {
  for (const item of allItems(items)) if (item.id === id) return true;
  return false;
}

/** What is asked of a target here: whether it carries names and colours. */
interface SolidCarries {
  readonly names: unknown;
  readonly colours: unknown;
}
/** Edges have no colour and no name. */
export const SHAPE: SolidCarries = { names: 'left out', colours: 'left out' };

/** What copies of solids depend on. */
export function footprintOfSolids(master: Master, scope: Scope, carries: SolidCarries): LeafPrint[] {
  return solidsIn(master, scope).solids.map((solid) => {
    const name = carries.names === 'left out' ? '' : solid.name;
    const colour = carries.colours === 'left out' ? '' : (solid.colour ?? '');
    // Names of features and parameters reach no copy, but parameters are used by their names.
    const nodes = [...solid.parameters, ...solid.features];
    const outside = objectsOf(solid).map((id): [string, string] => [id, hashOfObject(master, id)]);
    const said = solid.features.map((feature) => canonical({ ...feature, name: '' }));
    return {
      key: solid.id,
      hash: digest(
        [name, colour, ...solid.parameters.map(nodeHash), ...said, ...outside.map(([id, hash]) => `${id} ${hash}`)].join('\n'),
      ).slice(0, 32),
      parts: () =>
        new Map<string, ReadonlyMap<string, string>>([
          [
            solid.id,
            new Map([
              ['names', name],
              ['colours', colour],
            ]),
          ],
          ...nodes.map(
            (node, i) =>
              [
                node.id,
                new Map([['shape', `${'op' in node ? canonical({ ...node, name: '' }) : nodeHash(node)} ${i}`]]),
              ] as const,
          ),
          ...outside.map(([id, hash]) => [id, new Map([['shape', hash]])] as const),
        ]),
    };
  });
}
