import type { DefaultTreeAdapterTypes } from 'parse5';
import type { EquationNode } from './equations';
import { isElement } from './html-elements';

type Element = DefaultTreeAdapterTypes.Element;

/** An equation in MathML, as it stands in a page. */
export const asEquation = (element: Element): EquationNode => ({
  name: element.tagName,
  children: element.childNodes.filter(isElement).map(asEquation),
  text: element.childNodes
    .map((one) => (one.nodeName === '#text' ? (one as DefaultTreeAdapterTypes.TextNode).value : ''))
    .join('')
    .trim(),
  said: (property) => element.attrs.find(({ name }) => name === property)?.value,
});
