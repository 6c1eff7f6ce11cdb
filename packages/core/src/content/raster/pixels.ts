import { type Lab, deltaE, labOf } from '../../evaluate/pictures/lab';
import type { Pixels } from '../../contracts/pictures';

/** How far opacities may be apart, of 255. */
const THROUGH = 2;

/** Reads and compares single pixels of two pictures of the same size, as the eye sees them: 8 bits of each. */
export class Eye {
  private readonly shifts: readonly [number, number];
  private readonly known = new Map<number, Lab>();

  constructor(
    private readonly a: Pixels,
    private readonly b: Pixels,
  ) {
    this.shifts = [a.data instanceof Uint16Array ? 8 : 0, b.data instanceof Uint16Array ? 8 : 0];
  }

  private lab(pixels: Pixels, shift: number, i: number): Lab {
    const { data } = pixels;
    const [r, g, b] = [data[i]! >> shift, data[i + 1]! >> shift, data[i + 2]! >> shift];
    const key = (r << 16) | (g << 8) | b;
    let lab = this.known.get(key);
    if (!lab) {
      // A photograph has more colours than are worth keeping.
      if (this.known.size > 200_000) this.known.clear();
      this.known.set(key, (lab = labOf(r, g, b)));
    }
    return lab;
  }

  /** Whether two pixels are the very same. @param i @param j first part of each */
  same(i: number, j: number): boolean {
    const [p, q] = [this.a.data, this.b.data];
    return p[i] === q[j] && p[i + 1] === q[j + 1] && p[i + 2] === q[j + 2] && p[i + 3] === q[j + 3];
  }

  /** How different pixel `i` of the one looks from `j` of the other, ΔE; what shows little differs little. */
  apart(i: number, j: number): number {
    const [s, t] = this.shifts;
    const [alpha, beta] = [this.a.data[i + 3]! >> s, this.b.data[j + 3]! >> t];
    if (alpha === 0 && beta === 0) return 0;
    const through = Math.abs(alpha - beta);
    const colour = deltaE(this.lab(this.a, s, i), this.lab(this.b, t, j)) * (Math.min(alpha, beta) / 255);
    return Math.max(colour, through > THROUGH ? (100 * through) / 255 : 0);
  }
}
