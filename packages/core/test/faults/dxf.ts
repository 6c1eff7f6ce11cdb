import type { Change, Changes, Dice } from './dice';
import { type Line, apart } from './shapes';

type Pair = [code: number, value: string];
interface Document {
  readonly before: Pair[];
  /** Entities in order; a polyline with its corners is one. */
  readonly entities: Pair[][];
  readonly after: Pair[];
}

function parse(words: string): Document {
  const lines = words.split(/\r?\n/);
  const pairs: Pair[] = [];
  for (let i = 0; i + 1 < lines.length; i += 2) pairs.push([Number(lines[i]), lines[i + 1]!]);
  const start = pairs.findIndex(([code, value], i) => code === 2 && value === 'ENTITIES' && pairs[i - 1]![1] === 'SECTION') + 1;
  const end = pairs.findIndex(([code, value], i) => i > start && code === 0 && value === 'ENDSEC');
  const entities: Pair[][] = [];
  for (const pair of pairs.slice(start, end)) {
    if (pair[0] === 0 && pair[1] !== 'VERTEX' && pair[1] !== 'SEQEND') entities.push([]);
    entities.at(-1)!.push(pair);
  }
  return { before: pairs.slice(0, start), entities, after: pairs.slice(end) };
}

const format = ({ before, entities, after }: Document): string =>
  [...before, ...entities.flat(), ...after].map(([code, value]) => `${code}\n${value}\n`).join('');
const typeOf = (entity: readonly Pair[]): string => entity[0]![1];
const value = (entity: readonly Pair[], code: number): string | undefined => entity.find(([one]) => one === code)?.[1];
const isX = (code: number) => code === 10 || code === 11;
const isY = (code: number) => code === 20 || code === 21;

/** Every x and y of an entity put through a function; the frame of a polyline has a dummy point that stays. */
function mapPoints(entity: readonly Pair[], map: (x: number, y: number) => [number, number]): Pair[] {
  const out = entity.map(([code, text]): Pair => [code, text]);
  const first =
    typeOf(entity) === 'POLYLINE' ? entity.findIndex(([code, text], i) => i > 0 && code === 0 && text === 'VERTEX') : 0;
  for (let i = first; i < out.length; i++) {
    if (!isX(out[i]![0])) continue;
    const y = out.findIndex(([code], j) => j > i && isY(code));
    const [nx, ny] = map(Number(out[i]![1]), Number(out[y]![1]));
    out[i]![1] = String(Number(nx.toFixed(6)));
    out[y]![1] = String(Number(ny.toFixed(6)));
  }
  return out;
}

function spotsOf(entity: readonly Pair[]): Line {
  const spots: [number, number][] = [];
  mapPoints(entity, (x, y) => (spots.push([x, y]), [x, y]));
  return spots;
}

const onEntity =
  (
    fits: (entity: readonly Pair[]) => boolean,
    change: (entity: Pair[], dice: Dice, tolerance: number, document: Document) => Pair[][] | undefined,
  ): Change =>
  (words, dice, tolerance) => {
    const document = parse(words);
    const entity = dice.pick(document.entities.filter(fits));
    const by = entity && change(entity, dice, tolerance, document);
    return by && format({ ...document, entities: document.entities.flatMap((one) => (one === entity ? by : [one])) });
  };
const any = () => true;
const drawn = (entity: readonly Pair[]) => typeOf(entity) !== 'INSERT';
const has =
  (...types: string[]) =>
  (entity: readonly Pair[]) =>
    types.includes(typeOf(entity));
const set = (entity: readonly Pair[], code: number, text: string): Pair[] =>
  entity.map((pair): Pair => (pair[0] === code ? [code, text] : pair));
/** Puts a group behind the layer, where the groups that all entities share stand. */
const add = (entity: readonly Pair[], code: number, text: string): Pair[] => {
  const at = entity.findIndex(([one]) => one === 8) + 1;
  return [...entity.slice(0, at), [code, text], ...entity.slice(at).filter(([one]) => one !== code)];
};
const straight = (entity: readonly Pair[]) => has('LINE', 'LWPOLYLINE', 'POLYLINE')(entity) && value(entity, 42) === undefined;

/** Whether a pair stands in a record of the layer table. */
const isLayer = (pairs: readonly Pair[], at: number): boolean =>
  pairs.slice(0, at).findLast(([code]) => code === 0)?.[1] === 'LAYER';

