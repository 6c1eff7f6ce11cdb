import { Tally } from '../../contracts/tally';
import { PathStore } from '../../base/geometry/paths';
import type { DrawingSink, StatedText } from '../../content/drawing/sink';
import { Failure, asFailure } from '../../base/failure/failure';
import {
  type Matrix,
  apply,
  identity,
  invert,
  meanScale,
  multiply,
  rotation,
  scaling,
  translation,
} from '../../base/geometry/matrix';
import type { Point } from '../../base/geometry/point';
import type { Fonts } from '../../contracts/fonts';
import type { Budget } from '../../document/limits';
import type { FontName, Style } from '../../document/schema';
import type { NotUnderstood } from '../../contracts/not-understood';
import { ENTITIES } from './entities';
import type { EmittingReader } from './telling';
import { fontOfFile } from './fonts';
import { type ReferredPicture, readImage } from './image-read';
import { Layers, NO_LAYER, type NamedLayer } from './layers';
import { type HandedDown, LineStyles } from './line-styles';
import { labelOfBlock } from './names';
import { facing } from './planes';
import { versionNumber } from './stated';
import { unknownGroups, unknownInBlock, unknownInLayer, unknownInStyle, unknownObjects, unknownVariables } from './known';
import type { DxfFile, DxfRecord, DxfRecords } from './records';
import { roomOf } from './odd-entities';
import { lineScaleOf, statedUnit, unitOf, variable } from './units';

const BLOCK_DEPTH = 16;
/** The newest version that is known here, 2018, by its number. */
const NEWEST = 1032;
/** Half of a point that is shown as a dot, mm. */
const DOT = 0.25;

interface Block {
  readonly origin: Point;
  readonly records: DxfRecords;
}

/** What a kept entity is called until someone names it. */
const NAMES: ReadonlyMap<string, string> = new Map(
  [...ENTITIES.keys()].map((type) => [type, type === 'LWPOLYLINE' ? 'polyline' : type.toLowerCase()]),
);
/** Groups that lead off the board: z of either end, elevation, thickness, extrusion. */
const SPACE = [30, 31, 38, 39, 210, 220];

/** How a file is read that is to be kept as a master. */
interface DxfSettings {
  /** Whether the result is kept as a master: lines then get a width and text its colour as a fill. */
  readonly keep?: boolean;
  /** Fonts to measure text with. */
  readonly fonts?: Fonts | undefined;
  /** By how much lines are wider than they say: on a board of metres those of paper are not seen. */
  readonly wider?: number;
  /** Whether layers that are off are taken too, to measure all that there is. */
  readonly showAll?: boolean;
  /** Moves everything, mm. */
  readonly shift?: Point;
  /** Pictures that stand beside the file, by the handles of what refers to them. */
  readonly pictures?: ReadonlyMap<string, ReferredPicture>;
  /** Size of the board, mm. */
  readonly size?: readonly [width: number, height: number];
}

/** Walks a DXF file's entities and tells a sink what they are, in board millimetres. */
export class DxfReader implements EmittingReader {
  readonly unitStated: boolean;
  /** Filled anew for each shape, in drawing units. */
  readonly paths = new PathStore();
  private readonly loud = new Tally();
  private readonly silent = new Tally();
  readonly keep: boolean;
  readonly fonts: Fonts | undefined;
  readonly points: EmittingReader['points'];
  readonly arrow: number;
  readonly room: EmittingReader['room'];
  private readonly layers: Layers;
  /** From the drawing's axes to the board's, in millimetres. */
  private readonly onBoard: Matrix;
  /** From a block's axes to its symbol's: the unit alone, because a symbol does not lie on the board before it is used. */
  private readonly inSymbol: Matrix;
  private readonly unscale: Matrix;
  /** What of a layer is not understood, told where something is drawn on it. */
  private readonly onLayers = new Map<string, readonly string[]>();
  /** What of a text style is not understood. */
  private readonly styles = new Map<string, readonly string[]>();
  private readonly styleFonts = new Map<string, { font: FontName; exact: boolean }>();
  private readonly lines: LineStyles;
  private readonly blocks = new Map<string, Block>();
  /** Of each block, how it was used first. */
  private readonly firstUse = new Map<string, string>();
  /** What of a block is not understood. */
  private readonly unknown = new Map<string, readonly string[]>();
  /** Blocks that were told of: what is not understood in them is counted once. */
  private readonly told = new Set<string>();
  private readonly open = new Set<string>();
  private readonly entities: DxfRecords;
  private depth = 0;
  private again = 0;

