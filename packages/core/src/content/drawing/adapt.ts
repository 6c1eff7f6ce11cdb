import { CarryLines, type LineNote } from '../../contracts/report';
import { combine } from '../../evaluate/combine/combine';
import { determinant, isSimilarity, isUpright, multiply, translation } from '../../base/geometry/matrix';
import type { Outline } from '../../base/geometry/outline';
import { type PlacedPattern, isPicture } from '../../document/paint';
import { familiesOf, familyPaint, mapped } from './line-families';
import type { Layer } from '../../document/schema';
import type { ResolvedBoard, ResolvedEntry, ResolvedPart, ResolvedSpan } from '../../evaluate/resolve';
import { type CurveNotes, type CurveRules, adaptOutline } from '../../evaluate/boards/curves';
import { missingCharacters, outlineText, takenEntries } from '../../evaluate/boards/source';
import { type CutPictures, cutPictures } from '../../evaluate/pictures/cut';
import { type MadePictures, picturesFor } from '../../evaluate/pictures/made';
import { savingInWords } from '../../evaluate/pictures/saving-words';
import type { MaybePromise, Services } from '../../contracts/services';
import { namelessLayer } from '../../base/naming/nameless';
import { nearestColour } from './colour';
import type { DisplayStyle } from '../../contracts/display-list';
import { DrawingBuilder } from './drawing';
import type { Drawing } from '../../contracts/drawing';
import { type DrawingCarries, drawingFeatures } from './features';
import { areaOf } from './compare-spans';
import { PLAIN_SPAN, type SpanLook, spansInOrder } from '../../contracts/spans';
import { Looks } from './adapt-looks';
import { keptUseIds, keptUses } from './keep-uses';
import { how, isKept } from './carry';
import { SHEET_IDS } from '../../evaluate/sheets/layers';

/** What becomes of curves in a target. */
const curveRules = ({ outlines, arcs, curves }: DrawingCarries): CurveRules => ({
  arcs: how(arcs) ? (how(arcs)!.by ?? 'chords') : 'kept',
  cubics: how(curves)?.by ?? 'kept',
  within: how(curves)?.within ?? how(arcs)?.within ?? 0,
  step: how(outlines)?.step ?? 0,
});

const CHORDS = 'become short lines';

/** A line for each way in which curves can be rewritten. */
export const curveNotes = (lines: CarryLines, { step, arcs, cubics }: CurveRules): CurveNotes => ({
  arcs: lines.line('arcs', 'approximated', 'Arcs', arcs === 'curves' ? 'become curves' : CHORDS),
  curves: lines.line('curves', 'approximated', 'Curves', cubics === 'arcs' ? 'become arcs and lines' : CHORDS),
  kept: lines.line('curves', 'kept', 'Curves', 'stay curves'),
  grid: lines.line('grid', 'approximated', 'Coordinates', `are rounded to steps of ${step} mm`),
});

/** A board as a target can hold it, every rewrite written down. Pure. */
export function adaptDrawing(
  resolved: ResolvedBoard,
  carries: DrawingCarries,
  lines: CarryLines,
  services: Services,
): MaybePromise<Drawing> {
  const pictures =
    isKept(carries.pictures) || how(carries.pictures)
      ? picturesFor(resolved, services, how(carries.pictures)?.shrunk)
      : NO_PICTURES;
  if (!(pictures instanceof Promise)) return adaptWith(resolved, carries, lines, services, pictures);
  return pictures.then(async (made) => {
    const cuts = how(carries.pictures)?.cut ? await cutPictures(resolved, made, services) : NO_CUTS;
    return adaptWith(resolved, carries, lines, services, made, cuts);
  });
}
const NO_PICTURES: MadePictures = new Map();
const NO_CUTS: CutPictures = new Map();

