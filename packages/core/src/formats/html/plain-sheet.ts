import * as csstree from 'css-tree';
import { isTold } from '../../evaluate/pictures/told';
import type { DefaultTreeAdapterTypes } from 'parse5';
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

/** What stands on pages, as selectors name it. */
type Present = ReadonlySet<string>;
type Element = DefaultTreeAdapterTypes.Element;

export function presentOn(elements: Iterable<Element>): Present {
  const names = new Set<string>();
  for (const { tagName, attrs } of elements) {
    names.add(tagName.toLowerCase());
    for (const { name, value } of attrs)
      if (name === 'class') for (const one of value.split(/\s+/)) names.add(`.${one}`);
      else if (name === 'id') names.add(`#${value}`);
  }
  return names;
}

/** Whether a selector wants something that stands nowhere. */
const isOfNobody = (selector: csstree.CssNode, present: Present): boolean =>
  selector.type === 'Selector' &&
  selector.children.some(
    (part) =>
      (part.type === 'TypeSelector' && part.name !== '*' && !present.has(part.name.toLowerCase())) ||
      (part.type === 'ClassSelector' && !present.has(`.${part.name}`)) ||
      (part.type === 'IdSelector' && !present.has(`#${part.name}`)),
  );

/** What a sheet may say besides rules: for which screens or papers, in which letters it is written, how large paper is. */
const AT_RULES = /^(media|charset|page)$/;
/** Margins and sizes of paper; words in its margins are something else. */
const isPlainPaper = ({ block }: csstree.Atrule): boolean =>
  !block || block.children.toArray().every((one) => one.type === 'Declaration' && /^(size|margin(-.*)?)$/.test(one.property));

/** All that a style sheet says for good; null where it says it in another way than by plain rules. */
function saidBy(css: string, present: Present | null): Said[] | null {
  let plain = true;
  const tree = csstree.parse(css, { parseValue: false, onParseError: () => void (plain = false) });
  const said: Said[] = [];
  csstree.walk(tree, {
    visit: 'Rule',
    enter(rule) {
      if (rule.prelude.type !== 'SelectorList') return void (plain = false);
      if (present && rule.prelude.children.toArray().every((one) => isOfNobody(one, present))) return;
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
    enter(rule) {
      if (!AT_RULES.test(rule.name) || (rule.name === 'page' && !isPlainPaper(rule))) plain = false;
    },
  });
  return plain ? said : null;
}

/** What says in a text whether words are emphasised, and how they are laid out: there it is no look alone. */
const MEANT = /^(text-align|font-(weight|style)|text-decoration.*|vertical-align|white-space|display)$/;

/**
 * Whether a style sheet changes neither what a page says nor whether one sees it: all that it says beyond ours is neutral, and its
 * letters can be told from whatever may lie behind them.
 * @param own what we write
 * @param of what the pages hold
 * @param present what stands on them
 */
export function isPlainSheet(css: string, own: string, of: 'texts' | 'tables', present: Present): boolean {
  const said = saidBy(css, present);
  if (!said) return false;
  const ours = new Set(saidBy(own, null)!.map(({ where, name, value }) => `${where}{${name}:${value}`));
  const letters: (readonly number[] | null)[] = [PLAIN_COLOURS.letters];
  const grounds: (readonly number[] | null)[] = [PLAIN_COLOURS.ground];
  for (const { where, name, value, passing } of said) {
    if (passing && PASSES.test(name)) continue;
    if (name === 'color') letters.push(colourOf(value));
    else if (name === 'background-color' || name === 'background') grounds.push(colourOf(value));
    else if (ours.has(`${where}{${name}:${value}`)) continue;
    else if (!isNeutral(name, value) || (of === 'texts' && MEANT.test(name))) return false;
  }
  return letters.every((one) => one && grounds.every((ground) => ground && isTold(one, ground)));
}
