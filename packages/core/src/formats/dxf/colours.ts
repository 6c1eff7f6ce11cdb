import { nearestColour } from '../../content/drawing/colour';

/**
 * The colours that a DXF colour number (group 62) stands for: 1 to 9 are named in the format's reference, 10 to 249 run round
 * the hues in steps of 15° with five brightnesses, each full and half saturated, 250 to 255 are greys.
 */
const NAMED = ['#000000', '#ff0000', '#ffff00', '#00ff00', '#00ffff', '#0000ff', '#ff00ff', '#000000', '#808080', '#c0c0c0'];
const GREYS = ['#333333', '#505050', '#696969', '#828282', '#bebebe', '#ffffff'];
const BRIGHTNESS = [1, 0.8, 0.6, 0.5, 0.3];

function hueColour(number: number): string {
  const hue = Math.floor((number - 10) / 10) * 15;
  const value = BRIGHTNESS[Math.floor((number % 10) / 2)]! * 255;
  const low = number % 2 ? value / 2 : 0;
  const part = (shift: number) => {
    const k = (shift + hue / 60) % 6;
    const share = Math.max(0, Math.min(k, 4 - k, 1));
    return Math.round(value - (value - low) * share)
      .toString(16)
      .padStart(2, '0');
  };
  return `#${part(5)}${part(3)}${part(1)}`;
}

/** Colour by number; index 0 is not a colour of its own. 7 is black on light ground. */
export const COLOUR_OF_NUMBER: readonly string[] = Array.from({ length: 256 }, (_, number) =>
  number < 10 ? NAMED[number]! : number < 250 ? hueColour(number) : GREYS[number - 250]!,
);

/** All colours that can be written, each once. */
export const PALETTE: readonly string[] = [...new Set(COLOUR_OF_NUMBER.slice(1))];

const numbers = new Map<string, number>();
for (let number = 255; number >= 1; number--) numbers.set(COLOUR_OF_NUMBER[number]!, number);
// Black is number 7, which programs turn white on a dark ground.
numbers.set('#000000', 7);

/** The number of a palette colour; 7 for one that is not in the palette. */
export const numberOfColour = (colour: string | null): number => (colour && numbers.get(colour)) || 7;

/** A colour as groups of an entity or layer: by its number, and as it is beside it where the version has that (group 420). */
export const colourGroups = (colour: string, exact: boolean): string =>
  exact
    ? `62\n${numberOfColour(nearestColour(colour, PALETTE))}\n420\n${parseInt(colour.slice(1), 16)}\n`
    : `62\n${numberOfColour(colour)}\n`;
