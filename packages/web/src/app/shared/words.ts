/** "23 Nov, 16:40" in the reader's own time. */
export const timeInWords = (iso: string): string =>
  new Date(iso).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });

/** "1 copy", "3 copies", "100 000 rows". */
export const counted = (count: number, one: string, many = `${one}s`): string =>
  `${count > 9999 ? count.toLocaleString('en').replaceAll(',', '\u202f') : count} ${count === 1 ? one : many}`;

/** "1.9 kB". */
export const sizeInWords = (bytes: number): string =>
  bytes < 1000
    ? `${bytes} B`
    : bytes < 1e6
      ? `${(bytes / 1000).toFixed(bytes < 10_000 ? 1 : 0)} kB`
      : `${(bytes / 1e6).toFixed(1)} MB`;
