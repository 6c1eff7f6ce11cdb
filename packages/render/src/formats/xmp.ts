const META = 'adobe:ns:meta/'; // term-guard: standard (ISO 16684-1, 7.3.3)

const escape = (text: string): string => text.replace(/&/g, '&amp;').replace(/</g, '&lt;');

/** A mark of origin as an XMP packet (ISO 16684-1). */
export const xmpOf = (mark: string): string =>
  '<?xpacket begin="\ufeff" id="W5M0MpCehiHzreSzNTczkc9d"?>\n' +
  `<x:xmpmeta xmlns:x="${META}">\n` +
  '<rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">\n' +
  '<rdf:Description rdf:about="" xmlns:twin="urn:inkwell-twin:1">\n' +
  `<twin:mark>${escape(mark)}</twin:mark>\n</rdf:Description>\n</rdf:RDF>\n</x:xmpmeta>\n<?xpacket end="r"?>`;

/** The mark in an XMP packet; null where there is none. */
export const markInXmp = (xmp: string | null): string | null => /inkwell-twin;[^<"]*/.exec(xmp ?? '')?.[0] ?? null;
