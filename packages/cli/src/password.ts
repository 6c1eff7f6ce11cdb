import { assertPassword } from '@inkwell-twin/core';
import { readBytes } from './files';

/**
 * The password in a file: its first line, so that it stands in no list of commands.
 * @throws Failure `password-invalid`, `file-missing`
 */
export function passwordIn(file: string | undefined): string | undefined {
  if (file === undefined) return undefined;
  const [line = ''] = new TextDecoder()
    .decode(readBytes(file))
    .replace(/^\ufeff/, '')
    .split(/\r?\n/);
  assertPassword(line);
  return line;
}
