import type { CopyDescription } from '../../contracts/description';
import { descriptionIn, descriptionRdf } from '../description-rdf';

const RDF = 'http://www.w3.org/1999/02/22-rdf-syntax-ns#';
/** Longest that is looked at, letters. */
const LONGEST = 500_000;

/** An element with what a drawing says of itself (SVG 1.1, 21.1); empty where it says nothing. */
export function describedElement(said: CopyDescription | undefined): string {
  const rdf = descriptionRdf(said);
  return rdf ? `<metadata>\n<rdf:RDF xmlns:rdf="${RDF}">\n${rdf}</rdf:RDF>\n</metadata>\n` : '';
}

/** What a drawing says of itself, wherever the names of its properties are bound. */
export function descriptionInSvg(text: string): CopyDescription | undefined {
  const [root = ''] = /<svg\b[^>]*>/.exec(text) ?? [];
  const bound = [...root.matchAll(/\sxmlns:[\w.-]+=(?:"[^"]*"|'[^']*')/g)].map(([one]) => one).join('');
  for (let at = text.indexOf('<metadata'); at >= 0; at = text.indexOf('<metadata', at + 1)) {
    const end = text.indexOf('</metadata>', at);
    if (end < 0 || end - at > LONGEST) return undefined;
    const said = descriptionIn(
      `<described${bound} xmlns:xml="http://www.w3.org/XML/1998/namespace" about="http://purl.org/dc/elements/1.1/">${text.slice(at, end)}</metadata></described>`,
    );
    if (said) return said;
  }
  return undefined;
}
