import { plainXml } from '../../base/bytes/xml-text';
import type { Leaf } from '../../contracts/leaf';
import type { ProseBody } from '../../content/prose/prose';
import { textOf } from '../../content/prose/words';
import { NOTE_SIGN } from '../../document/texts/words';
import { parseMark } from '../../contracts/mark';
import { idFrom } from '../../document/ids';
import { packEntries } from '../../document/native/zip';
import { TEXT_STYLE, htmlOfText } from '../texts/html-write';
import { endingOf } from '../texts/pictures';
import { EPUB_TYPE } from './declare';

export const PACKAGE_ENTRY = 'book/package.opf';
const XML = '<?xml version="1.0" encoding="UTF-8"?>\n';
const ROOT = 'xmlns="http://www.w3.org/1999/xhtml" xmlns:epub="http://www.idpf.org/2007/ops"';

const page = (language: string, title: string, body: string): string =>
  `${XML}<html ${ROOT}${language ? ` lang="${plainXml(language)}" xml:lang="${plainXml(language)}"` : ''}><head><title>${plainXml(title)}</title><link rel="stylesheet" type="text/css" href="style.css"/></head><body>${body}</body></html>`;

/** Headings of the first two levels lead to their places. */
function contents(leaves: readonly Leaf[]): string {
  const lines = leaves.map(({ label, body }, i) => {
    const name = label || `Text ${i + 1}`;
    const headings = (body as ProseBody).blocks.flatMap((block) =>
      block.block === 'words' && /^heading [12]$/.test(block.role)
        ? [textOf(block.spans).replaceAll(NOTE_SIGN, '').replace(/\s+/g, ' ').trim()]
        : [],
    );
    const inner = headings.filter(Boolean).map((words) => `<li><span>${plainXml(words)}</span></li>`);
    return `<li><a href="text-${i + 1}.xhtml">${plainXml(name)}</a>${inner.length ? `<ol>${inner.join('')}</ol>` : ''}</li>`;
  });
  return `<nav epub:type="toc" role="doc-toc"><ol>${lines.join('')}</ol></nav>`;
}

/** Writes texts as a book (EPUB 3.3): a document each, with its pictures. The same texts give the same bytes. */
export function writeEpub(leaves: readonly Leaf[], mark: string): Uint8Array {
  const origin = parseMark(mark);
  const written = (origin?.written ?? '1980-01-01T00:00:00.000Z').replace(/\.\d+Z$/, 'Z');
  const bodies = leaves.map(({ body }) => body as ProseBody);
  const language = bodies.find((one) => one.language)?.language ?? '';
  const title = leaves[0]?.label || 'Text';
  const paths = new Map<string, { path: string; type: string; bytes: Uint8Array }>();
  for (const { pictures } of bodies)
    for (const [word, { mediaType, bytes }] of Object.entries(pictures))
      if (!paths.has(word)) paths.set(word, { path: `picture-${paths.size + 1}.${endingOf(mediaType)}`, type: mediaType, bytes });
  const encode = (text: string) => new TextEncoder().encode(text);
  const texts = leaves.map(({ label }, i) => {
    const body = bodies[i]!;
    const words = htmlOfText(body, { source: (word) => paths.get(word)?.path ?? '', prefix: '', epub: true });
    return [`text-${i + 1}.xhtml`, page(body.language, label || `Text ${i + 1}`, words)] as const;
  });
  const items = [
    '<item id="nav" href="nav.xhtml" media-type="application/xhtml+xml" properties="nav"/>',
    '<item id="style" href="style.css" media-type="text/css"/>',
    ...texts.map(([name], i) => `<item id="text-${i + 1}" href="${name}" media-type="application/xhtml+xml"/>`),
    ...[...paths.values()].map(({ path, type }, i) => `<item id="picture-${i + 1}" href="${path}" media-type="${type}"/>`),
  ];
  const identifier = idFrom(`book ${origin ? `${origin.master} ${origin.recipe}` : title}`);
  const entries = new Map<string, Uint8Array>([
    ['mimetype', encode(EPUB_TYPE)],
    [
      'META-INF/container.xml',
      encode(
        `${XML}<container version="1.0" xmlns="urn:oasis:names:tc:opendocument:xmlns:container"><rootfiles><rootfile full-path="${PACKAGE_ENTRY}" media-type="application/oebps-package+xml"/></rootfiles></container>`,
      ),
    ],
    [
      PACKAGE_ENTRY,
      encode(
        `${XML}<package xmlns="http://www.idpf.org/2007/opf" version="3.0" unique-identifier="id"><metadata xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:identifier id="id">urn:uuid:${identifier}</dc:identifier><dc:title>${plainXml(title)}</dc:title><dc:language>${plainXml(language || 'und')}</dc:language><meta property="dcterms:modified">${written}</meta><meta property="dcterms:provenance">${plainXml(mark)}</meta></metadata><manifest>${items.join('')}</manifest><spine>${texts.map((_, i) => `<itemref idref="text-${i + 1}"/>`).join('')}</spine></package>`,
      ),
    ],
    ['book/nav.xhtml', encode(page(language, title, contents(leaves)))],
    ['book/style.css', encode(TEXT_STYLE)],
    ...texts.map(([name, text]) => [`book/${name}`, encode(text)] as const),
    ...[...paths.values()].map(({ path, bytes }) => [`book/${path}`, bytes] as const),
  ]);
  const stored = new Set(['mimetype', PACKAGE_ENTRY, ...[...paths.values()].map(({ path }) => `book/${path}`)]);
  return packEntries(entries, stored);
}
