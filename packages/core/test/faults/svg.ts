import { DOMParser, type Document, type Element, XMLSerializer } from '@xmldom/xmldom';
import svgpath from 'svgpath';
import type { Change, Changes, Dice } from './dice';
import { type Line, type Spot, apart, boxOf, inside, winding } from './shapes';

const NAMESPACE = 'http://www.w3.org/2000/svg';
const DRAWN = ['path', 'circle', 'text'];
const parse = (words: string): Document => new DOMParser().parseFromString(words, 'image/svg+xml');
const format = (document: Document): string => new XMLSerializer().serializeToString(document);
const all = (document: Document, ...names: string[]): Element[] =>
  Array.from(document.getElementsByTagName('*')).filter((one) => names.includes(one.tagName));
const number = (element: Element, name: string): number => Number(element.getAttribute(name));
const short = (value: number): string => String(Number(value.toFixed(5)));

/** The lines of a path, curves as 24 pieces each, by a library of its own. */
function linesOf(data: string): Line[] {
  const lines: Spot[][] = [];
  svgpath(data)
    .abs()
    .unshort()
    .unarc()
    .iterate(([command, ...n], _, x, y) => {
      const values = n as number[];
      const line = lines.at(-1)!;
      if (command === 'M') lines.push([[values[0]!, values[1]!]]);
      else if (command === 'L') line.push([values[0]!, values[1]!]);
      else if (command === 'H') line.push([values[0]!, y]);
      else if (command === 'V') line.push([x, values[0]!]);
      else if (command === 'C')
        for (let i = 1; i <= 24; i++) {
          const [t, s] = [i / 24, 1 - i / 24];
          const at = (k: number, from: number) =>
            s ** 3 * from + 3 * s * s * t * values[k]! + 3 * s * t * t * values[k + 2]! + t ** 3 * values[k + 4]!;
          line.push([at(0, x), at(1, y)]);
        }
      else if (command === 'Z') line.push(line[0]!);
    });
  return lines;
}

function spotsOf(element: Element): Line {
  if (element.tagName === 'path') return linesOf(element.getAttribute('d')!).flat();
  const [x, y, r] =
    element.tagName === 'circle'
      ? [number(element, 'cx'), number(element, 'cy'), number(element, 'r')]
      : [number(element, 'x'), number(element, 'y'), 0];
  return [
    [x - r, y - r],
    [x + r, y + r],
  ];
}

/** The colour that an element inks a place in, well within its edges; null where it does not, or nobody can say by it alone. */
function inkAt(element: Element, [x, y]: Spot): string | null {
  const isCircle = element.tagName === 'circle';
  const [cx, cy, r] = [number(element, 'cx'), number(element, 'cy'), number(element, 'r')];
  const lines = isCircle ? [] : linesOf(element.getAttribute('d')!);
  const shown = (name: string): string | null =>
    element.getAttribute(name)?.startsWith('#') ? element.getAttribute(name) : null;
  const half = number(element, 'stroke-width') / 2 - 0.02;
  const near = isCircle
    ? Math.abs(Math.hypot(x - cx, y - cy) - r) < half
    : lines.some((line) => line.some((from, i) => i > 0 && toSegment([x, y], line[i - 1]!, from) < half));
  if (shown('stroke') && near) return shown('stroke');
  const within = isCircle ? Math.hypot(x - cx, y - cy) < r : lines.filter((line) => inside([x, y], line)).length % 2 === 1;
  return within ? shown('fill') : null;
}
function toSegment([x, y]: Spot, [ax, ay]: Spot, [bx, by]: Spot): number {
  const square = (bx - ax) ** 2 + (by - ay) ** 2;
  const t = square ? Math.max(0, Math.min(1, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / square)) : 0;
  return Math.hypot(x - ax - t * (bx - ax), y - ay - t * (by - ay));
}
/** Whether two elements ink some place in different colours: their corners are looked at, and places all over both. */
function inkedOtherwise(one: Element, other: Element): boolean {
  const [a, b] = [boxOf(spotsOf(one)), boxOf(spotsOf(other))];
  const [left, right] = [Math.max(a.minX, b.minX), Math.min(a.maxX, b.maxX)];
  const [low, high] = [Math.max(a.minY, b.minY), Math.min(a.maxY, b.maxY)];
  const spread = Array.from({ length: 400 }, (_, i): Spot => {
    const [u, v] = [((i % 20) + 0.5) / 20, (Math.floor(i / 20) + 0.5) / 20];
    return [left + u * (right - left), low + v * (high - low)];
  });
  return [...spotsOf(one), ...spotsOf(other), ...spread].some((spot) => {
    const [mine, theirs] = [inkAt(one, spot), inkAt(other, spot)];
    return mine !== null && theirs !== null && mine !== theirs;
  });
}

