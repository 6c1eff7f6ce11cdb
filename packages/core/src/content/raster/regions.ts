/** A part of a picture in which many pixels differ, pixels from the upper left. */
export interface Region {
  left: number;
  top: number;
  right: number;
  bottom: number;
  /** Pixels that differ. */
  count: number;
  worst: number;
  sum: number;
}

/** Pixels each way of the tiles that regions are made of. */
export const TILE = 8;

/** Collects pixels that differ, tile by tile, and joins tiles that touch. */
export class Regions {
  private readonly across: number;
  private readonly tiles = new Map<number, Region>();

  constructor(width: number) {
    this.across = Math.ceil(width / TILE) + 2;
  }

  add(x: number, y: number, amount: number): void {
    const key = (Math.floor(y / TILE) + 1) * this.across + Math.floor(x / TILE) + 1;
    const tile = this.tiles.get(key);
    if (!tile) this.tiles.set(key, { left: x, top: y, right: x + 1, bottom: y + 1, count: 1, worst: amount, sum: amount });
    else {
      grow(tile, x, y, x + 1, y + 1);
      tile.count++;
      tile.worst = Math.max(tile.worst, amount);
      tile.sum += amount;
    }
  }

  get size(): number {
    return this.tiles.size;
  }

  /** Regions of tiles that touch, largest difference first. */
  joined(): Region[] {
    const left = new Set(this.tiles.keys());
    const found: Region[] = [];
    for (const start of this.tiles.keys()) {
      if (!left.delete(start)) continue;
      const region = { ...this.tiles.get(start)! };
      const stack = [start];
      while (stack.length) {
        const at = stack.pop()!;
        for (const dy of [-1, 0, 1])
          for (const dx of [-1, 0, 1]) {
            const next = at + dy * this.across + dx;
            if (!left.delete(next)) continue;
            const tile = this.tiles.get(next)!;
            grow(region, tile.left, tile.top, tile.right, tile.bottom);
            region.count += tile.count;
            region.worst = Math.max(region.worst, tile.worst);
            region.sum += tile.sum;
            stack.push(next);
          }
      }
      found.push(region);
    }
    return found.sort((a, b) => b.sum - a.sum);
  }
}

function grow(region: Region, left: number, top: number, right: number, bottom: number): void {
  region.left = Math.min(region.left, left);
  region.top = Math.min(region.top, top);
  region.right = Math.max(region.right, right);
  region.bottom = Math.max(region.bottom, bottom);
}
