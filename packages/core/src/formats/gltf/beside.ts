import { encodeText } from '../../base/bytes/text';
import { type FindBeside, besideAsData } from '../beside';

/** A document whose numbers lie in files beside it, with those numbers inside (2.0, 3.6.1.1). */
export function withBuffersInside(bytes: Uint8Array, beside: FindBeside): Uint8Array {
  let document: { buffers?: { uri?: unknown }[] };
  try {
    document = JSON.parse(new TextDecoder().decode(bytes)) as typeof document;
  } catch {
    // The binary container, or a damaged file: its reader says so.
    return bytes;
  }
  let isChanged = false;
  for (const buffer of Array.isArray(document?.buffers) ? document.buffers : []) {
    const data = typeof buffer?.uri === 'string' ? besideAsData(buffer.uri, beside) : undefined;
    if (!data) continue;
    buffer.uri = data;
    isChanged = true;
  }
  return isChanged ? encodeText(JSON.stringify(document)) : bytes;
}
