import { type CopyDescription, descriptionRdf } from '@inkwell-twin/core';

const META = 'adobe:ns:meta/'; // term-guard: standard (ISO 16684-1, 7.3.3)

/** A text as XML holds it; what XML holds in no way is a blank (XML 1.0, 2.2). */
export const escapeXml = (text: string): string =>
  text
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, ' ')
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;');

/** A mark of origin as an XMP packet (ISO 16684-1), with what the file says of itself. */
export const xmpOf = (mark: string, described?: CopyDescription): string =>
  '<?xpacket begin="\ufeff" id="W5M0MpCehiHzreSzNTczkc9d"?>\n' +
  `<x:xmpmeta xmlns:x="${META}">\n` +
  '<rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">\n' +
  '<rdf:Description rdf:about="" xmlns:twin="urn:inkwell-twin:1">\n' +
  `<twin:mark>${escapeXml(mark)}</twin:mark>\n</rdf:Description>\n${descriptionRdf(described)}</rdf:RDF>\n</x:xmpmeta>\n<?xpacket end="r"?>`;

/** The mark in an XMP packet; null where there is none. */
export const markInXmp = (xmp: string | null): string | null => /inkwell-twin;[^<"]*/.exec(xmp ?? '')?.[0] ?? null;
