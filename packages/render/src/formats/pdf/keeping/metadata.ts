import { type Clause, entry, unpackedIn } from './clause';

const ID = 'http://www.aiim.org/pdfa/ns/id/';
/** Namespaces whose properties the standard lists (ISO 19005-2, 6.6.2.3.1: those of XMP 2005). */
const LISTED = /^(http:\/\/(ns\.adobe\.com\/|purl\.org\/dc\/|www\.aiim\.org\/pdfa\/|www\.w3\.org\/)|adobe:ns:meta\/)/; // term-guard: standard (ISO 16684-1, 8)

/** What a document says of itself (ISO 19005-2, 6.6). */
export const METADATA: readonly Clause[] = [
  {
    number: '6.6.2.1',
    words: 'The document has metadata as XMP, in UTF-8 and not packed',
    *broken(file) {
      const found = entry(file, file.catalog, 'Metadata');
      if (!(found instanceof file.lib.PDFStream)) yield 'The document has no metadata';
      else if (entry(file, found.dict, 'Filter')) yield 'The metadata are packed';
      else if (/<\?xpacket[^>]*(bytes|encoding)=/.test(xmpIn(file))) yield 'The packet says its bytes or its encoding';
    },
  },
  {
    number: '6.6.2.3',
    words: 'Properties that the standard does not list are described',
    *broken(file) {
      const xmp = xmpIn(file);
      const described = new Set([...xmp.matchAll(/<pdfaSchema:namespaceURI>([^<]*)</g)].map(([, uri]) => uri));
      for (const [, prefix, uri] of xmp.matchAll(/xmlns:([A-Za-z0-9_-]+)="([^"]*)"/g))
        if (!LISTED.test(uri!) && !described.has(uri)) yield `Properties of “${prefix}” (${uri}) are described nowhere`;
    },
  },
  {
    number: '6.6.4',
    words: 'The metadata say which part and which level it follows',
    *broken(file) {
      const xmp = xmpIn(file);
      if (!xmp.includes(ID)) return yield 'The metadata claim no part';
      const part = /pdfaid:part(?:>|=")(\d)/.exec(xmp)?.[1];
      const level = /pdfaid:conformance(?:>|=")([A-Z])/.exec(xmp)?.[1];
      if (part !== String(file.part)) yield `The metadata claim part ${part ?? 'none'}`;
      if (!level || !'ABU'.includes(level)) yield `The metadata claim level ${level ?? 'none'}`;
    },
  },
];

/** The packet of a document as text; empty where it has none. */
function xmpIn(file: Parameters<Clause['broken']>[0]): string {
  const found = entry(file, file.catalog, 'Metadata');
  return found instanceof file.lib.PDFRawStream ? Buffer.from(unpackedIn(file, found)).toString('utf8') : '';
}
