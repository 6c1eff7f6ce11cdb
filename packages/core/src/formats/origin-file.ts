import * as z from 'zod';
import { sealText } from '../contracts/seal';
import type { CopyFile } from '../contracts/codec';
import type { Options } from '../contracts/declaration';

/** The file beside a copy that holds its mark of origin, for formats that have no place for one. */
export const ORIGIN = '.origin.json';
const Origin = z.looseObject({ origin: z.string() });
type Origin = z.infer<typeof Origin>;

/** The mark of origin as a file of its own, with the options that the copy was written with. */
export const originFile = (mark: string, options: Options): CopyFile => ({
  part: ORIGIN,
  bytes: new TextEncoder().encode(`${JSON.stringify({ origin: mark, ...options }, null, 1)}\n`),
});

/** What the file beside a copy says; nothing where it is not there, or is something else. */
export function originOf(files: readonly CopyFile[]): Partial<Origin> {
  const beside = files.find(({ part }) => part === ORIGIN);
  if (!beside) return {};
  try {
    return Origin.safeParse(JSON.parse(new TextDecoder().decode(beside.bytes))).data ?? {};
  } catch {
    return {};
  }
}

/** Fills the digest into the mark of the file beside. */
export function sealOrigin(files: readonly CopyFile[], says: string): readonly CopyFile[] {
  sealText(files.slice(1), says);
  return files;
}
