import { Tally } from '../../contracts/tally';
import { adaptDrawing } from '../../content/drawing/adapt';
import { type DrawingCarries, drawingFeatures } from '../../content/drawing/features';
import { kind as drawingKind } from '../../content/drawing/kind';
import type { Services } from '../../contracts/services';
import { CarryLines } from '../../contracts/report';
import { Failure } from '../../base/failure/failure';
import { parseJson } from '../../document/native/checked';
import { unknownIn } from '../../document/native/newer';
import type { NativePackage } from '../../document/native/package';
import { openPackedProject } from '../../document/native/project';
import { isIndexName, partsFolderOf } from '../../document/native/v1/read';
import { Board1, Index1 } from '../../document/native/v1/schema';
import { Document2, Manifest2 } from '../../document/native/v2/schema';
import { readPackage } from '../../document/native/v3/read';
import { unpackEntries } from '../../document/native/zip';
import { placedMaster } from '../../evaluate/placed/evaluate';
import type { ReadCopy } from '../../contracts/codec';
import { ORIGIN } from '../../document/native/origin';

/** What a document of now holds is told as it is. */
const ALL = Object.fromEntries(Object.keys(drawingFeatures).map((name) => [name, 'kept'])) as DrawingCarries;

/** A copy of an older version, opened by the frozen reader of that version and brought up to now. */
interface OpenedNative {
  readonly pkg: NativePackage;
  readonly mark: string | null;
  readonly unknown: Tally;
}

/** What that age did not have: parts, and attributes of the parts that there are. */
function unknownParts(entries: ReadonlyMap<string, Uint8Array>, tally: Tally): void {
  const told = (kind: string) => tally.add(kind);
  const json = (path: string): unknown => parseJson(new TextDecoder().decode(entries.get(path)), path);
  const index = [...entries.keys()].find(isIndexName);
  const known = new Set([ORIGIN, index ?? 'mimetype']);
  if (index) {
    const [raw, folder] = [json(index), partsFolderOf(index)];
    const read = Index1.parse(raw);
    unknownIn(raw, read, told, 'the index');
    for (const { file } of [...read.boards, ...read.pictures]) known.add(`${folder}/${file}`);
    for (const { file } of read.boards) {
      const board = json(`${folder}/${file}`);
      unknownIn(board, Board1.parse(board), told, 'a board');
    }
  } else {
    const [manifest, document] = [json('manifest.json'), json('master.json')];
    unknownIn(manifest, Manifest2.parse(manifest), told, 'the list of parts');
    const read = Document2.parse(document);
    unknownIn(document, read, told);
    for (const path of ['manifest.json', 'master.json', ...read.pictures.map(({ sha256 }) => `pictures/${sha256}`)])
      known.add(path);
  }
  for (const path of entries.keys()) if (!known.has(path)) told(`part ${path.slice(0, 80)}`);
}

/** @throws Failure as the readers of those versions do; `package-damaged` for one of a later version */
export function openNative(bytes: Uint8Array): OpenedNative {
  const entries = unpackEntries(bytes);
  const pkg = [...entries.keys()].some(isIndexName) ? openPackedProject(bytes) : readPackage(bytes);
  if (pkg.native! > 2) throw new Failure('package-damaged', 'A copy of an older version says that it is of the version of now.');
  const unknown = new Tally();
  unknownParts(entries, unknown);
  const origin = entries.get(ORIGIN);
  return { pkg, mark: origin ? new TextDecoder().decode(origin) : null, unknown };
}

export async function readNative(bytes: Uint8Array, services: Services): Promise<ReadCopy> {
  const { pkg, mark, unknown } = openNative(bytes);
  const own: Services = { ...services, resource: (sha) => pkg.resources.get(sha)! };
  const master = await placedMaster(pkg.master, own);
  const sources = drawingKind.resolve(master, { of: 'master' }, own, ALL);
  const leaves: ReadCopy['leaves'][number][] = [];
  for (const { label, source } of sources)
    leaves.push({ kind: 'drawing', key: '', label, body: await adaptDrawing(source, ALL, new CarryLines(), own) });
  return { leaves, mark, notUnderstood: unknown.list() };
}
