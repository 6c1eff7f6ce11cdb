import { XmlTrouble, isPlainXml, walkPlain } from '../../base/bytes/plain-walk';
import type { XmlElement } from './xml-element';

/** A declaration that says no more than what is so without it. */
const DECLARED = /^<\?xml version="1\.0"(?: encoding="[uU][tT][fF]-8")?(?: standalone="(?:yes|no)")?\s*\?>/;

/**
 * The tree of a document of the plain kind, which nearly every drawing is: read several times faster than by the full parser.
 * @param limits how deep elements may stand, and how many there may be
 * @param prefixOf the prefix of the drawing's own elements, by the attributes of the root
 * @returns null where the document holds anything else, or is damaged: then the full parser says what it is
 */
export function parsePlainXml(
  text: string,
  limits: { readonly depth: number; readonly elements: number },
  prefixOf: (attributes: Readonly<Record<string, string>>) => string,
): XmlElement | null {
  if (!isPlainXml(text) || (text.startsWith('<?') && !DECLARED.test(text)) || text.charCodeAt(0) === 0xfeff) return null;
  // Halves of letters are the full parser's, and so are lines that end otherwise.
  if (/[\ud800-\udfff\r]/.test(text)) return null;
  let [line, counted, depth, count, prefix] = [1, 0, 0, 0, ''];
  let root: XmlElement | null = null;
  let open: XmlElement | null = null;
  const names = new Map<string, string>();
  try {
    walkPlain(text, {
      open: (tag, attributes, at) => {
        if (++depth > limits.depth || ++count > limits.elements) throw new XmlTrouble('it is too large', at);
        for (let next = text.indexOf('\n', counted); next >= 0 && next < at; next = text.indexOf('\n', next + 1)) line++;
        counted = at;
        if (!root) prefix = prefixOf(attributes);
        let name = names.get(tag);
        if (name === undefined) names.set(tag, (name = tag.startsWith(prefix) ? tag.slice(prefix.length) : tag));
        const element: XmlElement = { name, attributes, children: [], parent: open, line };
        if (open) open.children.push(element);
        else root = element;
        open = element;
      },
      close: () => {
        depth--;
        open = open!.parent;
      },
      text: (words) => void open!.children.push(words),
    });
  } catch (error) {
    if (error instanceof XmlTrouble) return null;
    throw error;
  }
  return root;
}