/** A change to one element that fits. */
const onElement =
  (
    names: readonly string[],
    change: (element: Element, dice: Dice, tolerance: number, document: Document) => boolean | void,
  ): Change =>
  (words, dice, tolerance) => {
    const document = parse(words);
    const element = dice.pick(all(document, ...names));
    return element && change(element, dice, tolerance, document) !== false ? format(document) : undefined;
  };

function setPath(element: Element, change: (path: ReturnType<typeof svgpath>) => ReturnType<typeof svgpath>): void {
  element.setAttribute(
    'd',
    change(svgpath(element.getAttribute('d')!))
      .round(5)
      .toString(),
  );
}

function moveBy(element: Element, dx: number, dy: number): void {
  if (element.tagName === 'path') setPath(element, (path) => path.translate(dx, dy));
  else if (element.hasAttribute('transform'))
    element.setAttribute('transform', `translate(${short(dx)} ${short(dy)}) ${element.getAttribute('transform')}`);
  else
    for (const [name, by] of element.tagName === 'circle'
      ? ([
          ['cx', dx],
          ['cy', dy],
        ] as const)
      : ([
          ['x', dx],
          ['y', dy],
        ] as const))
      element.setAttribute(name, short(number(element, name) + by));
}

const otherColour = (colour: string, dice: Dice): string => {
  const at = 1 + dice.below(6);
  return colour.slice(0, at) + ((parseInt(colour[at]!, 16) + 1 + dice.below(15)) % 16).toString(16) + colour.slice(at + 1);
};
const recolour =
  (name: string) =>
  (element: Element, dice: Dice): boolean => {
    const colour = element.getAttribute(name) ?? 'none';
    if (!colour.startsWith('#')) return false;
    element.setAttribute(name, otherColour(colour, dice));
    return true;
  };
const setOnDrawn = (name: string, value: string): Change => onElement(DRAWN, (element) => element.setAttribute(name, value));

