import { Failure, asFailure } from '../../failure/failure';
import { type Matrix, identity, invert, meanScale, multiply, scaling, translation, apply } from '../../geometry/matrix';
import { transformOutline } from '../../geometry/outline';
import { asCircle } from '../../geometry/arcs';
import { digest } from '../../master/hash';
import { assertOpens } from '../../master/count';
import { idFrom } from '../../master/ids';
import { Budget } from '../../master/limits';
import type { Item, Layer, Master, Style, SymbolDefinition } from '../../master/schema';
import { Tally, decodeText } from '../bytes';
import type { ReadMaster } from '../target';
import { EFFECTS, type Effects, LINE_EFFECTS, TEXT_EFFECTS, effectsIn } from './effects';
import { parseLength } from './lengths';
import { SHAPES } from './shapes';
import { StyleSheet, alphaOf, parseColour, shareOf } from './style';
import { fontName, fontSize, shippedFont, textChunks } from './text';
import { parseTransform } from './transform';
import { fitViewBox, viewBoxOf, viewportOf } from './viewport';
import { type XmlElement, parseXml, textOf } from './xml';

type Properties = Readonly<Record<string, string>>;
/** Elements that draw nothing by themselves and carry nothing that a master would lose. */
const SILENT = new Set([
  'defs',
  'title',
  'desc',
  'metadata',
  'style',
  'symbol',
  'linearGradient',
  'radialGradient',
  'clipPath',
  'mask',
  'pattern',
  'filter',
  'marker',
  'solidColor',
]);
/** Whether a branch of a switch is for this reader: without demands, and in English or in no language. */
const isOffered = ({ attributes }: XmlElement): boolean =>
  !attributes['requiredExtensions'] && (!attributes['systemLanguage'] || /(^|,)\s*en\b/.test(attributes['systemLanguage']));
const GROUPS = new Set(['g', 'a', 'switch', 'svg']);
const USE_DEPTH = 24;

/**
 * An SVG document as a new master: groups become layers or groups, `use` becomes symbol uses, everything in board millimetres.
 * @throws Failure that names the line; nothing is left out without being counted in `notUnderstood`
 */
export function bringInSvg(bytes: Uint8Array, name: string): ReadMaster {
  const text = decodeText(bytes);
  const root = parseXml(text);
  if (root.name !== 'svg')
    throw new Failure('not-svg', `This is not an SVG drawing: its first element is <${root.name}>.`, {
      line: root.line,
    });
  return new SvgReader(root, text, name).read();
}

class SvgReader {
  private readonly tally = new Tally();
  private readonly sheet = new StyleSheet();
  private readonly ids = new Map<string, XmlElement>();
  private readonly symbols = new Map<string, SymbolDefinition>();
  private readonly viewport;
  private readonly fromBoard: Matrix;
  private background: string | null = null;
  private mark: string | null = null;
  private readonly budget = new Budget();

  constructor(
    private readonly root: XmlElement,
    private readonly text: string,
    private readonly name: string,
  ) {
    this.viewport = viewportOf(root);
    this.fromBoard = invert(this.viewport.toBoard)!;
  }

  read(): ReadMaster {
    this.collect(this.root);
    for (const selector of this.sheet.unknown) this.tally.add(selector);
    const properties = this.sheet.propertiesOf(this.root, {});
    const drawing = this.root.children.filter(
      (child): child is XmlElement => typeof child !== 'string' && !SILENT.has(child.name) && !this.isForeign(child),
    );
    const first = drawing[0];
    if (first && this.isBackground(first)) {
      this.background = parseColour(this.sheet.propertiesOf(first, properties)['fill'] ?? '#000000') ?? null;
      drawing.shift();
    }
    const { layers, items } = this.layered(drawing, properties);
    const title = textOf(
      this.root.children.find((child): child is XmlElement => typeof child !== 'string' && child.name === 'title') ?? {
        ...this.root,
        children: [],
      },
    );
    const master: Master = {
      id: idFrom(`brought in ${digest(this.text)}`),
      title: (title.trim() || this.name.replace(/\.[^.]*$/, '') || 'Drawing').slice(0, 200),
      owner: '',
      purpose: 'sheet',
      unit: 'mm',
      layers,
      symbols: [...this.symbols.values()],
      boards: [
        {
          id: 'board-1',
          name: 'Drawing',
          width: this.viewport.width,
          height: this.viewport.height,
          background: this.background,
          items,
        },
      ],
      resources: [],
      description: '',
    };
    assertOpens(master, master.boards[0]!);
    return { master, mark: this.mark, notUnderstood: this.tally.list() };
  }

