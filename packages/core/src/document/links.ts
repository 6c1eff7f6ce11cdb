import type { Command } from './commands';
import type { Patch } from './patches';
import type { Resource } from './resource-schema';

export { LINK_STATES, type LinkState } from './resource-schema';
import type { Master, Node } from './schema';
import { allNodes, nodeInWords, pathTo } from './tree';

export const linkedIn = (master: Pick<Master, 'resources'>): readonly (Resource & { readonly link: string })[] =>
  master.resources.filter((one): one is Resource & { link: string } => one.link !== undefined);

/**
 * Where a linked file may lie: below the folder of the master's file, then below each one above it, the nearest first.
 * @param folder path of that folder, with forward slashes
 * @returns paths in the same manner as `folder`
 */
export function linkPlaces(folder: string, link: string): string[] {
  const parts = folder.split('/').filter(Boolean);
  return Array.from({ length: parts.length + 1 }, (_, up) => [...parts.slice(0, parts.length - up), link].join('/'));
}

/**
 * How a file is named as a link: from the deepest folder on that it and the master have in common, so that both may be moved
 * with that folder.
 * @param folder of the master's file
 * @param path of the file
 */
export function linkTo(folder: string, path: string): string {
  const [from, to] = [folder.split('/').filter(Boolean), path.split('/').filter(Boolean)];
  let common = 0;
  while (common < from.length && common < to.length - 1 && from[common] === to[common]) common++;
  return to.slice(common).join('/');
}

/** Attributes by which a node may show a kept file: pictures on boards, in texts, and solids that came in. */
const SHOWN_BY = ['resource', 'picture'] as const;

/** Every node that shows a kept file, with the attribute that names it. */
export function usesOfResource(master: Master, id: string): { readonly node: Node; readonly attribute: string }[] {
  const found: { node: Node; attribute: string }[] = [];
  for (const node of allNodes(master))
    for (const attribute of SHOWN_BY) if ((node as Record<string, unknown>)[attribute] === id) found.push({ node, attribute });
  return found;
}

/** Patches that put a kept file in the place of another, wherever that is shown. The old one is no longer of the master. */
export function replaceResource(master: Master, id: string, by: Resource): Command {
  const index = master.resources.findIndex((one) => one.id === id);
  const old = master.resources[index];
  if (!old) return { label: '', patches: [] };
  const label = `${old.name}: the file as it is now`;
  const uses = usesOfResource(master, id).map(({ node, attribute }): Patch => ({
    op: 'set',
    node: node.id,
    attribute,
    value: by.id,
  }));
  const known = master.resources.find((one) => one.id === by.id);
  if (by.id === id) return setLink(master, id, by.link, `${old.name}: linked to ${by.link}`);
  const comes: Patch[] = known
    ? []
    : [{ op: 'insert', parent: master.id, list: 'resources', after: old.id, node: old.said ? { ...by, said: old.said } : by }];
  return { label, patches: [...comes, ...uses, { op: 'remove', parent: master.id, list: 'resources', node: id }] };
}

/** Says where a kept file lies outside; without a path it is part of the master again. */
export function setLink(master: Master, id: string, link: string | undefined, label: string): Command {
  const old = master.resources.find((one) => one.id === id);
  return old?.link === link
    ? { label, patches: [] }
    : { label, patches: [{ op: 'set', node: id, attribute: 'link', value: link }] };
}

/** What shows a kept file, in words, each with the part of the master that it is in. */
export function usesInWords(master: Master, id: string): { readonly id: string; readonly words: string }[] {
  return usesOfResource(master, id).map(({ node }) => {
    const part = pathTo(master, node.id)?.[1];
    const words = nodeInWords(node);
    return { id: node.id, words: part && part.id !== node.id ? `${words} in ${nodeInWords(part)}` : words };
  });
}
