import { type Drawing, codecOf, entryAt, recognise } from '../src';

const SVG = 'xmlns="http://www.w3.org/2000/svg"';
const PX = 25.4 / 96;
const bytesOf = (text: string) => new TextEncoder().encode(text);
/** What is read of a drawing of 100 by 100 pixels. */
async function read(inner: string, root = '', before = '') {
  const text = `${before}<svg ${SVG} width="100" height="100" viewBox="0 0 100 100" ${root}>${inner}</svg>`;
  const { leaves, notUnderstood } = await (await codecOf('svg')).read([{ part: '', bytes: bytesOf(text) }], {}, {} as never);
  return { drawing: leaves[0]!.body as Drawing, told: notUnderstood.map(({ kind }) => kind) };
}
/** The corners of an entry, in pixels from the upper left. */
function corners(drawing: Drawing, entry = 0): [number, number][] {
  const one = entryAt(drawing, entry);
  if (one.kind !== 'path') throw new Error('no path');
  return one.outlines.flatMap(({ start, segments }) =>
    [start, ...segments.map(({ to }) => to)].map(([x, y]): [number, number] => [
      Number((x / PX).toFixed(3)),
      Number((100 - y / PX).toFixed(3)),
    ]),
  );
}
const TWO = '<rect x="10" y="10" width="50" height="50"/><rect x="30" y="30" width="50" height="50" fill="#0000ff"/>';

describe('what a root does to all of a drawing', () => {
  it('it is see-through as one', async () => {
    const { drawing, told } = await read(TWO, 'opacity="0.5"');
    expect(told).toEqual([]);
    expect(drawing.spans).toMatchObject([{ first: 0, end: 2, opacity: 0.5 }]);
  });

  it('it is clipped on the sheet, whatever its view box', async () => {
    const clip = '<clipPath id="c"><rect x="20" y="20" width="40" height="40"/></clipPath>';
    const { drawing, told } = await read(`${clip}<rect x="1" y="1" width="40" height="40"/>`, 'clip-path="url(#c)"');
    expect(told).toEqual([]);
    expect(drawing.spans[0]!.clip).not.toBeNull();
    const scaled = `<svg ${SVG} width="100" height="100" viewBox="0 0 50 50" clip-path="url(#c)">${clip}${TWO}</svg>`;
    const other = await (await codecOf('svg')).read([{ part: '', bytes: bytesOf(scaled) }], {}, {} as never);
    const [shape] = (other.leaves[0]!.body as Drawing).spans[0]!.clip!;
    const [x, y] = shape!.outlines[0]!.start;
    expect([x / PX, 100 - y / PX].map(Math.round)).toEqual([20, 20]);
  });

  it('it is moved, and turned about the middle of the sheet', async () => {
    expect(corners((await read(TWO, 'transform="translate(10 5)"')).drawing)[0]).toEqual([20, 15]);
    expect(corners((await read(TWO, 'transform="rotate(90)"')).drawing)[0]).toEqual([90, 10]);
  });
});

describe('what browsers read', () => {
  it('lengths by the size of letters, for shapes and for lines', async () => {
    const { drawing } = await read(
      '<g font-size="20"><g style="font-size:.5em"><rect x="1em" y="2em" width="3em" height="1rem" fill="none" stroke="#ff0000" stroke-width=".4em"/></g></g>',
    );
    expect(corners(drawing).slice(0, 3)).toEqual([
      [10, 20],
      [40, 20],
      [40, 36],
    ]);
    expect(drawing.looks[drawing.look[0]!]!.strokeWidth).toBeCloseTo(4 * PX, 6);
  });

  it('a root with a prefix', () => {
    const text =
      '<?xml version="1.0"?>\n<d:svg xmlns:d="http://www.w3.org/2000/svg" width="9" height="9"><d:path d="M0 0h9"/></d:svg>';
    expect(recognise(bytesOf(text))?.id).toBe('svg');
  });

  it.each(['utf16le', 'utf16be'])('two bytes a letter (%s), with a mark and without', async (order) => {
    const text = `<?xml version="1.0" encoding="UTF-16"?>\n<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9">${TWO}</svg>`;
    for (const mark of ['', '\ufeff']) {
      const little = Buffer.from(mark + text, 'utf16le');
      const bytes = order === 'utf16le' ? little : little.swap16();
      expect(recognise(bytes)?.id).toBe('svg');
      const copy = await (await codecOf('svg')).read([{ part: '', bytes }], {}, {} as never);
      expect((copy.leaves[0]!.body as Drawing).count).toBe(2);
    }
  });

  it('a transform that breaks off moves nothing, and is told; a colour is closed by the end', async () => {
    const { drawing, told } = await read('<g transform="translate(10 10"><rect width="9" height="9" fill="rgb(0, 120, 0"/></g>');
    expect(told).toEqual(['transform that breaks off']);
    expect(corners(drawing)[0]).toEqual([0, 0]);
    const whole = await read(TWO, 'transform="rotate(90"');
    expect(whole.told).toEqual(['transform that breaks off']);
    expect(corners(whole.drawing)[0]).toEqual([10, 10]);
    expect(drawing.looks[drawing.look[0]!]!.fill).toBe('#007800');
  });
});

describe('entities', () => {
  const doctype = (...declared: string[]) => `<!DOCTYPE svg [${declared.join('')}]>`;
  it('are read where they are plain text', async () => {
    const { drawing } = await read(
      '<rect width="9" height="9" fill="&c;"/>',
      '',
      doctype('<!ENTITY half "00">', "<!ENTITY c '#&half;78&half;'>"),
    );
    expect(drawing.looks[drawing.look[0]!]!.fill).toBe('#007800');
  });
  it.each([
    ['elements', doctype('<!ENTITY e "<rect width=&#39;9&#39; height=&#39;9&#39;/>">'), '&e;'],
    ['another file', doctype('<!ENTITY e SYSTEM "file:///etc/hostname">'), '&e;'],
    ['declarations', doctype('<!ENTITY % e "x">'), '<g/>'],
    [
      'too much',
      doctype(
        '<!ENTITY a "aaaaaaaaaa">',
        ...'bcdefg'.split('').map((name, i) => `<!ENTITY ${name} "${`&${'abcdef'[i]};`.repeat(10)}">`),
      ),
      '<desc>&g;</desc>',
    ],
  ])('are refused by name where they stand for %s', async (words, before, inner) => {
    await expect(read(inner, '', before)).rejects.toMatchObject({
      code: 'xml-entities',
      message: expect.stringContaining(words) as string,
    });
  });
  it('that nobody uses are passed over', async () => {
    const { drawing } = await read(TWO, '', doctype('<!ENTITY ns_ai "http://example.org/">'));
    expect(drawing.count).toBe(2);
  });
});

describe('what other programs note for themselves', () => {
  it('draws nothing, and nobody is told of it', async () => {
    const notes = '<app:view zoom="2"><app:grid/></app:view><rect width="9" height="9" app:kind="box"/>';
    const { drawing, told } = await read(notes, 'xmlns:app="http://example.org/app" app:version="3"');
    expect([drawing.count, told]).toEqual([1, []]);
  });
});
