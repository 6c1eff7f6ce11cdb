import { set } from '../../../document/commands';
import type { Standard } from '../breach';

const plain = (name: string): string => name.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '');

/** Symbols are those of the house. */
export const symbols: Standard = {
  id: 'symbols',
  breaches: (master, { symbols: wanted }) => {
    if (!wanted.length) return [];
    const taken = new Set(master.symbols.map(({ name }) => name));
    return master.symbols
      .filter(({ name }) => !wanted.includes(name))
      .map(({ id, name }) => {
        const meant = wanted.find((one) => plain(one) === plain(name) && !taken.has(one));
        if (meant) taken.add(meant);
        return {
          standard: 'symbols',
          nodes: [id],
          words: `The house has no symbol “${name}”.`,
          repair: meant ? { label: `Symbol “${name}” called “${meant}”`, patches: [set(id, 'name', meant)] } : null,
        };
      });
  },
};
