import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import {
  type Item,
  type Master,
  type PlacedGradient,
  checkCopy,
  codecOf,
  derive,
  project,
  recipeOf,
  resolveBoard,
  unpackDrawing,
} from '../src';
import { colouring, endsOfLinear, meanColour } from '../src/evaluate/gradients/gradient';
import { penMatrix, penUnder } from '../src/base/geometry/pen';
import { shippedFonts } from '../../render/src';
import { masterWith, rectangle } from './build';
import { judgedBy } from './judged-by';
import { cpuTime } from './cpu-time';

const services = { fonts: shippedFonts() };
const time = '2026-11-20T10:00:00.000Z';
const file = join(__dirname, 'fixtures/painted.svg');
const original = readFileSync(file, 'utf8');
const svg = await codecOf('svg');
const { master, notUnderstood } = svg.bringIn!(readFileSync(file), 'painted.svg') as {
  master: Master;
  notUnderstood: readonly unknown[];
};
const recipe = recipeOf('svg', {});
const decode = (bytes: Uint8Array) => new TextDecoder().decode(bytes);

/** What another program draws of a drawing, as plain pixels. */
async function pixels(svg: string): Promise<Buffer> {
  const folder = mkdtempSync(join(tmpdir(), 'inkwell-painted-'));
  try {
    writeFileSync(join(folder, 'a.svg'), svg);
    const png = execFileSync('rsvg-convert', ['-w', '480', '-h', '360', '--background-color', 'white', join(folder, 'a.svg')]);
    return await sharp(png).removeAlpha().raw().toBuffer();
  } finally {
    rmSync(folder, { recursive: true });
  }
}
const shareOff = (a: Buffer, b: Buffer) => a.filter((value, i) => Math.abs(value - b[i]!) > 24).length / a.length;

