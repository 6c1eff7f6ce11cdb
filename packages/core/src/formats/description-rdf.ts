import { SaxesParser } from 'saxes';
import { plainXml } from '../base/bytes/xml-text';
import type { Options } from '../contracts/declaration';
import { parseMark } from '../contracts/mark';
import { describes } from './description-option';
import type { CopyDescription } from '../contracts/description';

const RDF = 'http://www.w3.org/1999/02/22-rdf-syntax-ns#';
const DC = 'http://purl.org/dc/elements/1.1/';
/** Longest that is looked at, letters. */
const LONGEST = 4_000_000;

/** Properties by their names in the Dublin Core (ISO 16684-1, 8.4), and what each is a list of. */
const PROPERTIES = [
  ['title', 'title', 'Alt'],
  ['description', 'caption', 'Alt'],
  ['subject', 'keywords', 'Bag'],
  ['rights', 'rights', 'Alt'],
] as const;

/** A description as properties of RDF (ISO 16684-1, 7.4); empty where there is nothing to say. */
export function descriptionRdf(said: CopyDescription | undefined): string {
  if (!said) return '';
  const properties = PROPERTIES.flatMap(([name, field, list]) => {
    const value = said[field];
    const items = typeof value === 'string' ? (value ? [value] : []) : value;
    const language = list === 'Alt' ? ' xml:lang="x-default"' : '';
    const listed = items.map((one) => `<rdf:li${language}>${plainXml(one)}</rdf:li>`).join('');
    return items.length ? [`<dc:${name}><rdf:${list}>${listed}</rdf:${list}></dc:${name}>\n`] : [];
  });
  return properties.length ? `<rdf:Description rdf:about="" xmlns:dc="${DC}">\n${properties.join('')}</rdf:Description>\n` : '';
}

/** Whether a copy is to say what its master says of itself: as it was asked for, or else as its mark of origin has it. */
export const isDescribed = (options: Options | undefined, mark: string | null): boolean =>
  options ? describes(options) : (parseMark(mark)?.how.includes('"description":"inside"') ?? false);

/**
 * What properties of RDF say, as elements or as attributes (ISO 16684-1, 7.9.2.2), the usual language first.
 * @param xml a packet, or anything with one in it; undefined where it says nothing or can't be read
 */
export function descriptionIn(xml: string | null): CopyDescription | undefined {
  if (!xml || xml.length > LONGEST || !xml.includes(DC)) return undefined;
  const keywords: string[] = [];
  const texts: Record<'title' | 'caption' | 'rights', Map<string, string>> = {
    title: new Map(),
    caption: new Map(),
    rights: new Map(),
  };
  const path: { readonly uri: string; readonly local: string; readonly language: string }[] = [];
  let words = '';
  const keep = (name: string, value: string, language: string): void => {
    const field = PROPERTIES.find(([one]) => one === name)?.[1];
    if (!field || !value.trim()) return;
    if (field === 'keywords') keywords.push(value.trim());
    else texts[field].set(language || 'x-default', value.trim());
  };
  const parser = new SaxesParser({ xmlns: true });
  let isBroken = false;
  parser.on('error', () => (isBroken = true));
  parser.on('opentag', ({ uri, local, attributes }) => {
    if (uri === RDF && local === 'Description')
      for (const one of Object.values(attributes)) if (one.uri === DC) keep(one.local, one.value, '');
    path.push({ uri, local, language: attributes['xml:lang']?.value ?? '' });
    words = '';
  });
  parser.on('text', (value) => (words += value));
  parser.on('cdata', (value) => (words += value));
  parser.on('closetag', ({ uri, local }) => {
    const { language } = path.at(-1)!;
    const property = path.findLast((one) => one.uri === DC);
    if (property && ((uri === RDF && local === 'li') || (uri === DC && words.trim()))) keep(property.local, words, language);
    path.pop();
    words = '';
  });
  try {
    parser.write(xml).close();
  } catch {
    return undefined;
  }
  const text = (of: ReadonlyMap<string, string>): string => of.get('x-default') ?? of.values().next().value ?? '';
  const said = { title: text(texts.title), keywords, caption: text(texts.caption), rights: text(texts.rights) };
  return isBroken || !(said.title || said.caption || said.rights || keywords.length) ? undefined : said;
}
