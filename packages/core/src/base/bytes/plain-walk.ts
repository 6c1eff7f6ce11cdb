/** A place in XML that is not as it should be. */
export class XmlTrouble extends Error {
  constructor(
    message: string,
    readonly at: number,
  ) {
    super(message);
  }
}

type Attributes = Readonly<Record<string, string>>;
interface Walker {
  /** @param at where its tag ends */
  readonly open?: ((name: string, attributes: Attributes, at: number) => void) | undefined;
  readonly close?: ((name: string) => void) | undefined;
  readonly text?: ((text: string) => void) | undefined;
}

const ENTITIES: Readonly<Record<string, string>> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" };

/** Text with its references followed: the five of XML and those by number; there are no others without a document type. */
function followed(text: string, at: number): string {
  if (!text.includes('&')) return text;
  return text.replace(/&([^;&\s]*);?/g, (whole, name: string) => {
    const known = ENTITIES[name];
    if (known && whole.endsWith(';')) return known;
    const code = /^#(?:x([0-9a-fA-F]{1,6})|(\d{1,7}))$/.exec(name);
    const value = code ? parseInt(code[1] ?? code[2]!, code[1] ? 16 : 10) : -1;
    const isLetter =
      value === 9 ||
      value === 10 ||
      value === 13 ||
      (value >= 32 && value < 0xd800) ||
      (value > 0xdfff && value < 0xfffe) ||
      (value > 0xffff && value < 0x110000);
    if (!whole.endsWith(';') || !isLetter) throw new XmlTrouble(`“${whole.slice(0, 20)}” stands for nothing`, at);
    return String.fromCodePoint(value);
  });
}

const [NEWLINE, QUOTE, APOSTROPHE, SLASH, EQUALS, GREATER] = [10, 34, 39, 47, 61, 62];

/** Attributes without the inherited names of `Object`, in a form that V8 keeps as a fast object. */
const Held = function () {} as unknown as new () => Record<string, string>;
Held.prototype = Object.create(null);

/** Letters, digits and `_ - . :`, of which nearly all names consist: 1 where a name may begin with it. */
const NAME = new Uint8Array(128);
for (const letter of 'abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ_:') NAME[letter.charCodeAt(0)] = 1;
for (const letter of '0123456789-.') NAME[letter.charCodeAt(0)] = 2;
/** Names in other letters (XML 1.0, 2.3). */
const BEGINS =
  'A-Za-z_:\\u00c0-\\u00d6\\u00d8-\\u00f6\\u00f8-\\u02ff\\u0370-\\u037d\\u037f-\\u1fff\\u200c\\u200d\\u2070-\\u218f\\u2c00-\\u2fef' +
  '\\u3001-\\ud7ff\\uf900-\\ufdcf\\ufdf0-\\ufffd\\u{10000}-\\u{effff}';
const ANY_NAME = new RegExp(`[${BEGINS}][${BEGINS}\\-.0-9\\u00b7\\u0300-\\u036f\\u203f\\u2040]*`, 'uy');
const FORBIDDEN = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/;

/** Where a name that begins here ends; the same place where none does. */
function endOfName(text: string, from: number): number {
  let end = from;
  let code = text.charCodeAt(end);
  if (code < 128 && NAME[code] === 1) while (code < 128 && NAME[code]) code = text.charCodeAt(++end);
  if (!(code >= 128)) return end;
  ANY_NAME.lastIndex = from;
  return ANY_NAME.test(text) ? ANY_NAME.lastIndex : from;
}
const isSpace = (code: number): boolean => code === 32 || code === NEWLINE || code === 9 || code === 13;
function afterSpace(text: string, from: number): number {
  let at = from;
  while (isSpace(text.charCodeAt(at))) at++;
  return at;
}

/** Whether a text is XML of the plain kind that `walkPlain` reads: elements, comments and text alone. */
export function isPlainXml(text: string): boolean {
  for (let at = text.indexOf('<!'); at >= 0; at = text.indexOf('<!', at + 4)) if (!text.startsWith('<!--', at)) return false;
  return text.lastIndexOf('<?') <= 0;
}

