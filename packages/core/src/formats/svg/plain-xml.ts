import type { XmlElement } from './xml-element';

const GREATER = 62;
const SLASH = 47;
const EQUALS = 61;
const QUOTE = 34;
const NEWLINE = 10;

/** What sends a document to the full parser: characters that XML forbids or rewrites, and those outside the first plane. */
const UNUSUAL = /[\u0000-\u0008\u000b-\u001f\ud800-\udfff\ufffe\uffff]/;
const ENTITIES: Readonly<Record<string, string>> = { lt: '<', gt: '>', amp: '&', quot: '"', apos: "'" };

/** Attributes without the inherited names of `Object`, in a form that V8 keeps as a fast object. */
const Attributes = function () {} as unknown as new () => Record<string, string>;
Attributes.prototype = Object.create(null);

/** Letters, digits and `_ - . :`, which names of the documents that are read here consist of. */
const NAME = new Uint8Array(128);
for (const letter of 'abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789_-.:') NAME[letter.charCodeAt(0)] = 1;
for (const letter of '0123456789-.') NAME[letter.charCodeAt(0)] = 2;

const isSpace = (code: number): boolean => code === 32 || code === NEWLINE || code === 9;

/**
 * The tree of a document that consists of elements, attributes in double quotes, text, comments and the five entities that
 * XML predefines: what nearly every drawing consists of, read several times faster than by the full parser.
 * @param limits how deep elements may stand, and how many there may be
 * @param prefixOf the prefix of the drawing's own elements, by the attributes of the root
 * @returns null where the document holds anything else, or is damaged: then the full parser says what it is
 */
export function parsePlainXml(
  text: string,
  limits: { readonly depth: number; readonly elements: number },
  prefixOf: (attributes: Readonly<Record<string, string>>) => string,
): XmlElement | null {
  if (UNUSUAL.test(text)) return null;
  const length = text.length;
  let at = 0;
  let line = 1;
  let depth = 0;
  let count = 0;
  let prefix = '';
  let root: XmlElement | null = null;
  let open: XmlElement | null = null;
  const tags: string[] = [];
  const names = new Map<string, string>();

  const nameEnd = (from: number): number => {
    let end = from;
    const first = text.charCodeAt(end);
    if (!(first < 128) || NAME[first] !== 1) return -1;
    for (let code = first; code < 128 && NAME[code]!; code = text.charCodeAt(++end));
    return text.charCodeAt(end) < 128 || end >= length ? end : -1;
  };
  const countLines = (from: number, to: number): void => {
    for (let next = text.indexOf('\n', from); next >= 0 && next < to; next = text.indexOf('\n', next + 1)) line++;
  };
  const opened = (value: string): string | null => {
    if (!value.includes('&')) return value;
    let known = true;
    const out = value.replace(/&([^;&]*;?)/g, (_, body: string) => {
      const found = body.endsWith(';') ? ENTITIES[body.slice(0, -1)] : undefined;
      if (found === undefined) known = false;
      return found ?? '';
    });
    return known ? out : null;
  };

  if (text.startsWith('<?xml ')) {
    const end = text.indexOf('?>');
    if (
      end < 0 ||
      !/^<\?xml version="1\.0"(?: encoding="[uU][tT][fF]-8")?(?: standalone="(?:yes|no)")?\s*$/.test(text.slice(0, end))
    )
      return null;
    countLines(0, end);
    at = end + 2;
  }
  while (at < length) {
    const tag = text.indexOf('<', at);
    const stop = tag < 0 ? length : tag;
    if (stop > at) {
      const chunk = text.slice(at, stop);
      if (open) {
        if (chunk.includes(']]>')) return null;
        const value = opened(chunk);
        if (value === null) return null;
        open.children.push(value);
      } else if (/[^ \n\t]/.test(chunk)) return null;
      countLines(at, stop);
      at = stop;
    }
    if (tag < 0) break;
    const next = text.charCodeAt(at + 1);
    if (next === 33) {
      // Only comments; what is inside may not hold two hyphens.
      if (!text.startsWith('<!--', at)) return null;
      const end = text.indexOf('--', at + 4);
      if (end < 0 || text.charCodeAt(end + 2) !== GREATER) return null;
      countLines(at, end);
      at = end + 3;
      continue;
    }
    if (next === SLASH) {
      const end = nameEnd(at + 2);
      if (end < 0 || !open || text.slice(at + 2, end) !== tags[depth - 1]) return null;
      let after = end;
      while (isSpace(text.charCodeAt(after))) if (text.charCodeAt(after++) === NEWLINE) line++;
      if (text.charCodeAt(after) !== GREATER) return null;
      tags.length = --depth;
      open = open.parent;
      at = after + 1;
      continue;
    }
    const end = nameEnd(at + 1);
    if (end < 0 || (root && !open)) return null;
    const tagName = text.slice(at + 1, end);
    const attributes = new Attributes();
    at = end;
    for (;;) {
      const before = at;
      while (isSpace(text.charCodeAt(at))) if (text.charCodeAt(at++) === NEWLINE) line++;
      const code = text.charCodeAt(at);
      if (code === GREATER || code === SLASH) break;
      if (at === before) return null;
      const nameStop = nameEnd(at);
      if (nameStop < 0 || text.charCodeAt(nameStop) !== EQUALS || text.charCodeAt(nameStop + 1) !== QUOTE) return null;
      const valueStop = text.indexOf('"', nameStop + 2);
      if (valueStop < 0) return null;
      const name = text.slice(at, nameStop);
      let value: string | null = text.slice(nameStop + 2, valueStop);
      if (name in attributes || value.includes('<')) return null;
      if (value.includes('\n') || value.includes('\t')) {
        countLines(nameStop, valueStop);
        value = value.replace(/[\n\t]/g, ' ');
      }
      value = opened(value);
      if (value === null) return null;
      attributes[name] = value;
      at = valueStop + 1;
    }
    const empty = text.charCodeAt(at) === SLASH;
    if (empty && text.charCodeAt(++at) !== GREATER) return null;
    at++;
    if (depth + 1 > limits.depth || ++count > limits.elements) return null;
    if (!root) prefix = prefixOf(attributes);
    let name = names.get(tagName);
    if (name === undefined) names.set(tagName, (name = tagName.startsWith(prefix) ? tagName.slice(prefix.length) : tagName));
    const element: XmlElement = { name, attributes, children: [], parent: open, line };
    if (open) open.children.push(element);
    else root = element;
    if (!empty) {
      open = element;
      tags[depth++] = tagName;
    }
  }
  return open ? null : root;
}
