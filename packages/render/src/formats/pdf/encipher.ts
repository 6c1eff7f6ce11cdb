import { createCipheriv, createHash, randomBytes } from 'node:crypto';
import type * as Library from '@cantoo/pdf-lib';

type Objects = typeof Library;

const NONE = Buffer.alloc(0);
const ZERO_BLOCK = Buffer.alloc(16);
/** All that may be done (ISO 32000-2, table 22): whoever has the password has all of it. */
const ALL_RIGHTS = -4;
/** Passwords are cut off after so many bytes. */
const MOST_BYTES = 127;

/** AES without padding, for what is whole blocks. */
function blocks(bits: 128 | 256, mode: 'cbc' | 'ecb', key: Buffer, iv: Buffer | null, data: Buffer): Buffer {
  const cipher = createCipheriv(`aes-${bits}-${mode}`, key, iv).setAutoPadding(false);
  return Buffer.concat([cipher.update(data), cipher.final()]);
}

/** The hash of a password (ISO 32000-2, algorithm 2.B). @param user the entry of the user, for the owner's */
function hash(password: Buffer, salt: Buffer, user: Buffer): Buffer {
  let key = createHash('sha256').update(password).update(salt).update(user).digest();
  for (let round = 0, last = 0; round < 64 || last > round - 32; round++) {
    const once = Buffer.concat([password, key, user]);
    const all = Buffer.concat(Array.from({ length: 64 }, () => once));
    const made = blocks(128, 'cbc', key.subarray(0, 16), key.subarray(16, 32), all);
    // The first 16 bytes as one number, by 3: 256 leaves 1.
    const by = made.subarray(0, 16).reduce((sum, byte) => sum + byte, 0) % 3;
    key = createHash(['sha256', 'sha384', 'sha512'][by]!).update(made).digest();
    last = made.at(-1)!;
  }
  return key.subarray(0, 32);
}

/** What of a password stands in a file: its hash with two salts, and the key of the file (ISO 32000-2, algorithms 8 and 9). */
function entriesOf(password: Buffer, fileKey: Buffer, user: Buffer): { readonly proof: Buffer; readonly key: Buffer } {
  const [validation, salt] = [randomBytes(8), randomBytes(8)];
  return {
    proof: Buffer.concat([hash(password, validation, user), validation, salt]),
    key: blocks(256, 'cbc', hash(password, salt, user), ZERO_BLOCK, fileKey),
  };
}

/** What may be done, so that nobody changes it (ISO 32000-2, algorithm 10). */
function rights(fileKey: Buffer): Buffer {
  const plain = Buffer.alloc(16);
  plain.writeInt32LE(ALL_RIGHTS, 0);
  plain.writeInt32LE(-1, 4);
  plain.write('Tadb', 8, 'latin1');
  randomBytes(4).copy(plain, 12);
  return blocks(256, 'ecb', fileKey, null, plain);
}

/** Something of a file as it is enciphered: a block by chance before it (ISO 32000-2, 7.6.3.1). */
function cipherOf(fileKey: Buffer, plain: Uint8Array): Uint8Array {
  const iv = randomBytes(16);
  const cipher = createCipheriv('aes-256-cbc', fileKey, iv);
  return Buffer.concat([iv, cipher.update(plain), cipher.final()]);
}

/**
 * Enciphers all texts and streams of a file that is open, with AES of 256 bits, revision 6 of the standard handler (ISO 32000-2,
 * 7.6.4). The library that it is open in leaves texts plain, which no reader then understands.
 */
export function enciphered(lib: Objects, context: Library.PDFContext, password: string): void {
  const { PDFArray, PDFDict, PDFHexString, PDFRawStream, PDFString } = lib;
  const fileKey = randomBytes(32);
  const hex = (bytes: Uint8Array): Library.PDFHexString => PDFHexString.of(Buffer.from(bytes).toString('hex'));
  /** The same with its texts enciphered; a new object where it is a text itself. */
  const changed = (value: Library.PDFObject): Library.PDFObject => {
    if (value instanceof PDFString || value instanceof PDFHexString) return hex(cipherOf(fileKey, value.asBytes()));
    if (value instanceof PDFDict) for (const [key, inner] of value.entries()) value.set(key, changed(inner));
    if (value instanceof PDFArray) value.asArray().forEach((inner, i) => value.set(i, changed(inner)));
    if (!(value instanceof PDFRawStream)) return value;
    changed(value.dict);
    return PDFRawStream.of(value.dict, cipherOf(fileKey, value.contents));
  };
  for (const [ref, value] of context.enumerateIndirectObjects()) context.assign(ref, changed(value));
  // NFKC is what is left of RFC 4013 for what somebody can type (ISO 32000-2, 7.6.4.3.3).
  const typed = Buffer.from(password.normalize('NFKC'), 'utf8').subarray(0, MOST_BYTES);
  const user = entriesOf(typed, fileKey, NONE);
  const owner = entriesOf(typed, fileKey, user.proof);
  context.trailerInfo.Encrypt = context.register(
    context.obj({
      Filter: 'Standard',
      V: 5,
      R: 6,
      Length: 256,
      CF: { StdCF: { AuthEvent: 'DocOpen', CFM: 'AESV3', Length: 32 } },
      StmF: 'StdCF',
      StrF: 'StdCF',
      P: ALL_RIGHTS,
      U: hex(user.proof),
      UE: hex(user.key),
      O: hex(owner.proof),
      OE: hex(owner.key),
      Perms: hex(rights(fileKey)),
    }),
  );
  // Such a lock is of PDF 2.0.
  context.header = lib.PDFHeader.forVersion(2, 0);
}
