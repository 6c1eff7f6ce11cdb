import * as csstree from 'css-tree';
import type { CssNode, Selector } from 'css-tree';
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
]);

/** The document's style sheets, able to tell the properties of each element (CSS 2.1, 6.4). */
export class StyleSheet {
  private readonly rules: Rule[] = [];
  /** Selectors that were not understood. */
  readonly unknown: string[] = [];

  add(text: string): void {
    const tree = csstree.parse(text, { parseValue: false, onParseError: () => void this.unknown.push('style rule') });
    csstree.walk(tree, {
      visit: 'Rule',
      enter: (rule) => {
        if (rule.prelude.type !== 'SelectorList') return;
        const declarations = declarationsOf(rule.block);
        rule.prelude.children.forEach((node) => {
          const selector = node.type === 'Selector' ? compile(node) : undefined;
          if (!selector) this.unknown.push(`style selector ${csstree.generate(node)}`);
          else this.rules.push({ ...selector, declarations });
        });
      },
    });
  }

  /** Inherited and own properties of an element, given its parent's. */
  propertiesOf(element: XmlElement, parent: Readonly<Record<string, string>>): Record<string, string> {
    const own: Record<string, string> = {};
    for (const [name, value] of Object.entries(element.attributes)) if (PRESENTATION.has(name)) own[name] = value;
    const matching = this.rules.filter((rule) => matches(element, rule.selector, rule.selector.length - 1));
    matching.sort((a, b) => a.weight - b.weight);
    for (const rule of matching) Object.assign(own, rule.declarations);
    const inline = element.attributes['style'];
    if (inline) Object.assign(own, declarationsOf(csstree.parse(inline, { context: 'declarationList', parseValue: false })));
    const all: Record<string, string> = {};
    for (const [name, value] of Object.entries(parent)) if (INHERITED.has(name)) all[name] = value;
    for (const [name, value] of Object.entries(own)) if (value !== 'inherit') all[name] = value;
    return all;
  }
}

function declarationsOf(block: CssNode): Record<string, string> {
  const found: Record<string, string> = {};
  csstree.walk(block, {
    visit: 'Declaration',
    enter: (declaration) => {
      found[declaration.property.toLowerCase()] = csstree.generate(declaration.value).trim();
    },
  });
  return found;
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
  const short = /^#([0-9a-f])([0-9a-f])([0-9a-f])$/.exec(value);
  if (short) return `#${short[1]}${short[1]}${short[2]}${short[2]}${short[3]}${short[3]}`;
  if (/^#[0-9a-f]{6}$/.test(value)) return value;
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
