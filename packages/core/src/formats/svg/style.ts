import type { Properties } from './properties';
import { inUserUnits } from './lengths';
import * as csstree from 'css-tree';
import { formatHex, parse } from 'culori';
import type { CssNode, SelectorList } from 'css-tree';
import { isShipped } from '../../document/faces';
import { type FontFace, faceOfRule } from './font-faces';
import { isInherited, isPresentation } from './known';
import { matcherOf } from './selectors';
import { fontFamilies } from './font-words';
import type { XmlElement } from './xml-element';

interface Rule {
  readonly matches: (element: XmlElement) => boolean;
  readonly weight: number;
  readonly declarations: Readonly<Record<string, string>>;
}

/** Above every selector: declarations that say so (CSS 2.1, 6.4.2). */
const IMPORTANT = 1e12;

/** The document's style sheets, able to tell the properties of each element (CSS 2.1, 6.4). */
export class StyleSheet {
  private readonly rules: Rule[] = [];
  /** Fonts that are brought along. */
  readonly faces: FontFace[] = [];
  /** Selectors that were not understood. */
  readonly unknown: string[] = [];

  /** @param media which screens or papers it is for */
  add(text: string, media = 'all'): void {
    if (!/^\s*((only\s+)?(all|screen)\s*(,|$))/i.test(media || 'all')) {
      if (/[^\s]/.test(text)) this.unknown.push('style sheet for some media only');
      return;
    }
    const tree = csstree.parse(text, { parseValue: false, onParseError: () => void this.unknown.push('style rule') });
    const keep = (selectors: SelectorList, block: CssNode) => this.addRule(selectors, block);
    csstree.walk(tree, {
      visit: 'Rule',
      enter(rule) {
        // A rule for print or for a narrow window is not how the drawing looks.
        const media = this.atrule && this.atrule.name === 'media' && this.atrule.prelude;
        if (this.atrule && !(media && /^(all|screen)$/i.test(csstree.generate(media).trim()))) return;
        if (rule.prelude.type === 'SelectorList') keep(rule.prelude, rule.block);
      },
    });
    csstree.walk(tree, {
      visit: 'Atrule',
      enter: ({ name, block }) => {
        const face = name === 'font-face' && block ? faceOfRule(declarationsOf(block).plain) : null;
        if (face) this.faces.push(face);
        const family = name === 'font-face' && block ? fontFamilies(declarationsOf(block).plain['font-family'])[0] : undefined;
        if (family && isShipped(family)) this.unknown.push(`font ${family} of its own`);
        if (name !== 'font-face' && name !== 'charset') this.unknown.push(`style rule @${name}`);
      },
    });
  }

  private addRule(selectors: SelectorList, block: CssNode): void {
    const { plain, important } = declarationsOf(block);
    selectors.children.forEach((node) => {
      const text = csstree.generate(node);
      const matcher = matcherOf(text);
      if (!matcher) return void this.unknown.push(`style selector ${text}`);
      this.rules.push({ ...matcher, declarations: plain });
      if (Object.keys(important).length)
        this.rules.push({ ...matcher, weight: matcher.weight + IMPORTANT, declarations: important });
    });
  }

  private readonly inherited = new WeakMap<Properties, Properties>();

  /** What children take over from an element's properties. */
  private inheritedOf(parent: Properties): Properties {
    let found = this.inherited.get(parent);
    if (!found) {
      found = Object.fromEntries(Object.entries(parent).filter(([name]) => isInherited(name)));
      this.inherited.set(parent, found);
    }
    return found;
  }

  /** Inherited and own properties of an element, given its parent's. */
  propertiesOf(element: XmlElement, parent: Properties): Properties {
    const { attributes } = element;
    const text = attributes['style'];
    if (!this.rules.length && !text) return this.plainProperties(attributes, parent);
    const own: Record<string, string> = {};
    for (const name in attributes) if (isPresentation(name)) own[name] = attributes[name]!;
    const matching = this.rules.filter(({ matches }) => matches(element)).sort((a, b) => a.weight - b.weight);
    const inline = text ? declarationsOf(csstree.parse(text, { context: 'declarationList', parseValue: false })) : undefined;
    for (const rule of matching) if (rule.weight < IMPORTANT) Object.assign(own, rule.declarations);
    Object.assign(own, inline?.plain);
    for (const rule of matching) if (rule.weight >= IMPORTANT) Object.assign(own, rule.declarations);
    Object.assign(own, inline?.important);
    return this.together(own, parent);
  }

  private readonly plain = new WeakMap<Properties, Map<string, Properties>>();

  /** The properties of an element that only has attributes: one object for all that have the same. */
  private plainProperties(attributes: Properties, parent: Properties): Properties {
    let known = this.plain.get(parent);
    if (!known) this.plain.set(parent, (known = new Map()));
    let key = '';
    for (const name in attributes) if (isPresentation(name)) key += `${name}\n${attributes[name]!}\n`;
    let found = known.get(key);
    if (!found) {
      const own = Object.fromEntries(Object.entries(attributes).filter(([name]) => isPresentation(name)));
      known.set(key, (found = this.together(own, parent)));
    }
    return found;
  }

