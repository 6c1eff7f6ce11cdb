import { AROUND, type DrawingSink, type StatedLayer } from '../../content/drawing/sink';
import { COLOUR_OF_NUMBER } from './colours';
import type { DxfRecord } from './records';

/** A layer as group 8 of an entity means it, with what is drawn as its layer is. */
export interface NamedLayer {
  readonly number: number;
  readonly layer: StatedLayer | null;
  /** Line width in hundredths of a millimetre, and line type. */
  readonly lines: { readonly width: number; readonly type: string };
}
/** What is drawn on layer 0 of a block has the lines of the insert's layer, which are not known there. */
export const NO_LAYER: NamedLayer = { number: AROUND, layer: null, lines: { width: -1, type: '' } };

/** A colour stated by its red, green and blue parts (group 420) instead of by its number. */
export function exactColour(groups: DxfRecord): string | undefined {
  const exact = groups.number(420);
  return exact === undefined ? undefined : `#${(exact & 0xffffff).toString(16).padStart(6, '0')}`;
}

/** The layers of a file, those of its table and those that only entities name. */
export class Layers {
  private readonly byName = new Map<string, { number: number; layer: StatedLayer }>();
  private readonly lines = new Map<string, NamedLayer['lines']>();
  private readonly frozen = new Set<string>();
  /** By what stands in group 8, blanks included. */
  private readonly byText = new Map<string, NamedLayer>();

  /** @param showAll takes layers that are off as if they were on */
  constructor(
    private readonly sink: DrawingSink,
    private readonly showAll: boolean,
  ) {}

  private add(name: string, colour: string, visible: boolean, locked: boolean): { number: number; layer: StatedLayer } {
    const layer: StatedLayer = { name, colour, visible: visible || this.showAll, locked, process: 'cut' };
    const found = { number: this.sink.layer(layer), layer };
    this.byName.set(name.toUpperCase(), found);
    return found;
  }

  /** A record of the layer table. */
  read(record: DxfRecord): void {
    const colour = record.number(62, 7);
    const flags = record.number(70, 0);
    const name = record.text(2)?.trim() || '0';
    const shown = exactColour(record) ?? COLOUR_OF_NUMBER[Math.abs(colour)] ?? '#000000';
    this.add(name, shown, colour >= 0 && !(flags & 1), (flags & 4) === 4);
    if (flags & 1 && !this.showAll) this.frozen.add(name.toUpperCase());
    this.lines.set(name.toUpperCase(), {
      width: record.number(370, -1),
      type: record.text(6)?.trim().toUpperCase() ?? '',
    });
  }

  /** The layer that a name in group 8 means. */
  named(raw: string): NamedLayer {
    let found = this.byText.get(raw);
    if (!found) {
      const name = raw.trim() || '0';
      const key = name.toUpperCase();
      const layer = this.byName.get(key) ?? this.add(name, '#000000', true, false);
      found = { ...layer, lines: this.lines.get(key) ?? { width: -1, type: '' } };
      this.byText.set(raw, found);
    }
    return found;
  }

  /** Whether a layer is frozen: what is inserted on it is not there at all, on whatever layers it lies (DXF reference, LAYER). */
  isFrozen(name: string): boolean {
    return this.frozen.has(name.trim().toUpperCase());
  }

  /** A document has a layer, even where nothing is drawn. */
  atLeastOne(): void {
    if (!this.byName.size) this.add('0', '#000000', true, false);
  }
}
