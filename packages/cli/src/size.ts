import { Failure } from '@inkwell-twin/core';

/** Bytes in one of each unit (IEC 80000-13): those of a thousand, and those of 1024. */
const UNITS: Readonly<Record<string, number>> = { b: 1, kb: 1e3, mb: 1e6, gb: 1e9, kib: 1024, mib: 1024 ** 2, gib: 1024 ** 3 };

/** "5MB", "1.5 MiB" or "80000" in bytes. @throws Failure `usage` */
export function bytesIn(text: string): number {
  const [, number, unit = ''] = /^(\d+(?:\.\d+)?)\s*([a-z]*)$/i.exec(text.trim()) ?? [];
  const each = UNITS[unit.toLowerCase() || 'b'];
  const bytes = each && Math.floor(Number(number) * each);
  if (!bytes || !(bytes > 0)) throw new Failure('usage', `“${text}” is no size. Write it as 5MB, 800 kB or 1.5 MiB.`);
  return bytes;
}
