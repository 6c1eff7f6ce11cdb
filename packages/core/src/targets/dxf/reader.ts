import { Failure, asFailure } from '../../failure/failure';
import { type Matrix, apply, identity, invert, multiply, scaling, translation } from '../../geometry/matrix';
import { type Outline, transformOutline } from '../../geometry/outline';
import type { Point } from '../../geometry/point';
import { Budget } from '../../master/limits';
import type { FontName, Item, Layer, PathItem, Style, SymbolDefinition } from '../../master/schema';
import { Tally } from '../bytes';
import { COLOUR_OF_NUMBER } from './colours';
import { ENTITIES } from './entities';
import { fontOfFile } from './fonts';
import type { DxfFile, DxfRecord } from './records';

/** Millimetres per drawing unit, by $INSUNITS. */
const MM_PER_UNIT: Record<number, number> = {
  1: 25.4,
  2: 304.8,
  4: 1,
  5: 10,
  6: 1000,
  8: 25.4e-6,
  9: 0.0254,
  10: 914.4,
  13: 0.001,
  14: 100,
};

const BLOCK_DEPTH = 16;

interface Block {
  readonly origin: Point;
  readonly records: DxfRecord[];
}

interface NamedLayer {
  readonly layer: Layer | null;
  readonly lines: { readonly width: number; readonly type: string };
}
/** What is drawn on layer 0 of a block has the lines of the insert's layer, which are not known there. */
const NO_LAYER: NamedLayer = { layer: null, lines: { width: -1, type: '' } };
/** What a kept entity is called until someone names it. */
const NAMES: Readonly<Record<string, string>> = { LWPOLYLINE: 'polyline' };
/** Groups that lead off the board: z of either end, elevation, thickness, extrusion. */
const SPACE = [30, 31, 38, 39, 210, 220];

/** A colour stated by its red, green and blue parts (group 420) instead of by its number. */
function exactColour(groups: DxfRecord): string | undefined {
  const exact = groups.number(420);
  return exact === undefined ? undefined : `#${(exact & 0xffffff).toString(16).padStart(6, '0')}`;
}

/** Walks a DXF file's entities and makes items of them, in board millimetres. */
export class DxfReader {
  readonly tally = new Tally();
  readonly layers: Layer[] = [];
  readonly items: Item[] = [];
  readonly unitStated: boolean;
  /** From the drawing's axes to the board's, in millimetres. */
  private readonly onBoard: Matrix;
  /** From a block's axes to its symbol's: the unit alone, because a symbol does not lie on the board before it is used. */
  private readonly inSymbol: Matrix;
  private readonly unscale: Matrix;
  private readonly layerByName = new Map<string, Layer>();
  /** Line width (hundredths of a millimetre) and line type of each layer, for what is drawn as its layer is. */
  private readonly layerLines = new Map<string, NamedLayer['lines']>();
  /** Layers by what stands in group 8, blanks included. */
  private readonly layerByText = new Map<string, NamedLayer>();
  private readonly styles = new Map<string, Style>();
  private readonly fonts = new Map<string, { font: FontName; exact: boolean }>();
  private readonly blocks = new Map<string, Block>();
  private readonly made = new Map<string, SymbolDefinition | null>();
  private readonly budget = new Budget();
  private symbolCount = 0;
  private depth = 0;

  /**
   * @param keep true when the result is kept as a master: lines then get a width and text its colour as a fill
   * @param shift moves everything, mm
   */
  constructor(
    file: DxfFile,
    private readonly keep: boolean,
    shift: Point = [0, 0],
  ) {
    const header = this.header(file);
    const unit = MM_PER_UNIT[Number(header.get('$INSUNITS') ?? 0)];
    this.unitStated = unit !== undefined;
    this.inSymbol = scaling(unit ?? 1);
    this.onBoard = multiply(translation(...shift), this.inSymbol);
    this.unscale = invert(this.inSymbol)!;
    this.readTables(file.sections.get('TABLES') ?? []);
    this.readBlocks(file.sections.get('BLOCKS') ?? []);
    const entities = file.sections.get('ENTITIES');
    if (!entities)
      throw new Failure('dxf-damaged', 'The DXF file has no ENTITIES section, so nothing is drawn in it.', { line: 1 });
    this.items.push(...this.read(entities));
  }

