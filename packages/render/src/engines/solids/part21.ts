import { Failure } from '@inkwell-twin/core';

/** One value of an exchange file (ISO 10303-21, 6.4): a reference, a word, a number, a list, or nothing. */
export type Value = { readonly ref: number } | string | number | readonly Value[] | null;

/** What an entity is and holds; of several kinds at once, each with its own values. */
export interface Entity {
  readonly kinds: readonly { readonly kind: string; readonly values: readonly Value[] }[];
}

export interface Exchange {
  readonly entities: ReadonlyMap<number, Entity>;
  readonly schema: string;
}

export const isRef = (value: Value | undefined): value is { readonly ref: number } =>
  typeof value === 'object' && value !== null && 'ref' in value;
/** The entities that a value names, in order. */
export const refsIn = (value: Value | undefined): number[] =>
  isRef(value) ? [value.ref] : Array.isArray(value) ? (value as readonly Value[]).flatMap(refsIn) : [];

const damaged = (message: string, text: string, at: number): Failure => {
  const line = text.slice(0, at).split('\n').length;
  return new Failure('step-damaged', `${message} in line ${line}.`, { line });
};

const unhex = (digits: string, size: number): string =>
  String.fromCodePoint(
    ...Array.from({ length: digits.length / size }, (_, i) =>
      Math.min(0x10ffff, parseInt(digits.slice(i * size, (i + 1) * size), 16)),
    ),
  );

/** Words as they are meant (6.4.3): quotes once, other letters by their codes; line ends that a writer put in are none (5.2). */
export const plainWords = (text: string): string =>
  text
    .replace(/[\u0000-\u001f]/g, '')
    .replace(/''/g, "'")
    .replace(/\\X2\\((?:[0-9A-F]{4})+)\\X0\\/gi, (_, digits: string) =>
      String.fromCharCode(...(digits.match(/.{4}/g) ?? []).map((one) => parseInt(one, 16))),
    )
    .replace(/\\X4\\((?:[0-9A-F]{8})+)\\X0\\/gi, (_, digits: string) => unhex(digits, 8))
    .replace(/\\X\\([0-9A-F]{2})/gi, (_, digits: string) => unhex(digits, 2))
    .replace(/\\S\\(.)/g, (_, letter: string) => String.fromCharCode(letter.charCodeAt(0) + 128))
    .replace(/\\\\/g, '\\');

/** Words in plain letters, all others by their codes (6.4.3.3). */
export const codedWords = (text: string): string =>
  text.replace(/[^\x20-\x7e]+/g, (letters) => {
    const codes = Array.from({ length: letters.length }, (_, i) =>
      letters.charCodeAt(i).toString(16).toUpperCase().padStart(4, '0'),
    );
    return `\\X2\\${codes.join('')}\\X0\\`;
  });

/** The text of a file: plain letters by the standard; other writers put in UTF-8 or Latin letters as they are. */
function textOf(bytes: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('latin1').decode(bytes);
  }
}

/** Reads values one after the other. */
class Scanner {
  at = 0;

  constructor(readonly text: string) {}

  /** Past spaces and notes. */
  skip(): void {
    const { text } = this;
    for (;;) {
      while (this.at < text.length && text.charCodeAt(this.at) <= 32) this.at++;
      if (text[this.at] !== '/' || text[this.at + 1] !== '*') return;
      const end = text.indexOf('*/', this.at + 2);
      if (end < 0) throw damaged('A note does not end', text, this.at);
      this.at = end + 2;
    }
  }

  take(sign: string): boolean {
    this.skip();
    if (!this.text.startsWith(sign, this.at)) return false;
    this.at += sign.length;
    return true;
  }

  need(sign: string): void {
    if (!this.take(sign))
      throw damaged(`“${sign}” is missing before “${this.text.slice(this.at, this.at + 20).split('\n')[0]}”`, this.text, this.at);
  }

  match(pattern: RegExp): string | null {
    this.skip();
    pattern.lastIndex = this.at;
    const found = pattern.exec(this.text);
    if (!found) return null;
    this.at = pattern.lastIndex;
    return found[0];
  }

  values(depth = 0): Value[] {
    if (depth > 64) throw damaged('Lists are nested too deep', this.text, this.at);
    this.need('(');
    const values: Value[] = [];
    if (this.take(')')) return values;
    do values.push(this.value(depth));
    while (this.take(','));
    this.need(')');
    return values;
  }

