import { Failure } from '../failure/failure';
import { type Attributes, attributeOf, walkXml } from './walk-xml';

/** An element of a small XML document, its name without a prefix. */
export interface XmlNode {
  readonly name: string;
  readonly attributes: Attributes;
  readonly children: readonly (XmlNode | string)[];
}

const DEEPEST = 400;

/** XML as a tree. @throws Failure `package-damaged`, `too-deep` */
export function xmlTree(bytes: Uint8Array, part: string): XmlNode {
  const top: (XmlNode | string)[] = [];
  const open: (XmlNode | string)[][] = [top];
  walkXml(bytes, part, {
    open: (name, attributes) => {
      const children: (XmlNode | string)[] = [];
      open.at(-1)!.push({ name, attributes, children });
      if (open.push(children) > DEEPEST)
        throw new Failure('too-deep', `“${part}” in the package is nested too deep to be a text.`);
    },
    close: () => void open.pop(),
    text: (text) => void open.at(-1)!.push(text),
  });
  const root = top.find((one): one is XmlNode => typeof one !== 'string');
  if (!root) throw new Failure('package-damaged', `“${part}” in the package is empty.`);
  return root;
}

export const isXml = (node: XmlNode | string): node is XmlNode => typeof node !== 'string';
/** The child elements of a name. */
export const childrenOf = (node: XmlNode | undefined, name?: string): XmlNode[] =>
  (node?.children ?? []).filter((one): one is XmlNode => isXml(one) && (name === undefined || one.name === name));
export const childOf = (node: XmlNode | undefined, ...names: readonly string[]): XmlNode | undefined =>
  names.reduce<XmlNode | undefined>((at, name) => childrenOf(at, name)[0], node);
/** An attribute of a child: `w:val` of `w:pStyle`, say. */
export const saidOf = (node: XmlNode | undefined, child: string, attribute = 'val'): string | undefined => {
  const found = childOf(node, child);
  return found && attributeOf(found.attributes, attribute);
};
export const own = (node: XmlNode, attribute: string): string | undefined => attributeOf(node.attributes, attribute);

/** All the words below an element. */
export function wordsBelow(node: XmlNode): string {
  return node.children.map((one) => (isXml(one) ? wordsBelow(one) : one)).join('');
}
