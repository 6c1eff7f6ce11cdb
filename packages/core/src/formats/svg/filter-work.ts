/** Steps that a part may take to draw: some seconds on a slow machine, and on each machine the same picture. */
const MOST_STEPS = 150_000_000;

const numbers = (text: string | undefined): number[] => (text?.match(/[\d.]+(e[-+]?\d+)?/gi) ?? []).map(Number);

/** Steps for each pixel, by the element of a filter (Filter Effects Level 1, 9); the others look at a pixel once or twice. */
const STEPS: Readonly<Record<string, (attribute: (name: string) => string | undefined, perUnit: number) => number>> = {
  // Three boxes each way make a blur, however wide it is.
  GaussianBlur: () => 6,
  DropShadow: () => 8,
  Turbulence: (attribute) => 8 * (numbers(attribute('numOctaves'))[0] ?? 1),
  ConvolveMatrix: (attribute) => {
    const [across = 3, up = across] = numbers(attribute('order'));
    return across * up;
  },
  Morphology: (attribute, perUnit) => {
    const [across = 0, up = across] = numbers(attribute('radius'));
    return (2 * across * perUnit + 1) * (2 * up * perUnit + 1);
  },
};

/** What the filters in a drawing take for each pixel. @param perUnit pixels to a unit of the drawing */
function stepsOf(markup: string, perUnit: number): number {
  let steps = 1;
  for (const [, name, attributes] of markup.matchAll(/<fe([A-Za-z]+)([^A-Za-z>][^>]*)?>/g)) {
    const attribute = (wanted: string) => new RegExp(`\\b${wanted}="([^"]*)"`).exec(attributes ?? '')?.[1];
    steps += STEPS[name!]?.(attribute, perUnit) ?? 2;
  }
  return steps;
}

/**
 * How finely a part under filters can be drawn. What a filter does to each pixel can take longer the finer it is: it looks at
 * more of them around it.
 * @param markup the part with its filters
 * @param area of the part, square units
 * @param wanted pixels to a unit
 * @returns pixels to a unit, at most those that are wanted
 */
export function affordableScale(markup: string, area: number, wanted: number): number {
  let scale = wanted;
  while (scale > 1e-12 && area * scale * scale * stepsOf(markup, scale) > MOST_STEPS) scale *= 0.9;
  return scale;
}
