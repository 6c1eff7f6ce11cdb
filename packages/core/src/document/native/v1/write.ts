import { encodeText } from '../../../base/bytes/text';
import { canonical, digest } from '../../hash';
import { type Board1, INDEX_EXTENSION, type Index1, PARTS_ENDING } from './schema';

/** What a project of version 1 holds, before its files have names and checksums. */
export interface Content1 extends Omit<Index1, 'format' | 'version' | 'boards' | 'pictures'> {
  readonly boards: readonly Board1[];
  readonly pictures: readonly { file: string; bytes: Uint8Array; mediaType: string; width: number; height: number }[];
}

/**
 * Writes a folder project: its index, and its parts in the folder that goes by the same name. The same content gives the same bytes.
 * @returns bytes by their paths
 */
export function writeProject(name: string, { boards, pictures, ...rest }: Content1): Map<string, Uint8Array> {
  const folder = `${name}${PARTS_ENDING}`;
  const files = new Map<string, Uint8Array>();
  const put = (file: string, bytes: Uint8Array) => {
    files.set(`${folder}/${file}`, bytes);
    return { file, sha256: digest(bytes) };
  };
  const index: Index1 = {
    format: 'inkfolio',
    version: 1,
    ...rest,
    boards: boards.map((board, i) => put(`board_${i + 1}.json`, encodeText(canonical(board)))),
    pictures: pictures.map(({ file, bytes, ...about }) => ({ ...put(file, bytes), ...about })),
  };
  return new Map([[`${name}.${INDEX_EXTENSION}`, encodeText(`${JSON.stringify(index, null, 1)}\n`)], ...files]);
}