export const DXF_FAULTS: Changes = {
  move: onEntity(any, (entity, dice, tolerance) => {
    const [dx, dy] = dice.shift(dice.size(1.5 * tolerance, 60));
    return [mapPoints(entity, (x, y) => [x + dx, y + dy])];
  }),
  delete: onEntity(any, () => []),
  'draw twice': onEntity(any, (entity) => [entity, entity]),
  add: onEntity(any, (entity, dice) => [entity, mapPoints(entity, (x, y) => [x + 3 + dice.next() * 9, y + 2])]),
  resize: onEntity(has('CIRCLE', 'ARC'), (entity, dice, tolerance) => [
    set(entity, 40, String(Number(value(entity, 40)) + dice.size(1.5 * tolerance, 5))),
  ]),
  'resize text': onEntity(has('TEXT'), (entity, dice, tolerance) => [
    set(entity, 40, String(Number(value(entity, 40)) + dice.size(1.5 * tolerance, 5))),
  ]),
  // What is said of an insert says nothing of what has its own layer and colour in the block.
  recolour: onEntity(drawn, (entity, dice) => {
    // What states its colour as it is, or shades, is not asked for its number.
    const own = [421, 420].find((code) => value(entity, code) !== undefined);
    if (own) {
      const at = entity.findIndex(([code]) => code === own);
      const next = String((Number(entity[at]![1]) + 0x30 + dice.below(0x800000)) & 0xffffff);
      return [entity.map((pair, i): Pair => (i === at ? [own, next] : pair))];
    }
    const now = value(entity, 62);
    const next = String(1 + dice.below(6));
    return now === next ? undefined : [add(entity, 62, next)];
  }),
  'other line width': (words, dice, tolerance) =>
    /AC1015/.test(words)
      ? onEntity(
          (entity) => value(entity, 370) !== undefined,
          (entity) => [set(entity, 370, value(entity, 370) === '100' ? '140' : '100')],
        )(words, dice, tolerance)
      : undefined,
  retype: onEntity(has('TEXT'), (entity, dice) => {
    const text = value(entity, 1)!;
    const at = dice.below(text.length);
    const letter = String.fromCharCode(97 + dice.below(26));
    return text[at] === letter || /[\\U+%]/.test(text)
      ? undefined
      : [set(entity, 1, text.slice(0, at) + letter + text.slice(at + 1))];
  }),
  'other font': onEntity(has('TEXT'), (entity) => [set(entity, 7, 'STANDARD')]),
  'narrow text': onEntity(has('TEXT'), (entity) => [add(entity, 41, '0.8')]),
  'turn text': onEntity(has('TEXT'), (entity, dice) => [add(entity, 50, String(1 + dice.below(80)))]),
  'other layer': onEntity(drawn, (entity) => [set(entity, 8, 'ELSEWHERE')]),
  'drop a layer': (words, dice) => {
    const document = parse(words);
    const layer = dice.pick(document.entities.map((entity) => value(entity, 8)));
    return format({ ...document, entities: document.entities.filter((entity) => value(entity, 8) !== layer) });
  },
  'freeze a layer': (words, dice) => {
    const document = parse(words);
    const layer = dice.pick(document.entities.filter(drawn).map((entity) => value(entity, 8)));
    const named = document.before.findIndex(
      ([code, text], i) => code === 2 && text === layer && i > 0 && isLayer(document.before, i),
    );
    const colour = document.before.findIndex(([code], i) => i > named && code === 62);
    const before = document.before.map(([code, text], i): Pair => [code, i === colour ? `-${text}` : text]);
    return format({ ...document, before });
  },
  'hide an entity': onEntity(any, (entity) => [add(entity, 60, '1')]),
  'other unit': (words) => (/\$INSUNITS\n70\n4/.test(words) ? words.replace('$INSUNITS\n70\n4', '$INSUNITS\n70\n1') : undefined),
  'scale by 25.4': (words) => {
    const document = parse(words);
    const scaled = document.entities.map((entity) =>
      mapPoints(entity, (x, y) => [x * 25.4, y * 25.4]).map(([code, text]): Pair =>
        code === 40 && !has('SPLINE')(entity) ? [code, String(Number(text) * 25.4)] : [code, text],
      ),
    );
    return format({ ...document, entities: scaled });
  },
  'decimal comma': onEntity(any, (entity, dice) => {
    const places = entity.flatMap(([code, text], i) => (code >= 10 && code < 60 && /\d\.\d/.test(text) ? [i] : []));
    const at = dice.pick(places);
    return at === undefined
      ? undefined
      : [entity.map(([code, text], i): Pair => [code, i === at ? text.replace('.', ',') : text])];
  }),
  truncate: (words, dice) => words.slice(0, Math.floor(words.length * (0.02 + 0.96 * dice.next()))),
  'change one digit': onEntity(straight, (entity, dice, tolerance) => {
    const places = entity.flatMap(([code], i) => (isX(code) || isY(code) ? [i] : []));
    const at = dice.pick(places)!;
    const text = entity[at]![1];
    const digits = [...text.matchAll(/\d/g)];
    const digit = dice.pick(digits)!;
    const next = text.slice(0, digit.index) + String((Number(digit[0]) + 1 + dice.below(9)) % 10) + text.slice(digit.index + 1);
    const changed = entity.map(([code, old], i): Pair => [code, i === at ? next : old]);
    return apart(spotsOf(entity), spotsOf(changed)) > 1.5 * tolerance ? [changed] : undefined;
  }),
  'open a closed outline': onEntity(
    (entity) => has('LWPOLYLINE', 'POLYLINE')(entity) && value(entity, 70) === '1',
    (entity, _dice, tolerance) => {
      const spots = spotsOf(entity);
      const [first, last] = [spots[0]!, spots.at(-1)!];
      const gap = Math.hypot(first[0] - last[0], first[1] - last[1]);
      const at = entity.findIndex(([code]) => code === 70);
      return gap < 4 * tolerance ? undefined : [entity.map((pair, i): Pair => (i === at ? [70, '0'] : pair))];
    },
  ),
  'turn a bulge over': onEntity(
    (entity) => value(entity, 42) !== undefined && !has('SPLINE')(entity),
    (entity, dice) => {
      const at = dice.pick(entity.flatMap(([code, text], i) => (code === 42 && Math.abs(Number(text)) > 0.1 ? [i] : [])));
      return at === undefined
        ? undefined
        : [entity.map(([code, text], i): Pair => [code, i === at ? String(-Number(text)) : text])];
    },
  ),
  'dashed line': onEntity(
    (entity) => drawn(entity) && !has('TEXT')(entity),
    (entity) => [add(entity, 6, 'DASHED')],
  ),
  'lift off the board': onEntity(has('LINE', 'CIRCLE', 'ARC'), (entity) => [set(entity, 30, '12.5')]),
  'shade another way': onEntity(
    (entity) => value(entity, 450) === '1' && value(entity, 470) === 'LINEAR',
    (entity, dice) => [set(entity, 460, String(Number(value(entity, 460)) + 0.2 + dice.next()))],
  ),
  'lines another way': onEntity(
    (entity) => value(entity, 78) !== undefined,
    (entity, dice) => [set(entity, 53, String(Number(value(entity, 53)) + 3 + 20 * dice.next()))],
  ),
  'lines wider apart': onEntity(
    (entity) => value(entity, 78) !== undefined,
    (entity) => [set(set(entity, 45, String(1.2 * Number(value(entity, 45)))), 46, String(1.2 * Number(value(entity, 46))))],
  ),
  'hatch an area': onEntity(any, (entity) => [
    entity,
    [
      [0, 'HATCH'],
      [8, value(entity, 8)!],
      [2, 'SOLID'],
      [70, '1'],
    ],
  ]),
};