  /**
   * Groups at the top become layers: all of them where there is nothing else, the named ones where loose shapes stand
   * beside them. What is left is on a layer of its own.
   */
  private layered(drawing: readonly XmlElement[], properties: Properties): { layers: Layer[]; items: Item[] } {
    const layers: Layer[] = [];
    const byName = new Map<string, Layer>();
    const layerFor = (name: string, visible: boolean): Layer => {
      let layer = byName.get(`${visible} ${name}`);
      if (!layer) {
        layer = { ...this.layer(layers.length + 1, name), visible };
        byName.set(`${visible} ${name}`, layer);
        layers.push(layer);
      }
      return layer;
    };
    const onlyGroups = drawing.every(({ name }) => name === 'g');
    const items = drawing.flatMap((element) => {
      const own = this.sheet.propertiesOf(element, properties);
      const name = this.titleOf(element);
      if (element.name !== 'g' || shareOf(own['opacity']) < 1 || (!onlyGroups && name === undefined))
        return this.items(element, properties, identity, layerFor('Drawing', true).id, 0);
      const layer = layerFor(name ?? `Layer ${layers.length + 1}`, own['display'] !== 'none');
      return this.guarded(element, () => this.groupItems(element, properties, identity, layer.id, 0, true));
    });
    if (!layers.length) layerFor('Drawing', true);
    return { layers, items };
  }

  /** Ids, style sheets and the mark, wherever they stand. */
  private collect(element: XmlElement): void {
    const id = element.attributes['id'];
    if (id && !this.ids.has(id)) this.ids.set(id, element);
    if (element.name === 'style') this.sheet.add(textOf(element));
    if (element.name === 'metadata') {
      const text = textOf(element);
      if (text.includes('inkwell-twin;')) this.mark ??= text;
    }
    for (const child of element.children) if (typeof child !== 'string') this.collect(child);
  }

  private layer(number: number, name: string): Layer {
    return {
      id: `layer-${number}`,
      name: name.slice(0, 200),
      colour: '#14213a',
      visible: true,
      locked: false,
      process: 'print',
    };
  }

  private titleOf(element: XmlElement): string | undefined {
    const title = element.children.find((child): child is XmlElement => typeof child !== 'string' && child.name === 'title');
    return (title && textOf(title).trim()) || element.attributes['id'] || undefined;
  }

  private isBackground({ name, attributes }: XmlElement): boolean {
    return (
      name === 'rect' &&
      attributes['width'] === '100%' &&
      attributes['height'] === '100%' &&
      !attributes['stroke'] &&
      !attributes['transform']
    );
  }

  private nextId = (): string => `i${this.budget.object()}`;

  /** Runs a part and adds the element's line to whatever goes wrong in it. */
  private guarded<T>(element: XmlElement, run: () => T): T {
    try {
      return run();
    } catch (error) {
      const failure = asFailure(error);
      if (failure.where.line !== undefined) throw failure;
      throw new Failure(failure.code, `<${element.name}>: ${failure.message}`, {
        ...failure.where,
        line: element.line,
      });
    }
  }

  private items(element: XmlElement, parent: Properties, matrix: Matrix, layer: string | null, depth: number): Item[] {
    return this.guarded(element, () => this.itemsOf(element, parent, matrix, layer, depth));
  }