function adaptWith(
  resolved: ResolvedBoard,
  carries: DrawingCarries,
  lines: CarryLines,
  services: Services,
  pictures: MadePictures,
  cuts: CutPictures = NO_CUTS,
): Drawing {
  const { board } = resolved;
  const printed = how(carries.sheets);
  if (printed) {
    lines.passOver(SHEET_IDS);
    lines.line('sheets', printed.outcome, drawingFeatures.sheets.words, printed.words)(board.id);
  }
  const builder = new DrawingBuilder();
  const spelt = how(carries['layer names'])?.spelt ?? (({ name }: Layer) => name);
  const kept = resolved.spans.filter(({ look }) => keepsSpan(look, carries)).map(({ source }) => source);
  const uses = keptUseIds(resolved, carries);
  const taken = takenEntries(resolved, () => true, lines, new Set([...kept, ...uses]));
  const stay = lines.line('symbols', 'kept', drawingFeatures.symbols.words, 'stay symbols that are used');
  for (const { entry } of taken) for (const { id } of entry.within) if (uses.has(id)) stay(entry.source);
  const used = new Set(taken.map(({ layer }) => layer.id));
  const layerNumbers = new Map<string, number>();
  for (const layer of resolved.layers) {
    if (!used.has(layer.id)) continue;
    const label = spelt(layer);
    // All on one layer is no layers at all.
    if (label !== layer.name && !(used.size === 1 && label === namelessLayer())) {
      const { outcome, words } = how(carries['layer names'])!;
      lines.line('layer names', outcome, drawingFeatures['layer names'].words, words)(layer.id);
    }
    layerNumbers.set(layer.id, builder.layer(label, layerColour(layer, carries)));
  }
  const parts = new DrawnParts(resolved.layers, carries, lines, services, pictures, cuts);
  parts.adapt(resolved, taken, builder, (layer) => layerNumbers.get(layer.id)!);
  if (board.background && !isKept(carries.background))
    lines.line('background', 'left out', drawingFeatures.background.words, 'the target has none')(board.id);
  return builder.finish(
    isKept(carries['board size']) ? { width: board.width, height: board.height } : null,
    isKept(carries.background) ? board.background : null,
  );
}

/** Whether clips are there, as they are or as masks. */
const holdsClips = ({ clips }: DrawingCarries): boolean => isKept(clips) || how(clips) !== null;

/** Whether groups may let through. */
const letsThrough = ({ opacity }: DrawingCarries): boolean => isKept(opacity) || how(opacity)?.of === 'all';

/** Whether a target holds all that a group does to what is in it. */
const keepsSpan = ({ opacity, blend, clip, mask }: SpanLook, carries: DrawingCarries): boolean =>
  (opacity >= 1 || letsThrough(carries)) &&
  (blend === 'normal' || isKept(carries.blending)) &&
  (!clip || holdsClips(carries)) &&
  (!mask || isKept(carries.masks));

/** Adapts a board and what it is painted with. */
class DrawnParts {
  private readonly cells = new Map<ResolvedPart, Drawing>();
  private readonly rules: CurveRules;
  private readonly notes: CurveNotes;
  private readonly left: Readonly<Record<'opacity' | 'blending' | 'clips' | 'masks', LineNote>>;

  constructor(
    private readonly layers: readonly Layer[],
    private readonly carries: DrawingCarries,
    private readonly lines: CarryLines,
    private readonly services: Services,
    private readonly pictures: MadePictures,
    private readonly cuts: CutPictures,
  ) {
    this.rules = curveRules(carries);
    this.notes = curveNotes(lines, this.rules);
    const out = (feature: keyof typeof drawingFeatures) =>
      lines.line(feature, 'left out', drawingFeatures[feature].words, 'the target has none');
    this.left = { opacity: out('opacity'), blending: out('blending'), clips: out('clips'), masks: out('masks') };
  }

