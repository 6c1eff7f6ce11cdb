import * as csstree from 'css-tree';
import { isTold } from '../../pictures/told';
import { PLAIN_COLOURS, colourOf, isNeutral } from './shown';

/** One declaration of a style sheet, with where it counts. */
interface Said {
  readonly where: string;
  readonly name: string;
  readonly value: string;
  /** Whether it counts only while someone points at, presses or marks something. */
  readonly passing: boolean;
}

/** What counts only while someone points at, presses or marks something: nobody finds the page so (Selectors 4, 9). */
const PASSING = /:(hover|active|focus|focus-visible|focus-within)\b|::selection\b/;
/** What may change meanwhile without a word coming or going. */
const PASSES = /^(color|background(-color)?|text-decoration(-.*)?|outline(-.*)?|cursor|box-shadow|transition(-.*)?)$/;

const isPassing = (selectors: csstree.SelectorList): boolean =>
  selectors.children.toArray().every((one) => {
    const words = csstree.generate(one);
    return PASSING.test(words) && !words.includes('(');
  });

/** All that a style sheet says for good; null where it says it in another way than by plain rules. */
function saidBy(css: string): Said[] | null {
  let plain = true;
  const tree = csstree.parse(css, { parseValue: false, onParseError: () => void (plain = false) });
  const said: Said[] = [];
  csstree.walk(tree, {
    visit: 'Rule',
    enter(rule) {
      if (rule.prelude.type !== 'SelectorList') return void (plain = false);
      const passing = isPassing(rule.prelude);
      const around = this.atrule
        ? `@${this.atrule.name} ${this.atrule.prelude ? csstree.generate(this.atrule.prelude) : ''}`
        : '';
      const where = `${around} ${csstree.generate(rule.prelude)}`;
      rule.block.children.forEach((one) => {
        if (one.type !== 'Declaration') return void (plain = false);
        said.push({ where, name: one.property.toLowerCase(), value: csstree.generate(one.value).trim().toLowerCase(), passing });
      });
    },
  });
  // Whatever is no rule says something else: another sheet, a font.
  csstree.walk(tree, {
    visit: 'Atrule',
    enter: ({ name }) => {
      if (name !== 'media') plain = false;
    },
  });
  return plain ? said : null;
}

/**
 * Whether a style sheet changes neither what a page says nor whether one sees it: all that it says beyond ours is neutral, and its
 * letters can be told from whatever may lie behind them.
 * @param own what we write
 */
export function isPlainSheet(css: string, own: string): boolean {
  const said = saidBy(css);
  if (!said) return false;
  const ours = new Set(saidBy(own)!.map(({ where, name, value }) => `${where}{${name}:${value}`));
  const letters: (readonly number[] | null)[] = [PLAIN_COLOURS.letters];
  const grounds: (readonly number[] | null)[] = [PLAIN_COLOURS.ground];
  for (const { where, name, value, passing } of said) {
    if (passing && PASSES.test(name)) continue;
    if (name === 'color') letters.push(colourOf(value));
    else if (name === 'background-color' || name === 'background') grounds.push(colourOf(value));
    else if (!ours.has(`${where}{${name}:${value}`) && !isNeutral(name, value)) return false;
  }
  return letters.every((one) => one && grounds.every((ground) => ground && isTold(one, ground)));
}
