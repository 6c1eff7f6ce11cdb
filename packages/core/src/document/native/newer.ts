import * as z from 'zod';
import { Failure } from '../../base/failure/failure';
import { Master } from '../schema';
import { parseJson } from './checked';
import { NATIVE_VERSION } from './package';
import { unpackEntries } from './zip';

/** What this program can't show of a master that a newer one wrote. */
export interface NotShown {
  readonly kind: string;
  readonly count: number;
}

/** A master of a newer version, as far as it can be looked at here. */
export interface NewerMaster {
  readonly version: number;
  readonly writer: string;
  readonly title: string;
  readonly rev: number;
  /** Who wrote it last, or whose it is: whom to ask for a version that can be worked with here. */
  readonly ask: string;
  /** Null where nothing of it can be shown. */
  readonly master: Master | null;
  readonly notShown: readonly NotShown[];
  readonly resources: ReadonlyMap<string, Uint8Array>;
}

type Loose = Record<string, unknown>;
const isLoose = (value: unknown): value is Loose => typeof value === 'object' && value !== null && !Array.isArray(value);
/** Rounds in which parts are left out until the rest is understood; each leaves out all that the last one found. */
const MOST_ROUNDS = 40;
const MOST_ISSUES = 100_000;

/** The words for a node that is left out, or for one in which something is. */
function nodeWords(node: unknown, list: string): string {
  const { kind, op, block } = isLoose(node) ? node : ({} as Loose);
  const said = [kind, op, block].find((one) => typeof one === 'string');
  return said === undefined ? `one of the ${list}` : `“${String(said).slice(0, 40)}”`;
}

/** Everything that is wrong in a value, down to the members of what may have several forms. */
function issuesOf(value: unknown): { path: readonly PropertyKey[] }[] {
  const parsed = Master.safeParse(value);
  return parsed.success ? [] : parsed.error.issues.slice(0, MOST_ISSUES);
}

/** The node of a list that a path leads into, innermost last: the list, its place in it, and what is left of the path. */
function nodeOn(root: unknown, path: readonly PropertyKey[]) {
  let found: { list: unknown[]; name: string; at: number; rest: readonly PropertyKey[] } | null = null;
  let value = root;
  path.forEach((step, i) => {
    if (Array.isArray(value) && typeof step === 'number' && isLoose(value[step]) && 'id' in value[step])
      found = { list: value, name: String(path[i - 1] ?? 'master'), at: step, rest: path.slice(i + 1) };
    value = (value as Loose | undefined)?.[step as string];
  });
  return found as { list: unknown[]; name: string; at: number; rest: readonly PropertyKey[] } | null;
}

/** Takes away what isn't understood: first the attribute that says it, then what can't be without it. @returns whether anything went */
function prune(root: Loose, told: (kind: string) => void, tried: Set<string>): boolean {
  let went = false;
  const gone = new Map<unknown[], Set<number>>();
  for (const { path } of issuesOf(root)) {
    const node = nodeOn(root, path);
    const [first] = node ? node.rest : path;
    const holder = node ? (node.list[node.at] as Loose) : root;
    const key = `${node ? `${node.name} ${String(holder['id'])}` : ''} ${String(first)}`;
    const name = node ? nodeWords(holder, node.name) : 'the master';
    // What names its kind is not an attribute that one could do without.
    if (first !== undefined && !['kind', 'op', 'block', 'id'].includes(String(first)) && first in holder && !tried.has(key)) {
      tried.add(key);
      delete holder[first as string];
      told(`${String(first)} of ${name}`);
      went = true;
    } else if (node && !gone.get(node.list)?.has(node.at)) {
      gone.set(node.list, (gone.get(node.list) ?? new Set()).add(node.at));
      told(name);
      went = true;
    }
  }
  for (const [list, places] of gone) list.splice(0, list.length, ...list.filter((_, i) => !places.has(i)));
  return went;
}

/** Attributes that reading dropped without a word. @param name of the node that they are in */
export function unknownIn(raw: unknown, read: unknown, told: (kind: string) => void, name = 'the master', list = ''): void {
  if (Array.isArray(raw)) return raw.forEach((one, i) => unknownIn(one, (read as unknown[] | undefined)?.[i], told, name, list));
  if (!isLoose(raw) || !isLoose(read)) return;
  const own = list && 'id' in raw ? nodeWords(raw, list) : name;
  for (const [key, value] of Object.entries(raw))
    if (key in read) unknownIn(value, read[key], told, own, key);
    else told(`${key} of ${own}`);
}

/**
 * Looks at a master that a newer version wrote, as far as that goes. Nothing of it is changed, and what comes of this is to be
 * looked at only: to write it would lose what is not shown.
 * @throws Failure `not-newer` for one that can be opened, `package-damaged`
 */
export function lookAtNewer(bytes: Uint8Array): NewerMaster {
  const entries = unpackEntries(bytes);
  const text = (path: string): string => {
    const entry = entries.get(path);
    if (!entry)
      throw new Failure('package-damaged', `The package has no ${path}; not even its title can be told.`, { node: path });
    return new TextDecoder().decode(entry);
  };
  const said = parseJson(text('manifest.json'), 'manifest.json') as Loose;
  const version = Number(said['version']);
  if (!(version > NATIVE_VERSION)) throw new Failure('not-newer', 'This master is of a version that can be opened: bring it in.');
  const counts = new Map<string, number>();
  const told = (kind: string): void => void counts.set(kind, (counts.get(kind) ?? 0) + 1);
  const raw = entries.has('master.json') ? parseJson(text('master.json'), 'master.json') : null;
  const root: Loose = isLoose(raw) ? (structuredClone(raw) as Loose) : {};
  const tried = new Set<string>();
  for (let round = 0; round < MOST_ROUNDS && prune(root, told, tried); round++);
  const parsed = Master.safeParse(root);
  if (parsed.success) unknownIn(root, parsed.data, told);
  else told('all that it holds');
  const string = z.string().min(1).max(200);
  const name = (value: unknown): string => string.safeParse(value).data ?? '';
  const history = entries.has('history/history.json')
    ? (parseJson(text('history/history.json'), 'history/history.json') as { revisions?: { author?: unknown }[] } | null)
    : null;
  return {
    version,
    writer: name(said['writer']) || 'a newer program',
    title: name(isLoose(raw) ? raw['title'] : '') || 'Unnamed',
    rev: Number(said['rev']) || 0,
    ask: name(history?.revisions?.at(-1)?.author) || name(isLoose(raw) ? raw['owner'] : ''),
    master: parsed.success ? parsed.data : null,
    notShown: [...counts].map(([kind, count]) => ({ kind, count })),
    resources: new Map(
      [...entries]
        .filter(([path]) => path.startsWith('resources/'))
        .map(([path, content]) => [path.slice('resources/'.length), content]),
    ),
  };
}
