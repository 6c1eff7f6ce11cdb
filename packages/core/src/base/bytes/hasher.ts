import { sha256, sha512 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';

/** Takes in data piece by piece and gives its SHA-256. */
export interface Hasher {
  /** Text goes in as UTF-8, numbers as the bytes they lie in. */
  update(data: string | ArrayBufferView): Hasher;
  /** 64 hexadecimal digits; nothing can be added after. */
  hex(): string;
}

interface NativeHash {
  update(data: string | Uint8Array): NativeHash;
  digest(encoding: 'hex'): string;
}
interface Host {
  readonly getBuiltinModule?: (name: string) => { createHash(algorithm: string): NativeHash } | undefined;
}
// Node.js has the hash built in, about ten times as fast; a browser's own one answers later only, which footprints can't wait for.
const native = (globalThis as { process?: Host }).process?.getBuiltinModule?.('node:crypto');

const bytesOf = (data: string | ArrayBufferView): Uint8Array =>
  typeof data === 'string' ? utf8ToBytes(data) : new Uint8Array(data.buffer, data.byteOffset, data.byteLength);

export function hasher(): Hasher {
  if (native) {
    const hash = native.createHash('sha256');
    const self: Hasher = {
      update: (data) => (hash.update(typeof data === 'string' ? data : bytesOf(data)), self),
      hex: () => hash.digest('hex'),
    };
    return self;
  }
  const hash = sha256.create();
  const self: Hasher = { update: (data) => (hash.update(bytesOf(data)), self), hex: () => bytesToHex(hash.digest()) };
  return self;
}

/** SHA-256 of text or bytes, as 64 hexadecimal digits. */
export const digest = (data: string | Uint8Array): string => hasher().update(data).hex();

/** SHA-512 of bytes, as 128 hexadecimal digits. */
export const digest512 = (data: Uint8Array): string =>
  native ? native.createHash('sha512').update(data).digest('hex') : bytesToHex(sha512(data));
