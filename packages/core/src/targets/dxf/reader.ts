import { Tally } from '../../bytes/tally';
import { PathStore } from '../../content/drawing/paths';
import { AROUND, type DrawingSink, type StatedLayer, type StatedText } from '../../content/drawing/sink';
import { Failure, asFailure } from '../../failure/failure';
import { type Matrix, apply, identity, invert, multiply, rotation, scaling, translation } from '../../geometry/matrix';
import type { Point } from '../../geometry/point';
import type { Budget } from '../../master/limits';
import type { FontName, Style } from '../../master/schema';
import type { NotUnderstood } from '../codec';
import { COLOUR_OF_NUMBER } from './colours';
import { ENTITIES } from './entities';
import { fontOfFile } from './fonts';
import { labelOfBlock } from './names';
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
  readonly number: number;
  readonly layer: StatedLayer | null;
  readonly lines: { readonly width: number; readonly type: string };
}
/** What is drawn on layer 0 of a block has the lines of the insert's layer, which are not known there. */
const NO_LAYER: NamedLayer = { number: AROUND, layer: null, lines: { width: -1, type: '' } };
/** What a kept entity is called until someone names it. */
const NAMES: Readonly<Record<string, string>> = { LWPOLYLINE: 'polyline' };
/** Groups that lead off the board: z of either end, elevation, thickness, extrusion. */
const SPACE = [30, 31, 38, 39, 210, 220];

/** A colour stated by its red, green and blue parts (group 420) instead of by its number. */
function exactColour(groups: DxfRecord): string | undefined {
  const exact = groups.number(420);
  return exact === undefined ? undefined : `#${(exact & 0xffffff).toString(16).padStart(6, '0')}`;
}

/** How a file is read that is to be kept as a master. */
export interface DxfSettings {
  /** Whether the result is kept as a master: lines then get a width and text its colour as a fill. */
  readonly keep?: boolean;
  /** Whether layers that are off are taken too, to measure all that there is. */
  readonly showAll?: boolean;
  /** Moves everything, mm. */
  readonly shift?: Point;
  /** Size of the board, mm. */
  readonly size?: readonly [width: number, height: number];
}

/** Walks a DXF file's entities and tells a sink what they are, in board millimetres. */
export class DxfReader {
  readonly unitStated: boolean;
  /** Filled anew for each shape, in drawing units. */
  readonly paths = new PathStore();
  private readonly loud = new Tally();
  private readonly silent = new Tally();
  private readonly keep: boolean;
  private readonly layers: StatedLayer[] = [];
  /** From the drawing's axes to the board's, in millimetres. */
  private readonly onBoard: Matrix;
  /** From a block's axes to its symbol's: the unit alone, because a symbol does not lie on the board before it is used. */
  private readonly inSymbol: Matrix;
  private readonly unscale: Matrix;
  private readonly layerByName = new Map<string, { number: number; layer: StatedLayer }>();
  /** Line width (hundredths of a millimetre) and line type of each layer, for what is drawn as its layer is. */
  private readonly layerLines = new Map<string, NamedLayer['lines']>();
  /** Layers by what stands in group 8, blanks included. */
  private readonly layerByText = new Map<string, NamedLayer>();
  private readonly styles = new Map<string, Style>();
  private readonly fonts = new Map<string, { font: FontName; exact: boolean }>();
  private readonly blocks = new Map<string, Block>();
  /** Blocks that were told of: what is not understood in them is counted once. */
  private readonly told = new Set<string>();
  private readonly open = new Set<string>();
  private readonly entities: DxfRecord[];
  private depth = 0;
  private again = 0;

