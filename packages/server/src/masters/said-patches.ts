import { type Master, type Patch, type Said, saidOf } from '@inkwell-twin/core';

/** What of a master changes when it says this; nothing for what it says already. */
export function describePatches(master: Master, said: Said): Patch[] {
  const before = saidOf(master);
  const differs = (a: unknown, b: unknown): boolean => JSON.stringify(a) !== JSON.stringify(b);
  const sorted = (words: readonly string[]): string[] => [...words].sort();
  const set = (attribute: string, value: unknown): Patch => ({ op: 'set', node: master.id, attribute, value });
  return [
    ...(differs(sorted(before.keywords), sorted(said.keywords))
      ? [
          set(
            'keywords',
            [...said.keywords].slice(0, 64).map((word) => word.slice(0, 64)),
          ),
        ]
      : []),
    ...(before.caption === said.caption ? [] : [set('description', said.caption.slice(0, 5000))]),
    ...(before.rights === said.rights ? [] : [set('rights', said.rights.slice(0, 1000))]),
  ];
}
