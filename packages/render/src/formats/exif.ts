/** What a block of notes by a camera says that changes how a picture is shown (Exif 3.0, 4.6). */
interface Exif {
  /** 1 to 8: how it is turned and mirrored; 1 where it does not say. */
  readonly orientation: number;
  /** Pixels per inch; null where it does not say. */
  readonly ppi: number | null;
}

const [ORIENTATION, X_RESOLUTION, UNIT] = [0x112, 0x11a, 0x128];
const INTRODUCTION = [0x45, 0x78, 0x69, 0x66, 0, 0];
const CM_PER_INCH = 2.54;

/** Reads the first directory of such a block, with or without the six bytes that introduce it in some formats. */
export function exifOf(block: Uint8Array): Exif {
  const body = INTRODUCTION.every((byte, i) => block[i] === byte) ? block.subarray(6) : block;
  const view = new DataView(body.buffer, body.byteOffset, body.byteLength);
  const found = { orientation: 1, ppi: null as number | null };
  if (body.length < 8) return found;
  const little = body[0] === 0x49;
  const at = view.getUint32(4, little);
  if (at + 2 > body.length) return found;
  let [density, centimetres] = [0, false];
  const count = view.getUint16(at, little);
  for (let i = 0, entry = at + 2; i < count && entry + 12 <= body.length; i++, entry += 12) {
    const tag = view.getUint16(entry, little);
    if (tag === ORIENTATION) found.orientation = view.getUint16(entry + 8, little);
    if (tag === UNIT) centimetres = view.getUint16(entry + 8, little) === 3;
    const place = view.getUint32(entry + 8, little);
    if (tag === X_RESOLUTION && place + 8 <= body.length)
      density = view.getUint32(place, little) / view.getUint32(place + 4, little);
  }
  if (density > 0 && Number.isFinite(density)) found.ppi = density * (centimetres ? CM_PER_INCH : 1);
  return found;
}

/** Whether two densities are not one, beyond what is lost in writing them in other units, and in whole numbers by the library. */
export const otherDensity = (a: number | null, b: number | null): boolean =>
  a !== null && b !== null && Math.abs(a - b) > Math.max(0.51, 0.005 * Math.max(a, b));