  /** @throws Failure `dxf-damaged` */
  constructor(
    file: DxfFile,
    private readonly sink: DrawingSink,
    private readonly budget: Budget,
    private readonly settings: DxfSettings = {},
  ) {
    this.keep = settings.keep ?? false;
    const header = this.header(file);
    const unit = MM_PER_UNIT[Number(header.get('$INSUNITS') ?? 0)];
    this.unitStated = unit !== undefined;
    this.inSymbol = unit === undefined || unit === 1 ? identity : scaling(unit);
    this.onBoard = settings.shift ? multiply(translation(...settings.shift), this.inSymbol) : this.inSymbol;
    this.unscale = invert(this.inSymbol)!;
    this.readBlocks(file.sections.get('BLOCKS') ?? []);
    const entities = file.sections.get('ENTITIES');
    if (!entities)
      throw new Failure('dxf-damaged', 'The DXF file has no ENTITIES section, so nothing is drawn in it.', { line: 1 });
    this.entities = entities;
    this.readTables(file.sections.get('TABLES') ?? []);
  }

  /** What was not understood; nothing is counted twice because it is used twice. */
  get tally(): Tally {
    return this.again ? this.silent : this.loud;
  }
  get noted(): NotUnderstood[] {
    return this.loud.list();
  }

  /** Tells everything: a file that only inserts blocks made for sheets is several sheets. */
  tell(): void {
    const sheets = this.keep ? [] : this.sheets();
    for (const { label, block } of sheets) {
      this.sink.page(label, 100, 100, null);
      this.read(block.records);
    }
    if (sheets.length) return;
    const [width, height] = this.settings.size ?? [100, 100];
    this.sink.page(this.keep ? 'Drawing' : '', width, height, null);
    this.read(this.entities);
    if (!this.layers.length) this.addLayer('0', '#000000', true, false);
  }

