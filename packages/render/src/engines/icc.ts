const text = (bytes: Uint8Array, from: number, to: number): string => new TextDecoder('latin1').decode(bytes.subarray(from, to));

/**
 * What a colour profile calls itself (ICC.1:2022, 9.2.41: the tag `desc`, in either of its forms).
 * @returns "a profile" where it does not say
 */
export function profileName(icc: Uint8Array): string {
  const stated = statedName(icc);
  // Profiles of the two spaces that copies are made in go by many names.
  return /srgb/i.test(stated) ? 'sRGB' : /p3/i.test(stated) ? 'Display P3' : stated;
}

function statedName(icc: Uint8Array): string {
  const view = new DataView(icc.buffer, icc.byteOffset, icc.byteLength);
  const unnamed = 'a profile';
  if (icc.length < 132) return unnamed;
  const count = Math.min(view.getUint32(128), 100);
  for (let i = 0; i < count && 132 + 12 * (i + 1) <= icc.length; i++) {
    const entry = 132 + 12 * i;
    if (text(icc, entry, entry + 4) !== 'desc') continue;
    const [at, size] = [view.getUint32(entry + 4), view.getUint32(entry + 8)];
    if (at + size > icc.length || size < 28) return unnamed;
    if (text(icc, at, at + 4) === 'desc') {
      const length = Math.min(view.getUint32(at + 8), size - 12);
      return text(icc, at + 12, at + 12 + Math.max(0, length - 1)) || unnamed;
    }
    const [length, offset] = [view.getUint32(at + 20), view.getUint32(at + 24)];
    if (offset + length > size) return unnamed;
    return new TextDecoder('utf-16be').decode(icc.subarray(at + offset, at + offset + length)) || unnamed;
  }
  return unnamed;
}
