import { compile } from 'css-select';
import { type Selector, SelectorType, parse } from 'css-what';
import type { XmlElement } from './xml-element';

type Child = XmlElement | string;
const isTag = (node: Child): node is XmlElement => typeof node !== 'string';
const textOf = (node: Child): string => (isTag(node) ? node.children.map(textOf).join('') : node);

/** How the selector library walks our elements. */
const adapter = {
  isTag,
  getAttributeValue: (element: XmlElement, name: string) => element.attributes[name],
  getChildren: (node: Child): Child[] => (isTag(node) ? node.children : []),
  getName: ({ name }: XmlElement) => name,
  getParent: ({ parent }: XmlElement): Child | null => parent,
  getSiblings: (node: Child): Child[] => (isTag(node) ? (node.parent?.children ?? [node]) : [node]),
  getText: textOf,
  hasAttrib: (element: XmlElement, name: string) => name in element.attributes,
  removeSubsets: (nodes: Child[]) => nodes,
};

/** What a state of a window or a pointer decides, which a drawing does not have. */
const OF_A_WINDOW = new Set([
  'hover',
  'active',
  'visited',
  'link',
  'any-link',
  'focus',
  'checked',
  'selected',
  'enabled',
  'disabled',
]);

/** The weight of a selector (CSS 2.1, 6.4.3): ids, then classes and attributes, then types. */
function weightOf(parts: readonly Selector[]): number {
  let weight = 0;
  for (const part of parts) {
    if (part.type === SelectorType.Attribute) weight += part.name === 'id' && part.action === 'equals' ? 1_000_000 : 1000;
    else if (part.type === SelectorType.Pseudo) weight += 1000;
    else if (part.type === SelectorType.Tag) weight += 1;
  }
  return weight;
}

/**
 * Which elements a selector means, and how much it weighs against others.
 * @returns undefined where it is not understood
 */
export function matcherOf(selector: string): { matches: (element: XmlElement) => boolean; weight: number } | undefined {
  try {
    const parsed = parse(selector);
    const [parts] = parsed;
    if (!parts || parsed.length > 1) return undefined;
    for (const part of parts)
      if (part.type === SelectorType.PseudoElement || (part.type === SelectorType.Pseudo && OF_A_WINDOW.has(part.name)))
        return undefined;
    const matches = compile<Child, XmlElement>(parsed, { adapter, xmlMode: true, cacheResults: false });
    return { matches, weight: weightOf(parts) };
  } catch {
    return undefined;
  }
}