  /** @throws Failure `dxf-damaged` */
  constructor(
    file: DxfFile,
    readonly sink: DrawingSink,
    private readonly budget: Budget,
    private readonly settings: DxfSettings = {},
  ) {
    this.keep = settings.keep ?? false;
    this.fonts = settings.fonts;
    this.layers = new Layers(sink, settings.showAll ?? false);
    const version = versionNumber(file);
    if (version > NEWEST) this.tally.addUnseen(`version AC${version}, newer than all that are known here`); // term-guard: standard (DXF reference, HEADER section)
    const unit = unitOf(file);
    this.unitStated = unit !== undefined;
    if (unit === undefined && statedUnit(file)) this.tally.add(`unit number ${statedUnit(file)}`);
    this.lines = new LineStyles(this.keep, (unit ?? 1) * lineScaleOf(file), (kind) => this.tally.add(kind), settings.wider);
    const size = Number(variable(file, '$PDSIZE') ?? 0);
    const dot = (DOT * (settings.wider ?? 1)) / (unit ?? 1);
    // A share of what is seen is no size on a board: they are as large as is usual on paper then.
    this.points = { mode: Number(variable(file, '$PDMODE') ?? 0), size: size > 0 ? size : 8 * dot, dot };
    this.arrow = Number(variable(file, '$DIMASZ') ?? 2.5) * (Number(variable(file, '$DIMSCALE') ?? 1) || 1);
    this.room = roomOf(settings.size, settings.shift, unit ?? 1);
    this.inSymbol = unit === undefined || unit === 1 ? identity : scaling(unit);
    this.onBoard = settings.shift ? multiply(translation(...settings.shift), this.inSymbol) : this.inSymbol;
    this.unscale = invert(this.inSymbol)!;
    const blocks = file.sections.get('BLOCKS');
    if (blocks) this.readBlocks(blocks);
    const entities = file.sections.get('ENTITIES');
    if (!entities)
      throw new Failure('dxf-damaged', 'The DXF file has no ENTITIES section, so nothing is drawn in it.', { line: 1 });
    this.entities = entities;
    for (const words of [...unknownVariables(file), ...unknownObjects(file)]) this.tally.add(words);
    const tables = file.sections.get('TABLES');
    if (tables) this.readTables(tables);
  }

  /** What was not understood; nothing is counted twice because it is used twice. */
  get tally(): Tally {
    return this.again ? this.silent : this.loud;
  }
  get noted(): NotUnderstood[] {
    return this.loud.list();
  }

  /** Tells everything: a file that only inserts blocks made for sheets is several sheets. */
  emit(): void {
    const sheets = this.keep ? [] : this.sheets();
    for (const { label, block } of sheets) {
      this.sink.page(label, 100, 100, null);
      this.read(block.records);
    }
    if (sheets.length) return;
    const [width, height] = this.settings.size ?? [100, 100];
    this.sink.page(this.keep ? 'Drawing' : '', width, height, null);
    this.read(this.keep ? this.drawn() : this.entities);
    this.layers.atLeastOne();
  }

  /**
   * What is to be kept: the drawing itself, or, where nothing is in it, the sheet layout that shows, or the first of the others,
   * which lie in blocks of their own.
   */
  private drawn(): DxfRecords {
    const draws = (record: DxfRecord): boolean => ENTITIES.has(record.type);
    const onSheet = (record: DxfRecord): boolean => record.number(67, 0) === 1;
    const all = [...this.entities];
    if (all.some((record) => draws(record) && !onSheet(record))) return this.entities;
    const layouts = [...this.blocks].flatMap(([name, { records }]) =>
      /^\*PAPER_SPACE\d*$/.test(name) && [...records].some(draws) ? [records] : [],
    );
    const shows = all.some((record) => draws(record) && onSheet(record));
    const more = layouts.length - (shows ? 0 : 1);
    for (let i = 0; i < more; i++) this.tally.add('sheet layout beside the one that is read');
    if (!shows && !layouts.length) return this.entities;
    this.onSheet = true;
    return shows ? this.entities : layouts[0]!;
  }
  /** Whether a sheet layout is read, as there is nothing else. */
  private onSheet = false;

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

  private readTables(records: DxfRecords): void {
    for (const record of records)
      if (record.type === 'LAYER') {
        this.onLayers.set((record.text(2)?.trim() || '0').toUpperCase(), unknownInLayer(record));
        this.layers.read(record);
      } else if (record.type === 'LTYPE') this.lines.type(record);
      else if (record.type === 'STYLE') {
        const name = (record.text(2) ?? '').trim().toUpperCase();
        this.styleFonts.set(name, fontOfFile((record.text(3) ?? '').trim()));
        this.styles.set(name, unknownInStyle(record));
      }
  }