  adapt(
    part: ResolvedPart,
    taken: readonly { readonly entry: ResolvedEntry; readonly layer: Layer }[],
    builder: DrawingBuilder,
    numberOf: (layer: Layer) => number,
  ): void {
    const { carries, lines, rules, notes } = this;
    const uses = keptUses(part, carries);
    const outlined =
      how(carries.text)?.when === 'unlike' ? how(carries.text)!.words : 'becomes outlines: same look, no longer text';
    const asTheyAre = lines.line('outlines', 'kept', 'Outlines', 'arrive as they are');
    const staysText = lines.line('text', 'kept', 'Text', 'stays text');
    const cell = (name: string) => builder.cell(this.cell(part.cells.get(name)!));
    const showing = (word: string) => builder.picture(this.pictures.get(word)!.drawn);
    const looks = new Looks(carries, lines, cell, showing);
    const [noPictures, remade] = [
      lines.line('pictures', 'left out', drawingFeatures.pictures.words, 'the target has none'),
      lines.line('pictures', 'restated', drawingFeatures.pictures.words, 'become PNG'),
    ];
    const whole = lines.line('pictures', 'kept', drawingFeatures.pictures.words, 'are there byte for byte');
    const less = lines.line('pictures', 'approximated', drawingFeatures.pictures.words, savingInWords(this.pictures));
    const unseen = lines.line('unseen', 'left out', 'What has neither fill nor line', 'nothing of it shows');
    const spans = spansInOrder(part.spans);
    const ends: number[] = [];
    let next = 0;
    let [used, began] = [0, 0];
    // Ends what is laid down as one up to an entry.
    const endAfter = (at: number) => {
      for (; ends.at(-1) === at + 1; ends.pop()) builder.end();
    };
    // Ends a use before an entry, and begins the next.
    const between = (at: number) => {
      const ended = uses[used]?.use.end === at ? uses[used++]! : null;
      if (ended) builder.use(began, builder.cell(this.symbol(ended.part)), ended.at, ended.use.name);
      if (uses[used]?.use.first === at) began = builder.count;
    };
    taken.forEach(({ entry, layer }, at) => {
      between(at);
      for (; spans[next]?.first === at; next++) {
        for (const look of this.looksOf(spans[next]!, builder, cell)) {
          builder.begin(look);
          ends.push(spans[next]!.end);
        }
      }
      const { fill } = entry.style;
      const picture = isPicture(fill) ? this.pictures.get(fill.picture) : undefined;
      if (isPicture(fill)) (picture ? (picture.saving ? less : picture.remade ? remade : whole) : noPictures)(entry.source);
      if (isPicture(fill) && !picture) {
        endAfter(at);
        return;
      }
      if (how(carries.fills)?.apart && entry.kind === 'path' && entry.style.fill && !picture) {
        this.apart(entry, layer, looks, builder, numberOf, (paint) => this.families(paint, part, looks, builder));
        endAfter(at);
        return;
      }
      if (how(carries.fills)?.rule && entry.kind === 'path' && entry.style.fillRule === 'evenodd' && !picture) {
        const done = this.byOneRule(entry, looks.of(entry, layer), builder, numberOf(layer));
        if (done) {
          endAfter(at);
          return;
        }
      }
      const cut = this.cuts.get(entry);
      if (picture && how(carries.pictures)?.turned && isPicture(fill) && !isUpright(fill.at)) {
        lines.line('turned pictures', 'left out', 'Pictures that are turned', 'the target has upright ones')(entry.source);
        endAfter(at);
        return;
      }
      if (cut)
        lines.line(
          'cropped',
          'approximated',
          'Cropped pictures',
          'are cut off at whole pixels',
        )(entry.source, entry.source, cut.off);
      const own = looks.of(entry, layer);
      const style = cut ? { ...own, fill: { ...cut.fill, picture: builder.picture(cut.drawn) } } : own;
      if (!style.fill && !style.stroke && how(carries.outlines)?.unseen) {
        unseen(entry.source);
        endAfter(at);
        return;
      }
      const look = builder.look(style);
      if (entry.kind === 'text' && keepsText(entry, style, carries, lines)) {
        staysText(entry.source);
        const words = this.placed(entry);
        if (words.text.trim()) builder.words(words, numberOf(layer), look, entry.source);
      } else {
        const outlines =
          entry.kind === 'text' ? outlineText(entry, this.services.fonts, lines, outlined) : (cut?.outlines ?? entry.outlines);
        if (entry.kind === 'path' && !picture) asTheyAre(entry.source);
        let any = false;
        for (const outline of outlines) {
          const adapted = adaptOutline(outline, rules, notes, entry.source);
          if (!adapted.segments.length) continue;
          builder.paths.add(adapted);
          any = true;
        }
        if (any) builder.path(numberOf(layer), look, entry.source);
      }
      endAfter(at);
    });
    between(taken.length);
  }

