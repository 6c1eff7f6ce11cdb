import { toLight } from './tones';

export type Lab = readonly [lightness: number, a: number, b: number];

/** Light for each of 256 values of a part. */
const LIGHT = Float64Array.from({ length: 256 }, (_, i) => toLight(i / 255));
const bend = (t: number): number => (t > 216 / 24389 ? Math.cbrt(t) : (t * 24389) / 27 / 116 + 16 / 116);

/** CIE L*a*b* (white D65) of sRGB parts, 0 to 255 (IEC 61966-2-1, CIE 15). */
export function labOf(red: number, green: number, blue: number): Lab {
  const [r, g, b] = [LIGHT[red]!, LIGHT[green]!, LIGHT[blue]!];
  const x = bend((0.4124564 * r + 0.3575761 * g + 0.1804375 * b) / 0.95047);
  const y = bend(0.2126729 * r + 0.7151522 * g + 0.072175 * b);
  const z = bend((0.0193339 * r + 0.119192 * g + 0.9503041 * b) / 1.08883);
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}

const RAD = Math.PI / 180;

/** How different two colours look: CIEDE2000 (CIE 142-2001; formula as in Sharma, Wu and Dalal, 2005). */
export function deltaE([l1, a1, b1]: Lab, [l2, a2, b2]: Lab): number {
  const c = (Math.hypot(a1, b1) + Math.hypot(a2, b2)) / 2;
  const c7 = c ** 7;
  const g = 0.5 * (1 - Math.sqrt(c7 / (c7 + 25 ** 7)));
  const [p1, p2] = [a1 * (1 + g), a2 * (1 + g)];
  const [c1, c2] = [Math.hypot(p1, b1), Math.hypot(p2, b2)];
  const hue = (p: number, b: number) => (p === 0 && b === 0 ? 0 : (Math.atan2(b, p) / RAD + 360) % 360);
  const [h1, h2] = [hue(p1, b1), hue(p2, b2)];
  let dh = 0;
  if (c1 * c2 !== 0) {
    dh = h2 - h1;
    if (dh > 180) dh -= 360;
    else if (dh < -180) dh += 360;
  }
  const dH = 2 * Math.sqrt(c1 * c2) * Math.sin((dh / 2) * RAD);
  const [l, cm] = [(l1 + l2) / 2, (c1 + c2) / 2];
  let h = h1 + h2;
  if (c1 * c2 !== 0) h = Math.abs(h1 - h2) > 180 ? (h < 360 ? (h + 360) / 2 : (h - 360) / 2) : h / 2;
  const t =
    1 -
    0.17 * Math.cos((h - 30) * RAD) +
    0.24 * Math.cos(2 * h * RAD) +
    0.32 * Math.cos((3 * h + 6) * RAD) -
    0.2 * Math.cos((4 * h - 63) * RAD);
  const sl = 1 + (0.015 * (l - 50) ** 2) / Math.sqrt(20 + (l - 50) ** 2);
  const sc = 1 + 0.045 * cm;
  const sh = 1 + 0.015 * cm * t;
  const cm7 = cm ** 7;
  const rt = -2 * Math.sqrt(cm7 / (cm7 + 25 ** 7)) * Math.sin(60 * Math.exp(-(((h - 275) / 25) ** 2)) * RAD);
  const [dl, dc, dq] = [(l2 - l1) / sl, (c2 - c1) / sc, dH / sh];
  return Math.sqrt(dl * dl + dc * dc + dq * dq + rt * dc * dq);
}
