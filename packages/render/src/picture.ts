import { Resvg } from '@resvg/resvg-js';

/**
 * A drawing as a small picture. Text has to be outlines already: no font is looked for.
 * @param size pixels of the longer side
 * @returns the bytes of a PNG
 */
export function drawPicture(svg: string, size: number): Uint8Array {
  const [, width = 1, height = 1] = (/viewBox="0 0 ([\d.]+) ([\d.]+)"/.exec(svg) ?? []).map(Number);
  const fitTo = width >= height ? ({ mode: 'width', value: size } as const) : ({ mode: 'height', value: size } as const);
  return new Resvg(svg, { fitTo, font: { loadSystemFonts: false } }).render().asPng();
}
