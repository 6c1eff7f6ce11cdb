import { createHash } from 'node:crypto';
import { AGES, type Age } from './ages';
import { Refused, groupsOf } from './groups';
import { pictureOf } from './picture';
import { Reader } from './reader';
import type { Seen } from './seen';

const nameOf = ({ name }: Age): string => `dxf-${name.toLowerCase()}`;

/** Opens a drawing as a reader of an age would. */
function openDrawing(bytes: Uint8Array, age: Age): Seen {
  const reader = new Reader(age);
  let refused: Seen['refused'] = null;
  try {
    reader.read(groupsOf(bytes));
  } catch (error) {
    if (!(error instanceof Refused)) throw error;
    refused = { at: error.at, words: error.message };
  }
  const lines = refused ? [] : reader.lines;
  const texts = refused ? [] : reader.texts;
  return {
    reader: nameOf(age),
    opens: !refused,
    refused,
    dropped: reader.passedOver,
    sha256: createHash('sha256').update(bytes).digest('hex'),
    lines,
    texts,
    pictures: refused ? 0 : reader.pictures,
    picture: refused ? '' : pictureOf(lines, texts),
  };
}

/** Readers of drawings by their age, oldest first. */
export const OLDER_READERS: Readonly<Record<string, (bytes: Uint8Array) => Seen>> = Object.fromEntries(
  AGES.map((age) => [nameOf(age), (bytes: Uint8Array) => openDrawing(bytes, age)]),
);