  private sheets(): { label: string; block: Block }[] {
    const found: { label: string; block: Block }[] = [];
    for (const record of this.entities) {
      const name = record.type === 'INSERT' ? (record.text(2)?.trim() ?? '') : '';
      const [label, block] = [labelOfBlock(name), this.blocks.get(name.toUpperCase())];
      if (label === undefined || !block) return [];
      found.push({ label, block });
    }
    return found;
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

  private addLayer(name: string, colour: string, visible: boolean, locked: boolean): { number: number; layer: StatedLayer } {
    const shown = visible || (this.settings.showAll ?? false);
    const layer: StatedLayer = { name, colour, visible: shown, locked, process: 'cut' };
    this.layers.push(layer);
    const found = { number: this.sink.layer(layer), layer };
    this.layerByName.set(name.toUpperCase(), found);
    return found;
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

  private read(records: readonly DxfRecord[]): void {
    for (let i = 0; i < records.length; i++) {
      const record = records[i]!;
      if (record.number(67, 0) === 1) {
        this.tally.addUnseen('object on a sheet layout');
        continue;
      }
      const make = Object.hasOwn(ENTITIES, record.type) ? ENTITIES[record.type] : undefined;
      if (!make) {
        if (record.type !== 'SEQEND' && record.type !== 'VERTEX') this.tally.add(`entity ${record.type}`);
        continue;
      }
      if (record.number(60, 0) === 1) this.tally.addUnseen('hidden entity');
      else
        try {
          make(record, this, () => records[++i]);
        } catch (error) {
          const failure = asFailure(error);
          throw failure.where.line === undefined
            ? new Failure(failure.code, `${record.type}: ${failure.message}`, { line: record.line })
            : failure;
        }
    }
  }

  /**
   * Uses of a block, each by where it is put. Missing blocks are counted; a block inside itself draws nothing there.
   * @throws Failure `dxf-block-cycle`
   */
  use(groups: DxfRecord, name: string, places: readonly Matrix[]): void {
    const key = name.toUpperCase();
    const block = this.blocks.get(key);
    if (!block) return this.tally.add('insert of a missing block');
    if (this.open.has(key)) return;
    if (this.depth >= BLOCK_DEPTH)
      throw new Failure('dxf-block-cycle', `Blocks are nested more than ${BLOCK_DEPTH} deep at “${name}”.`);
    const symbol = { name: name.slice(0, 200) || 'Block', anchor: apply(this.inSymbol, block.origin) };
    const layer = this.layerOf(groups);
    for (const place of places) {
      const at = multiply(multiply(this.scale, place), this.unscale);
      this.sink.use(layer, undefined, key, symbol, at, () => {
        const before = this.told.has(key);
        this.told.add(key);
        this.open.add(key);
        this.depth++;
        if (before) this.again++;
        this.read(block.records);
        if (before) this.again--;
        this.depth--;
        this.open.delete(key);
      });
    }
  }

  /** The layer that a name in group 8 means, with its lines. */
  private layerNamed(raw: string): NamedLayer {
    let found = this.layerByText.get(raw);
    if (!found) {
      const name = raw.trim() || '0';
      const key = name.toUpperCase();
      const layer = this.layerByName.get(key) ?? this.addLayer(name, '#000000', true, false);
      found = { ...layer, lines: this.layerLines.get(key) ?? { width: -1, type: '' } };
      this.layerByText.set(raw, found);
    }
    return found;
  }

  /** Inside a block, layer 0 means the layer of the insert. */
  private named(groups: DxfRecord): NamedLayer {
    const raw = groups.text(8) ?? '0';
    return this.depth && raw.trim() === '0' ? NO_LAYER : this.layerNamed(raw);
  }

  layerOf(groups: DxfRecord): number {
    return this.named(groups).number;
  }

  private lineStyle(groups: DxfRecord): Style {
    const { lines, layer } = this.named(groups);
    const own = groups.number(370, -1);
    const hundredths = own === -1 ? lines.width : own;
    const named = groups.text(6)?.trim().toUpperCase() || 'BYLAYER';
    const type = named === 'BYLAYER' ? lines.type : named;
    if (type && type !== 'CONTINUOUS' && type !== 'BYBLOCK') this.tally.add(`line type ${type}`);
    const strokeWidth = hundredths > 0 ? hundredths / 100 : this.keep ? 0.25 : 0;
    const number = groups.number(62, 256);
    const numbered = number > 0 && number < 256 ? COLOUR_OF_NUMBER[number] : undefined;
    const stroke = exactColour(groups) ?? numbered ?? layer?.colour ?? '#000000';
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

  /** Says what of an entity does not lie on the board: heights, thickness, a direction other than straight up or down. */
  private noteSpace(groups: DxfRecord): void {
    if (!groups.anyNonZero(SPACE)) return;
    if (groups.anyNonZero([30, 31, 38])) this.tally.add('height above the board');
    if (groups.anyNonZero([39])) this.tally.add('thickness');
    if (groups.anyNonZero([210, 220])) this.tally.add('entity in a tilted plane');
  }

  /**
   * Tells of the outlines in `paths` as one shape.
   * @param facing from the axes of the entity to those of the drawing, where they are others
   */
  shape(groups: DxfRecord, facing: Matrix | null = null): void {
    const { paths, scale } = this;
    if (!paths.count) return;
    this.noteSpace(groups);
    this.budget.pieces(paths.firstVerb[paths.count]!, { line: groups.line });
    const at = facing ? multiply(scale, facing) : scale === identity ? null : scale;
    this.sink.path(
      paths,
      at,
      this.layerOf(groups),
      this.lineStyle(groups),
      groups.type,
      NAMES[groups.type] ?? groups.type.toLowerCase(),
    );
  }

  /** Tells of a text. @param turn radians */
  text(groups: DxfRecord, words: Omit<StatedText, 'x' | 'y' | 'transform'>, at: Point, turn: number): void {
    const [x, y] = this.place(at);
    const transform = turn ? multiply(translation(x, y), rotation(turn)) : null;
    const stated = { ...words, ...(turn ? { x: 0, y: 0 } : { x, y }), transform };
    this.sink.text(stated, this.layerOf(groups), this.textStyle(groups), undefined);
  }
}
