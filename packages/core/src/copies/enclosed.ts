import type { LeafPrint } from '../contracts/kind';
import type { Services } from '../contracts/services';
import { Failure } from '../base/failure/failure';
import { writePackage } from '../document/native';
import { saysOf } from '../document/says';
import type { Master } from '../document/schema';
import type { RevisionOf } from './revision';

/** What a copy depends on that has all of the master inside. */
export function printOfEnclosed(master: Master): LeafPrint {
  const hash = saysOf(master);
  return { key: 'enclosed', hash, parts: () => new Map([[master.id, new Map([['native master', hash]])]]) };
}

/**
 * A revision as a native package that others can open: all that it shows, without its history.
 * @throws Failure `resource-missing` where the bytes of a picture are not at hand
 */
export async function enclosable({ master, rev, time }: RevisionOf, { resource }: Services): Promise<Uint8Array> {
  const resources = new Map<string, Uint8Array>();
  for (const { id, name } of master.resources) {
    const bytes = await resource?.(id);
    if (!bytes)
      throw new Failure('resource-missing', `“${name}” is not at hand, so that the master can’t travel inside a copy.`, {
        node: id,
      });
    resources.set(id, bytes);
  }
  return writePackage({ master, rev, time, history: null, resources });
}