export const DXF_HARMLESS: Changes = {
  'line ends of another system': (words) => words.replace(/\n/g, '\r\n'),
  'codes set to the right': (words) =>
    parseLines(words)
      .map(([code, text]) => `${String(code).padStart(3)}\n${text}\n`)
      .join(''),
  'a comment in between': (words) =>
    words.replace('0\nSECTION\n2\nENTITIES\n', '999\nseen by another program\n0\nSECTION\n2\nENTITIES\n'),
  'numbers written longer': (words) => {
    const document = parse(words);
    const long = (pair: Pair): Pair => (pair[0] >= 10 && pair[0] < 60 ? [pair[0], Number(pair[1]).toFixed(8)] : pair);
    return format({ ...document, entities: document.entities.map((entity) => entity.map(long)) });
  },
  'rounded otherwise': (words, dice, tolerance) => {
    const document = parse(words);
    const nudge = (by: number) => by + (dice.next() - 0.5) * 0.3 * tolerance;
    return format({
      ...document,
      entities: document.entities.map((entity) =>
        has('SPLINE')(entity) ? entity : mapPoints(entity, (x, y) => [nudge(x), nudge(y)]),
      ),
    });
  },
  'entities in another order': (words) => {
    const document = parse(words);
    return format({ ...document, entities: [...document.entities].reverse() });
  },
  // Dashes run from where a line begins.
  'a line the other way round': onEntity(
    (entity) => has('LINE')(entity) && value(entity, 6) === undefined,
    (entity) => {
      const [a, b] = spotsOf(entity) as [[number, number], [number, number]];
      let at = 0;
      return [mapPoints(entity, () => (at++ ? a : b))];
    },
  ),
  'a polyline as lines': onEntity(
    // Dashes run from where a line begins.
    (entity) => has('LWPOLYLINE', 'POLYLINE')(entity) && value(entity, 42) === undefined && value(entity, 6) === undefined,
    (entity) => {
      const spots = spotsOf(entity);
      const closed = value(entity, 70) === '1';
      const common = entity.slice(1).filter(([code]) => [8, 62, 370, 420, 440].includes(code));
      const shared = common.slice(0, new Set(common.map(([code]) => code)).size);
      return spots.slice(0, closed ? spots.length : -1).map((from, i): Pair[] => {
        const to = spots[(i + 1) % spots.length]!;
        return [
          [0, 'LINE'],
          ...shared,
          [10, `${from[0]}`],
          [20, `${from[1]}`],
          [30, '0'],
          [11, `${to[0]}`],
          [21, `${to[1]}`],
          [31, '0'],
        ];
      });
    },
  ),
  'something on a sheet layout': onEntity(any, (entity) => [
    entity,
    [
      [0, 'VIEWPORT'],
      [67, '1'],
      [8, '0'],
      [10, '0'],
      [20, '0'],
      [30, '0'],
    ],
  ]),
};

function parseLines(words: string): Pair[] {
  const { before, entities, after } = parse(words);
  return [...before, ...entities.flat(), ...after];
}
