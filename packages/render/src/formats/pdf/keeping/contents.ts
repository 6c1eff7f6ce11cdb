import { type Drawn, type Held, type KeptFile, nameOf } from './clause';

/** What a content stream does, one operator after the other, with the names and texts before it. */
interface Operation {
  readonly operator: string;
  readonly operands: readonly string[];
}

const TOKEN = /%[^\r\n]*|<<|>>|\[|\]|<[0-9A-Fa-f\s]*>|\/[^\s()<>[\]{}/%]*|[^\s()<>[\]{}/%]+/y;

/** The end of a text in brackets that starts at `from` (ISO 32000-1, 7.3.4.2). */
function textEnd(text: string, from: number): number {
  let depth = 0;
  for (let i = from; i < text.length; i++) {
    const letter = text[i];
    if (letter === '\\') i++;
    else if (letter === '(') depth++;
    else if (letter === ')' && --depth === 0) return i + 1;
  }
  return text.length;
}

/** Goes through a content stream (ISO 32000-1, 7.8.2); what stands within inline pictures is skipped. */
export function* operationsIn(bytes: Uint8Array): Generator<Operation> {
  const text = Buffer.from(bytes).toString('latin1');
  let operands: string[] = [];
  for (let at = 0; at < text.length;) {
    if (/\s/.test(text[at]!)) {
      at++;
      continue;
    }
    if (text[at] === '(') {
      const end = textEnd(text, at);
      operands.push(text.slice(at, end));
      at = end;
      continue;
    }
    TOKEN.lastIndex = at;
    const token = TOKEN.exec(text)?.[0];
    if (!token) {
      at++;
      continue;
    }
    at += token.length;
    if (token.startsWith('%')) continue;
    if (/^[A-Za-z'"]/.test(token) && !['true', 'false', 'null'].includes(token)) {
      yield { operator: token, operands };
      operands = [];
      if (token === 'ID') {
        const end = /\sEI(?=\s|$)/g;
        end.lastIndex = at;
        at = end.exec(text)?.index ?? text.length;
      }
    } else operands.push(token);
  }
}

/** All streams that draw: pages, drawings within them, patterns and letters that are drawn. */
export function drawingStreams(file: Omit<KeptFile, 'drawings'>): Drawn[] {
  const { lib, context, unpacking } = file;
  const drawn = (held: Held, streams: readonly unknown[]): Drawn => {
    const parts = streams.map((one) => (one instanceof lib.PDFRawStream ? unpacking.bytes(one) : new Uint8Array()));
    // What one part ends in the midst of goes on in the next (ISO 32000-1, 7.8.2).
    const content = Buffer.concat(parts.flatMap((part) => (part ? [part, Buffer.from('\n')] : [])));
    return { ...held, content, isWhole: !parts.includes(null) };
  };
  return file.all.flatMap((held): Drawn[] => {
    if (nameOf(file, held.dict, 'Type') === 'Page') {
      const contents = context.lookup(held.dict.get(lib.PDFName.of('Contents')));
      const streams = contents instanceof lib.PDFArray ? contents.asArray().map((one) => context.lookup(one)) : [contents];
      return [drawn(held, [...new Set(streams)])];
    }
    const draws = nameOf(file, held.dict, 'Subtype') === 'Form' || held.dict.has(lib.PDFName.of('PaintType'));
    return held.stream && draws ? [drawn(held, [held.stream])] : [];
  });
}
