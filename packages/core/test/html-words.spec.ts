import type { Item, Master, ReadMaster } from '../src';
import { allItems, codecOf } from '../src';
import { shippedFonts } from '../../render/src';

const XHTML = 'xmlns="http://www.w3.org/1999/xhtml"';
const svg = await codecOf('svg');
const broughtIn = (body: string, style = ''): ReadMaster =>
  svg.bringIn!(
    new TextEncoder().encode(
      `<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="100mm" viewBox="0 0 200 100"><style>${style}</style><rect width="9" height="9"/>${body}</svg>`,
    ),
    'labels.svg',
    { fonts: shippedFonts() },
  ) as ReadMaster;
type Text = Item & { kind: 'text' };
const textsOf = (master: Master): Text[] =>
  [...allItems(master.boards[0]!.items)].filter((item): item is Text => (item as Item).kind === 'text');
const label = (html: string, more = '') => `<foreignObject x="10" y="20" width="60" height="30" ${more}>${html}</foreignObject>`;

describe('what a drawing says in HTML', () => {
  it('comes in as texts of its words, and is counted', () => {
    const { master, notUnderstood } = broughtIn(label(`<div ${XHTML} style="font-size:6px;color:#c00">Valve 7</div>`));
    const [text] = textsOf(master);
    expect(text).toMatchObject({ text: 'Valve 7', size: 6, x: 10, align: 'start', style: { fill: '#cc0000', stroke: null } });
    // A line of 7.2 whose letters stand in its middle: 0.6 above, and 0.8 of the letters down to where they stand.
    expect(text!.y).toBeCloseTo(100 - (20 + 0.6 + 4.8), 6);
    expect(notUnderstood).toEqual(
      expect.arrayContaining([{ kind: 'foreign object, taken as its words', count: 1, shows: true }]),
    );
  });

  it('breaks where it does not fit, at breaks and between blocks, but not where it must not', () => {
    const words = 'closed since the first of May';
    const lines = (html: string) => textsOf(broughtIn(label(html)).master).map(({ text }) => text);
    const set = `${XHTML} style="font-size:10px"`;
    expect(lines(`<div ${set}>${words}</div>`).length).toBeGreaterThan(1);
    expect(lines(`<div ${set}>${words}</div>`).join(' ')).toBe(words);
    expect(lines(`<div ${XHTML} style="font-size:10px;white-space:nowrap">${words}</div>`)).toEqual([words]);
    expect(lines(`<div ${XHTML} style="font-size:4px">one<br/>two<p>three</p>four</div>`)).toEqual([
      'one',
      'two',
      'three',
      'four',
    ]);
    expect(lines(`<div ${XHTML} style="font-size:4px">\n   a\n   b  c\n</div>`)).toEqual(['a b c']);
  });

  it('keeps what looks otherwise in a line, by tags, styles and sheets', () => {
    const html = `<p ${XHTML} style="font-size:5px">open <b>both</b> <span class="red">gates</span></p>`;
    const [text] = textsOf(broughtIn(label(html), '.red{color:#f00;font-style:italic}').master);
    expect(text!.text).toBe('open both gates');
    expect(text!.runs).toMatchObject([
      { from: 5, to: 9, font: 'Commissioner Bold' },
      { from: 10, to: 15, colour: '#ff0000' },
    ]);
  });

  it('stands where it is aligned, moved by its groups, in prefixed elements, too', () => {
    const inner = '<h:div xmlns:h="http://www.w3.org/1999/xhtml" style="font-size:5px;text-align:center">Pool</h:div>';
    const [text] = textsOf(broughtIn(`<g transform="translate(5 7)">${label(inner, 'transform="translate(1 2)"')}</g>`).master);
    expect(text).toMatchObject({ text: 'Pool', align: 'middle' });
    const boxed = `<div ${XHTML} style="font-size:5px;display:flex;height:30px;align-items:center;justify-content:center">Pool</div>`;
    const [middle] = textsOf(broughtIn(label(boxed)).master);
    expect(middle).toMatchObject({ align: 'middle', x: 40 });
    expect(middle!.y).toBeCloseTo(100 - (20 + 15 - 3 + 0.5 + 4), 6);
  });

  it('gives way to what a document has for readers like this one', () => {
    const { master, notUnderstood } = broughtIn(
      `<switch>${label(`<div ${XHTML}>in HTML</div>`)}<text x="3" y="9" font-size="5">as text</text></switch>`,
    );
    expect(textsOf(master).map(({ text }) => text)).toEqual(['as text']);
    expect(notUnderstood).toEqual([{ kind: 'foreign object, whose stand-in is taken', count: 1, shows: false }]);
  });

  it('says what of it is no words, and leaves out what is hidden', () => {
    const { master, notUnderstood } = broughtIn(
      label(`<div ${XHTML} style="background-color:#ff0">a<img src="http://x/y.png"/><span style="display:none">b</span></div>`) +
        label(`<div ${XHTML}>c</div>`, 'display="none"'),
    );
    expect(textsOf(master).map(({ text }) => text)).toEqual(['a']);
    expect(notUnderstood.map(({ kind }) => kind)).toEqual(
      expect.arrayContaining(['box of a foreign object', 'img in a foreign object', 'foreign object, taken as its words']),
    );
  });

  it('in a copy it stays not understood: other programs show more of it than words', async () => {
    const { notUnderstood } = await (
      await codecOf('svg')
    ).read(
      [
        {
          part: '',
          bytes: new TextEncoder().encode(
            `<svg xmlns="http://www.w3.org/2000/svg" width="10mm" height="10mm">${label(`<div ${XHTML}>x</div>`)}</svg>`,
          ),
        },
      ],
      {},
      { fonts: shippedFonts() },
    );
    expect(notUnderstood).toEqual([{ kind: 'element foreignObject', count: 1, shows: true }]);
  });
});
