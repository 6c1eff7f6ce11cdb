import { Failure } from '../../base/failure/failure';
import type { SvgReading } from './reading';
import type { XmlElement } from './xml-element';

/** How far one definition may lean on others. */
const CHAIN = 32;

/**
 * A definition and those that it takes over from, nearest first (SVG 1.1, 13.2.2 and 13.3, `xlink:href`).
 * @param names of the elements that it may take over from
 * @throws Failure `svg-gradient-cycle`
 */
export function chainOf(element: XmlElement, names: readonly string[], { ids }: SvgReading): XmlElement[] {
  const chain: XmlElement[] = [];
  for (let next: XmlElement | undefined = element; next && names.includes(next.name);) {
    if (chain.includes(next) || chain.length > CHAIN)
      throw new Failure('svg-gradient-cycle', `The ${next.name} “${next.attributes['id'] ?? ''}” takes over from itself.`, {
        line: next.line,
      });
    chain.push(next);
    const reference: string = next.attributes['href'] ?? next.attributes['xlink:href'] ?? '';
    next = reference.startsWith('#') ? ids.get(reference.slice(1)) : undefined;
  }
  return chain;
}

/** The first of them that states an attribute. */
export const inherited = (chain: readonly XmlElement[], name: string): string | undefined =>
  chain.find(({ attributes }) => attributes[name] !== undefined)?.attributes[name];