  private together(own: Properties, parent: Properties): Properties {
    const all: Record<string, string> = { ...this.inheritedOf(parent) };
    for (const name in own) {
      const value = own[name]!;
      // Words that take over or take back (CSS Cascade 4, 7.3): what starts anew, or comes from what holds it.
      if (name === 'all') all[name] = value;
      else if (value === 'inherit') {
        if (parent[name] !== undefined) all[name] = parent[name];
      } else if (value === 'initial' || (value === 'unset' && !isInherited(name))) delete all[name];
      else if (value !== 'unset') all[name] = value;
    }
    // What is inherited is the size that came out, not the words for it (CSS 2.1, 15.7).
    if (own['font-size'] && !/^(inherit|initial|unset)$/.test(own['font-size']))
      all['font-size'] = computedFontSize(own['font-size'], parent['font-size']);
    for (const name of OF_LINES)
      if (own[name] && /[\d.]\s*r?e[mx]/i.test(own[name]))
        all[name] = inUserUnits(own[name], Number.parseFloat(all['font-size'] ?? '16'));
    // So is the space between letters: that of the letters where it was said (CSS Text 3, 8.2).
    const em = /^([+-]?[\d.]+)em$/.exec(own['letter-spacing']?.trim() ?? '');
    if (em && /^[\d.]+(px)?$/.test(all['font-size'] ?? '16'))
      all['letter-spacing'] = String(Number(em[1]) * Number.parseFloat(all['font-size'] ?? '16'));
    return all;
  }
}

/** Properties of lines that are lengths. */
const OF_LINES = ['stroke-width', 'stroke-dasharray', 'stroke-dashoffset'];

/** A font size that is relative to the parent's, in user units; other sizes as they are. */
function computedFontSize(text: string, parent = '16'): string {
  const match = /^([\d.]+)(em|%|ex)$|^(larger|smaller)$/.exec(text.trim());
  const around = Number.parseFloat(parent);
  if (!match || !Number.isFinite(around) || !/^[\d.]+(px)?$/.test(parent)) return text;
  if (match[3]) return String(around * (match[3] === 'larger' ? 1.2 : 1 / 1.2));
  return String(Number(match[1]) * around * (match[2] === '%' ? 0.01 : match[2] === 'ex' ? 0.5 : 1));
}

interface Declarations {
  readonly plain: Record<string, string>;
  readonly important: Record<string, string>;
}

function declarationsOf(block: CssNode): Declarations {
  const found: Declarations = { plain: {}, important: {} };
  csstree.walk(block, {
    visit: 'Declaration',
    enter: (declaration) => {
      const value = csstree.generate(declaration.value).trim();
      const into = declaration.important ? found.important : found.plain;
      const name = declaration.property.toLowerCase();
      if (name === 'font') Object.assign(into, longFont(value));
      else into[name] = value;
    },
  });
  return found;
}

/** The parts of the font shorthand that matter here (CSS 2.1, 15.8): style, weight, size and family. */
function longFont(value: string): Record<string, string> {
  const size = /(?<![\d.])[\d.]+(?:px|pt|pc|mm|cm|in|em|ex|%)/.exec(value);
  const rest = size ? value.slice(size.index + size[0].length) : '';
  const family = /^(?:\s*\/\s*\S+)?\s(?<family>.*)$/.exec(rest)?.groups!['family']!.trim();
  if (!size || !family) return {};
  const words = value.slice(0, size.index).trim().split(/\s+/);
  return {
    'font-style': words.find((word) => /^(italic|oblique)$/.test(word)) ?? 'normal',
    'font-weight': words.find((word) => /^(bold|bolder|lighter|[1-9]00)$/.test(word)) ?? 'normal',
    'font-size': size[0],
    'font-family': family,
  };
}

/** A CSS colour as `#rrggbb`; null for none; undefined where it is not a plain colour (a gradient, say). */
export function parseColour(text: string, current = '#000000'): string | null | undefined {
  const value = text.trim().toLowerCase();
  if (value === 'none' || value === 'transparent') return null;
  if (value === 'currentcolor') return current;
  if (PLAIN.test(value)) return value;
  // A bracket that nobody closed is closed by the end (CSS Syntax 3, 5.4.9).
  const found = parse(/\([^)]*$/.test(value) ? `${value})` : value);
  return found && formatHex({ ...found, alpha: 1 });
}
const PLAIN = /^#[0-9a-f]{6}$/;

/** The share of cover that a colour states by itself: 1 unless it has an alpha. */
export function alphaOf(text: string | undefined): number {
  const value = (text ?? '').trim().toLowerCase();
  return !value || value === 'transparent' || PLAIN.test(value) ? 1 : (parse(value)?.alpha ?? 1);
}

/** A share between 0 and 1; anything unreadable counts as 1. */
export function shareOf(text: string | undefined): number {
  if (text === undefined) return 1;
  const value = text.endsWith('%') ? Number(text.slice(0, -1)) / 100 : Number(text);
  return Number.isFinite(value) ? Math.min(1, Math.max(0, value)) : 1;
}