  private itemsOf(element: XmlElement, parent: Properties, matrix: Matrix, layer: string | null, depth: number): Item[] {
    if (SILENT.has(element.name)) return [];
    const properties = this.sheet.propertiesOf(element, parent);
    if (GROUPS.has(element.name)) return this.group(element, parent, matrix, layer, depth);
    const shape = SHAPES[element.name];
    if (!shape && element.name !== 'use' && element.name !== 'text') {
      if (!this.isForeign(element)) this.tally.add(`element ${element.name}`);
      return [];
    }
    if (this.isHidden(properties)) return [];
    this.noteEffects(properties, EFFECTS);
    const own = element.attributes['transform'] ? multiply(matrix, parseTransform(element.attributes['transform'])) : matrix;
    if (element.name === 'use') return this.use(element, properties, own, layer, depth);
    if (shape) return this.shapeItem(element, shape(element, this.viewport), properties, own, layer);
    this.noteEffects(properties, TEXT_EFFECTS);
    return this.textItems(element, properties, own, layer);
  }

  /** Another program's own notes draw nothing (SVG 1.1, 23.1). */
  private isForeign({ name }: XmlElement): boolean {
    const foreign = name.includes(':');
    if (foreign) this.tally.addUnseen(`element ${name}`);
    return foreign;
  }

  /** Whether nothing is drawn; a group may be invisible and still hold something visible (SVG 1.1, 11.5). */
  private isHidden(properties: Properties, group = false): boolean {
    const hidden =
      properties['display'] === 'none' ||
      (!group && (properties['visibility'] === 'hidden' || properties['visibility'] === 'collapse'));
    if (hidden) this.tally.addUnseen('hidden element');
    return hidden;
  }

  private noteEffects(properties: Properties, effects: Effects): void {
    for (const words of effectsIn(properties, effects)) this.tally.add(words);
  }

  /** @param asLayer the group became a layer, which may be hidden and is kept all the same */
  private groupItems(
    element: XmlElement,
    parent: Properties,
    matrix: Matrix,
    layer: string | null,
    depth: number,
    asLayer = false,
  ): Item[] {
    const properties = this.sheet.propertiesOf(element, parent);
    if (!asLayer && this.isHidden(properties, true)) return [];
    this.noteEffects(properties, EFFECTS);
    let own = element.attributes['transform'] ? multiply(matrix, parseTransform(element.attributes['transform'])) : matrix;
    if (element.name === 'svg') own = multiply(own, this.nestedViewport(element));
    const children = element.children.filter((child): child is XmlElement => typeof child !== 'string');
    const drawn = element.name === 'switch' ? children.filter(isOffered).slice(0, 1) : children;
    return drawn.flatMap((child) => this.items(child, properties, own, layer, depth));
  }

  private nestedViewport(element: XmlElement, width?: string, height?: string): Matrix {
    const { userWidth, userHeight } = this.viewport;
    const x = parseLength(element.attributes['x'], userWidth) ?? 0;
    const y = parseLength(element.attributes['y'], userHeight) ?? 0;
    const box = viewBoxOf(element.attributes['viewBox']);
    if (!box) return translation(x, y);
    const w = parseLength(width ?? element.attributes['width'], userWidth) ?? userWidth;
    const h = parseLength(height ?? element.attributes['height'], userHeight) ?? userHeight;
    return multiply(translation(x, y), fitViewBox(box, w, h, element.attributes['preserveAspectRatio']));
  }

  private group(element: XmlElement, parent: Properties, matrix: Matrix, layer: string | null, depth: number): Item[] {
    const items = this.groupItems(element, parent, matrix, null, depth);
    if (!items.length) return [];
    const opacity = shareOf(this.sheet.propertiesOf(element, parent)['opacity']);
    const name = this.titleOf(element);
    return [
      {
        kind: 'group',
        id: this.nextId(),
        layer,
        ...(name ? { name } : {}),
        ...(opacity < 1 ? { opacity } : {}),
        items,
      },
    ];
  }

