import * as csstree from 'css-tree';
import type { CssNode, Selector, SelectorList } from 'css-tree';
import { COLOUR_NAMES } from './colour-names';
import type { XmlElement } from './xml';

interface Rule {
  readonly selector: readonly Part[];
  readonly weight: number;
  readonly declarations: Readonly<Record<string, string>>;
}
interface Part {
  /** How this part relates to the one before it: inside it somewhere, or directly. */
  readonly combinator: ' ' | '>';
  readonly tests: readonly ((element: XmlElement) => boolean)[];
}

const INHERITED = new Set([
  'fill',
  'fill-rule',
  'stroke',
  'stroke-width',
  'font-family',
  'font-size',
  'font-weight',
  'text-anchor',
  'visibility',
  'color',
  'fill-opacity',
  'stroke-opacity',
  'stroke-dasharray',
  'stroke-linecap',
  'stroke-linejoin',
  'font-style',
  'letter-spacing',
  'word-spacing',
  'writing-mode',
  'paint-order',
  'xml:space',
]);
const PRESENTATION = new Set([
  ...INHERITED,
  'opacity',
  'display',
  'clip-path',
  'mask',
  'filter',
  'marker-start',
  'marker-mid',
  'marker-end',
  'text-decoration',
  'baseline-shift',
  'dominant-baseline',
  'mix-blend-mode',
  'vector-effect',
]);
/** Above every selector: declarations that say so (CSS 2.1, 6.4.2). */
const IMPORTANT = 1e12;

/** The document's style sheets, able to tell the properties of each element (CSS 2.1, 6.4). */
export class StyleSheet {
  private readonly rules: Rule[] = [];
  /** Selectors that were not understood. */
  readonly unknown: string[] = [];

  add(text: string): void {
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
      enter: ({ name }) => {
        if (name !== 'font-face' && name !== 'charset') this.unknown.push(`style rule @${name}`);
      },
    });
  }

  private addRule(selectors: SelectorList, block: CssNode): void {
    const { plain, important } = declarationsOf(block);
    selectors.children.forEach((node) => {
      const selector = node.type === 'Selector' ? compile(node) : undefined;
      if (!selector) return void this.unknown.push(`style selector ${csstree.generate(node)}`);
      this.rules.push({ ...selector, declarations: plain });
      if (Object.keys(important).length)
        this.rules.push({ ...selector, weight: selector.weight + IMPORTANT, declarations: important });
    });
  }

  /** Inherited and own properties of an element, given its parent's. */
  propertiesOf(element: XmlElement, parent: Readonly<Record<string, string>>): Record<string, string> {
    const own: Record<string, string> = {};
    for (const [name, value] of Object.entries(element.attributes)) if (PRESENTATION.has(name)) own[name] = value;
    const matching = this.rules.filter((rule) => matches(element, rule.selector, rule.selector.length - 1));
    matching.sort((a, b) => a.weight - b.weight);
    const text = element.attributes['style'];
    const inline = text ? declarationsOf(csstree.parse(text, { context: 'declarationList', parseValue: false })) : undefined;
    for (const rule of matching.filter(({ weight }) => weight < IMPORTANT)) Object.assign(own, rule.declarations);
    Object.assign(own, inline?.plain);
    for (const rule of matching.filter(({ weight }) => weight >= IMPORTANT)) Object.assign(own, rule.declarations);
    Object.assign(own, inline?.important);
    const all: Record<string, string> = {};
    for (const [name, value] of Object.entries(parent)) if (INHERITED.has(name)) all[name] = value;
    for (const [name, value] of Object.entries(own)) if (value !== 'inherit') all[name] = value;
    // What is inherited is the size that came out, not the words for it (CSS 2.1, 15.7).
    if (own['font-size'] && own['font-size'] !== 'inherit')
      all['font-size'] = computedFontSize(own['font-size'], parent['font-size']);
    return all;
  }
}

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
  const match = /^(.*?)([\d.]+(?:px|pt|pc|mm|cm|in|em|ex|%))(?:\s*\/\s*\S+)?\s+(.+)$/.exec(value);
  if (!match) return {};
  const words = match[1]!.trim().split(/\s+/);
  return {
    'font-style': words.find((word) => /^(italic|oblique)$/.test(word)) ?? 'normal',
    'font-weight': words.find((word) => /^(bold|bolder|lighter|[1-9]00)$/.test(word)) ?? 'normal',
    'font-size': match[2]!,
    'font-family': match[3]!,
  };
}

