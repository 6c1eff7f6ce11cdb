/** A place in XML that is not as it should be. */
export class XmlTrouble extends Error {
  constructor(
    message: string,
    readonly at: number,
  ) {
    super(message);
  }
}

interface Walker {
  readonly open?: ((name: string, attributes: Readonly<Record<string, string>>) => void) | undefined;
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

const NAME = /[A-Za-z_:\u0080-\uffff][-A-Za-z0-9._:\u0080-\uffff]*/y;
const ATTRIBUTE =
  /[ \t\r\n]+([A-Za-z_:\u0080-\uffff][-A-Za-z0-9._:\u0080-\uffff]*)[ \t\r\n]*=[ \t\r\n]*(?:"([^"<]*)"|'([^'<]*)')/y;
const END = /\s*(\/?)>/y;
const FORBIDDEN = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/;

/** Whether a text is XML of the plain kind that `walkPlain` reads: elements and text alone. */
export const isPlainXml = (text: string): boolean => !text.includes('<!') && text.lastIndexOf('<?') <= 0;

/**
 * Walks through plain XML several times as fast as a parser of all of it, and as strictly. Names come with their prefixes.
 * @throws XmlTrouble with the place
 */
export function walkPlain(text: string, { open, close, text: words }: Walker): void {
  const stack: string[] = [];
  const forbidden = FORBIDDEN.exec(text);
  if (forbidden) throw new XmlTrouble('it holds a character that XML has not', forbidden.index);
  let at = text.startsWith('<?') ? text.indexOf('?>') + 2 : 0;
  if (at === 1) throw new XmlTrouble('its first line does not end', 0);
  let isDone = false;
  for (;;) {
    const next = text.indexOf('<', at);
    const end = next < 0 ? text.length : next;
    if (end > at) {
      const between = text.slice(at, end);
      if (stack.length) words?.(followed(between, at).replace(/\r\n?/g, '\n'));
      else if (/[^\s\ufeff]/.test(between)) throw new XmlTrouble('there are letters outside of all elements', at);
    }
    if (next < 0) break;
    if (text.charCodeAt(next + 1) === 47) {
      const stop = text.indexOf('>', next);
      const name = stop < 0 ? '' : text.slice(next + 2, stop).trimEnd();
      if (!stack.length || stack.pop() !== name)
        throw new XmlTrouble(`“</${name.slice(0, 40)}” ends nothing that is open here`, next);
      close?.(name);
      isDone = stack.length === 0;
      at = stop + 1;
      continue;
    }
    if (isDone) throw new XmlTrouble('there is more after its last element', next);
    NAME.lastIndex = next + 1;
    const name = NAME.exec(text)?.[0];
    if (!name) throw new XmlTrouble('there is a “<” that begins nothing', next);
    let attributes: Record<string, string> | null = null;
    let from = NAME.lastIndex;
    for (;;) {
      ATTRIBUTE.lastIndex = from;
      const found = ATTRIBUTE.exec(text);
      if (!found) break;
      attributes ??= {};
      if (Object.hasOwn(attributes, found[1]!)) throw new XmlTrouble(`“${found[1]!.slice(0, 40)}” is said twice`, from);
      attributes[found[1]!] = followed(found[2] ?? found[3]!, from).replace(/[\t\r\n]/g, ' ');
      from = ATTRIBUTE.lastIndex;
    }
    END.lastIndex = from;
    const finish = END.exec(text);
    if (!finish) throw new XmlTrouble(`“<${name.slice(0, 40)}” does not end as it should`, next);
    at = END.lastIndex;
    open?.(name, attributes ?? NONE);
    if (finish[1]) {
      close?.(name);
      isDone = stack.length === 0;
    } else stack.push(name);
  }
  if (stack.length) throw new XmlTrouble(`“<${stack.at(-1)!.slice(0, 40)}” is never closed`, text.length);
  if (!isDone) throw new XmlTrouble('there is no element in it', 0);
}
const NONE: Readonly<Record<string, string>> = Object.freeze({});
