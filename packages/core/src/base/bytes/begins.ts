/** Whether a file begins with these bytes; letters stand for themselves. */
export const begins = (head: Uint8Array, ...parts: readonly (number | string)[]): boolean =>
  parts
    .flatMap((part) => (typeof part === 'number' ? [part] : [...part].map((letter) => letter.charCodeAt(0))))
    .every((byte, i) => head[i] === byte);
