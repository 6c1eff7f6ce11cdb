/** What an instruction does with a path that was drawn. */
interface Painting {
  readonly fill: boolean;
  readonly stroke: boolean;
  readonly rule: 'nonzero' | 'evenodd';
  readonly close: boolean;
}
const painting = (fill: boolean, stroke: boolean, rule: Painting['rule'], close = false): Painting => ({
  fill,
  stroke,
  rule,
  close,
});
/** Instructions that paint what was drawn (ISO 32000-1, 8.5.3). */
export const PAINTING: Readonly<Record<string, Painting>> = {
  stroke: painting(false, true, 'nonzero'),
  closeStroke: painting(false, true, 'nonzero', true),
  fill: painting(true, false, 'nonzero'),
  // The library's own: the outlines of a letter that was a picture.
  rawFillPath: painting(true, false, 'nonzero'),
  eoFill: painting(true, false, 'evenodd'),
  fillStroke: painting(true, true, 'nonzero'),
  eoFillStroke: painting(true, true, 'evenodd'),
  closeFillStroke: painting(true, true, 'nonzero', true),
  closeEOFillStroke: painting(true, true, 'evenodd', true),
};

/** A path whose last outline is closed. */
export function closed(data: Float32Array): Float32Array {
  const made = new Float32Array(data.length + 1);
  made.set(data);
  made[data.length] = 4;
  return made;
}