  private readBlocks(records: DxfRecords): void {
    let begun: { name: string; origin: Point; from: number } | undefined;
    let i = 0;
    const end = () => {
      if (begun) this.blocks.set(begun.name, { origin: begun.origin, records: records.part(begun.from, i) });
      begun = undefined;
    };
    for (const record of records) {
      if (record.type === 'BLOCK') {
        end();
        const name = (record.text(2) ?? '').trim().toUpperCase();
        begun = { name, origin: [record.number(10, 0), record.number(20, 0)], from: i + 1 };
        const unknown = unknownInBlock(record);
        if (unknown.length) this.unknown.set(name, unknown);
      } else if (record.type === 'ENDBLK') end();
      i++;
    }
    end();
  }

  private read(records: DxfRecords): void {
    let i = 0;
    const following = () => records.at(++i);
    for (; i < records.length; i++) {
      const record = records.at(i)!;
      if (record.number(67, 0) === 1 && !this.onSheet) {
        this.tally.addUnseen('object on a sheet layout');
        continue;
      }
      if (record.type === 'VIEWPORT' && this.onSheet) {
        this.tally.addUnseen('view of the drawing, which is empty');
        continue;
      }
      for (const words of unknownGroups(record)) this.tally.add(words);
      const make = ENTITIES.get(record.type);
      if (!make) {
        if (record.type !== 'SEQEND' && record.type !== 'VERTEX') this.tally.add(`entity ${record.type}`);
        continue;
      }
      if (record.number(60, 0) === 1) this.tally.addUnseen('hidden entity');
      else
        try {
          make(record, this, following);
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
    const on = groups.text(8)?.trim() ?? '0';
    // On layer 0 of a block it is on the layer of that block's insert, which was not frozen.
    if (!(this.depth && on === '0') && this.layers.isFrozen(on)) return this.tally.addUnseen('insert on a frozen layer');
    if (this.depth >= BLOCK_DEPTH)
      throw new Failure('dxf-block-cycle', `Blocks are nested more than ${BLOCK_DEPTH} deep at “${name}”.`);
    for (const words of this.unknown.get(key) ?? []) this.tally.add(words);
    const layer = this.layerOf(groups);
    const handed = this.lines.handedDown(groups, this.looksAs(groups), this.within, places[0] ? meanScale(places[0]) : 1);
    // Used with other looks, or at another scale, it is another symbol: its lines look otherwise.
    const { colour, width, type, scale } = handed;
    const looks = this.inherits(block)
      ? `${handed.layer.layer?.name ?? ''} ${handed.layer.layer?.colour ?? ''} ${colour} ${width} ${type}`
      : '';
    const larger = Math.abs(scale - 1) > 1e-9 ? scale.toFixed(9) : '';
    const as = looks || larger ? `${key} ${looks} ${larger}` : key;
    // The first keeps the block's name.
    const first = this.firstUse.get(key) ?? as;
    this.firstUse.set(key, first);
    const called = as === first ? name.slice(0, 200) : `${name.slice(0, 180)} × ${Number(scale.toFixed(3))}`;
    const symbol = { name: called || 'Block', anchor: apply(this.inSymbol, block.origin) };
    for (const place of places) {
      const at = multiply(multiply(this.scale, place), this.unscale);
      this.sink.use(layer, undefined, as, symbol, at, () => {
        const [before, around] = [this.told.has(key), this.within];
        this.within = handed;
        this.told.add(key);
        this.open.add(key);
        this.depth++;
        if (before) this.again++;
        this.read(block.records);
        if (before) this.again--;
        this.within = around;
        this.depth--;
        this.open.delete(key);
      });
    }
  }

  /** Inside a block, layer 0 means the layer of the insert. */
  private named(groups: DxfRecord): NamedLayer {
    // Asked for place and for look of the same entity.
    if (groups === this.lastRecord) return this.lastNamed;
    this.lastRecord = groups;
    return (this.lastNamed = this.findNamed(groups));
  }
  private lastRecord: DxfRecord | null = null;
  private lastNamed: NamedLayer = NO_LAYER;

  private findNamed(groups: DxfRecord): NamedLayer {
    // Things on one layer come one after the other.
    if (this.lastLayer && groups.says(8, this.lastLayer.text)) return this.depth ? this.lastLayer.inside : this.lastLayer.outside;
    const text = groups.text(8) ?? '0';
    const onZero = text.trim() === '0';
    if (this.depth && onZero) return NO_LAYER;
    const outside = this.layers.named(text);
    for (const words of this.onLayers.get(text.trim().toUpperCase()) ?? []) this.tally.add(words);
    this.lastLayer = { text, outside, inside: onZero ? NO_LAYER : outside };
    return outside;
  }
  private lastLayer: { readonly text: string; readonly outside: NamedLayer; readonly inside: NamedLayer } | null = null;

  layerOf(groups: DxfRecord): number {
    return this.named(groups).number;
  }

  /** The layer by which an entity looks: layer 0 of a block is that of the insert. */
  private looksAs(groups: DxfRecord): NamedLayer {
    const named = this.named(groups);
    return named === NO_LAYER && this.within ? this.within.layer : named;
  }
  private styleOf(groups: DxfRecord): Style {
    return this.lines.styleOf(groups, this.looksAs(groups), this.within);
  }
  /** What the insert hands down whose block is being read. */
  private within: HandedDown | null = null;

  /** Whether what is in a block looks by what its insert is. */
  private inherits(block: Block, seen: ReadonlySet<Block> = new Set()): boolean {
    let found = this.inheriting.get(block);
    if (found === undefined) {
      const inner = (record: DxfRecord) => this.blocks.get(record.text(2)?.trim().toUpperCase() ?? '');
      found = [...block.records].some((record) => {
        if ((record.text(8)?.trim() || '0') === '0' || record.number(62, 256) === 0) return true;
        if (record.number(370, -1) === -2 || record.text(6)?.trim().toUpperCase() === 'BYBLOCK') return true;
        const nested = record.type === 'INSERT' ? inner(record) : undefined;
        return nested !== undefined && !seen.has(nested) && this.inherits(nested, new Set([...seen, block]));
      });
      this.inheriting.set(block, found);
    }
    return found;
  }
  private readonly inheriting = new Map<Block, boolean>();

  textStyle(groups: DxfRecord): Style {
    const style = this.styleOf(groups);
    return this.keep ? { fill: style.stroke, stroke: null, strokeWidth: 0 } : style;
  }

  /** Tells of a picture. */
  image(groups: DxfRecord): void {
    const found = readImage(groups, this.settings.pictures ?? new Map());
    if (found === null) return this.tally.addUnseen('hidden picture');
    if (typeof found === 'string') return this.tally.add(found);
    for (const note of found.notes) this.tally.add(note);
    this.noteSpace(groups);
    const { opacity = 1 } = this.styleOf(groups);
    this.sink.picture(found.picture, multiply(this.scale, found.at), found.crop, this.layerOf(groups), opacity, 'picture');
  }

  /** Where an entity is whose outlines are in `paths`, and how a line of it would look. */
  placed(groups: DxfRecord, facing: Matrix | null): { layer: number; look: Style; at: Matrix | null } {
    const { paths, scale } = this;
    this.noteSpace(groups);
    this.budget.pieces(paths.firstVerb[paths.count]!, { line: groups.line });
    const at = facing ? multiply(scale, facing) : scale === identity ? null : scale;
    return { layer: this.layerOf(groups), look: this.styleOf(groups), at };
  }

  font(groups: DxfRecord): FontName {
    const style = (groups.text(7)?.trim() || 'STANDARD').toUpperCase();
    const found = this.styleFonts.get(style) ?? { font: 'Commissioner' as const, exact: false };
    for (const words of this.styles.get(style) ?? []) this.tally.add(words);
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
    // A net has heights for what it is; leaders and endless lines state directions under these numbers.
    if (!groups.anyNonZero(SPACE) || /^(MESH|M(ULTI)?LEADER|RAY|XLINE)$/.test(groups.type)) return;
    if (groups.anyNonZero([30, 31, 38])) this.tally.add('height above the board');
    if (groups.anyNonZero([39])) this.tally.add('thickness');
    if (groups.anyNonZero([210, 220])) this.noteTilted();
  }

  private noteTilted(): void {
    if (this.keep) this.tally.addUnseen('entity in a tilted plane, seen from above');
    else this.tally.add('entity in a tilted plane');
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
    this.sink.path(paths, at, this.layerOf(groups), this.styleOf(groups), groups.type, NAMES.get(groups.type));
  }

  /** Tells of a text. @param turn radians */
  text(
    groups: DxfRecord,
    words: Omit<StatedText, 'x' | 'y' | 'transform'>,
    at: Point,
    turn: number,
    own: Matrix | null = null,
  ): void {
    this.noteSpace(groups);
    // Seen from behind or aslant, its letters are too.
    const plane = this.keep ? facing(groups) : null;
    const [x, y] = this.place(plane ? apply(plane, at) : at);
    const isPlain = !turn && !own && !plane;
    const lying: Matrix = plane ? [plane[0], plane[1], plane[2], plane[3], 0, 0] : identity;
    const turned = isPlain ? null : multiply(multiply(translation(x, y), lying), rotation(turn));
    const transform = turned && own ? multiply(turned, own) : turned;
    const stated = { ...words, ...(isPlain ? { x, y } : { x: 0, y: 0 }), transform };
    this.sink.text(stated, this.layerOf(groups), this.textStyle(groups), undefined);
  }
}
