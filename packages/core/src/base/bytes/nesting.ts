const [QUOTE, BACKSLASH, OPEN, CLOSE, OPEN_LIST, CLOSE_LIST] = [0x22, 0x5c, 0x7b, 0x7d, 0x5b, 0x5d];

/**
 * Whether JSON is nested deeper than `most` levels of objects and lists; told before it is parsed, because what walks it may not
 * bear it. Looks at each sign once. @param signs its characters, or its bytes in UTF-8
 */
export function isNestedDeeper(signs: string | Uint8Array, most: number): boolean {
  const at = typeof signs === 'string' ? (i: number) => signs.charCodeAt(i) : (i: number) => signs[i]!;
  let depth = 0;
  let inString = false;
  for (let i = 0; i < signs.length; i++) {
    const sign = at(i);
    if (inString) {
      if (sign === BACKSLASH) i++;
      else if (sign === QUOTE) inString = false;
    } else if (sign === QUOTE) inString = true;
    else if (sign === OPEN || sign === OPEN_LIST) {
      if (++depth > most) return true;
    } else if (sign === CLOSE || sign === CLOSE_LIST) depth--;
  }
  return false;
}
