import type { Style } from '../../document/schema';
import { COLOUR_OF_NUMBER } from './colours';
import { type NamedLayer, exactColour } from './layers';
import { dashesOf } from './line-types';
import type { DxfRecord } from './records';

/** Groups by which an entity states its own look. */
const OWN = [62, 370, 6, 420, 440] as const;
/** Width of a line that states none, and of one that is to be as thin as can be, mm (DXF group 370: by default, and 0). */
const [USUAL, THINNEST] = [0.25, 0.05];
/** Bits of group 440: whether a share is stated, and the share. */
const [STATED, SHARE] = [0x02000000, 0xff];

/** What an insert hands down to what is in its block (DXF reference: layer 0 and BYBLOCK). */
export interface HandedDown {
  /** The layer that layer 0 stands for. */
  readonly layer: NamedLayer;
  /** What BYBLOCK stands for: colour, line width in hundredths of a millimetre, line type. */
  readonly colour: string;
  readonly width: number;
  readonly type: string;
  /** How much larger it is drawn than it is: line widths stay as they are. */
  readonly scale: number;
}

/** How lines look: what an entity states itself, else what its layer does. */
export class LineStyles {
  /** By colour, dashes and width. */
  private readonly styles = new Map<string, Map<number, Style>>();
  /** Of what states nothing itself. */
  private readonly asLayer = new Map<NamedLayer, Style>();
  /** Dashes of line types, drawing units; null for whole lines. */
  private readonly lineTypes = new Map<string, number[] | null | undefined>();

  /**
   * @param keep whether the result is kept as a master: lines then get a width
   * @param scale of dashes, mm per drawing unit
   * @param note counts what is not understood
   * @param wider by how much lines are wider than they say
   */
  constructor(
    private readonly keep: boolean,
    private readonly scale: number,
    private readonly note: (kind: string) => void,
    private readonly wider = 1,
  ) {}

  /** A record of the table of line types. */
  type(record: DxfRecord): void {
    this.lineTypes.set((record.text(2) ?? '').trim().toUpperCase(), dashesOf(record));
  }

  /** How the line of an entity looks. @param on the layer that it is on @param within what the insert that it is in hands down */
  styleOf(groups: DxfRecord, on: NamedLayer, within: HandedDown | null = null): Style {
    if (within || OWN.some((code) => groups.has(code))) return this.find(groups, on, within);
    let style = this.asLayer.get(on);
    // What dashes mean depends on the entity, too.
    if (!style && !on.lines.type) this.asLayer.set(on, (style = this.find(groups, on, within)));
    return style ?? this.find(groups, on, within);
  }

  /** Colour, width and line type of an entity, its own or its layer's or those of the insert that it is in. */
  private stated(
    groups: DxfRecord,
    { lines, layer }: NamedLayer,
    within: HandedDown | null,
  ): Omit<HandedDown, 'layer' | 'scale'> {
    const own = groups.number(370, -1);
    const named = groups.text(6)?.trim().toUpperCase() || 'BYLAYER';
    const number = groups.number(62, 256);
    const numbered = number > 0 && number < 256 ? COLOUR_OF_NUMBER[number] : undefined;
    return {
      // As the insert has it, where there is none, is the plain colour.
      colour: exactColour(groups) ?? numbered ?? (number === 0 ? within?.colour : layer?.colour) ?? '#000000',
      width: own === -1 ? lines.width : own === -2 ? (within?.width ?? -1) : own,
      type: named === 'BYLAYER' ? lines.type : named === 'BYBLOCK' ? (within?.type ?? '') : named,
    };
  }

  /** What an insert hands down. @param on the layer that it is on, where it is on none of its own that of what it is in */
  handedDown(groups: DxfRecord, on: NamedLayer, within: HandedDown | null, scale: number): HandedDown {
    return { layer: on, ...this.stated(groups, on, within), scale: scale * (within?.scale ?? 1) };
  }

  private find(groups: DxfRecord, on: NamedLayer, within: HandedDown | null): Style {
    const { colour: stroke, width: hundredths, type } = this.stated(groups, on, within);
    const dash = this.dashes(type, groups);
    const own = hundredths > 0 ? hundredths / 100 : this.keep ? this.unstated(hundredths) : 0;
    const strokeWidth = (own * this.wider) / (within?.scale ?? 1);
    // One object for each look: a drawing has few, and many entities.
    const through = groups.number(440, 0);
    const opacity = through & STATED ? (through & SHARE) / 255 : 1;
    const kind = `${stroke} ${opacity} ${dash?.join(' ') ?? ''}`;
    let byWidth = this.styles.get(kind);
    if (!byWidth) this.styles.set(kind, (byWidth = new Map()));
    let style = byWidth.get(strokeWidth);
    if (!style)
      byWidth.set(
        strokeWidth,
        (style = { fill: null, stroke, strokeWidth, ...(dash ? { dash } : {}), ...(opacity < 1 ? { opacity } : {}) }),
      );
    return style;
  }

  /** The width of a line of which no number above nothing is stated, mm: the usual one, or as thin as can be (DXF group 370). */
  private unstated(hundredths: number): number {
    if (hundredths !== 0) return USUAL;
    this.note('line as thin as can be, taken as 0.05 mm');
    return THINNEST;
  }

  /** The dashes of a line type on an entity, mm; undefined for a whole line. */
  private dashes(type: string, groups: DxfRecord): number[] | undefined {
    if (!type || type === 'CONTINUOUS' || type === 'BYBLOCK') return undefined;
    const known = this.lineTypes.get(type);
    if (known === undefined) this.note(`line type ${type}`);
    if (!known) return undefined;
    // Without this flag the dashes of a polyline begin anew at each corner.
    if (groups.type.endsWith('POLYLINE') && !(groups.number(70, 0) & 128)) this.note('dashes that begin anew at each corner');
    const scale = this.scale * groups.number(48, 1);
    return known.map((length) => length * scale);
  }
}
