import { codecOf, declarationOf, digestOf, Failure, opened, passwordWeakness, recognise } from '@inkwell-twin/core';
import { writeWhole } from '@inkwell-twin/render';
import { inFile, readBytes, services } from '../files';
import type { Answer } from '../output';
import { type Arguments, need } from './shared';

/** Locks a copy, locks it otherwise, or takes its lock off; what it says stays, or nothing is written. */
export async function password({ files, out, password, newPassword }: Arguments): Promise<Answer> {
  need(files, 1, 'password COPY [--password-file OLD] [--new-password-file NEW] [--out FILE]');
  const file = files[0]!;
  const bytes = readBytes(file);
  const target = recognise(bytes);
  const codec = target && (await codecOf(target.id));
  if (!target || !codec?.lock)
    throw new Failure('not-known', `${file} is of no kind that can be locked with a password here.`, { file });
  const plain = await inFile(file, () => opened(codec, [{ part: '', bytes }], password));
  if (plain[0]!.bytes === bytes && newPassword === undefined)
    throw new Failure('usage', `${file} is not locked. Give a password with --new-password-file to lock it.`, { file });
  const made = newPassword === undefined ? plain[0]!.bytes : await codec.lock.close(plain[0]!.bytes, newPassword);
  const says = async (one: Uint8Array) =>
    digestOf(await codec.read(await opened(codec, [{ part: '', bytes: one }], newPassword), {}, services()));
  if ((await says(made)) !== digestOf(await codec.read(plain, {}, services())))
    throw new Failure('defect', 'Nothing was written: the file would say something else. This is a defect of ours.', { file });
  const place = out ?? file;
  writeWhole(place, made);
  const words =
    newPassword === undefined
      ? 'opens without a password now'
      : `is locked with ${declarationOf(target.id).locks!({})}. ${passwordWeakness(newPassword)}`.trimEnd();
  return {
    code: 0,
    output: { command: 'password', file, out: place, locked: newPassword !== undefined },
    lines: [`${place}: ${words}`],
  };
}