export const SVG_FAULTS: Changes = {
  move: onElement(DRAWN, (element, dice, tolerance) => moveBy(element, ...dice.shift(dice.size(1.5 * tolerance, 60)))),
  'move by transform': onElement(DRAWN, (element, dice, tolerance) => {
    const [dx, dy] = dice.shift(dice.size(1.5 * tolerance, 60));
    element.setAttribute('transform', `translate(${short(dx)},${short(dy)}) ${element.getAttribute('transform') ?? ''}`);
  }),
  delete: onElement(DRAWN, (element) => void element.parentNode!.removeChild(element)),
  add: onElement(DRAWN, (element, dice) => {
    const twin = element.cloneNode(true) as Element;
    moveBy(twin, 3 + 9 * dice.next(), 2);
    element.parentNode!.insertBefore(twin, element);
  }),
  'draw twice': onElement(DRAWN, (element) => void element.parentNode!.insertBefore(element.cloneNode(true), element)),
  resize: onElement(['path'], (element, dice, tolerance) => {
    const { minX, minY, maxX, maxY } = boxOf(spotsOf(element));
    const reach = Math.hypot(maxX - minX, maxY - minY) / 2;
    const factor = 1 + dice.size((3 * tolerance) / reach, 2);
    const [x, y] = [(minX + maxX) / 2, (minY + maxY) / 2];
    setPath(element, (path) => path.translate(-x, -y).scale(factor).translate(x, y));
  }),
  'resize a circle': onElement(['circle'], (element, dice, tolerance) =>
    element.setAttribute('r', short(number(element, 'r') + dice.size(1.5 * tolerance, 9))),
  ),
  'change a corner': onElement(['path'], (element, dice, tolerance) => {
    const data = element.getAttribute('d')!;
    const places = [...data.matchAll(/(?<=[MLC ])-?\d+(\.\d+)?/g)];
    const place = dice.pick(places)!;
    const by = dice.size(2 * tolerance, 30) * (dice.next() < 0.5 ? -1 : 1);
    const next = data.slice(0, place.index) + short(Number(place[0]) + by) + data.slice(place.index + place[0].length);
    const [before, after] = [linesOf(data), linesOf(next)];
    const off = Math.max(...before.map((line, i) => (String(line) === String(after[i]) ? 0 : apart(line, after[i]!))));
    // A corner that slides along its own line moves nothing.
    if (off < 1.6 * tolerance + 0.01) return false;
    element.setAttribute('d', next);
    return true;
  }),
  'recolour a fill': onElement(DRAWN, recolour('fill')),
  'recolour a line': onElement(DRAWN, recolour('stroke')),
  'other line width': onElement(DRAWN, (element, dice) => {
    if (!element.hasAttribute('stroke-width')) return false;
    element.setAttribute('stroke-width', short(number(element, 'stroke-width') + dice.size(0.01, 3)));
    return true;
  }),
  'see through': onElement(DRAWN, (element, dice) => element.setAttribute('opacity', short(0.1 + 0.7 * dice.next()))),
  'see through colour': onElement(DRAWN, (element) => {
    if (!element.getAttribute('fill')?.startsWith('#')) return false;
    element.setAttribute('fill', `${element.getAttribute('fill')}80`);
    return true;
  }),
  retype: onElement(['text'], (element, dice) => {
    const text = element.textContent!;
    const at = dice.below(text.length);
    const letter = String.fromCharCode(97 + dice.below(26));
    if (text[at] === letter) return false;
    element.textContent = text.slice(0, at) + letter + text.slice(at + 1);
    return true;
  }),
  'resize text': onElement(['text'], (element, dice, tolerance) =>
    element.setAttribute('font-size', short(number(element, 'font-size') + dice.size(1.5 * tolerance, 8))),
  ),
  'other font': onElement(['text'], (element, dice) =>
    element.setAttribute('font-family', dice.pick(['Unheard Of', 'monospace', 'serif'])!),
  ),
  'bold or plain': onElement(['text'], (element) =>
    element.setAttribute('font-weight', element.getAttribute('font-weight') === '700' ? '400' : '700'),
  ),
  'slanted letters': onElement(['text'], (element) => element.setAttribute('style', 'font-style:italic')),
  'letter spacing': onElement(['text'], (element) => element.setAttribute('letter-spacing', '2')),
  'other end': onElement(['text'], (element) =>
    element.setAttribute('text-anchor', element.getAttribute('text-anchor') === 'end' ? 'start' : 'end'),
  ),
  're-order': (words, dice) => {
    const document = parse(words);
    const pairs = all(document, 'path', 'circle').flatMap((one) => {
      const box = boxOf(spotsOf(one));
      const others: Element[] = [];
      for (let next = one.nextSibling; next; next = next.nextSibling) {
        const other = next as Element;
        if (!['path', 'circle'].includes(other.tagName)) continue;
        if (other.hasAttribute('transform') || one.hasAttribute('transform')) continue;
        const at = boxOf(spotsOf(other));
        if (at.minX < box.maxX && box.minX < at.maxX && at.minY < box.maxY && box.minY < at.maxY && inkedOtherwise(one, other))
          others.push(other);
      }
      return others.map((other) => [one, other] as const);
    });
    const pair = dice.pick(pairs);
    if (!pair) return undefined;
    pair[1].parentNode!.insertBefore(pair[0], pair[1].nextSibling);
    return format(document);
  },
  'fill a hole': onElement(['path'], (element) => {
    if (!element.getAttribute('fill')?.startsWith('#')) return false;
    const lines = linesOf(element.getAttribute('d')!);
    const parts = element.getAttribute('d')!.match(/M[^M]*/g)!;
    const hole = lines.findIndex((line, i) =>
      lines.some((other, j) => i !== j && inside(line[0]!, other) && Math.sign(winding(line)) !== Math.sign(winding(other))),
    );
    if (hole < 0) return false;
    const twin = element.cloneNode(true) as Element;
    twin.setAttribute('d', parts[hole]!);
    element.setAttribute('d', parts.filter((_, i) => i !== hole).join(''));
    element.parentNode!.insertBefore(twin, element.nextSibling);
    return true;
  }),
  'scale by 25.4': (words) =>
    words.replace(
      /width="([\d.]+)mm" height="([\d.]+)mm"/,
      (_, w: string, h: string) => `width="${Number(w) * 25.4}mm" height="${Number(h) * 25.4}mm"`,
    ),
  'scale the drawing': (words) =>
    words.replace('</metadata>', '</metadata><g transform="scale(25.4)">').replace('</svg>', '</g></svg>'),
  'decimal comma': onElement(['path'], (element, dice) => {
    const data = element.getAttribute('d')!;
    const points = [...data.matchAll(/\d\.\d/g)];
    const point = dice.pick(points);
    if (!point) return false;
    element.setAttribute('d', `${data.slice(0, point.index + 1)},${data.slice(point.index + 2)}`);
    return true;
  }),
  truncate: (words, dice) => words.slice(0, Math.floor(words.length * (0.02 + 0.96 * dice.next()))),
  'drop a layer': onElement(['g'], (element) => void element.parentNode!.removeChild(element)),
  'rename a layer': onElement(['title'], (element) => {
    // What a symbol is called is not drawn.
    if ((element.parentNode?.parentNode as Element | null)?.tagName === 'defs') return false;
    element.textContent = 'Elsewhere';
    return true;
  }),
  hide: setOnDrawn('display', 'none'),
  'hide by style': setOnDrawn('style', 'visibility:hidden'),
  'put a picture on it': onElement(['g'], (element, _dice, _tolerance, document) => {
    const image = document.createElementNS(NAMESPACE, 'image');
    image.setAttribute('href', 'data:image/png;base64,');
    element.appendChild(image);
  }),
  'clip it': setOnDrawn('clip-path', 'url(#window)'),
  'dash a line': onElement(DRAWN, (element) => {
    if (!element.hasAttribute('stroke')) return false;
    element.setAttribute('style', 'stroke-dasharray: 2, 1');
    return true;
  }),
  'fill with a gradient': onElement(DRAWN, (element) => {
    if (!element.getAttribute('fill')?.startsWith('#')) return false;
    element.setAttribute('fill', 'url(#shade)');
    return true;
  }),
};

