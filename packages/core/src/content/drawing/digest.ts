import type { Hasher } from '../../base/bytes/hasher';
import { styleKey } from '../../contracts/display-list';
import { spanKey } from '../../contracts/spans';
import type { Drawing } from '../../contracts/drawing';

/** Thousandths, as they are compared. */
const round = (value: number): number => Math.round(value * 1000) + 0;

/** Numbers of things by what they are, in the order in which they first turn up: the same on either side of a file. */
class Numbering {
  private readonly byText = new Map<string, number>();
  private readonly known: number[] = [];

  constructor(private readonly textOf: (index: number) => string) {}

  of(index: number): number {
    let number = this.known[index];
    if (number === undefined) {
      const text = this.textOf(index);
      number = this.byText.get(text) ?? this.byText.size;
      this.byText.set(text, number);
      this.known[index] = number;
    }
    return number;
  }

  get texts(): string[] {
    return [...this.byText.keys()];
  }
}

/**
 * What a drawing says, to a thousandth of a millimetre: typed numbers, hashed as they lie. Equal drawings put in the same,
 * however their tables are ordered.
 */
export function digestDrawing(drawing: Drawing, into: Hasher): void {
  const { sheet, background, count, paths } = drawing;
  const layers = new Numbering((i) => JSON.stringify([drawing.layers[i]!.name, drawing.layers[i]!.colour]));
  const looks = new Numbering((i) => styleKey(drawing.looks[i]!, round));
  const shape = new Uint32Array(3 * count + 2 * paths.count);
  let at = 0;
  const texts: string[] = [];
  for (let i = 0; i < count; i++) {
    shape[at++] = layers.of(drawing.layer[i]!);
    shape[at++] = looks.of(drawing.look[i]!);
    const words = drawing.texts[drawing.text[i]!];
    if (words) {
      const { text, font, align, size, frame, spacing } = words;
      texts.push(JSON.stringify([text, font, align, round(size), frame.map(round), ...(spacing ? [round(spacing)] : [])]));
      shape[at++] = 0xffffffff;
      continue;
    }
    shape[at++] = drawing.firstOutline[i + 1]! - drawing.firstOutline[i]!;
    for (let o = drawing.firstOutline[i]!; o < drawing.firstOutline[i + 1]!; o++) {
      shape[at++] = paths.firstVerb[o + 1]! - paths.firstVerb[o]!;
      shape[at++] = paths.closed[o]!;
    }
  }
  const coords = new Float64Array(paths.coords.length);
  for (let i = 0; i < coords.length; i++) coords[i] = round(paths.coords[i]!);
  const size = sheet && [round(sheet.width), round(sheet.height)];
  const spans = drawing.spans.map((span) => spanKey(span, round));
  into
    .update(JSON.stringify([size, background, layers.texts, looks.texts, texts, ...(spans.length ? [spans] : [])]))
    .update(shape.subarray(0, at))
    .update(paths.verbs)
    .update(coords);
}
