/** "23 Nov, 16:40" in the reader's own time. */
export const timeInWords = (iso: string): string =>
  new Date(iso).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });

/** "1 copy", "3 copies", "100 000 rows". */
export const counted = (count: number, one: string, many = `${one}s`): string =>
  `${count > 9999 ? count.toLocaleString('en').replaceAll(',', '\u202f') : count} ${count === 1 ? one : many}`;

/** "420 mm", "1.42 m". @param length mm */
export const lengthInWords = (length: number): string =>
  length < 1000
    ? `${length < 10 ? length.toFixed(1) : Math.round(length)} mm`
    : `${(length / 1000).toFixed(length < 10_000 ? 2 : 1)} m`;

/** "42 s", "3 min 5 s". */
export function durationInWords(seconds: number): string {
  const whole = Math.round(seconds);
  return whole < 60 ? `${whole} s` : `${Math.floor(whole / 60)} min ${whole % 60} s`;
}

/** "1.9 kB". */
export const sizeInWords = (bytes: number): string =>
  bytes < 1000
    ? `${bytes} B`
    : bytes < 1e6
      ? `${(bytes / 1000).toFixed(bytes < 10_000 ? 1 : 0)} kB`
      : `${(bytes / 1e6).toFixed(1)} MB`;