const reformed =
  (change: (path: ReturnType<typeof svgpath>) => ReturnType<typeof svgpath>): Change =>
  (words) => {
    const document = parse(words);
    for (const element of all(document, 'path'))
      element.setAttribute('d', change(svgpath(element.getAttribute('d')!)).toString());
    return format(document);
  };
const PRESENTATION = ['fill', 'stroke', 'stroke-width', 'opacity', 'fill-rule', 'font-size', 'text-anchor'];

export const SVG_HARMLESS: Changes = {
  'saved again': (words) => format(parse(words)),
  'line ends of another system': (words) => words.replace(/\n/g, '\r\n'),
  indented: (words) => words.replace(/\n</g, '\n   <'),
  'path data relative': reformed((path) => path.rel().round(6)),
  'path data without arcs': reformed((path) => path.unarc().round(6)),
  'rounded otherwise': reformed((path) => path.translate(0.0008, -0.0011).round(4)),
  'a transform for coordinates': (words) => {
    const document = parse(words);
    for (const element of all(document, 'path')) {
      // What it is painted with, cut off by or drawn under lies in its axes, too.
      if (element.hasAttribute('transform') || /url\(/.test(String(element))) continue;
      setPath(element, (path) => path.translate(-13, 8));
      element.setAttribute('transform', 'translate(13-8)');
    }
    return format(document);
  },
  'styles by declaration': (words) => {
    const document = parse(words);
    for (const element of all(document, ...DRAWN)) {
      const found = PRESENTATION.filter((name) => element.hasAttribute(name));
      element.setAttribute(
        'style',
        found.map((name) => `${name}:${element.getAttribute(name)}${name === 'font-size' ? 'px' : ''}`).join(';'),
      );
      for (const name of found) element.removeAttribute(name);
    }
    return format(document);
  },
  'styles by class': (words) => {
    const document = parse(words);
    const rules = all(document, ...DRAWN).map((element, i) => {
      const found = PRESENTATION.filter((name) => element.hasAttribute(name));
      const rule = `.c${i}{${found.map((name) => `${name}:${element.getAttribute(name)}${name === 'font-size' ? 'px' : ''}`).join(';')}}`;
      for (const name of found) element.removeAttribute(name);
      element.setAttribute('class', `c${i}`);
      return rule;
    });
    const style = document.createElementNS(NAMESPACE, 'style');
    style.appendChild(document.createTextNode(rules.join('\n')));
    document.documentElement!.insertBefore(style, document.documentElement!.firstChild);
    return format(document);
  },
  'colours in another notation': (words) =>
    words.replace(
      /"#([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})"/g,
      (_, r: string, g: string, b: string) => `"rgb(${[r, g, b].map((part) => parseInt(part, 16)).join(', ')})"`,
    ),
  'circles as paths': (words) => {
    const document = parse(words);
    for (const element of all(document, 'circle')) {
      const [cx, cy, r] = [number(element, 'cx'), number(element, 'cy'), number(element, 'r')];
      const path = document.createElementNS(NAMESPACE, 'path');
      path.setAttribute(
        'd',
        `M${short(cx)},${short(cy - r)}a${r},${r} 0 1,1 0,${short(2 * r)}a${r} ${r} 0 1 1 0 ${short(-2 * r)}z`,
      );
      for (const name of PRESENTATION) if (element.hasAttribute(name)) path.setAttribute(name, element.getAttribute(name)!);
      element.parentNode!.replaceChild(path, element);
    }
    return format(document);
  },
  'another program’s notes': (words) =>
    words
      .replace('<svg ', '<svg xmlns:other="urn:example:other" other:version="3" ')
      .replace('</metadata>', '</metadata><other:view zoom="2"/><defs><linearGradient id="unused"/></defs>'),
  'another prefix': (words) => words.replace('xmlns=', 'xmlns:v=').replace(/<(\/?)(?=[a-z])(?!\?)/g, '<$1v:'),
  'the size in other units': (words) =>
    words.replace(
      /width="([\d.]+)mm" height="([\d.]+)mm"/,
      (_, w: string, h: string) => `width="${Number(w) / 10}cm" height="${Number(h) / 25.4}in"`,
    ),
};
