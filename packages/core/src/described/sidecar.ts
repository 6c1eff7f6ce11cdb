import { SaxesParser } from 'saxes';
import { Failure } from '../failure/failure';
import { plainXml } from '../bytes/xml-text';
import { type Said, type SaidField } from './said';

/** Namespaces of ISO 16684-1 (XMP), 7.4 and 8.4. */
const [RDF, DC] = ['http://www.w3.org/1999/02/22-rdf-syntax-ns#', 'http://purl.org/dc/elements/1.1/'];
const META = 'adobe:ns:meta/'; // term-guard: standard (ISO 16684-1, 7.3.3)
const XML_LANG = 'xml:lang';
/** How the properties of Dublin Core are called that say it. */
const FIELDS: Readonly<Record<string, SaidField>> = { subject: 'keywords', description: 'caption', rights: 'rights' };
/** Longest that a sidecar may be, letters. */
const LONGEST = 4_000_000;

interface Found {
  readonly said: Said;
  /** Where in the text the properties stand that say it, from and to, in order. */
  readonly spans: readonly (readonly [number, number])[];
  /** Where the end of the list of properties begins. */
  readonly end: number;
}

/** Reads a sidecar and where in it things stand. @throws Failure `sidecar-unreadable` */
function look(text: string): Found {
  if (text.length > LONGEST) throw new Failure('sidecar-unreadable', 'It is longer than a description can be.');
  const keywords: string[] = [];
  const texts = { caption: new Map<string, string>(), rights: new Map<string, string>() };
  const spans: [number, number][] = [];
  const path: { uri: string; local: string; from: number; language: string }[] = [];
  let [end, words, at] = [-1, '', 0];
  const parser = new SaxesParser({ xmlns: true, position: true });
  const field = (): SaidField | undefined => {
    const one = path.find(({ uri, local }, i) => uri === DC && local in FIELDS && path[i - 1]?.local === 'Description');
    return one && FIELDS[one.local];
  };
  const keep = (language: string): void => {
    const of = field();
    const value = words.trim();
    words = '';
    if (!of || !value) return;
    if (of === 'keywords') keywords.push(value);
    else texts[of].set(language || 'x-default', value);
  };
  parser.on('error', (error) => {
    throw new Failure('sidecar-unreadable', `It can’t be read as XML: ${error.message}.`);
  });
  parser.on('doctype', () => {
    throw new Failure('sidecar-unreadable', 'It has a document type of its own; a description needs none.');
  });
  parser.on('opentagstart', () => (at = text.lastIndexOf('<', parser.position - 1)));
  parser.on('opentag', ({ uri, local, attributes }) => {
    const language = attributes[XML_LANG]?.value ?? '';
    // Short for an element, where a property is plain words (ISO 16684-1, 7.9.2.2).
    if (uri === RDF && local === 'Description')
      for (const { uri: of, local: name, value } of Object.values(attributes))
        if (of === DC && name in FIELDS && value.trim()) {
          const to = FIELDS[name]!;
          if (to === 'keywords') keywords.push(value.trim());
          else texts[to].set('x-default', value.trim());
        }
    path.push({ uri, local, from: at, language });
    words = '';
  });
  parser.on('text', (value) => (words += value));
  parser.on('cdata', (value) => (words += value));
  parser.on('closetag', ({ uri, local }) => {
    const { from, language } = path.at(-1)!;
    if (uri === RDF && local === 'li') keep(language);
    else if (uri === DC && local in FIELDS && path.at(-2)?.local === 'Description') {
      keep(language);
      spans.push([from, parser.position]);
    }
    if (uri === RDF && local === 'RDF') end = text.lastIndexOf('<', parser.position - 1);
    path.pop();
  });
  parser.write(text).close();
  if (end < 0) throw new Failure('sidecar-unreadable', 'It holds no properties (rdf:RDF), so nothing is said in it.');
  const plain = (all: ReadonlyMap<string, string>): string => all.get('x-default') ?? [...all.values()][0] ?? '';
  return {
    said: { keywords: [...new Set(keywords)], caption: plain(texts.caption), rights: plain(texts.rights) },
    spans,
    end,
  };
}

/** What a sidecar says. @throws Failure `sidecar-unreadable` that says why */
export const readSidecar = (text: string): Said => look(text.replace(/^\uFEFF/, '')).said;

const bag = (name: string, kind: 'Bag' | 'Alt', values: readonly string[]): string => {
  const items = values.map((value) => `<rdf:li${kind === 'Alt' ? ' xml:lang="x-default"' : ''}>${plainXml(value)}</rdf:li>`);
  return values.length ? `\n   <dc:${name}><rdf:${kind}>${items.join('')}</rdf:${kind}></dc:${name}>` : '';
};
const properties = ({ keywords, caption, rights }: Said): string =>
  `<rdf:Description xmlns:rdf="${RDF}" xmlns:dc="${DC}" rdf:about="">` +
  bag('subject', 'Bag', keywords) +
  bag('description', 'Alt', caption ? [caption] : []) +
  bag('rights', 'Alt', rights ? [rights] : []) +
  '\n  </rdf:Description>';

/**
 * A sidecar file (ISO 16684-1) that says something.
 * @param before what stands there: all else that it says is kept as it is written
 * @throws Failure `sidecar-unreadable` where that can't be read
 */
export function writeSidecar(said: Said, before: string | null): string {
  if (before === null)
    return (
      `<?xpacket begin="\uFEFF" id="W5M0MpCehiHzreSzNTczkc9d"?>\n<x:xmpmeta xmlns:x="${META}">\n ` +
      `<rdf:RDF xmlns:rdf="${RDF}">\n  ${properties(said)}\n </rdf:RDF>\n</x:xmpmeta>\n<?xpacket end="w"?>\n`
    );
  const text = before.replace(/^\uFEFF/, '');
  const { spans, end } = look(text);
  let kept = '';
  let from = 0;
  for (const [begin, stop] of spans) {
    kept += text.slice(from, begin);
    from = stop;
  }
  // One of ours that would be left empty goes as a whole.
  const head = (kept + text.slice(from, end)).replace(
    /[ \t]*<rdf:Description xmlns:rdf="[^"]*" xmlns:dc="[^"]*" rdf:about="">\s*<\/rdf:Description>\n?/g,
    '',
  );
  return `${head.trimEnd()}\n  ${properties(said)}\n ${text.slice(end)}`;
}