  private value(depth: number): Value {
    this.skip();
    const start = this.text[this.at];
    if (start === '(') return this.values(depth + 1);
    if (start === '#') return { ref: this.reference() };
    if (start === "'") return this.words();
    if (start === '$' || start === '*') {
      this.at++;
      return null;
    }
    const number = this.match(/[+-]?\d+(\.\d*)?(E[+-]?\d+)?/iy);
    if (number !== null) return Number(number);
    const word = this.match(/\.[A-Z0-9_]+\./iy) ?? this.match(/"[0-9A-F]*"/iy);
    if (word !== null) return word;
    const kind = this.match(/[A-Z_!][A-Z0-9_]*/iy);
    if (kind !== null) return [kind, ...this.values(depth + 1)];
    throw damaged(`“${this.text.slice(this.at, this.at + 20).split('\n')[0]}” is no value`, this.text, this.at);
  }

  reference(): number {
    const digits = this.match(/#\d{1,9}/y);
    if (digits === null) throw damaged('A number of an entity is missing', this.text, this.at);
    return Number(digits.slice(1));
  }

  words(): string {
    const start = this.at;
    let at = start + 1;
    for (;;) {
      const end = this.text.indexOf("'", at);
      if (end < 0) throw damaged('A text does not end', this.text, start);
      at = end + 1;
      if (this.text[at] !== "'") break;
      at++;
    }
    this.at = at;
    return plainWords(this.text.slice(start + 1, at - 1));
  }
}

const MOST_ENTITIES = 5_000_000;

/**
 * Reads the entities of an exchange file and sees to it that all that is named is there.
 * @throws Failure `step-damaged` with the line
 */
export function readExchange(bytes: Uint8Array): Exchange {
  const text = textOf(bytes);
  const scanner = new Scanner(text);
  if (!scanner.take('ISO-10303-21;'))
    throw new Failure('step-damaged', 'This is no STEP file: it does not begin with “ISO-10303-21;”.');
  let schema = '';
  const entities = new Map<number, Entity>();
  const named = new Map<number, number>();
  const note = (values: readonly Value[], at: number): void => {
    for (const value of values) {
      if (Array.isArray(value)) note(value as readonly Value[], at);
      else if (value !== null && typeof value === 'object') named.set((value as { ref: number }).ref, at);
    }
  };
  const kinds = (): Entity['kinds'] => {
    const one = () => {
      const kind = scanner.match(/[A-Z_!][A-Z0-9_]*/iy);
      if (kind === null) throw damaged('The kind of an entity is missing', text, scanner.at);
      return { kind: kind.toUpperCase(), values: scanner.values() };
    };
    if (!scanner.take('(')) return [one()];
    const list = [];
    while (!scanner.take(')')) list.push(one());
    return list;
  };
  while (!scanner.take('DATA')) {
    scanner.skip();
    const found = scanner.match(/[A-Z_!0-9-]+/iy);
    if (found === null) throw new Failure('step-damaged', 'The file ends before its data: it was cut off. Ask for it again.');
    if (scanner.text[scanner.at] === '(') {
      const values = scanner.values();
      if (found.toUpperCase() === 'FILE_SCHEMA') schema = String((values[0] as readonly Value[] | undefined)?.[0] ?? '');
    }
    scanner.need(';');
  }
  if (scanner.text[scanner.at] === '(') scanner.values();
  scanner.need(';');
  while (!scanner.take('ENDSEC;')) {
    scanner.skip();
    const at = scanner.at;
    if (at >= text.length)
      throw new Failure('step-damaged', 'The file ends in the middle of its data: it was cut off. Ask for it again.');
    const id = scanner.reference();
    scanner.need('=');
    const entity = { kinds: kinds() };
    scanner.need(';');
    if (entities.has(id)) throw damaged(`#${id} is there twice`, text, at);
    entities.set(id, entity);
    if (entities.size > MOST_ENTITIES) throw damaged(`There are more than ${MOST_ENTITIES} entities`, text, at);
    for (const { values } of entity.kinds) note(values, at);
  }
  if (!scanner.take('END-ISO-10303-21;'))
    throw new Failure('step-damaged', 'The file does not end as it should: it was cut off. Ask for it again.');
  for (const [id, at] of named) if (!entities.has(id)) throw damaged(`#${id} is named and not there`, text, at);
  return { entities, schema };
}