  get symbols(): SymbolDefinition[] {
    return [...this.made.values()].filter((symbol): symbol is SymbolDefinition => symbol !== null);
  }

  private header(file: DxfFile): Map<string, string> {
    const found = new Map<string, string>();
    const record = file.sections.get('HEADER')?.[0];
    let name = '';
    record?.each((code, _number, text) => {
      if (code === 9) name = text().trim();
      else if (!found.has(name)) found.set(name, text().trim());
    });
    return found;
  }

  private readTables(records: readonly DxfRecord[]): void {
    for (const record of records) {
      const groups = record;
      if (record.type === 'LAYER') {
        const colour = groups.number(62, 7);
        const flags = groups.number(70, 0);
        const name = groups.text(2)?.trim() || '0';
        this.addLayer(
          name,
          exactColour(groups) ?? COLOUR_OF_NUMBER[Math.abs(colour)] ?? '#000000',
          colour >= 0 && !(flags & 1),
          (flags & 4) === 4,
        );
        this.layerLines.set(name.toUpperCase(), {
          width: groups.number(370, -1),
          type: groups.text(6)?.trim().toUpperCase() ?? '',
        });
      } else if (record.type === 'STYLE')
        this.fonts.set((groups.text(2) ?? '').trim().toUpperCase(), fontOfFile((groups.text(3) ?? '').trim()));
    }
  }

  private addLayer(name: string, colour: string, visible: boolean, locked: boolean): Layer {
    const layer: Layer = {
      id: `layer-${this.layers.length + 1}`,
      name: name.slice(0, 200),
      colour,
      visible,
      locked,
      process: 'cut',
    };
    this.layers.push(layer);
    this.layerByName.set(name.toUpperCase(), layer);
    return layer;
  }

  private readBlocks(records: readonly DxfRecord[]): void {
    let block: Block | undefined;
    for (const record of records) {
      if (record.type === 'BLOCK') {
        const groups = record;
        block = { origin: [groups.number(10, 0), groups.number(20, 0)], records: [] };
        this.blocks.set((groups.text(2) ?? '').trim().toUpperCase(), block);
      } else if (record.type === 'ENDBLK') block = undefined;
      else block?.records.push(record);
    }
  }

  private read(records: readonly DxfRecord[]): Item[] {
    const items: Item[] = [];
    for (let i = 0; i < records.length; i++) {
      const record = records[i]!;
      const groups = record;
      if (groups.number(67, 0) === 1) {
        this.tally.addUnseen('object on a sheet layout');
        continue;
      }
      const make = ENTITIES[record.type];
      if (!make) {
        if (record.type !== 'SEQEND' && record.type !== 'VERTEX') this.tally.add(`entity ${record.type}`);
        continue;
      }
      if (groups.number(60, 0) === 1) this.tally.addUnseen('hidden entity');
      else
        try {
          items.push(...make(groups, this, () => records[++i]));
        } catch (error) {
          const failure = asFailure(error);
          throw failure.where.line === undefined
            ? new Failure(failure.code, `${record.type}: ${failure.message}`, { line: record.line })
            : failure;
        }
    }
    return items;
  }

  /** The symbol that a block became, or null where the block is missing, empty or inside itself. */
  symbol(name: string): SymbolDefinition | null {
    const key = name.toUpperCase();
    const known = this.made.get(key);
    if (known !== undefined) return known;
    const block = this.blocks.get(key);
    if (!block) {
      this.tally.add('insert of a missing block');
      return null;
    }
    if (this.depth >= BLOCK_DEPTH)
      throw new Failure('dxf-block-cycle', `Blocks are nested more than ${BLOCK_DEPTH} deep at “${name}”.`);
    this.made.set(key, null);
    this.depth++;
    const items = this.read(block.records);
    this.depth--;
    const symbol: SymbolDefinition | null = items.length
      ? {
          id: `symbol-${++this.symbolCount}`,
          name: name.slice(0, 200) || 'Block',
          anchor: apply(this.inSymbol, block.origin),
          items,
        }
      : null;
    // Map order is creation order: inner symbols come before the ones that use them.
    this.made.delete(key);
    this.made.set(key, symbol);
    return symbol;
  }

