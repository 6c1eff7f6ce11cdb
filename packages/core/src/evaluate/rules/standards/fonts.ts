import { FACES, type FontName } from '../../../document/faces';
import { set } from '../../../document/commands';
import type { Patch } from '../../../document/patches';
import { allNodes } from '../../../document/tree';
import { type Breach, type Standard, objects, together } from '../breach';

interface Lettered {
  readonly id: string;
  readonly font?: FontName;
  readonly runs?: readonly { readonly font?: FontName }[];
}

/** The font of the house that looks most like one: as heavy and as upright, of its family where there is one. */
function instead(font: FontName, fonts: readonly FontName[]): FontName {
  const face = (name: FontName) => FACES.find((one) => one.name === name)!;
  const of = face(font);
  const unlike = (name: FontName): number => {
    const one = face(name);
    return (one.family === of.family ? 0 : 4) + (one.bold === of.bold ? 0 : 2) + (one.italic === of.italic ? 0 : 1);
  };
  return fonts.reduce((best, one) => (unlike(one) < unlike(best) ? one : best));
}

/** Letters are set in the fonts of the house. */
export const fonts: Standard = {
  id: 'fonts',
  breaches: (master, { fonts: wanted }) => {
    if (!wanted.length) return [];
    const free = new Set(wanted);
    const wrong: (readonly [FontName, Lettered])[] = [];
    for (const node of allNodes(master)) {
      const one = node as Lettered;
      const used = new Set([one.font, ...(one.runs ?? []).map(({ font }) => font)]);
      for (const font of used) if (font && !free.has(font)) wrong.push([font, one]);
    }
    return together(wrong).map(([name, same]): Breach => {
      const font = name as FontName;
      const by = instead(font, wanted);
      const patches = same.flatMap(({ id, font: own, runs }): Patch[] => [
        ...(own === font ? [set(id, 'font', by)] : []),
        ...(runs?.some((run) => run.font === font)
          ? [
              set(
                id,
                'runs',
                runs.map((run) => (run.font === font ? { ...run, font: by } : run)),
              ),
            ]
          : []),
      ]);
      return {
        standard: 'fonts',
        nodes: same.map(({ id }) => id),
        words: `${objects(same.length)} in ${font}; the house sets ${wanted.join(', ')}.`,
        repair: { label: `${font} made ${by}`, patches },
      };
    });
  },
};