  private use(element: XmlElement, properties: Properties, matrix: Matrix, layer: string | null, depth: number): Item[] {
    const reference = element.attributes['href'] ?? element.attributes['xlink:href'] ?? '';
    const target = reference.startsWith('#') ? this.ids.get(reference.slice(1)) : undefined;
    if (!target) {
      this.tally.add(reference.startsWith('#') ? 'use of something missing' : 'use of another file');
      return [];
    }
    for (let up: XmlElement | null = element; up; up = up.parent)
      if (up === target) throw new Failure('svg-use-cycle', `The element “${reference}” uses itself.`, { line: element.line });
    if (depth > USE_DEPTH)
      throw new Failure('svg-use-cycle', `Uses are nested more than ${USE_DEPTH} deep.`, { line: element.line });
    const { width, height } = element.attributes;
    const sized = target.name === 'symbol' && (width || height) ? `${width} ${height}` : '';
    const inherited = Object.entries(properties)
      .filter(([key]) => key !== 'opacity')
      .sort()
      .join(';');
    const key = `${reference} ${sized} ${inherited}`;
    let symbol = this.symbols.get(key);
    if (!symbol) {
      let items: Item[];
      if (target.name === 'symbol' || target.name === 'svg') {
        const inner = this.nestedViewport(target, width, height);
        const own = this.sheet.propertiesOf(target, properties);
        items = target.children.flatMap((child) =>
          typeof child === 'string' ? [] : this.items(child, own, inner, null, depth + 1),
        );
      } else items = this.items(target, properties, identity, null, depth + 1);
      symbol = { id: `symbol-${this.symbols.size + 1}`, name: this.titleOf(target) ?? 'Symbol', anchor: [0, 0], items };
      this.symbols.set(key, symbol);
    }
    if (!symbol.items.length) return [];
    const x = parseLength(element.attributes['x'], this.viewport.userWidth) ?? 0;
    const y = parseLength(element.attributes['y'], this.viewport.userHeight) ?? 0;
    // The symbol's shapes are in board millimetres already: the use's map is carried over to those axes.
    const placed = multiply(multiply(this.viewport.toBoard, multiply(matrix, translation(x, y))), this.fromBoard);
    const name = this.titleOf(element);
    const used: Item = {
      kind: 'use',
      id: this.nextId(),
      layer,
      name: name ?? symbol.name,
      transform: placed,
      symbol: symbol.id,
    };
    const opacity = shareOf(properties['opacity']);
    return opacity < 1 ? [{ kind: 'group', id: this.nextId(), layer, opacity, items: [used] }] : [used];
  }

