import type { Tally } from '../../bytes/tally';
import { type XmlNode, childOf, childrenOf, wordsBelow } from '../../bytes/xml-tree';

const CONTENT = new Set([
  'scripts',
  'font-face-decls',
  'automatic-styles',
  'body',
  'meta',
  'settings',
  'styles',
  'master-styles',
]);

/** Tells what a document has beside its words that is not read (ODF 1.3-3, 3.1 and 3.12; 16.9 for what stands on all pages). */
export function tellOfContent(content: XmlNode, styles: XmlNode | undefined, tally: Tally): void {
  for (const one of childrenOf(content)) {
    if (one.name === 'scripts' && childrenOf(one).length) tally.add('script');
    if (!CONTENT.has(one.name)) tally.add(`“${one.name.slice(0, 40)}” of the document`);
  }
  for (const one of childrenOf(childOf(content, 'body')))
    if (one.name !== 'text') tally.add(`“${one.name.slice(0, 40)}” of the document`);
  for (const page of childrenOf(childOf(styles, 'master-styles'), 'master-page'))
    for (const one of childrenOf(page))
      if (/^(header|footer)/.test(one.name) && wordsBelow(one).trim()) tally.add('header or footer of pages');
}

/** Tells what lies behind and around the words of a paragraph. */
export function tellOfGround(properties: readonly (readonly [property: string, value: string])[], tally: Tally): void {
  for (const [property, value] of properties) {
    if (property === 'background-color' && !/^(transparent|#ffffff)$/i.test(value)) tally.add('ground behind words');
    if (/^border(-left|-right|-top|-bottom)?$/.test(property) && !/^none$/.test(value)) tally.add('border around words');
    if (property === 'writing-mode' && !/^(lr|lr-tb|page)$/.test(value)) tally.add('words from right to left');
  }
}
