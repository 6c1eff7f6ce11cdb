import { type Services, type ReadMaster, type Source, masterOfPicture } from '@inkwell-twin/core';

const starts =
  (...bytes: readonly number[]) =>
  (head: Uint8Array): boolean =>
    bytes.every((byte, i) => head[i] === byte);
const ascii = (text: string): number[] => [...text].map((letter) => letter.charCodeAt(0));

/** A picture as a new master. @throws Failure of `facts` */
export async function bringInPicture(
  bytes: Uint8Array,
  name: string,
  { pictures }: Pick<Services, 'pictures'> = {},
): Promise<ReadMaster> {
  const facts = await pictures!.facts(bytes);
  // What is damaged further on is found now, not when a copy is made.
  await pictures!.thumbnail(bytes, 64);
  return masterOfPicture(bytes, name, facts);
}

const picture = (label: string, mediaType: string, recognise: Source['recognise']): Source => ({
  label,
  mediaType,
  recognise,
  bringIn: bringInPicture,
});

/** Pictures that are brought in and that no copies are made as. */
export const pictureSources: readonly Source[] = [
  picture('GIF picture', 'image/gif', starts(...ascii('GIF8'))),
  picture('BMP picture', 'image/bmp', starts(...ascii('BM'))),
];
