import { SaxesParser } from 'saxes';
import { Failure } from '../../base/failure/failure';
import { entitiesIn } from './entities';
import type { XmlElement } from './xml-element';
import { parsePlainXml } from './plain-xml';

const SVG_NAMESPACE = 'http://www.w3.org/2000/svg';
const LINK_NAMESPACE = 'http://www.w3.org/1999/xlink';
const DEPTH = 256;
const ELEMENTS = 500_000;

/** The prefix of the drawing's own elements: any that the root binds to the SVG namespace. */
function prefixOf(attributes: Readonly<Record<string, string>>): string {
  let prefix = 'svg:';
  for (const name in attributes)
    if (name.startsWith('xmlns:') && attributes[name] === SVG_NAMESPACE) prefix = `${name.slice(6)}:`;
  return prefix;
}

/**
 * Reads XML with limits on depth and count. Of the entities that a document declares those are read that are plain text, as far
 * as they come to little: they are how a few bytes become gigabytes.
 * @throws Failure `xml-damaged` with the line, `xml-entities`, `xml-too-large`
 */
export function parseXml(text: string): XmlElement {
  const root = parsePlainXml(text, { depth: DEPTH, elements: ELEMENTS }, prefixOf) ?? parseAnyXml(text);
  if (text.includes(LINK_NAMESPACE)) nameLinks(root, 'xlink');
  return root;
}

/** Calls attributes of the namespace of links by its usual prefix. @param prefix that it has around an element */
function nameLinks({ attributes, children }: XmlElement, prefix: string): void {
  let own = prefix;
  for (const name in attributes)
    if (name.startsWith('xmlns:') && attributes[name] === LINK_NAMESPACE) own = name.slice('xmlns:'.length);
  if (own !== 'xlink')
    for (const name of Object.keys(attributes))
      if (name.startsWith(`${own}:`)) {
        const named = attributes as Record<string, string>;
        named[`xlink:${name.slice(own.length + 1)}`] = named[name]!;
        delete named[name];
      }
  for (const child of children) if (typeof child !== 'string') nameLinks(child, own);
}

/** As `parseXml`, by the full parser alone. */
export function parseAnyXml(text: string): XmlElement {
  const parser = new SaxesParser({ xmlns: false });
  let root: XmlElement | null = null;
  let prefix = 'svg:';
  let open: XmlElement | null = null;
  let depth = 0;
  let count = 0;
  parser.on('error', (error) => {
    throw new Failure('xml-damaged', `The XML is damaged: ${error.message.replace(/^\d+:\d+: /, '')}`, {
      line: parser.line,
    });
  });
  const unknown: string[] = [];
  parser.on('processinginstruction', ({ target }) => {
    if (target === 'xml-stylesheet') unknown.push('style sheet by instruction');
  });
  parser.on('doctype', (doctype) => {
    if (/<!ATTLIST/i.test(doctype)) unknown.push('attributes by declaration');
    for (const [name, value] of entitiesIn(doctype, text, parser.line)) parser.ENTITIES[name] = value;
  });
  parser.on('opentag', (tag) => {
    if (++depth > DEPTH || ++count > ELEMENTS)
      throw new Failure(
        'xml-too-large',
        depth > DEPTH ? `Elements are nested more than ${DEPTH} deep.` : `There are more than ${ELEMENTS} elements.`,
        {
          line: parser.line,
        },
      );
    const attributes = tag.attributes as Record<string, string>;
    if (!root) prefix = prefixOf(attributes);
    const element: XmlElement = {
      name: tag.name.startsWith(prefix) ? tag.name.slice(prefix.length) : tag.name,
      attributes,
      children: [],
      parent: open,
      line: parser.line,
    };
    if (open) open.children.push(element);
    else root = element;
    open = element;
  });
  parser.on('closetag', () => {
    depth--;
    open = open?.parent ?? null;
  });
  const addText = (chunk: string) => void open?.children.push(chunk);
  parser.on('text', addText);
  parser.on('cdata', addText);
  parser.write(text).close();
  if (!root) throw new Failure('xml-damaged', 'The file holds no XML element.', { line: 1 });
  return unknown.length ? Object.assign(root as XmlElement, { unknown }) : root;
}

/** All text inside an element. */
export const textOf = (element: XmlElement): string =>
  element.children.map((child) => (typeof child === 'string' ? child : textOf(child))).join('');
