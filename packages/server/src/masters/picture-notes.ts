import { type Services, type NotUnderstood, type PictureFacts, codecOf, declarations, notesOn } from '@inkwell-twin/core';

/**
 * What of a picture does not arrive where it is put on a board: the same as where it is brought in by itself.
 * @param name of its file
 */
export async function notUnderstoodIn(
  bytes: Uint8Array,
  name: string,
  facts: PictureFacts,
  services: Services,
): Promise<readonly NotUnderstood[]> {
  const target = declarations().find(({ mediaType }) => mediaType === facts.mediaType);
  const codec = target && (await codecOf(target.id));
  return codec?.bringIn ? (await codec.bringIn(bytes, name, services)).notUnderstood : notesOn(facts);
}
