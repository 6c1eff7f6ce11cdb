import { analyse } from 'chardet';
import { ENCODINGS, type Encoding } from './encodings';
import { decodeAs } from './text';

/** Bytes that a guess is made from. */
const LOOK = 65_536;

/** Names of the guesser that the Encoding Standard has under another name (4.2). */
const NAMES: Readonly<Record<string, Encoding>> = {
  'iso-8859-1': 'windows-1252',
  'iso-8859-7': 'windows-1253',
  'iso-8859-8': 'windows-1255',
  'iso-8859-6': 'windows-1256',
  'iso-8859-9': 'windows-1254',
};
/** How much surer than Western European letters others have to be (of 100): those of Turkey and Romania differ from them in a few. */
const MARGIN: Partial<Record<Encoding, number>> = { 'windows-1254': 8, 'windows-1250': 3, 'iso-8859-2': 3 };

/** Signs that Windows writes behind letters as often as letters. */
const SIGNS = /[‘’“”–—…•™®©°´»]/;

/** Whether small letters follow small letters more often where a text of one byte a letter is read as an old Macintosh wrote it. */
function isMacintosh(bytes: Uint8Array): boolean {
  const [there, here] = [decodeAs(bytes, 'windows-1252'), decodeAs(bytes, 'macintosh')];
  let [of, not] = [0, 0];
  for (const { index } of there.matchAll(/(?<=[a-z])[^\0-\x7f]/g)) {
    if (SIGNS.test(there[index]!)) continue;
    if (/\p{Ll}/u.test(here[index]!)) of++;
    // š and ž, which Windows has where a Macintosh has ö and û, are rare in the languages of this encoding.
    if (/[ß-ÿœ]/.test(there[index]!)) not++;
  }
  return of > 2 * not;
}

/** What a text says of its encoding where no mark does: its bytes with all that is not ASCII and its surroundings. */
function telling(bytes: Uint8Array): Uint8Array {
  if (bytes.length <= LOOK) return bytes;
  const first = bytes.findIndex((byte) => byte > 0x7f);
  const from = Math.max(0, Math.min(first - 1024, bytes.length - LOOK));
  return bytes.subarray(from, from + LOOK);
}

/**
 * The likeliest encoding of a text that is not Unicode, by how often its letters follow each other (chardet). An old Macintosh is
 * told by what stands within words: in its encoding small letters, in that of Windows signs and capitals.
 */
export function guessEncoding(bytes: Uint8Array): Encoding {
  const some = telling(bytes);
  const guesses = analyse(some).flatMap(({ name, confidence }) => {
    const low = name.toLowerCase();
    const encoding = NAMES[low] ?? ENCODINGS.find((one) => one === low);
    return encoding && !encoding.startsWith('utf') ? [{ encoding, confidence: confidence - (MARGIN[encoding] ?? 0) }] : [];
  });
  const best = guesses.reduce((a, b) => (b.confidence > a.confidence ? b : a), {
    encoding: 'windows-1252' as Encoding,
    confidence: 0,
  });
  // Many letters stand in the same place in several: what reads alike is called by the usual name.
  const isUsual = decodeAs(some, best.encoding) === decodeAs(some, 'windows-1252');
  if (!isUsual) return best.encoding;
  return isMacintosh(some) ? 'macintosh' : 'windows-1252';
}
