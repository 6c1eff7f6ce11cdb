import { entryNames } from '../document/native/zip';
import type { Declaration } from '../contracts/declaration';
import { declarations } from './declarations';

/** The target whose files look like these bytes, or undefined. */
export function recognise(bytes: Uint8Array): Declaration | undefined {
  const entries = entryNames(bytes);
  return declarations().find((target) => target.recognise(bytes.subarray(0, 4096), entries));
}
