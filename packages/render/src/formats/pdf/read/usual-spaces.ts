import { inflateSync } from 'node:zlib';
import { trueName } from '../../../engines/true-profile';

/** Bytes of the longest profile and of the longest file that are looked at, and how many profiles are. */
const LONGEST = 4_000_000;
const LONGEST_FILE = 400_000_000;
const MOST = 64;
const DEVICE = /\/ColorSpace\s*\/DeviceRGB\b/;

/** What stands between `N 0 obj` and its end, the last time that a file says it. */
function bodyOf(file: Buffer, id: number): Buffer | null {
  for (let at = file.lastIndexOf(`${id} 0 obj`); at >= 0; at = at ? file.lastIndexOf(`${id} 0 obj`, at - 1) : -1) {
    if (at && /\d/.test(String.fromCharCode(file[at - 1]!))) continue;
    const end = file.indexOf('endobj', at);
    return end < 0 ? null : file.subarray(at + `${id} 0 obj`.length, end);
  }
  return null;
}

/** The bytes of a profile that lies in a file plainly or packed once; null where it is packed otherwise or damaged. */
function profileIn(body: Buffer | null): Uint8Array | null {
  const start = body?.indexOf('stream') ?? -1;
  if (!body || start < 0) return null;
  const dictionary = body.toString('latin1', 0, start);
  const filters = (/\/Filter\s*(\[[^\]]*\]|\/\w+)/.exec(dictionary)?.[1] ?? '').match(/\w+/g)?.join(' ') ?? '';
  if (/\/DecodeParms/.test(dictionary) || (filters !== '' && filters !== 'FlateDecode')) return null;
  const from = start + 6 + (body[start + 6] === 13 ? 1 : 0);
  const held = body.subarray(body[from] === 10 ? from + 1 : from, body.lastIndexOf('endstream'));
  try {
    return filters ? inflateSync(held, { maxOutputLength: LONGEST }) : held;
  } catch {
    return null;
  }
}

/**
 * Which objects of a file are, or hold the profile of, the same space of colours as the device's red, green and blue.
 * @returns what a picture's dictionary says of its colours then, as a pattern
 */
export async function usualSpaces(file: Buffer): Promise<RegExp> {
  if (file.length > LONGEST_FILE || !file.includes('/ICCBased')) return DEVICE;
  const text = file.toString('latin1');
  const usual: string[] = [];
  const ids = new Set([...text.matchAll(/\/ICCBased\s+(\d+)\s+0\s+R/g)].slice(0, MOST).map(([, id]) => Number(id)));
  for (const id of ids) {
    const profile = profileIn(bodyOf(file, id));
    if (!profile || (await trueName(profile)) !== 'sRGB') continue;
    const stated = `\\[\\s*/ICCBased\\s+${id}\\s+0\\s+R\\s*\\]`;
    usual.push(stated);
    for (const [, holder] of text.matchAll(new RegExp(`\\b(\\d+)\\s+0\\s+obj\\s*${stated}\\s*endobj`, 'g')))
      usual.push(`${holder}\\s+0\\s+R\\b`);
  }
  return usual.length ? new RegExp(`${DEVICE.source}|/ColorSpace\\s*(?:${usual.join('|')})`) : DEVICE;
}
