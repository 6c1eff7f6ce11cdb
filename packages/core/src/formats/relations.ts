import { attributeOf, walkXml } from '../base/bytes/walk-xml';

const resolvePath = (base: string, target: string): string => {
  const parts = target.startsWith('/') ? [] : base.split('/').slice(0, -1);
  for (const part of target.split('/'))
    if (part === '..') parts.pop();
    else if (part && part !== '.') parts.push(part);
  return parts.join('/');
};

/** What a part of an open package (ECMA-376-2) refers to: where, and as what, by number. */
export function relationsOf(
  entries: ReadonlyMap<string, Uint8Array>,
  part: string,
): Map<string, { target: string; type: string; external: boolean }> {
  const name = part.replace(/([^/]*)$/, '_rels/$1.rels');
  const relations = new Map<string, { target: string; type: string; external: boolean }>();
  const bytes = entries.get(name);
  if (bytes)
    walkXml(bytes, name, {
      open: (tag, attributes) => {
        if (tag !== 'Relationship') return;
        const target = attributeOf(attributes, 'Target') ?? '';
        const external = attributeOf(attributes, 'TargetMode') === 'External';
        relations.set(attributeOf(attributes, 'Id') ?? '', {
          target: external ? target : resolvePath(part, target),
          external,
          type: (attributeOf(attributes, 'Type') ?? '').replace(/^.*\//, ''),
        });
      },
    });
  return relations;
}
