import { sealZip } from '../../contracts/zip-seal';
import type { Drawing } from '../../contracts/drawing';
import { parseMark } from '../../contracts/mark';
import { digest } from '../../base/bytes/hasher';
import { idFrom } from '../../document/ids';
import { resolveBoard } from '../../evaluate/resolve';
import type { Master } from '../../document/schema';
import { allNodes } from '../../document/tree';
import { Failure } from '../../base/failure/failure';
import { type Codec, onlyFile } from '../../contracts/codec';
import { ORIGIN } from '../../document/native/origin';
import { OLDEST, nativeDeclaration } from './declare';
import { Document2Maker } from './document';
import { openNative, readNative } from './read';
import { writeFirst, writeSecond } from './write';

/**
 * Readers of that age took some things without a look that would make a master which nobody can open.
 * @throws Failure `too-many-objects`, `package-damaged` and the like, that says what and where
 */
function assertWhole(master: Master): void {
  const kept = new Set(master.resources.map(({ id }) => id));
  for (const node of allNodes(master))
    if ('resource' in node && !kept.has(String(node.resource)))
      throw new Failure('package-damaged', `${node.id} shows a picture that the file does not hold.`, { node: node.id });
  for (const board of master.boards) resolveBoard(master, board);
}

export const nativeCodec = {
  declaration: nativeDeclaration,
  write: ({ title, leaves }, { version }, mark) => {
    const sheets = leaves.map(({ label, body }) => ({ label, drawing: body as Drawing }));
    const from = parseMark(mark);
    const about = {
      // Not the master's own: who has both keeps them apart.
      id: idFrom(`copy ${from?.master} ${from?.recipe}`),
      title: title || sheets[0]!.label || 'Copy',
      rev: from?.rev ?? 1,
      time: from?.written ?? '',
    };
    const document = new Document2Maker().make(sheets, about);
    return onlyFile((version === OLDEST ? writeFirst : writeSecond)(document, mark));
  },
  seal: (files, says) => sealZip(files, ORIGIN, says),
  read: (files, _hints, services) => readNative(files[0]!.bytes, services),
  stated: (bytes) => ({ version: openNative(bytes).pkg.native === 1 ? OLDEST : 'native 2' }),
  bringIn: (bytes) => {
    const { pkg, mark, unknown } = openNative(bytes);
    const { master, resources } = pkg;
    assertWhole(master);
    return { master: { ...master, id: idFrom(`brought in ${digest(bytes)}`) }, mark, notUnderstood: unknown.list(), resources };
  },
} satisfies Codec;
