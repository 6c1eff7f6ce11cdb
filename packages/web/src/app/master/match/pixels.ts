import type { Shown } from '../../content/shown';

export type ShownPixels = NonNullable<Shown['pixels']>;

/** What differs less is not shown, parts of 255. */
const LEAST = 2;

/**
 * Where two pictures of one size differ: the darker, the more; nothing where they do not.
 * @param ink red, green and blue of the most
 */
export function differenceMap(a: ShownPixels, b: ShownPixels, ink: readonly [number, number, number]): HTMLCanvasElement {
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [a.width, a.height];
  const context = canvas.getContext('2d')!;
  const map = context.createImageData(a.width, a.height);
  const same = a.width === b.width && a.height === b.height;
  for (let i = 0; i < a.data.length && same; i += 4) {
    const [p, q] = [a.data[i + 3]! / 255, b.data[i + 3]! / 255];
    let most = Math.abs(a.data[i + 3]! - b.data[i + 3]!);
    for (let part = 0; part < 3; part++) most = Math.max(most, Math.abs(a.data[i + part]! * p - b.data[i + part]! * q));
    if (most < LEAST) continue;
    map.data.set([...ink, Math.min(255, 70 + 3 * most)], i);
  }
  context.putImageData(map, 0, 0);
  return canvas;
}

/** Pixels each way that the loupe shows, and how large each is there. */
const [SIDE, LARGE] = [9, 11];

/** Colour and opacity of a pixel in words. */
function valueAt({ data, width, height }: ShownPixels, x: number, y: number): string {
  if (x < 0 || y < 0 || x >= width || y >= height) return 'outside';
  const i = 4 * (y * width + x);
  if (!data[i + 3]) return 'see-through';
  const colour = `#${[0, 1, 2].map((part) => data[i + part]!.toString(16).padStart(2, '0')).join('')}`;
  return data[i + 3] === 255 ? colour : `${colour} at ${Math.round((data[i + 3]! / 255) * 100)} %`;
}

/** Both sides under the pointer, large, with their values; the context has the canvas's own pixels. @param x @param y shares of the picture */
export function paintLoupe(
  context: CanvasRenderingContext2D,
  sides: readonly [ShownPixels, ShownPixels],
  x: number,
  y: number,
  at: { readonly ground: string; readonly ink: string; readonly line: string; readonly left: number },
): void {
  const wide = SIDE * LARGE;
  context.save();
  context.translate(at.left, 0);
  context.fillStyle = at.ground;
  context.fillRect(10, 10, 2 * wide + 30, wide + 44);
  context.strokeStyle = at.line;
  context.strokeRect(10.5, 10.5, 2 * wide + 29, wide + 43);
  context.font = `12px ${getComputedStyle(document.body).fontFamily}`;
  context.imageSmoothingEnabled = false;
  sides.forEach((side, k) => {
    const left = 20 + k * (wide + 10);
    const [px, py] = [Math.floor(x * side.width), Math.floor(y * side.height)];
    const half = (SIDE - 1) / 2;
    context.drawImage(side.canvas, px - half, py - half, SIDE, SIDE, left, 20, wide, wide);
    context.strokeRect(left + half * LARGE - 0.5, 20 + half * LARGE - 0.5, LARGE + 1, LARGE + 1);
    context.fillStyle = at.ink;
    context.fillText(k ? 'copy' : 'master', left, wide + 34);
    context.fillText(valueAt(side, px, py), left, wide + 49);
  });
  context.restore();
}
