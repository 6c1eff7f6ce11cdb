import { Failure } from '../../base/failure/failure';

/** Characters that an entity may come to, and all uses of entities in a document together. */
const [LONGEST, TOTAL] = [4_000, 4_000_000];
const DECLARED = /<!ENTITY\s+(%\s+)?([\w.:-]+)\s+(?:"([^"]*)"\s*>|'([^']*)'\s*>|[^>\s][^>]*>)/g;
const NAMED: Readonly<Record<string, string>> = { lt: '<', gt: '>', amp: '&', quot: '"', apos: "'" };

/**
 * The entities that a document type declares, as far as they are plain text of bounded length (XML 1.0, 4.2.2); they may be made of
 * those before them.
 * @param text the whole document, to see how often they are used
 * @throws Failure `xml-entities` where one that is used stands for a file, for elements, or for too much
 */
export function entitiesIn(doctype: string, text: string, line: number): ReadonlyMap<string, string> {
  const found = new Map<string, string>();
  const refused = (name: string, why: string) =>
    new Failure('xml-entities', `The entity “${name}” ${why}, which is not read for safety. Save the drawing without it.`, {
      line,
    });
  let total = 0;
  for (const [, parameter, name, double, single] of doctype.matchAll(DECLARED)) {
    const stated = double ?? single;
    const uses = text.split(`&${name};`).length - 1;
    if (parameter) throw refused(name!, 'stands for declarations');
    if (!uses) continue;
    if (stated === undefined) throw refused(name!, 'stands for another file');
    const value = stated.replace(
      /&(?:#x([\da-f]+)|#(\d+)|([\w.:-]+));/gi,
      (whole, hex: string, decimal: string, other: string) => {
        if (other) return found.get(other) ?? NAMED[other] ?? whole;
        const code = hex ? parseInt(hex, 16) : Number(decimal);
        return code <= 0x10ffff ? String.fromCodePoint(code) : whole;
      },
    );
    if (value.includes('<')) throw refused(name!, 'stands for elements');
    total += uses * value.length;
    if (value.length > LONGEST || total > TOTAL) throw refused(name!, 'comes to too much');
    found.set(name!, value);
  }
  return found;
}
