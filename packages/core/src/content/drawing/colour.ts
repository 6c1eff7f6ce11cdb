const parse = (colour: string): [number, number, number] => [
  parseInt(colour.slice(1, 3), 16),
  parseInt(colour.slice(3, 5), 16),
  parseInt(colour.slice(5, 7), 16),
];

/** Squared distance of two sRGB colours, weighted by how the eye tells them apart (redmean approximation). */
function apart(a: string, b: string): number {
  const [r, g, blue] = parse(a);
  const [s, h, c] = parse(b);
  const red = (r + s) / 2;
  return (2 + red / 256) * (r - s) ** 2 + 4 * (g - h) ** 2 + (2 + (255 - red) / 256) * (blue - c) ** 2;
}

const found = new WeakMap<readonly string[], Map<string, string>>();

/** The colour of a list that looks most like the one given. */
export function nearestColour(colour: string, palette: readonly string[]): string {
  let cache = found.get(palette);
  if (!cache) found.set(palette, (cache = new Map()));
  let best = cache.get(colour);
  if (best === undefined) {
    best = palette.reduce((a, b) => (apart(colour, b) < apart(colour, a) ? b : a));
    cache.set(colour, best);
  }
  return best;
}