/** Types, classes, ids and `*`, joined by descent or directness; anything else is not understood and said so. */
function compile(node: Selector): Omit<Rule, 'declarations'> | undefined {
  const parts: { combinator: ' ' | '>'; tests: ((element: XmlElement) => boolean)[] }[] = [{ combinator: ' ', tests: [] }];
  let weight = 0;
  let understood = true;
  node.children.forEach((simple) => {
    const tests = parts.at(-1)!.tests;
    if (simple.type === 'TypeSelector') {
      const name = simple.name;
      if (name !== '*') {
        tests.push((element) => element.name === name);
        weight += 1;
      }
    } else if (simple.type === 'ClassSelector') {
      const name = simple.name;
      tests.push((element) => (element.attributes['class'] ?? '').split(/\s+/).includes(name));
      weight += 1000;
    } else if (simple.type === 'IdSelector') {
      const name = simple.name;
      tests.push((element) => element.attributes['id'] === name);
      weight += 1_000_000;
    } else if (simple.type === 'Combinator' && (simple.name === ' ' || simple.name === '>'))
      parts.push({ combinator: simple.name, tests: [] });
    else understood = false;
  });
  return understood ? { selector: parts, weight } : undefined;
}

function matches(element: XmlElement, parts: readonly Part[], last: number): boolean {
  const part = parts[last]!;
  if (!part.tests.every((test) => test(element))) return false;
  if (last === 0) return true;
  for (let up = element.parent; up; up = up.parent) {
    if (matches(up, parts, last - 1)) return true;
    if (part.combinator === '>') return false;
  }
  return false;
}

/** A CSS colour as `#rrggbb`; null for none; undefined where it is not a plain colour (a gradient, say). */
export function parseColour(text: string, current = '#000000'): string | null | undefined {
  const value = text.trim().toLowerCase();
  if (value === 'none' || value === 'transparent') return null;
  if (value === 'currentcolor') return current;
  const short = /^#([0-9a-f])([0-9a-f])([0-9a-f])[0-9a-f]?$/.exec(value);
  if (short) return `#${short[1]}${short[1]}${short[2]}${short[2]}${short[3]}${short[3]}`;
  if (/^#([0-9a-f]{6}|[0-9a-f]{8})$/.test(value)) return value.slice(0, 7);
  const hsl = /^hsla?\(\s*(-?[\d.]+)(?:deg)?[\s,]+([\d.]+)%[\s,]+([\d.]+)%/.exec(value);
  if (hsl) return hslColour(Number(hsl[1]), Number(hsl[2]) / 100, Number(hsl[3]) / 100);
  const rgb = /^rgba?\(([^)]*)\)$/.exec(value);
  if (rgb) {
    const parts = rgb[1]!
      .split(/[\s,/]+/)
      .filter(Boolean)
      .slice(0, 3);
    const bytes = parts.map((part) => Math.round(part.endsWith('%') ? Number(part.slice(0, -1)) * 2.55 : Number(part)));
    if (bytes.length !== 3 || !bytes.every(Number.isFinite)) return undefined;
    return `#${bytes.map((byte) => Math.min(255, Math.max(0, byte)).toString(16).padStart(2, '0')).join('')}`;
  }
  return COLOUR_NAMES[value];
}

function hslColour(hue: number, saturation: number, lightness: number): string {
  // CSS Color 3, 4.2.4.
  const part = (shift: number) => {
    const k = (shift + (((hue % 360) + 360) % 360) / 30) % 12;
    const value = lightness - saturation * Math.min(lightness, 1 - lightness) * Math.max(-1, Math.min(k - 3, 9 - k, 1));
    return Math.round(255 * Math.min(1, Math.max(0, value)))
      .toString(16)
      .padStart(2, '0');
  };
  return `#${part(0)}${part(8)}${part(4)}`;
}

/** The share of cover that a colour states by itself: 1 unless it has an alpha. */
export function alphaOf(text: string | undefined): number {
  const value = (text ?? '').trim().toLowerCase();
  const hex = /^#(?:[0-9a-f]{3}([0-9a-f])|[0-9a-f]{6}([0-9a-f]{2}))$/.exec(value);
  if (hex) return hex[1] ? parseInt(hex[1], 16) / 15 : parseInt(hex[2]!, 16) / 255;
  const parts = /^(?:rgb|hsl)a?\(([^)]*)\)$/
    .exec(value)?.[1]!
    .split(/[\s,/]+/)
    .filter(Boolean);
  return parts?.length === 4 ? shareOf(parts[3]) : 1;
}

/** A share between 0 and 1; anything unreadable counts as 1. */
export function shareOf(text: string | undefined): number {
  if (text === undefined) return 1;
  const value = text.endsWith('%') ? Number(text.slice(0, -1)) / 100 : Number(text);
  return Number.isFinite(value) ? Math.min(1, Math.max(0, value)) : 1;
}
