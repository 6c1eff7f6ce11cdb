import { fromBase64 } from '../../base/bytes/base64';
import { Failure } from '../../base/failure/failure';
import { type CarriedFont, LetterCount, type OpenFont } from '../../contracts/carried-font';
import type { Properties } from './properties';
import { fontFamilies, isBold, isItalic } from './font-words';

/** A font as a style sheet brings it (CSS Fonts 3, 4.1): what it is called, and its bytes where they stand in the file. */
export interface FontFace {
  readonly family: string;
  readonly bold: boolean;
  readonly italic: boolean;
  /** The data of a `data:` address; what is elsewhere is not fetched. */
  readonly data: string;
}

/** The face that the declarations of a `@font-face` rule state; null where its bytes are not in the file. */
export function faceOfRule(declarations: Readonly<Record<string, string>>): FontFace | null {
  const data = /url\(\s*['"]?data:[^,'")]*;base64,([^'")]+)/.exec(declarations['src'] ?? '')?.[1];
  const [family] = fontFamilies(declarations['font-family']);
  return data && family
    ? { family: family.toLowerCase(), bold: isBold(declarations), italic: isItalic(declarations), data }
    : null;
}

/** The bytes of a face; null where what should be Base64 is not. */
function bytesOf({ data }: FontFace): Uint8Array | null {
  try {
    return fromBase64(data);
  } catch (error) {
    if (error instanceof Failure) return null;
    throw error;
  }
}

/** The fonts that a drawing carries, each opened when it is first asked for. */
export class CarriedFonts {
  private readonly opened = new Map<FontFace, CarriedFont | null>();
  readonly count = new LetterCount();

  constructor(
    private readonly faces: readonly FontFace[],
    private readonly open: OpenFont,
  ) {}

  /** The carried font that a text is set in; null where there is none, or where it lacks a letter. */
  find(properties: Properties, text: string): CarriedFont | null {
    if (!this.faces.length) return null;
    const [bold, italic] = [isBold(properties), isItalic(properties)];
    const unlike = (face: FontFace) => Number(face.bold !== bold) + Number(face.italic !== italic);
    for (const family of fontFamilies(properties['font-family'])) {
      const [face] = this.faces.filter((one) => one.family === family.toLowerCase()).sort((a, b) => unlike(a) - unlike(b));
      const font = face && this.fontOf(face);
      if (font) return font.covers(text) ? font : null;
    }
    return null;
  }

  private fontOf(face: FontFace): CarriedFont | null {
    let font = this.opened.get(face);
    if (font === undefined) {
      const bytes = bytesOf(face);
      font = bytes && this.open(bytes);
      this.opened.set(face, font);
    }
    return font;
  }
}
