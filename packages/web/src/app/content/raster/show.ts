import type { ShownRaster } from '@inkwell-twin/core/web';
import { NO_CELLS } from '../../master/stage/brush';
import type { Shown } from '../shown';

/** Pixels, as they are looked at. */
export function showRaster({ width, height, mm, data }: ShownRaster): Shown {
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [width, height];
  const pixels = new ImageData(
    new Uint8ClampedArray(data.buffer as ArrayBuffer, data.byteOffset, data.byteLength),
    width,
    height,
  );
  canvas.getContext('2d')!.putImageData(pixels, 0, 0);
  const box = { minX: 0, minY: 0, maxX: mm.width, maxY: mm.height };
  return {
    fonts: [],
    sheet: mm,
    spans: [],
    cell: NO_CELLS,
    background: null,
    count: 1,
    pixels: { canvas, data, width, height },
    paint: (context, _entry, view) => {
      context.save();
      context.transform(mm.width / width, 0, 0, -mm.height / height, 0, mm.height);
      // Close by, one looks at the pixels themselves.
      context.imageSmoothingEnabled = (view.scale * mm.width) / width < 3;
      context.imageSmoothingQuality = 'high';
      context.drawImage(canvas, 0, 0);
      context.restore();
    },
    boxOf: () => box,
    isHit: () => false,
  };
}
