import { SaxesParser } from 'saxes';
import { Failure } from '../../base/failure/failure';
import { plainXml } from '../../base/bytes/xml-text';
import { canonical } from '../../document/hash';
import { correctionsFrom } from './corrections';
import { type Said, type SaidField } from './said';

/** Namespaces of ISO 16684-1 (XMP), 7.4 and 8.4. */
const [RDF, DC] = ['http://www.w3.org/1999/02/22-rdf-syntax-ns#', 'http://purl.org/dc/elements/1.1/'];
const META = 'adobe:ns:meta/'; // term-guard: standard (ISO 16684-1, 7.3.3)
const XML_LANG = 'xml:lang';
/** Ours, for what no standard has a property for. */
const OURS = 'urn:inkwell-twin:1';
/** The properties that say it, by namespace and name. */
const FIELDS: ReadonlyMap<string, SaidField> = new Map([
  [`${DC} subject`, 'keywords'],
  [`${DC} description`, 'caption'],
  [`${DC} rights`, 'rights'],
  [`${OURS} corrections`, 'corrections'],
]);
const fieldOf = (uri: string, local: string): SaidField | undefined => FIELDS.get(`${uri} ${local}`);
/** Longest that a sidecar may be, letters. */
const LONGEST = 4_000_000;

interface FoundProperty {
  readonly said: Said;
  /** Where in the text the properties stand that say it, from and to, in order. */
  readonly spans: readonly { readonly field: SaidField; readonly from: number; readonly to: number }[];
  /** Where the end of the list of properties begins. */
  readonly end: number;
}

/** Reads a sidecar and where in it things stand. @throws Failure `sidecar-unreadable` */
function look(text: string): FoundProperty {
  if (text.length > LONGEST) throw new Failure('sidecar-unreadable', 'It is longer than a description can be.');
  const keywords: string[] = [];
  const texts = { caption: new Map<string, string>(), rights: new Map<string, string>() };
  const corrections: string[] = [];
  const spans: FoundProperty['spans'][number][] = [];
  const path: { uri: string; local: string; from: number; language: string }[] = [];
  let [end, words, at] = [-1, '', 0];
  const parser = new SaxesParser({ xmlns: true, position: true });
  const field = (): SaidField | undefined => {
    const one = path.find(({ uri, local }, i) => fieldOf(uri, local) && path[i - 1]?.local === 'Description');
    return one && fieldOf(one.uri, one.local);
  };
  const keep = (language: string): void => {
    const of = field();
    const value = words.trim();
    words = '';
    if (!of || !value) return;
    if (of === 'keywords') keywords.push(value);
    else if (of === 'corrections') corrections.push(value);
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
        if (value.trim()) {
          const to = fieldOf(of, name);
          if (to === 'keywords') keywords.push(value.trim());
          else if (to === 'corrections') corrections.push(value.trim());
          else if (to) texts[to].set('x-default', value.trim());
        }
    path.push({ uri, local, from: at, language });
    words = '';
  });
  parser.on('text', (value) => (words += value));
  parser.on('cdata', (value) => (words += value));
  parser.on('closetag', ({ uri, local }) => {
    const { from, language } = path.at(-1)!;
    if (uri === RDF && local === 'li') keep(language);
    else if (fieldOf(uri, local) && path.at(-2)?.local === 'Description') {
      keep(language);
      spans.push({ field: fieldOf(uri, local)!, from, to: parser.position });
    }
    if (uri === RDF && local === 'RDF') end = text.lastIndexOf('<', parser.position - 1);
    path.pop();
  });
  parser.write(text).close();
  if (end < 0) throw new Failure('sidecar-unreadable', 'It holds no properties (rdf:RDF), so nothing is said in it.');
  const understood = correctionsFrom(corrections);
  if (typeof understood === 'string') throw new Failure('sidecar-unreadable', understood);
  const plain = (all: ReadonlyMap<string, string>): string => all.get('x-default') ?? [...all.values()][0] ?? '';
  return {
    said: {
      keywords: [...new Set(keywords)],
      caption: plain(texts.caption),
      rights: plain(texts.rights),
      ...(understood.length ? { corrections: understood } : {}),
    },
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
const ordered = (values: readonly string[]): string => {
  const items = values.map((value) => `<rdf:li>${plainXml(value)}</rdf:li>`).join('');
  return values.length ? `\n   <twin:corrections xmlns:twin="${OURS}"><rdf:Seq>${items}</rdf:Seq></twin:corrections>` : '';
};
const properties = ({ keywords, caption, rights, corrections = [] }: Said): string =>
  `<rdf:Description xmlns:rdf="${RDF}" xmlns:dc="${DC}" rdf:about="">` +
  bag('subject', 'Bag', keywords) +
  bag('description', 'Alt', caption ? [caption] : []) +
  bag('rights', 'Alt', rights ? [rights] : []) +
  ordered(corrections.map((one) => canonical(one))) +
  '\n  </rdf:Description>';

/**
 * A sidecar file (ISO 16684-1) that says something.
 * @param said without corrections, those that stand there stay
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
  for (const span of spans) {
    if (span.field === 'corrections' && !said.corrections) continue;
    kept += text.slice(from, span.from);
    from = span.to;
  }
  // One of ours that would be left empty goes as a whole.
  const head = (kept + text.slice(from, end)).replace(
    /[ \t]*<rdf:Description xmlns:rdf="[^"]*" xmlns:dc="[^"]*" rdf:about="">\s*<\/rdf:Description>\n?/g,
    '',
  );
  return `${head.trimEnd()}\n  ${properties(said)}\n ${text.slice(end)}`;
}
