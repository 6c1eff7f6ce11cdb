import { type CopyDescription, descriptionRdf } from '@inkwell-twin/core';
import { escapeXml } from '../xmp';

/** A grade for keeping (ISO 19005): its part and its level. */
export interface KeepingGrade {
  readonly part: 2 | 3;
  readonly level: 'B';
}

/** What a document says of itself. */
export interface AboutPdf {
  readonly mark: string;
  readonly title: string;
  readonly written: Date;
  readonly producer: string;
  readonly described?: CopyDescription | undefined;
}

const META = 'adobe:ns:meta/'; // term-guard: standard (ISO 16684-1, 7.3.3)
const XMP = 'http://ns.adobe.com/xap/1.0/'; // term-guard: standard (ISO 16684-1, 8.4)
const PDF = 'http://ns.adobe.com/pdf/1.3/'; // term-guard: standard (ISO 16684-2, 7.2)
const TWIN = 'urn:inkwell-twin:1';

/** Seconds are enough, and what the information dictionary has, too. */
const time = (date: Date): string => date.toISOString().replace(/\.\d+Z$/, 'Z');

/** What a file for keeping says of properties that its standard does not list (ISO 19005-2, 6.6.2.3.3). */
const OWN_PROPERTIES = `<rdf:Description rdf:about="" xmlns:pdfaExtension="http://www.aiim.org/pdfa/ns/extension/"
 xmlns:pdfaSchema="http://www.aiim.org/pdfa/ns/schema#" xmlns:pdfaProperty="http://www.aiim.org/pdfa/ns/property#">
<pdfaExtension:schemas><rdf:Bag><rdf:li rdf:parseType="Resource">
<pdfaSchema:schema>Mark of origin</pdfaSchema:schema>
<pdfaSchema:namespaceURI>${TWIN}</pdfaSchema:namespaceURI>
<pdfaSchema:prefix>twin</pdfaSchema:prefix>
<pdfaSchema:property><rdf:Seq><rdf:li rdf:parseType="Resource">
<pdfaProperty:name>mark</pdfaProperty:name>
<pdfaProperty:valueType>Text</pdfaProperty:valueType>
<pdfaProperty:category>internal</pdfaProperty:category>
<pdfaProperty:description>Which master, revision and recipe this file was made from</pdfaProperty:description>
</rdf:li></rdf:Seq></pdfaSchema:property>
</rdf:li></rdf:Bag></pdfaExtension:schemas>
</rdf:Description>
`;

const gradeIn = ({ part, level }: KeepingGrade): string =>
  `<rdf:Description rdf:about="" xmlns:pdfaid="http://www.aiim.org/pdfa/ns/id/">
<pdfaid:part>${part}</pdfaid:part>
<pdfaid:conformance>${level}</pdfaid:conformance>
</rdf:Description>
`;

const KEYWORDS = ', ';
/** Keywords as one text, for what has no list of them. */
export const keywordsOf = ({ keywords }: CopyDescription): string => keywords.join(KEYWORDS);

const titleIn = (title: string): string =>
  title
    ? `<rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/">
<dc:title><rdf:Alt><rdf:li xml:lang="x-default">${escapeXml(title)}</rdf:li></rdf:Alt></dc:title>
</rdf:Description>
`
    : '';

/**
 * The XMP packet of a PDF (ISO 16684-1): its mark of origin, and what its information dictionary says.
 * @param grade the grade that it claims; null for none
 */
export const pdfMetadata = ({ mark, title, written, producer, described }: AboutPdf, grade: KeepingGrade | null): string =>
  `<?xpacket begin="\ufeff" id="W5M0MpCehiHzreSzNTczkc9d"?>
<x:xmpmeta xmlns:x="${META}">
<rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">
<rdf:Description rdf:about="" xmlns:twin="${TWIN}">
<twin:mark>${escapeXml(mark)}</twin:mark>
</rdf:Description>
${descriptionRdf(described) || titleIn(title)}<rdf:Description rdf:about="" xmlns:xmp="${XMP}">
<xmp:CreateDate>${time(written)}</xmp:CreateDate>
<xmp:CreatorTool>${escapeXml(producer)}</xmp:CreatorTool>
</rdf:Description>
<rdf:Description rdf:about="" xmlns:pdf="${PDF}">
<pdf:Producer>${escapeXml(producer)}</pdf:Producer>${described?.keywords.length ? `\n<pdf:Keywords>${escapeXml(keywordsOf(described))}</pdf:Keywords>` : ''}
</rdf:Description>
${grade ? gradeIn(grade) + OWN_PROPERTIES : ''}</rdf:RDF>
</x:xmpmeta>
<?xpacket end="r"?>`;
