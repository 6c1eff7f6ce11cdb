import { scaling } from '../../base/geometry/matrix';
import { scaledStyle } from '../../contracts/display-list';
import type { Drawing } from '../../contracts/drawing';
import { placedClip } from '../../contracts/spans';

/** A drawing at another scale; what it is painted with stays as it is. */
export function scaled(drawing: Drawing, factor: number): Drawing {
  const { sheet, paths, looks, texts } = drawing;
  return {
    ...drawing,
    uses: [],
    sheet: sheet && { width: sheet.width * factor, height: sheet.height * factor },
    looks: looks.map((look) => scaledStyle(look, factor)),
    spans: drawing.spans.map((span) => ({
      ...span,
      clip: span.clip && span.clip.map((shape) => placedClip(shape, scaling(factor))),
    })),
    texts: texts.map(({ frame: [a, b, c, d, e, f], ...words }) => ({
      ...words,
      size: words.size * factor,
      ...(words.spacing ? { spacing: words.spacing * factor } : {}),
      frame: [a, b, c, d, e * factor, f * factor] as const,
    })),
    paths: { ...paths, coords: paths.coords.map((value) => value * factor) },
  };
}