  /** The layer that a name in group 8 means, with its lines. */
  private layerNamed(raw: string): NamedLayer {
    let found = this.layerByText.get(raw);
    if (!found) {
      const name = raw.trim() || '0';
      const key = name.toUpperCase();
      const layer = this.layerByName.get(key) ?? this.addLayer(name, '#000000', true, false);
      found = { layer, lines: this.layerLines.get(key) ?? { width: -1, type: '' } };
      this.layerByText.set(raw, found);
    }
    return found;
  }

  /** Inside a block, layer 0 means the layer of the insert. */
  private layerOf(groups: DxfRecord): Layer | null {
    const raw = groups.text(8) ?? '0';
    if (this.depth && raw.trim() === '0') return null;
    return this.layerNamed(raw).layer;
  }

  base(groups: DxfRecord): { id: string; layer: string | null } {
    return { id: `e${this.budget.object({ line: groups.line })}`, layer: this.layerOf(groups)?.id ?? null };
  }

  private colour(groups: DxfRecord): string {
    const exact = exactColour(groups);
    if (exact !== undefined) return exact;
    const number = groups.number(62, 256);
    const own = number > 0 && number < 256 ? COLOUR_OF_NUMBER[number] : undefined;
    return own ?? this.layerOf(groups)?.colour ?? '#000000';
  }

  private lineStyle(groups: DxfRecord): Style {
    const { lines } = this.depth && (groups.text(8) ?? '0').trim() === '0' ? NO_LAYER : this.layerNamed(groups.text(8) ?? '0');
    const own = groups.number(370, -1);
    const hundredths = own === -1 ? lines.width : own;
    const named = groups.text(6)?.trim().toUpperCase() || 'BYLAYER';
    const type = named === 'BYLAYER' ? lines.type : named;
    if (type && type !== 'CONTINUOUS' && type !== 'BYBLOCK') this.tally.add(`line type ${type}`);
    const strokeWidth = hundredths > 0 ? hundredths / 100 : this.keep ? 0.25 : 0;
    const stroke = this.colour(groups);
    // One object for each look: a drawing has few, and many entities.
    const key = `${stroke} ${strokeWidth}`;
    let style = this.styles.get(key);
    if (!style) this.styles.set(key, (style = { fill: null, stroke, strokeWidth }));
    return style;
  }

  textStyle(groups: DxfRecord): Style {
    const style = this.lineStyle(groups);
    return this.keep ? { fill: style.stroke, stroke: null, strokeWidth: 0 } : style;
  }

  font(groups: DxfRecord): FontName {
    const style = (groups.text(7)?.trim() || 'STANDARD').toUpperCase();
    const found = this.fonts.get(style) ?? { font: 'Commissioner' as const, exact: false };
    if (!found.exact) this.tally.add(`text style ${style}, shown in ${found.font}`);
    return found.font;
  }

  /** From drawing units to millimetres, in the axes of what is being read: the board or a symbol. */
  get scale(): Matrix {
    return this.depth ? this.inSymbol : this.onBoard;
  }

  place(at: Point): Point {
    return apply(this.scale, at);
  }

  /** Where an insert puts its block, as a map from the symbol's millimetres to those of what is being read. */
  fromSymbol(matrix: Matrix): Matrix {
    return multiply(multiply(this.scale, matrix), this.unscale);
  }

  /** Says what of an entity does not lie on the board: heights, thickness, a direction other than straight up or down. */
  private noteSpace(groups: DxfRecord): void {
    if (!groups.anyNonZero(SPACE)) return;
    if (groups.anyNonZero([30, 31, 38])) this.tally.add('height above the board');
    if (groups.anyNonZero([39])) this.tally.add('thickness');
    if (groups.anyNonZero([210, 220])) this.tally.add('entity in a tilted plane');
  }

  shape(groups: DxfRecord, outlines: readonly Outline[]): Item[] {
    if (!outlines.length) return [];
    this.noteSpace(groups);
    for (const { segments } of outlines) this.budget.pieces(segments.length, { line: groups.line });
    const { scale } = this;
    const isPlain = scale.every((value, i) => value === identity[i]);
    const placed = isPlain ? outlines : outlines.map((outline) => transformOutline(outline, scale));
    const { id, layer } = this.base(groups);
    // Nodes are never changed in place, so what the schema calls an array may be the readonly one that was made above.
    const item: Item = { kind: 'path', id, layer, style: this.lineStyle(groups), outlines: placed as PathItem['outlines'] };
    return [this.keep ? { ...item, name: NAMES[groups.type] ?? groups.type.toLowerCase() } : item];
  }
}
