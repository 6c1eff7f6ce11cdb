import fc from 'fast-check';
import {
  CAPS,
  type Gradient,
  type Item,
  JOINS,
  type Master,
  type Paint,
  type Patch,
  type Pattern,
  type Style,
  allItems,
  findNode,
} from '../src';
import { layer, masterWith } from './build';
import { measure, outline, point } from './arbitrary';

const COLOURS = ['#14213a', '#c23b22', '#17796a', '#000000', '#f7f0e2', '#2b4180'] as const;
const FONTS = ['Commissioner', 'Commissioner Bold', 'Spline Sans Mono', 'Source Serif 4 Bold Italic'] as const;
const WORDS = ['Sedge', 'Mere 7', 'Łódka & Öl', 'two\nlines'] as const;
const LAYERS = ['cut', 'print', 'score'] as const;

const GRADIENTS: readonly Gradient[] = [
  {
    kind: 'linear',
    within: 'box',
    at: [0.6, 0.8, -0.8, 0.6, 0.1, 0],
    stops: [
      { offset: 0.1, colour: '#c23b22' },
      { offset: 1, colour: '#f7f0e2', opacity: 0.5 },
    ],
  },
  {
    kind: 'radial',
    within: 'box',
    at: [0.4, 0, 0.1, 0.5, 0.5, 0.5],
    focus: [0.3, -0.2],
    spread: 'reflect',
    stops: [
      { offset: 0, colour: '#2b4180' },
      { offset: 1, colour: '#17796a' },
    ],
  },
];
const PATTERNS: readonly Pattern[] = [
  { kind: 'pattern', symbol: 'symbol', width: 30, height: 20, at: [0.4, 0, 0.1, 0.4, 3, 2] },
  { kind: 'pattern', symbol: 'symbol', width: 30, height: 20, at: [0.4, 0, 0.1, 0.4, 9, 2] },
];
const paint = (patterns: readonly Pattern[]) =>
  fc.option(
    fc.oneof(
      { weight: 5, arbitrary: fc.constantFrom<Paint>(...COLOURS) },
      { weight: 2, arbitrary: fc.constantFrom<Paint>(...GRADIENTS, ...patterns) },
    ),
    { nil: null },
  );
const DASHES = [
  [2, 1],
  [4, 1.5, 0.5, 1.5],
];
const some = <T>(value: fc.Arbitrary<T>) => fc.option(value, { nil: undefined, freq: 3 });

const style = (patterns: readonly Pattern[]) =>
  fc
    .record({
      fill: paint(patterns),
      stroke: paint(patterns),
      strokeWidth: fc.constantFrom(0.25, 0.5, 1),
      opacity: fc.constantFrom(1, 0.5),
      fillOpacity: some(fc.constant(0.6)),
      strokeOpacity: some(fc.constant(0.3)),
      dash: some(fc.constantFrom(...DASHES)),
      cap: some(fc.constantFrom(...CAPS)),
      join: some(fc.constantFrom(...JOINS)),
    })
    // What is not there is not stated as undefined.
    .map((made) => JSON.parse(JSON.stringify(made)) as Style);

const plainPaint = (one: Paint | null) => (typeof one === 'object' && one ? '#2b4180' : one);

/** An item of any kind that is drawn by itself. */
const drawn = (id: string, onLayer: boolean, patterns = PATTERNS): fc.Arbitrary<Item> =>
  fc
    .tuple(
      fc.nat(4),
      style(patterns),
      point,
      measure(4, 60),
      measure(4, 40),
      outline,
      fc.constantFrom(...WORDS),
      fc.constantFrom(...FONTS),
      fc.constantFrom(...LAYERS),
    )
    .map(([kind, look, [x, y], width, height, path, words, font, on]): Item => {
      const own = { id, style: look, layer: onLayer ? on : null };
      if (kind === 0) return { ...own, kind: 'rectangle', x, y, width, height, radius: width > 8 && height > 8 ? 3 : 0 };
      if (kind === 1) return { ...own, kind: 'ellipse', cx: x, cy: y, rx: width / 2, ry: height / 2 };
      if (kind === 2) return { ...own, kind: 'path', outlines: [{ ...path, segments: [...path.segments] }] };
      if (kind === 3)
        return {
          ...own,
          kind: 'polyline',
          points: [
            [x, y],
            [x + width, y],
            [x, y + height],
          ],
          closed: width > 20,
        };
      // Gradients and patterns of letters are another matter: their box depends on who measures them.
      const plain = { ...look, fill: plainPaint(look.fill), stroke: plainPaint(look.stroke) };
      const size = Math.max(3, height / 4);
      const set = MANNERS[Math.round(width) % MANNERS.length]!(words, size);
      return { ...own, style: plain, kind: 'text', text: words, x, y, size, font, align: 'start', ...set };
    });