  /**
   * What is filled by the even-odd rule, filled alike where only the other rule is there: its areas as outlines that do not cross,
   * and its line beside them. @returns false where nothing of it is filled
   */
  private byOneRule(
    entry: ResolvedEntry & { kind: 'path' },
    style: DisplayStyle,
    builder: DrawingBuilder,
    layer: number,
  ): boolean {
    if (!style.fill) return false;
    this.lines.line('fills', 'restated', drawingFeatures.fills.words, how(this.carries.fills)!.words)(entry.source);
    const { opacity } = style;
    const both = style.stroke !== null && opacity < 1;
    if (both) builder.begin({ ...PLAIN_SPAN, opacity });
    const add = (outlines: readonly Outline[], look: DisplayStyle): void => {
      const taken = outlines
        .map((outline) => adaptOutline(outline, this.rules, this.notes, entry.source))
        .filter(({ segments }) => segments.length);
      for (const outline of taken) builder.paths.add(outline);
      if (taken.length) builder.path(layer, builder.look(look), entry.source);
    };
    const areas = combine([{ outlines: entry.outlines, rule: 'evenodd' }], 'union');
    const { line: _line, ...bare } = style;
    add(areas, { ...bare, fillRule: 'nonzero', stroke: null, strokeWidth: 0, opacity: both ? 1 : opacity });
    if (style.stroke) add(entry.outlines, { ...style, fill: null, fillRule: 'nonzero', opacity: both ? 1 : opacity });
    if (both) builder.end();
    return true;
  }

  private readonly symbols = new Map<ResolvedPart, Drawing>();
  /** A symbol that is used, on the layers that it lies on. What becomes of it was said of its uses. */
  private symbol(part: ResolvedPart): Drawing {
    let drawing = this.symbols.get(part);
    if (!drawing) {
      const { carries, services, pictures, cuts } = this;
      const [builder, quiet] = [
        new DrawingBuilder(),
        new DrawnParts(this.layers, carries, new CarryLines(), services, pictures, cuts),
      ];
      const layerOf = new Map(this.layers.map((layer) => [layer.id, layer]));
      const taken = part.entries.map((entry) => ({ entry, layer: layerOf.get(entry.layerId)! }));
      const spelt = how(carries['layer names'])?.spelt ?? (({ name }: Layer) => name);
      quiet.adapt(part, taken, builder, (layer) => builder.layer(spelt(layer), layerColour(layer, carries)));
      this.symbols.set(part, (drawing = builder.finish(null, null)));
    }
    return drawing;
  }

  /** A pattern of straight lines as families of them; null where it holds anything else. */
  private families(paint: PlacedPattern, part: ResolvedPart, looks: Looks, builder: DrawingBuilder): PlacedPattern[] | null {
    const found = familiesOf(part.cells.get(paint.cell)!, paint.width, paint.height);
    return (
      found &&
      found.flatMap(({ family, entry }) => {
        const placed = mapped(family, paint.at);
        if (!placed) return [];
        const on = this.layers.find(({ id }) => id === entry.layerId)!;
        const { paint: own, cell } = familyPaint(placed, looks.lineLook(entry, on));
        return [{ ...own, cell: builder.cell(cell) }];
      })
    );
  }

  /** What is filled, and its line, as two things. */
  private apart(
    entry: ResolvedEntry & { kind: 'path' },
    layer: Layer,
    looks: Looks,
    builder: DrawingBuilder,
    numberOf: (layer: Layer) => number,
    families: (paint: PlacedPattern) => readonly PlacedPattern[] | null,
  ): void {
    const { rules, notes, lines } = this;
    const { filled, lined } = looks.apart(entry, layer, families);
    const add = (look: DisplayStyle, closed: boolean) => {
      let any = false;
      for (const outline of entry.outlines) {
        const adapted = adaptOutline(closed ? { ...outline, closed: true } : outline, rules, notes, entry.source);
        if (!adapted.segments.length) continue;
        builder.paths.add(adapted);
        any = true;
      }
      if (any) builder.path(numberOf(layer), builder.look(look), entry.source);
    };
    if (filled.length) {
      lines.line('fills', 'restated', drawingFeatures.fills.words, 'become hatches')(entry.source);
      for (const one of filled) add(one, true);
    }
    if (lined) add(lined, false);
    if (!filled.length || lined) lines.line('outlines', 'kept', 'Outlines', 'arrive as they are')(entry.source);
  }