describe('a drawing with gradients, patterns, clips, masks, blends and dashes', () => {
  it('comes in whole', () => {
    expect(notUnderstood).toEqual([]);
    expect(master.symbols.map(({ name }) => name).sort()).toEqual(['mist', 'reeds']);
  });

  judgedBy('rsvg-convert').it('looks in its copy as it did, to a program that nobody here wrote', async () => {
    const { files, defects } = await derive({ master, rev: 1, time }, recipe, services);
    expect(defects).toEqual([]);
    expect(shareOff(await pixels(original), await pixels(decode(files[0]!.bytes)))).toBeLessThan(0.005);
  });

  it('does not call a group opened that its copy keeps as one', async () => {
    const opened = async (target: string) =>
      (await derive({ master, rev: 1, time }, recipeOf(target, {}), services)).report.lines.find(
        ({ feature }) => feature === 'groups',
      );
    // Only the one that does nothing but move what is in it.
    expect(await opened('svg')).toMatchObject({ outcome: 'restated', count: 1 });
    expect(await opened('dxf')).toMatchObject({ outcome: 'restated', count: 5 });
  });

  it('says what DXF and a pen machine lose of it', async () => {
    const lost = async (target: string) =>
      (await derive({ master, rev: 1, time }, recipeOf(target, {}), services)).report.lines
        .filter(({ outcome }) => outcome !== 'kept')
        .map(({ what }) => what);
    expect(await lost('dxf')).toEqual(
      expect.arrayContaining([
        'Gradients',
        'Dashes',
        'Line ends and corners',
        'Clips',
        'Soft masks',
        'Mixing with what lies under',
        'Opacity',
      ]),
    );
    expect(await lost('hpgl')).toEqual(['Objects on “Drawing” (print)']);
    const cut = { ...master, layers: master.layers.map((layer) => ({ ...layer, process: 'cut' as const })) };
    const { report } = await derive({ master: cut, rev: 1, time }, recipeOf('hpgl', {}), services);
    expect(report.lines.map(({ what }) => what)).toEqual(expect.arrayContaining(['Fills', 'Dashes', 'Opacity']));
  });

  it.each<[string, (copy: string) => string, string]>([
    ['a stop of another colour', (copy) => copy.replace('stop-color="#c23b22"', 'stop-color="#c2bb22"'), 'recoloured'],
    ['a stop elsewhere', (copy) => copy.replace('offset="0.6"', 'offset="0.45"'), 'recoloured'],
    [
      'a gradient that repeats otherwise',
      (copy) => copy.replace(/spreadMethod="reflect"/g, 'spreadMethod="repeat"'),
      'recoloured',
    ],
    ['a gradient that runs elsewhere', (copy) => copy.replace(/x2="([\d.]+)"/, (_, x) => `x2="${Number(x) + 4}"`), 'recoloured'],
    ['other dashes', (copy) => copy.replace(/stroke-dasharray="4 /, 'stroke-dasharray="5 '), 'restyled'],
    [
      'dashes that run the other way',
      (copy) => copy.replace(/d="M4 4L48 4L48 34L4 34Z"/, 'd="M4 4L4 34L48 34L48 4Z"'),
      'restyled',
    ],
    ['corners that are pointed', (copy) => copy.replace(' stroke-linejoin="bevel"', ''), 'restyled'],
    ['another miter limit', (copy) => copy.replace('stroke-miterlimit="2"', 'stroke-miterlimit="8"'), 'restyled'],
    ['a fill that shows more', (copy) => copy.replace('fill-opacity="0.8"', 'fill-opacity="0.5"'), 'restyled'],
    [
      'a clip that was moved',
      (copy) => copy.replace(/(<clipPath[^>]*>\s*<path d="M)([\d.]+)/, (_, start, x) => `${start}${Number(x) + 3}`),
      'clipped otherwise',
    ],
    ['no clip', (copy) => copy.replace(/ clip-path="url\([^)]*\)"/, ''), 'clipped otherwise'],
    ['no mask', (copy) => copy.replace(/ mask="url\([^)]*\)"/, ''), 'masked otherwise'],
    [
      'a mask of the cover instead of the light',
      (copy) => copy.replace(/(<mask [^>]*)>/, '$1 style="mask-type:alpha">'),
      'masked otherwise',
    ],
    ['another mixing', (copy) => copy.replace('mix-blend-mode:multiply', 'mix-blend-mode:screen'), 'restyled'],
    ['a group that shows more', (copy) => copy.replace('<g opacity="0.5">', '<g opacity="0.8">'), 'restyled'],
    [
      'opacity given to each instead of the group',
      (copy) =>
        copy.replace(/<g opacity="0.5">([\s\S]*?)<\/g>/, (_, inner: string) =>
          inner.replace(/<circle /g, '<circle opacity="0.5" '),
        ),
      'restyled',
    ],
    ['a pattern with other leaves', (copy) => copy.replace(/(<pattern[\s\S]*?stroke=")#2f6b3c/, '$1#6b2f3c'), 'recoloured'],
    [
      'a pattern that lies elsewhere',
      (copy) => copy.replace(/(patternTransform="matrix\([^)]*) ([-\d.]+)\)/, (_, start, f) => `${start} ${Number(f) + 1})`),
      'recoloured',
    ],
    ['a pen of another shape', (copy) => copy.replace(/transform="matrix\(2\.\d+ /, 'transform="matrix(1.8 '), ''],
  ])('is not in step with %s', async (_, change, kind) => {
    const { files, says } = await derive({ master, rev: 1, time }, recipe, services);
    const changed = change(decode(files[0]!.bytes));
    expect(changed).not.toBe(decode(files[0]!.bytes));
    const copy = [{ part: '', bytes: new TextEncoder().encode(changed) }];
    const { verdict, differences } = await checkCopy(
      { files: copy, intact: false, says, recipe, current: master, baseline: master },
      services,
    );
    expect(verdict).toBe('touched');
    if (kind) expect(differences.map((one) => one.kind)).toContain(kind);
  });

  it.each<[string, (copy: string) => string]>([
    [
      'its definitions at the top',
      (copy) => {
        const [defs] = /<defs>[\s\S]*<\/defs>\n/.exec(copy)!;
        return copy.replace(defs, '').replace('<g><title>', `${defs}<g><title>`);
      },
    ],
    [
      'a stop more where it changes nothing',
      (copy) =>
        copy.replace(
          '<stop offset="0" stop-color="#000000"/>',
          '<stop offset="0" stop-color="#000000"/><stop offset="0.5" stop-color="#808080"/>',
        ),
    ],
    ['attributes as a style', (copy) => copy.replace(/stroke-dasharray="([^"]*)"/, 'style="stroke-dasharray:$1"')],
    ['names of its own', (copy) => copy.replace(/paint-(\d+)/g, 'shade$1')],
  ])('is in step with %s', async (_, change) => {
    const { files, says } = await derive({ master, rev: 1, time }, recipe, services);
    const changed = change(decode(files[0]!.bytes));
    expect(changed).not.toBe(decode(files[0]!.bytes));
    const copy = [{ part: '', bytes: new TextEncoder().encode(changed) }];
    expect(
      await checkCopy({ files: copy, intact: false, says, recipe, current: master, baseline: master }, services),
    ).toMatchObject({
      verdict: 'in step',
      differences: [],
    });
  });

  it.each<[string, string, string]>([
    [
      'a gradient that takes over from itself',
      '<linearGradient id="a" href="#b"/><linearGradient id="b" href="#a"/><rect width="9" height="9" fill="url(#a)"/>',
      'svg-gradient-cycle',
    ],
    [
      'a pattern inside itself',
      '<pattern id="a" width="5" height="5" patternUnits="userSpaceOnUse"><rect width="5" height="5" fill="url(#a)"/></pattern><rect width="9" height="9" fill="url(#a)"/>',
      'svg-use-cycle',
    ],
    [
      'a mask inside itself',
      '<mask id="a"><rect width="5" height="5" mask="url(#a)"/></mask><rect width="9" height="9" mask="url(#a)"/>',
      'svg-use-cycle',
    ],
  ])('refuses %s', (_, inner, code) => {
    const bytes = new TextEncoder().encode(`<svg xmlns="http://www.w3.org/2000/svg" width="20" height="20">${inner}</svg>`);
    expect(() => svg.bringIn!(bytes, 'x.svg')).toThrow(expect.objectContaining({ code }));
  });
});

describe('markers at line ends', () => {
  const drawing = `<svg xmlns="http://www.w3.org/2000/svg" width="120mm" height="90mm" viewBox="0 0 120 90">
    <defs>
      <marker id="tip" viewBox="0 0 10 10" refX="9" refY="5" markerWidth="5" markerHeight="4" orient="auto"><path d="M0 0L10 5L0 10z" fill="#c23b22"/></marker>
      <marker id="dot" refX="1" refY="1" markerWidth="2" markerHeight="2" markerUnits="userSpaceOnUse" orient="30"><rect width="2" height="1.4" fill="#17796a"/></marker>
      <marker id="tail" refX="2" refY="2" markerWidth="4" markerHeight="4" orient="auto-start-reverse"><circle cx="2" cy="2" r="1.5" fill="none" stroke="#2b4180"/></marker>
    </defs>
    <g fill="none" stroke="#14213a" stroke-width="2" marker-end="url(#tip)">
      <path d="M10 20C30 0 40 40 60 20S100 10 108 30" marker-start="url(#tail)" marker-mid="url(#dot)"/>
      <polyline points="12,50 40,70 60,46" marker-mid="url(#dot)"/>
      <path d="M70 60A16 12 0 0 1 100 62" style="marker-end:url(#tail)"/>
      <path d="M20 76h16v9h-16z" marker-start="url(#dot)" transform="rotate(4)"/>
      <rect x="80" y="76" width="9" height="6"/>
    </g>
  </svg>`;
  const bring = (words: string) => svg.bringIn!(new TextEncoder().encode(words), 'marked.svg');

  judgedBy('rsvg-convert').it('come in opened, said so, and look as they did', async () => {
    const read = await bring(drawing);
    expect(read.notUnderstood).toEqual([{ kind: 'marker, opened', count: 8, shows: false }]);
    const { files, defects } = await derive({ master: read.master, rev: 1, time }, recipe, services);
    expect(defects).toEqual([]);
    expect(shareOff(await pixels(drawing), await pixels(decode(files[0]!.bytes)))).toBeLessThan(0.003);
  });
  it('that hold themselves, or lead nowhere, are told of', async () => {
    const within = drawing.replace('<path d="M0 0L10 5L0 10z"', '<path marker-end="url(#tip)" d="M0 0L10 5L0 10z"');
    expect(() => bring(within)).toThrow(expect.objectContaining({ code: 'svg-use-cycle' }));
    const nowhere = await bring(drawing.replaceAll('url(#dot)', 'url(#gone)'));
    expect(nowhere.notUnderstood).toContainEqual({ kind: 'marker of something missing', count: 3, shows: true });
  });
});

describe('masks without end', () => {
  it('are refused in bounded time', () => {
    const inside = Array.from({ length: 200 }, (_, i) => rectangle(`in${i}`, i, 0));
    const groups = Array.from({ length: 2000 }, (_, i): Item => {
      const mask = { kind: 'luminance' as const, symbol: 'veil' };
      return { kind: 'group', id: `g${i}`, layer: 'cut', transform: [1, 0, 0, 1, i, 0], mask, items: [rectangle(`r${i}`)] };
    });
    const many = masterWith(groups, { symbols: [{ id: 'veil', name: 'Veil', anchor: [0, 0], items: inside }] });
    const start = cpuTime();
    expect(() => resolveBoard(many, many.boards[0]!)).toThrow(expect.objectContaining({ code: 'too-many-objects' }));
    expect(cpuTime() - start).toBeLessThan(30_000);
  });
});

describe('gradients', () => {
  const stops = [
    { offset: 0, colour: '#000000' },
    { offset: 1, colour: '#ffffff' },
  ];
  it('have the colours of SVG 1.1 along, beyond and out from a focus', () => {
    const red = (gradient: Parameters<typeof colouring>[0], x: number, y = 0) => Math.round(colouring(gradient)([x, y])[0]);
    const along = { kind: 'linear', at: [10, 0, 0, 10, 0, 0], stops } as const;
    expect([-5, 0, 5, 10, 15].map((x) => red({ ...along, stops: [...stops] }, x))).toEqual([0, 0, 128, 255, 255]);
    expect([12.5, 15].map((x) => red({ ...along, stops: [...stops], spread: 'repeat' }, x))).toEqual([64, 128]);
    expect([12.5, 15].map((x) => red({ ...along, stops: [...stops], spread: 'reflect' }, x))).toEqual([191, 128]);
    const out: PlacedGradient = { kind: 'radial', at: [10, 0, 0, 10, 0, 0], focus: [0.5, 0], stops: [...stops] };
    expect([red(out, 5), red(out, 10), red(out, 7.5), red(out, -10), red(out, -2.5)]).toEqual([0, 255, 128, 255, 128]);
  });
  it('along a slanted plane are the same as upright ones', () => {
    const { from, to } = endsOfLinear({ at: [3, 1, -4, 2, 5, 6] });
    const plain = colouring({ kind: 'linear', at: [3, 1, -4, 2, 5, 6], stops });
    const upright = colouring({
      kind: 'linear',
      at: [to[0] - from[0], to[1] - from[1], from[1] - to[1], to[0] - from[0], ...from],
      stops,
    });
    for (const place of [
      [5, 6],
      [7, 7],
      [2, 9],
      [6, 3],
    ] as const)
      expect(upright(place)[0]).toBeCloseTo(plain(place)[0], 6);
  });
  it('laid into the box of a line that has no width are the colour of their last stop', async () => {
    const at = [0.6, 0.8, -0.8, 0.6, 0.1, 0] as const;
    const ends = [
      { offset: 0.1, colour: '#c23b22' },
      { offset: 1, colour: '#f7f0e2', opacity: 0.5 },
    ];
    const upright = {
      kind: 'path' as const,
      id: 'upright',
      layer: 'cut',
      outlines: [{ start: [5, 5] as const, segments: [{ kind: 'line' as const, to: [5, 25] as const }], closed: false }],
    };
    for (const kind of ['linear', 'radial'] as const) {
      const stroke = { kind, within: 'box' as const, at, stops: ends };
      const line = { ...upright, style: { fill: null, stroke, strokeWidth: 0.5, strokeOpacity: 0.5 } };
      const master = masterWith([line as never]);
      for (const target of ['svg', 'native', 'dxf']) {
        const made = await derive({ master, rev: 1, time: '2026-11-20T10:00:00.000Z' }, recipeOf(target, {}), services);
        expect([target, made.defects]).toEqual([target, []]);
      }
      const { projection } = await project(master, recipeOf('svg', {}), services);
      expect(unpackDrawing(projection.leaves[0]!.body as never).entries[0]).toMatchObject({
        style: { stroke: '#f7f0e2', opacity: 0.25 },
      });
    }
  });
  it('have a mean colour', () => expect(meanColour({ stops })).toMatch(/^#(7f|80){3}$/));
});

describe('pens', () => {
  it('are round under turns, mirrors and even scales', () =>
    expect([penUnder([0, 2, -2, 0, 1, 1]).pen, penUnder([-3, 0, 0, 3, 0, 0]).pen]).toEqual([null, null]));
  it('take the shape that a map makes of a circle, whatever turn came first', () => {
    const { scale, pen } = penUnder([4, 0, 0, 1, 0, 0]);
    expect([scale, pen]).toEqual([2, [2, 0, 0.5]]);
    const turned = penUnder([2.4, 0.8, -3.2, 0.6, 0, 0]);
    expect(turned.scale).toBeCloseTo(2);
    expect(turned.pen![0]).toBeCloseTo(2);
    expect(penUnder([1, 0, 0, 4, 0, 0], pen!).pen).toBeNull();
    expect(penMatrix(pen!)).toEqual([2, 0, 0, 0.5, 0, 0]);
  });
});
