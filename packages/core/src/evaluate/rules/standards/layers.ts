import { set } from '../../../document/commands';
import type { Layer } from '../../../document/schema';
import type { Breach, Standard } from '../breach';
import type { HouseRules } from '../house';

type Wanted = HouseRules['layers'][number];
const plain = (name: string): string => name.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '');

/** The layer of the house that one is meant to be: of its name but for its letters, else the only one of its process. */
function meant(layer: Layer, wanted: readonly Wanted[]): Wanted | undefined {
  const named = wanted.find(({ name }) => plain(name) === plain(layer.name));
  const alike = wanted.filter(({ process }) => process === layer.process);
  return named ?? (alike.length === 1 ? alike[0] : undefined);
}

/** Layers have the names, processes and colours of the house. */
export const layers: Standard = {
  id: 'layers',
  breaches: (master, { layers: wanted }) => {
    if (!wanted.length) return [];
    const taken = new Set(master.layers.map(({ name }) => name));
    return master.layers.flatMap((layer): Breach[] => {
      const one = wanted.find(({ name }) => name === layer.name);
      const [standard, nodes] = ['layers', [layer.id]];
      if (!one) {
        const instead = meant(layer, wanted);
        // Two layers of one name would be no way out.
        const free = instead && !taken.has(instead.name);
        const words = `The house has no layer “${layer.name}”.${instead && !free ? ` What is on it may belong on “${instead.name}”.` : ''}`;
        if (!free) return [{ standard, nodes, words, repair: null }];
        taken.add(instead.name);
        const patches = [
          set(layer.id, 'name', instead.name),
          ...(instead.process === layer.process ? [] : [set(layer.id, 'process', instead.process)]),
          ...(instead.colour === layer.colour ? [] : [set(layer.id, 'colour', instead.colour)]),
        ];
        return [{ standard, nodes, words, repair: { label: `Layer “${layer.name}” called “${instead.name}”`, patches } }];
      }
      return [
        ...(one.process === layer.process
          ? []
          : [
              {
                standard,
                nodes,
                words: `Layer “${layer.name}” is for ${layer.process}; the house has it for ${one.process}.`,
                repair: { label: `Layer “${layer.name}” for ${one.process}`, patches: [set(layer.id, 'process', one.process)] },
              },
            ]),
        ...(one.colour === layer.colour
          ? []
          : [
              {
                standard,
                nodes,
                words: `Layer “${layer.name}” is ${layer.colour}; the house has it ${one.colour}.`,
                repair: { label: `Layer “${layer.name}” in ${one.colour}`, patches: [set(layer.id, 'colour', one.colour)] },
              },
            ]),
      ];
    });
  },
};