  /** A text as the target places it: with a font in the file, and from its start. */
  private placed(entry: ResolvedEntry & { kind: 'text' }): ResolvedEntry & { kind: 'text' } {
    const { carries, lines, services } = this;
    if (how(carries.text)?.from !== 'start') return entry;
    const missing = new Set(services.fonts.missing(entry.font, entry.text));
    if (missing.size) missingCharacters(entry, [...missing], lines);
    const text = missing.size ? [...entry.text].filter((one) => !missing.has(one)).join('') : entry.text;
    if (entry.align === 'start') return { ...entry, text };
    lines.line('text', 'restated', 'Text', 'is placed by where its lines start')(entry.source);
    const width = services.fonts.advance(entry.font, text, entry.size, entry.spacing);
    const frame = multiply(entry.frame, translation(entry.align === 'middle' ? -width / 2 : -width, 0));
    return { ...entry, text, frame, align: 'start' };
  }

  /** What a group does, outer first: of two where a clip of several areas stands for itself. */
  private looksOf(span: ResolvedSpan, builder: DrawingBuilder, cell: (name: string) => string): SpanLook[] {
    const look = this.span(span, cell);
    const { clip } = look;
    const several = how(this.carries.clips)?.several;
    if (!several || !clip || clip.length < 2) return [look];
    this.lines.line('clips', 'restated', 'Clips of several areas', 'become soft masks')(span.source);
    const mask = { kind: 'alpha', cell: builder.cell(areaOf(clip)) } as const;
    return look.mask
      ? [
          { ...PLAIN_SPAN, mask },
          { ...look, clip: null },
        ]
      : [{ ...look, clip: null, mask }];
  }

  private span({ look, source }: ResolvedSpan, cell: (name: string) => string): SpanLook {
    const { carries, left } = this;
    const { opacity, blend, clip, mask } = look;
    const [mixes, masks] = [carries.blending, carries.masks].map(isKept);
    const through = letsThrough(carries);
    const clips = holdsClips(carries);
    if (!through && opacity < 1) left.opacity(source);
    if (!mixes && blend !== 'normal') left.blending(source);
    if (!clips && clip) left.clips(source);
    if (!masks && mask) left.masks(source);
    return {
      opacity: through ? opacity : 1,
      blend: mixes ? blend : 'normal',
      clip: clips ? clip : null,
      mask: masks && mask ? { kind: mask.kind, cell: cell(mask.cell) } : null,
    };
  }

  /** What patterns repeat and masks are made of; layers mean nothing there. */
  private cell(part: ResolvedPart): Drawing {
    let drawing = this.cells.get(part);
    if (!drawing) {
      const builder = new DrawingBuilder();
      const layerOf = new Map(this.layers.map((layer) => [layer.id, layer]));
      const taken = part.entries.map((entry) => ({ entry, layer: layerOf.get(entry.layerId)! }));
      this.adapt(part, taken, builder, () => builder.layer(''));
      this.cells.set(part, (drawing = builder.finish(null, null)));
    }
    return drawing;
  }
}

function layerColour({ colour }: Layer, carries: DrawingCarries): string | null {
  if (carries['layer colours'] === 'left out') return null;
  const palette = how(carries['layer colours'])?.palette;
  return palette ? nearestColour(colour, palette) : colour;
}

/** Programs write matrices with six decimals; a few of them one inside the other are off by this much at most. */
const SIX_DECIMALS = 4e-6;

/** @param style how it looks in the target */
function keepsText(
  entry: ResolvedEntry & { kind: 'text' },
  style: DisplayStyle,
  { text }: DrawingCarries,
  lines: CarryLines,
): boolean {
  const rewritten = how(text);
  if (!rewritten) return text === 'kept';
  if (rewritten.when === 'unlike') return rewritten.like!({ ...entry, style });
  if (rewritten.when !== 'slanted') return rewritten.when === 'never';
  // A format that gives text only a place, a height and a turn can't hold a slanted or mirrored line.
  const upright = isSimilarity(entry.frame, SIX_DECIMALS) && determinant(entry.frame) > 0;
  if (entry.spacing) {
    lines.line('spaced text', 'restated', 'Text with spaced letters', 'becomes outlines')(entry.source);
    return false;
  }
  if (!upright) lines.line('slanted text', 'restated', 'Slanted or mirrored text', 'becomes outlines')(entry.source);
  return upright;
}