/** Ways in which a text is set: spaced, in a box, with parts that look otherwise. */
const MANNERS: readonly ((words: string, size: number) => Partial<Item & { kind: 'text' }>)[] = [
  () => ({}),
  () => ({ spacing: 0.2, align: 'middle' }),
  (words, size) => ({ text: `${words} ${words} ${words}`, width: 7 * size, leading: 1.5, align: 'end' }),
  (words, size) => ({
    align: 'middle',
    runs: [
      { from: 1, to: Math.ceil(words.length / 2), font: 'Oswald Bold', size: size * 1.5, colour: '#c23b22', spacing: -0.02 },
    ],
  }),
];

const AREA = {
  rule: 'nonzero' as const,
  outlines: [
    {
      start: [-20, -20] as const,
      segments: [[180, -20] as const, [180, 60] as const, [-20, 90] as const].map((to) => ({ kind: 'line' as const, to })),
      closed: true,
    },
  ],
};

/** Masters of two boards that use every kind of item, three fonts, symbols in symbols, groups in groups, names and colours of layers. */
export const richMaster: fc.Arbitrary<Master> = fc
  .tuple(
    fc.array(fc.nat(), { minLength: 2, maxLength: 5 }).chain((all) => fc.tuple(...all.map((_, i) => drawn(`i${i}`, true)))),
    drawn('in-group', false),
    drawn('in-symbol', false, []),
    drawn('on-back', true),
    drawn('under-mask', true),
    point,
    fc.constantFrom(...COLOURS),
  )
  .map(([items, grouped, inSymbol, back, under, [dx, dy], colour]) => {
    const all: Item[] = [
      ...items,
      {
        kind: 'group',
        id: 'outer',
        layer: 'cut',
        transform: [0.8, 0.6, -0.6, 0.8, 5, 5],
        opacity: 0.5,
        items: [
          { kind: 'group', id: 'inner', layer: 'score', blend: 'multiply', clip: [AREA], items: [grouped] },
          { kind: 'group', id: 'masked', layer: null, mask: { kind: 'luminance', symbol: 'symbol' }, items: [under] },
        ],
      },
      { kind: 'use', id: 'use', layer: 'print', transform: [1, 0, 0, 1, dx / 4, dy / 4], symbol: 'outer-symbol' },
    ];
    const master = masterWith(all, {
      layers: [layer('cut', 'cut', { name: 'Gate, cut' }), layer('print', 'print', { colour }), layer('score', 'score')],
      symbols: [
        { id: 'symbol', name: 'Reed', anchor: [0, 0], items: [inSymbol] },
        {
          id: 'outer-symbol',
          name: 'Reeds',
          anchor: [2, 1],
          items: [{ kind: 'use', id: 'nested', layer: null, symbol: 'symbol' }],
        },
      ],
    });
    return {
      ...master,
      boards: [...master.boards, { id: 'b2', name: 'Back', width: 80, height: 60, background: '#f7f0e2', items: [back] }],
    };
  });

/** One change of one feature: which, of what, and the patch. */
interface Act {
  readonly feature: string;
  readonly patch: Patch;
}

const other = <T>(values: readonly T[], than: unknown, pick: number): T => {
  const left = values.filter((value) => value !== than);
  return left[pick % left.length]!;
};

