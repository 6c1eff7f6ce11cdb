import { packEntries } from '../../document/native/zip';
import { readPackage } from '../../document/native';
import { parseMark } from '../../contracts/mark';
import { type Codec, type Enclosed, onlyFile } from '../../contracts/codec';
import { UNSEALED } from '../../contracts/seal';
import { Tally } from '../../contracts/tally';
import { encodeText, decodeText } from '../../base/bytes/text';
import { Failure } from '../../base/failure/failure';
import { saysOf } from '../../document/says';
import { type Bag, INFO, MASTER, bagIn, bagOf, checkBag, findingInWords, infoOf, nativeInBag, withTagManifests } from './bag';
import { archiveDeclaration, isLossy } from './declare';

const MARK = 'Inkwell-Twin-Mark';
const MADE = ['renditions/', 'previews/', 'originals/', 'descriptions/'];

/** Files that are told of by name; nobody reads more. */
const NAMED = 100;

/** The folder that all of a bag lies in (RFC 8493, 4.2): the same whatever the master is called. */
const FOLDER = 'archive/';

const packed = (bag: Bag): Uint8Array => {
  const entries = new Map([...bag].map(([path, bytes]) => [FOLDER + path, bytes]));
  // As they are: what is damaged in one file stays in it, and most is packed already.
  return packEntries(entries, new Set(entries.keys()));
};

export const archiveCodec = {
  declaration: archiveDeclaration,
  write: ({ title, enclosed, renditions = [] }, { boards }, mark) => {
    const from = parseMark(mark);
    const lossy = isLossy({ boards: boards! });
    const payload = new Map<string, Uint8Array>([
      [MASTER, enclosed!.bytes],
      ...renditions.map(({ path, bytes }) => [path, bytes] as const),
    ]);
    const bag = bagOf(payload, [
      ['Bag-Software-Agent', 'Inkwell Twin'],
      ['Bagging-Date', (from?.written ?? '').slice(0, 10)],
      ['External-Identifier', `${from?.master} r${from?.rev}`],
      ['External-Description', title ?? ''],
      [
        'Internal-Sender-Description',
        lossy ? 'Archive grade, lossy: its pictures are not for production.' : 'Archive grade, lossless.',
      ],
      [MARK, mark],
    ]);
    return onlyFile(packed(bag));
  },
  seal: ([first], says) => {
    const bag = new Map(bagIn(first!.bytes));
    bag.set(INFO, encodeText(decodeText(bag.get(INFO)!).replace(`says=${UNSEALED}`, `says=${says}`)));
    return onlyFile(packed(withTagManifests(bag)));
  },
  read: ([first]) => {
    const bag = bagIn(first!.bytes);
    const tally = new Tally();
    // A bag of others is none of ours, whatever its lists say.
    if (!infoOf(bag).has(MARK) && !nativeInBag(bag)) return { leaves: [], mark: null, notUnderstood: [] };
    const findings = checkBag(bag);
    for (const finding of findings.slice(0, NAMED)) tally.addBeyondSight(findingInWords(finding));
    if (findings.length > NAMED)
      tally.addBeyondSight(`and ${findings.length - NAMED} more files that are not as they were laid in`);
    const native = nativeInBag(bag);
    let enclosed: Enclosed | null = null;
    try {
      if (native) enclosed = { says: saysOf(readPackage(native).master), bytes: native };
    } catch (error) {
      if (!(error instanceof Failure)) throw error;
      tally.addBeyondSight(`the master in it can’t be opened: ${error.message}`);
    }
    const renditions = [...bag].flatMap(([path, bytes]) => {
      const own = path.slice('data/'.length);
      return path.startsWith('data/') && MADE.some((folder) => own.startsWith(folder)) ? [{ path: own, bytes }] : [];
    });
    return {
      leaves: [],
      mark: infoOf(bag).get(MARK) ?? null,
      notUnderstood: tally.list(),
      renditions,
      ...(enclosed ? { enclosed } : {}),
    };
  },
  nativeInside: (bytes) => nativeInBag(bagIn(bytes)),
} satisfies Codec;
