import type { ProfileName } from './picture-encoding';
import type { Master } from './schema';

/** A size that is usual for something, mm, upright or level as it is written. */
export interface UsualSize {
  readonly name: string;
  readonly width: number;
  readonly height: number;
}

/** What a new master is for: a sensible size, unit and background, all of which can be changed. */
export interface Purpose {
  readonly id: string;
  readonly label: string;
  readonly unit: Master['unit'];
  readonly width: number;
  readonly height: number;
  readonly background: string | null;
  readonly process: 'print' | 'cut';
  readonly sizes: readonly UsualSize[];
  /** Pixels per inch of copies in pixels, and the colours that they are stated in; nothing for what is cut. */
  readonly ppi?: number;
  readonly profile?: ProfileName;
}

/** Pixels of a screen at the 96 to the inch that CSS counts by (CSS Values 4, 6.2), as mm. */
const pixels = (across: number, down: number): UsualSize => ({
  name: `${across} × ${down} pixels`,
  width: Number(((across * 25.4) / 96).toFixed(3)),
  height: Number(((down * 25.4) / 96).toFixed(3)),
});
const size = (name: string, width: number, height: number): UsualSize => ({ name, width, height });

export const PURPOSES: readonly Purpose[] = [
  {
    id: 'sheet',
    label: 'Printed sheet',
    ppi: 300,
    profile: 'sRGB',
    unit: 'mm',
    width: 210,
    height: 297,
    background: '#ffffff',
    process: 'print',
    // ISO 216, ISO 269 and ANSI/ASME Y14.1.
    sizes: [
      size('A4', 210, 297),
      size('A3', 297, 420),
      size('A2', 420, 594),
      size('A1', 594, 841),
      size('A0', 841, 1189),
      size('A5', 148, 210),
      size('A6', 105, 148),
      size('B5', 176, 250),
      size('B4', 250, 353),
      size('DL', 110, 220),
      size('ANSI A', 215.9, 279.4),
      size('ANSI B', 279.4, 431.8),
    ],
  },
  {
    id: 'panel',
    label: 'Cut or routed panel',
    unit: 'mm',
    width: 400,
    height: 150,
    background: null,
    process: 'cut',
    sizes: [
      size('Sign, 400 × 150', 400, 150),
      size('Plate, 300 × 200', 300, 200),
      size('Board, 600 × 300', 600, 300),
      size('Quarter sheet', 1220, 610),
      size('Half sheet', 1220, 1220),
      size('Whole sheet', 2440, 1220),
    ],
  },
  {
    id: 'screen',
    label: 'Picture for a screen',
    ppi: 96,
    profile: 'sRGB',
    unit: 'mm',
    width: 338.667,
    height: 190.5,
    background: '#ffffff',
    process: 'print',
    sizes: [
      pixels(1280, 720),
      pixels(1920, 1080),
      pixels(2560, 1440),
      pixels(3840, 2160),
      pixels(1080, 1080),
      pixels(1080, 1350),
    ],
  },
  {
    id: 'device',
    label: 'Display of a device',
    ppi: 96,
    profile: 'sRGB',
    unit: 'mm',
    ...sizeOnly(pixels(800, 480)),
    background: '#000000',
    process: 'print',
    sizes: [pixels(800, 480), pixels(320, 240), pixels(480, 320), pixels(1024, 600), pixels(390, 844), pixels(768, 1024)],
  },
  {
    id: 'photograph',
    label: 'Photograph',
    ppi: 300,
    profile: 'Display P3',
    unit: 'mm',
    width: 150,
    height: 100,
    background: '#ffffff',
    process: 'print',
    sizes: [
      size('10 × 15 cm', 150, 100),
      size('13 × 18 cm', 180, 130),
      size('20 × 30 cm', 300, 200),
      size('30 × 45 cm', 450, 300),
      size('50 × 70 cm', 700, 500),
      size('4 × 6 in', 152.4, 101.6),
      size('8 × 10 in', 254, 203.2),
    ],
  },
];
function sizeOnly({ width, height }: UsualSize): { width: number; height: number } {
  return { width, height };
}
