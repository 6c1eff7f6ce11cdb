import type { LinkView, ShelfFile } from '@inkwell-twin/api';
import {
  type Linked,
  linkPicture as keepLinked,
  linkable as listLinkable,
  lookAtLinks,
  putOut as writeOut,
  standLinks,
} from '../../masters/links';
import type { KeptPicture } from '../../masters/keep';
import type { Engine } from '../engine';

export const links = (engine: Engine, { master, links: asked }: { master: string; links: Linked[] }): Promise<LinkView[]> =>
  lookAtLinks(engine, master, asked);

export const linkable = (engine: Engine, { name }: { name: string }): ShelfFile[] => listLinkable(engine, name);

export const linkPicture = (engine: Engine, { master, path }: { master: string; path: string }): Promise<KeptPicture> =>
  keepLinked(engine, master, path);

export const putOut = (
  engine: Engine,
  { master, resource, link }: { master: string; resource: string; link: string | null },
): Promise<string> => writeOut(engine, master, resource, link);

export const packed = ({ files }: Engine, { master, form }: { master: string; form: 'whole' | 'light' }): Promise<Uint8Array> =>
  files.package(master, form);

/** What is said of links that lead nowhere or to something else. */
const TROUBLE: Readonly<Record<string, string>> = {
  missing: 'is missing',
  changed: 'has changed',
  'not a file': 'is no file any more',
};

/** Finds again how the linked files of a master stand, and says on the Desk what is wrong with them. */
export async function linksStand(engine: Engine, { master }: { master: string }): Promise<void> {
  if (!(await standLinks(engine, master))) return;
  const rows = await engine.database.rows<{ link: string; state: string }>(
    "select link, state from link where master = $1 and state <> 'here' order by link",
    [master],
  );
  const [first] = rows;
  const more = rows.length > 1 ? `, and ${rows.length - 1} more` : '';
  const words = first ? `Its linked file ${first.link} ${TROUBLE[first.state]}${more}. Mend it under Files.` : null;
  await engine.jobs.notice(master, 'links', words);
  await engine.jobs.event({ kind: 'master', master });
}