/** Reads the attributes of a tag, from behind its name, into an object. @returns where they end */
function readAttributes(text: string, from: number, attributes: Record<string, string>): number {
  for (let at = from; ;) {
    const start = afterSpace(text, at);
    const code = text.charCodeAt(start);
    if (code === GREATER || code === SLASH) return start;
    const nameEnd = start === at ? start : endOfName(text, start);
    if (nameEnd === start) throw new XmlTrouble('a tag does not end as it should', from);
    let after = nameEnd;
    if (text.charCodeAt(after) !== EQUALS) after = afterSpace(text, after);
    if (text.charCodeAt(after) !== EQUALS) throw new XmlTrouble('an attribute has no value', start);
    if (isSpace(text.charCodeAt(++after))) after = afterSpace(text, after);
    const quote = text.charCodeAt(after);
    const stop = quote === QUOTE ? text.indexOf('"', after + 1) : quote === APOSTROPHE ? text.indexOf("'", after + 1) : -1;
    if (stop < 0) throw new XmlTrouble('the value of an attribute does not end', start);
    const name = text.slice(start, nameEnd);
    if (name in attributes) throw new XmlTrouble(`“${name.slice(0, 40)}” is said twice`, start);
    const value = text.slice(after + 1, stop);
    if (value.includes('<')) throw new XmlTrouble('a “<” stands in the value of an attribute', start);
    // Blanks of any kind are plain ones; those that are said by number stay (XML 1.0, 3.3.3).
    const hasBlanks = value.includes('\n') || value.includes('\t') || value.includes('\r');
    attributes[name] = followed(hasBlanks ? value.replace(/\r\n?|[\n\t]/g, ' ') : value, start);
    at = stop + 1;
  }
}

/**
 * Walks through plain XML several times as fast as a parser of all of it, and as strictly. Names come with their prefixes.
 * @throws XmlTrouble with the place
 */
export function walkPlain(text: string, { open, close, text: words }: Walker): void {
  const stack: string[] = [];
  const forbidden = FORBIDDEN.exec(text);
  if (forbidden) throw new XmlTrouble('it holds a character that XML has not', forbidden.index);
  let at = text.startsWith('<?') ? text.indexOf('?>') + 2 : text.charCodeAt(0) === 0xfeff ? 1 : 0;
  if (at === 1 && text.startsWith('<?')) throw new XmlTrouble('its first line does not end', 0);
  let isDone = false;
  const ended = (name: string): void => {
    close?.(name);
    isDone = stack.length === 0;
  };
  for (;;) {
    const tag = text.indexOf('<', at);
    const end = tag < 0 ? text.length : tag;
    if (end > at) {
      const between = text.slice(at, end);
      if (!stack.length) {
        if (/[^ \t\r\n]/.test(between)) throw new XmlTrouble('there are letters outside of all elements', at);
      } else if (between.includes(']]>')) throw new XmlTrouble('“]]>” ends nothing', at);
      else words?.(followed(between.includes('\r') ? between.replace(/\r\n?/g, '\n') : between, at));
    }
    if (tag < 0) break;
    const next = text.charCodeAt(tag + 1);
    if (next === 33) {
      const stop = text.startsWith('<!--', tag) ? text.indexOf('--', tag + 4) : -1;
      if (stop < 0 || text.charCodeAt(stop + 2) !== GREATER) throw new XmlTrouble('a comment does not end as it should', tag);
      at = stop + 3;
      continue;
    }
    if (next === SLASH) {
      const nameEnd = endOfName(text, tag + 2);
      const name = text.slice(tag + 2, nameEnd);
      const stop = afterSpace(text, nameEnd);
      if (!stack.length || stack.pop() !== name || text.charCodeAt(stop) !== GREATER)
        throw new XmlTrouble(`“</${name.slice(0, 40)}” ends nothing that is open here`, tag);
      ended(name);
      at = stop + 1;
      continue;
    }
    if (isDone) throw new XmlTrouble('there is more after its last element', tag);
    const nameEnd = endOfName(text, tag + 1);
    if (nameEnd === tag + 1) throw new XmlTrouble('there is a “<” that begins nothing', tag);
    const name = text.slice(tag + 1, nameEnd);
    const attributes = new Held();
    const stop = readAttributes(text, nameEnd, attributes);
    const isEmpty = text.charCodeAt(stop) === SLASH;
    at = stop + (isEmpty ? 2 : 1);
    if (text.charCodeAt(at - 1) !== GREATER) throw new XmlTrouble(`“<${name.slice(0, 40)}” does not end as it should`, tag);
    open?.(name, attributes, at);
    if (isEmpty) ended(name);
    else stack.push(name);
  }
  if (stack.length) throw new XmlTrouble(`“<${stack.at(-1)!.slice(0, 40)}” is never closed`, text.length);
  if (!isDone) throw new XmlTrouble('there is no element in it', 0);
}