/** Everything that can be changed in a master, one attribute each, by an amount that nobody overlooks. */
export function actsOn(master: Master, pick: number): Act[] {
  const acts: Act[] = [];
  const set = (feature: string, node: string, attribute: string, value: unknown) =>
    acts.push({ feature, patch: { op: 'set', node, attribute, value } });
  const items = [
    ...master.boards.flatMap((board) => [...allItems(board.items)]),
    ...master.symbols.flatMap((symbol) => [...allItems(symbol.items)]),
  ];
  for (const item of items) {
    if (item.kind === 'group') {
      set('opacity', item.id, 'opacity', item.opacity === 0.5 ? 0.25 : 0.5);
      set('blending', item.id, 'blend', item.blend === 'multiply' ? 'screen' : 'multiply');
      set('clips', item.id, 'clip', item.clip ? undefined : [AREA]);
      set('masks', item.id, 'mask', item.mask ? undefined : { kind: 'luminance', symbol: 'symbol' });
    }
    if (item.kind === 'group' || item.kind === 'use') set('place', item.id, 'transform', [1, 0, 0, 1, 31, 17]);
    if ('style' in item) {
      set('fills', item.id, 'style.fill', other([...COLOURS, null], item.style.fill, pick));
      set('line colours', item.id, 'style.stroke', other(COLOURS, item.style.stroke, pick));
      if (item.style.stroke)
        set('line widths', item.id, 'style.strokeWidth', other([0.25, 0.5, 1], item.style.strokeWidth, pick));
      set('opacity', item.id, 'style.opacity', item.style.opacity === 1 ? 0.4 : 1);
      if (item.kind !== 'text') {
        set('gradients', item.id, 'style.fill', other<Paint>(GRADIENTS, item.style.fill, pick));
        set('gradients', item.id, 'style.stroke', other<Paint>(GRADIENTS, item.style.stroke, pick));
        if (item.id !== 'in-symbol') set('patterns', item.id, 'style.fill', other<Paint>(PATTERNS, item.style.fill, pick));
      }
      if (item.style.stroke) {
        set('dashes', item.id, 'style.dash', item.style.dash ? undefined : [3, 1]);
        set('line ends', item.id, 'style.cap', other(CAPS, item.style.cap ?? 'butt', pick));
        set('line ends', item.id, 'style.join', other(JOINS, item.style.join ?? 'miter', pick));
        set('pens', item.id, 'style.pen', [1.5, 0.2, 1.04 / 1.5]);
        set('opacity', item.id, 'style.strokeOpacity', item.style.strokeOpacity ? undefined : 0.5);
      }
      if (item.style.fill) set('opacity', item.id, 'style.fillOpacity', item.style.fillOpacity ? undefined : 0.5);
      set('place', item.id, 'transform', [0.96, 0.28, -0.28, 0.96, 9, 4]);
    }
    if (item.layer !== null) set('layer', item.id, 'layer', other(LAYERS, item.layer, pick));
    if (item.kind === 'rectangle') set('outlines', item.id, 'width', item.width + 7);
    if (item.kind === 'ellipse') set('outlines', item.id, 'rx', item.rx + 3);
    if (item.kind === 'polyline') set('outlines', item.id, 'points', [...item.points, [3, 90]]);
    if (item.kind === 'path')
      set('outlines', item.id, 'outlines', [
        ...item.outlines,
        { start: [1, 1], segments: [{ kind: 'line', to: [20, 5] }], closed: false },
      ]);
    if (item.kind === 'text') {
      set('text', item.id, 'text', other(WORDS, item.text, pick));
      set('text', item.id, 'font', other(FONTS, item.font, pick));
      set('text', item.id, 'size', item.size + 2);
      set('text', item.id, 'spacing', item.spacing ? undefined : 0.3);
      set('text', item.id, 'runs', item.runs ? undefined : [{ from: 0, to: 3, colour: '#8a2be2', font: 'Oswald' }]);
      if (item.width) set('text', item.id, 'leading', 2.2);
      if (item.width) set('text', item.id, 'width', item.width / 2);
      set('text', item.id, 'align', other(['start', 'middle', 'end'], item.align, pick));
    }
  }
  for (const one of master.layers) {
    set('layer names', one.id, 'name', `${one.name} two`);
    set('layer colours', one.id, 'colour', other(COLOURS, one.colour, pick));
    set('layer', one.id, 'visible', false);
    set('layer', one.id, 'process', other(['cut', 'score', 'print', 'engrave'], one.process, pick));
  }
  for (const one of master.boards) {
    set('board size', one.id, 'width', one.width + 11);
    set('board names', one.id, 'name', `${one.name} two`);
    set('background', one.id, 'background', other(COLOURS, one.background, pick));
  }
  return acts.filter(({ patch }) => findNode(master, (patch as { node: string }).node));
}