  private styleOf(properties: Properties, scale: number): Style {
    const current = (properties['color'] && parseColour(properties['color'])) || '#000000';
    const colour = (name: 'fill' | 'stroke', otherwise: string | null): string | null => {
      const text = properties[name];
      if (text === undefined) return otherwise;
      const parsed = parseColour(
        text.replace(/^url\([^)]*\)\s+(?=\S)/, (url) => (this.tally.add(`${name} ${this.paintKind(url)}`), '')),
        current,
      );
      if (parsed !== undefined) return parsed;
      this.tally.add(`${name} ${this.paintKind(text)}`);
      return name === 'fill' ? '#808080' : null;
    };
    const fill = colour('fill', '#000000');
    const stroke = colour('stroke', null);
    const own = shareOf(properties['opacity']);
    const inFill = shareOf(properties['fill-opacity']) * alphaOf(properties['fill']);
    const inStroke = shareOf(properties['stroke-opacity']) * alphaOf(properties['stroke']);
    const inner = fill && !stroke ? inFill : stroke && !fill ? inStroke : inFill === inStroke ? inFill : 1;
    if (fill && stroke && inFill !== inStroke) this.tally.add('fill and line of different opacity');
    if (stroke) this.noteEffects(properties, LINE_EFFECTS);
    if (fill && stroke && /^\s*stroke/.test(properties['paint-order'] ?? '')) this.tally.add('line under its fill');
    const width = (parseLength(properties['stroke-width'], this.viewport.userWidth) ?? 1) * scale;
    return {
      fill,
      ...(properties['fill-rule'] === 'evenodd' ? { fillRule: 'evenodd' as const } : {}),
      stroke,
      strokeWidth: stroke ? width : 0,
      ...(own * inner < 1 ? { opacity: own * inner } : {}),
    };
  }

  private paintKind(text: string): string {
    const id = /^url\(\s*['"]?#([^'")]+)/.exec(text)?.[1];
    return (id && this.ids.get(id)?.name) || 'of an unknown kind';
  }

  private shapeItem(
    element: XmlElement,
    outlines: ReturnType<(typeof SHAPES)[string]>,
    properties: Properties,
    matrix: Matrix,
    layer: string | null,
  ): Item[] {
    if (!outlines.length) return [];
    for (const { segments } of outlines) this.budget.pieces(segments.length);
    const whole = multiply(this.viewport.toBoard, matrix);
    const name = this.titleOf(element);
    const common = {
      id: this.nextId(),
      layer,
      ...(name ? { name } : {}),
      style: this.styleOf(properties, meanScale(whole)),
    };
    const placed = outlines.map((outline) => transformOutline(outline, whole));
    const circle = element.name === 'circle' ? asCircle(placed[0]!) : undefined;
    if (circle)
      return [
        {
          kind: 'ellipse',
          ...common,
          cx: circle.centre[0],
          cy: circle.centre[1],
          rx: circle.radius,
          ry: circle.radius,
        },
      ];
    const upright = Math.abs(whole[1]) < 1e-12 && Math.abs(whole[2]) < 1e-12;
    const points = placed[0]!.segments.map(({ to }) => to);
    if (element.name === 'rect' && upright && points.length === 3) {
      const xs = [placed[0]!.start[0], ...points.map(([x]) => x)];
      const ys = [placed[0]!.start[1], ...points.map(([, y]) => y)];
      const [x, y] = [Math.min(...xs), Math.min(...ys)];
      return [{ kind: 'rectangle', ...common, x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y, radius: 0 }];
    }
    if (element.name === 'polyline' || element.name === 'polygon' || element.name === 'line')
      return [{ kind: 'polyline', ...common, points: [placed[0]!.start, ...points], closed: placed[0]!.closed }];
    return [{ kind: 'path', ...common, outlines: placed.map((outline) => ({ ...outline, segments: [...outline.segments] })) }];
  }

  private textItems(element: XmlElement, properties: Properties, matrix: Matrix, layer: string | null): Item[] {
    // Letters stand upright in both worlds, so the turning-over of y is taken out of the text's own axes.
    const whole = multiply(multiply(this.viewport.toBoard, matrix), scaling(1, -1));
    const plain =
      Math.abs(whole[1]) + Math.abs(whole[2]) < 1e-12 &&
      Math.abs(whole[0] - whole[3]) < 1e-9 * Math.abs(whole[0]) &&
      whole[0] > 0;
    return textChunks(element, properties, this.sheet, this.viewport, (kind) => this.tally.add(kind)).flatMap((chunk): Item[] => {
      const { font, exact } = shippedFont(chunk.properties);
      if (!exact) this.tally.add(`font ${fontName(chunk.properties)}, shown in ${font}`);
      const size = fontSize(chunk.properties, this.viewport);
      if (!chunk.text.trim() || !(size > 0)) return [];
      const anchor = chunk.properties['text-anchor'];
      const [x, y] = plain ? apply(whole, [chunk.x, -chunk.y]) : [chunk.x, -chunk.y];
      return [
        {
          kind: 'text',
          id: this.nextId(),
          layer,
          ...(plain ? {} : { transform: whole }),
          // Where the text keeps its map, that scales the line too.
          style: this.styleOf(chunk.properties, plain ? meanScale(whole) : 1),
          text: chunk.text,
          x,
          y,
          size: plain ? size * whole[0] : size,
          font,
          align: anchor === 'middle' || anchor === 'end' ? anchor : 'start',
        },
      ];
    });
  }
}
