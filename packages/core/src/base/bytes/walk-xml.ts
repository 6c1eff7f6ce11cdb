import { SaxesParser } from 'saxes';
import { XmlTrouble, isPlainXml, walkPlain } from './plain-walk';
import { Spaces } from './spaces';
import { Failure } from '../failure/failure';

export type Attributes = Readonly<Record<string, string>>;
interface Handlers {
  readonly open?: (name: string, attributes: Attributes) => void;
  readonly close?: (name: string) => void;
  readonly text?: (text: string) => void;
}

const local = (name: string): string => name.slice(name.indexOf(':') + 1);
/** Text given to the parser at once: a part of a hundred megabytes is not copied as a whole. */
const AT_ONCE = 1 << 20;

/** Handlers that get names without their prefixes, and those of foreign owners by other names. */
function withSpaces({ open, close, text }: Handlers): Handlers {
  const spaces = new Spaces();
  return {
    open: (name, attributes) => {
      if (!spaces.enter(attributes)) open?.(local(name), attributes);
      else open?.(spaces.element(name), spaces.attributes(attributes));
    },
    close: (name) => {
      close?.(spaces.any ? spaces.element(name) : local(name));
      spaces.leave();
    },
    text,
  };
}

/**
 * Walks through XML, names without their prefixes, but for those that no standard of ours defines. A part with a document type is refused: none of these formats has one, and
 * entities come from there.
 * @throws Failure `package-damaged` with the line
 */
export function walkXml(bytes: Uint8Array, part: string, handlers: Handlers): void {
  const { open, close, text } = withSpaces(handlers);
  const encoding =
    bytes[0] === 0xff && bytes[1] === 0xfe ? 'utf-16le' : bytes[0] === 0xfe && bytes[1] === 0xff ? 'utf-16be' : 'utf-8';
  const all = new TextDecoder(encoding).decode(bytes);
  const refuse = (message: string, line: number): Failure =>
    new Failure('package-damaged', `“${part}” in the package is damaged: ${message}.`, { line });
  if (isPlainXml(all)) {
    try {
      return walkPlain(all, { open, close, text });
    } catch (error) {
      if (!(error instanceof XmlTrouble)) throw error;
      throw refuse(error.message, all.slice(0, error.at).split('\n').length);
    }
  }
  const parser = new SaxesParser({ fragment: false });
  parser.on('doctype', () => {
    throw refuse('it has a document type, which such a part must not have', parser.line);
  });
  parser.on('error', (error) => {
    throw refuse(error.message.replace(/^\d+:\d+: /, '').replace(/\.$/, ''), parser.line);
  });
  parser.on('opentag', ({ name, attributes }) => open!(name, attributes as Attributes));
  parser.on('closetag', ({ name }) => close!(name));
  if (text) {
    parser.on('text', text);
    parser.on('cdata', text);
  }
  for (let from = 0; from < all.length; from += AT_ONCE) parser.write(all.slice(from, from + AT_ONCE));
  parser.close();
}

/** An attribute, whatever its prefix. */
export function attributeOf(attributes: Attributes, name: string): string | undefined {
  if (attributes[name] !== undefined) return attributes[name];
  const found = Object.keys(attributes).find((one) => local(one) === name);
  return found === undefined ? undefined : attributes[found];
}

const NONE: readonly string[] = [];
/** Attributes that are not among known ones, whatever their prefixes; what names spaces or says how blanks count is none. */
export function strangersAmong(attributes: Attributes, known: ReadonlySet<string>): readonly string[] {
  let found: string[] | null = null;
  for (const name in attributes)
    if (!known.has(name) && !known.has(local(name)) && !/^(xmlns(:|$)|xml:|[^:]+:Ignorable$)/.test(name))
      (found ??= []).push(name);
  return found ?? NONE;
}
