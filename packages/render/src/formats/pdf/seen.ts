import { type Raster, heldRows } from '@inkwell-twin/core';
import { openForSight } from './read/open';

/** Pixels to the inch at which pages are looked at, and how many of a page and of all pages. */
const PPI = 150;
const MOST_OF_ONE = 6_000_000;
const MOST = 60_000_000;
const POINT = 72;

/**
 * The pages of a PDF as they are seen, notes on them included; null where that is more than is looked at.
 * @throws Failure `pdf-encrypted`, `pdf-damaged`
 */
export async function seenPages(bytes: Uint8Array): Promise<Raster[] | null> {
  // Loaded when it is first needed: few checks look at anything.
  const { createCanvas } = await import('@napi-rs/canvas');
  const pdf = await openForSight(bytes);
  try {
    const pages: Raster[] = [];
    let left = MOST;
    for (let i = 1; i <= pdf.numPages; i++) {
      const page = await pdf.getPage(i);
      const plain = page.getViewport({ scale: 1 });
      // Lines of large sheets are wide enough to be seen at less.
      const scale = Math.min(PPI / POINT, Math.sqrt(MOST_OF_ONE / (plain.width * plain.height)));
      const viewport = page.getViewport({ scale });
      const [width, height] = [Math.max(1, Math.ceil(viewport.width)), Math.max(1, Math.ceil(viewport.height))];
      if ((left -= width * height) < 0) return null;
      const canvas = createCanvas(width, height);
      const context = canvas.getContext('2d');
      await page.render({ canvas: null, canvasContext: context as never, viewport, background: '#ffffff' }).promise;
      const data = new Uint8Array(context.getImageData(0, 0, width, height).data);
      pages.push({ rows: heldRows({ width, height, data }), alpha: false, depth: 8, profile: null, ppi: scale * POINT });
      page.cleanup();
    }
    return pages;
  } finally {
    await pdf.loadingTask.destroy();
  }
}
