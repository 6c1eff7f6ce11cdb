import { deflateSync } from 'node:zlib';
import { bringInAny } from '@inkwell-twin/core';
import { pictureEngine } from '../src';
import { cpuTime } from '../../core/test/cpu-time';
import { masterWith, rectangle } from '../../core/test/build';
import { copyOf, servicesWith } from './workshop';

const services = servicesWith(new Map());

/** A dictionary and, where it has instructions, its stream. */
type Part = string | readonly [dictionary: string, instructions: string | Buffer];

/** A PDF of one page: `3 0 R` is the page, `4 0 R` its instructions, further objects follow from 5. */
function pdf(resources: string, instructions: string | Buffer, parts: readonly Part[] = [], packed = ''): Buffer {
  const all: Part[] = [
    '<</Type/Catalog/Pages 2 0 R>>',
    '<</Type/Pages/Count 1/Kids[3 0 R]>>',
    `<</Type/Page/Parent 2 0 R/MediaBox[0 0 100 100]/Contents 4 0 R/Resources<<${resources}>>>>`,
    [packed, instructions],
    ...parts,
  ];
  const written: Buffer[] = [Buffer.from('%PDF-1.7\n')];
  const places: number[] = [];
  let at = written[0]!.length;
  const add = (piece: Buffer): void => void (written.push(piece), (at += piece.length));
  all.forEach((part, i) => {
    places.push(at);
    const [dictionary, stream] = typeof part === 'string' ? [part, null] : [part[0], Buffer.from(part[1])];
    add(Buffer.from(`${i + 1} 0 obj\n`));
    if (!stream) add(Buffer.from(`${dictionary}\nendobj\n`));
    else {
      add(Buffer.from(`<<${dictionary}/Length ${stream.length}>>\nstream\n`));
      add(stream);
      add(Buffer.from('\nendstream\nendobj\n'));
    }
  });
  const start = at;
  const table = places.map((place) => `${String(place).padStart(10, '0')} 00000 n \n`).join('');
  add(Buffer.from(`xref\n0 ${all.length + 1}\n`)); // term-guard: standard (ISO 32000-1, 7.5.4)
  add(Buffer.from(`0000000000 65535 f \n${table}trailer<</Root 1 0 R/Size ${all.length + 1}>>\n`));
  add(Buffer.from(`startxref\n${start}\n%%EOF\n`));
  return Buffer.concat(written);
}

const FORM = '/Type/XObject/Subtype/Form/BBox[0 0 100 100]';
const GROUP = '/Group<</S/Transparency/CS/DeviceRGB>>';
const PATTERN = '/PatternType 1/PaintType 1/TilingType 1/BBox[0 0 9 9]/XStep 9/YStep 9';
const LEAF = '0 0 1 1 re f\n';
const levels = <T>(count: number, make: (level: number, last: boolean) => T): T[] =>
  Array.from({ length: count }, (_, i) => make(i, i === count - 1));

/** Small files whose drawing, unfolded, is larger than any machine. */
const UNFOLDED: Record<string, () => Buffer> = {
  'drawings of ten drawings each, nine deep': () =>
    pdf(
      '/XObject<</A 5 0 R>>',
      '/A Do\n'.repeat(10),
      levels(9, (i, last): Part => [
        last ? FORM : `${FORM}/Resources<</XObject<</A ${i + 6} 0 R>>>>`,
        last ? LEAF : '/A Do\n'.repeat(10),
      ]),
    ),
  'masks of ten masks each, nine deep': () =>
    pdf(
      '/ExtGState<</A<</SMask<</S/Luminosity/G 5 0 R>>>>>>',
      `/A gs ${LEAF}`.repeat(10),
      levels(9, (i, last): Part => [
        last ? FORM + GROUP : `${FORM}${GROUP}/Resources<</ExtGState<</A<</SMask<</S/Luminosity/G ${i + 6} 0 R>>>>>>>>`,
        last ? LEAF : `/A gs ${LEAF}`.repeat(10),
      ]),
    ),
  'patterns of ten patterns each, nine deep': () =>
    pdf(
      levels(10, (k) => k)
        .map((k) => (k ? `/P${k} 5 0 R` : '/Pattern<<'))
        .join('') + '>>',
      levels(9, (k) => `/Pattern cs /P${k + 1} scn ${LEAF}`).join(''),
      levels(9, (i, last): Part => [
        last
          ? `${PATTERN}/Resources<<>>`
          : `${PATTERN}/Resources<</Pattern<<${levels(10, (k) => `/P${k} ${i + 6} 0 R`).join('')}>>>>`,
        last ? `1 0 0 rg ${LEAF}` : levels(10, (k) => `/Pattern cs /P${k} scn ${LEAF}`).join(''),
      ]),
    ),
  'a drawing of itself': () =>
    pdf('/XObject<</A 5 0 R>>', '/A Do', [[`${FORM}/Resources<</XObject<</A 5 0 R>>>>`, '/A Do /A Do ']]),
  'a pattern of itself': () =>
    pdf('/Pattern<</P 5 0 R>>', `/Pattern cs /P scn ${LEAF}`, [
      [`${PATTERN}/Resources<</Pattern<</P 5 0 R>>>>`, `/Pattern cs /P scn ${LEAF}`.repeat(3)],
    ]),
  'a mask of itself': () =>
    pdf('/ExtGState<</A 6 0 R>>', `/A gs ${LEAF}`, [
      [`${FORM}${GROUP}/Resources<</ExtGState<</A 6 0 R>>>>`, `/A gs ${LEAF}`.repeat(3)],
      '<</SMask<</S/Luminosity/G 5 0 R>>>>',
    ]),
  'letters that are drawings of ten drawings each': () =>
    pdf('/Font<</F 5 0 R>>', 'BT /F 9 Tf (aaaa) Tj ET', [
      `<</Type/Font/Subtype/Type3/FontBBox[0 0 1 1]/FontMatrix[1 0 0 1 0 0]/FirstChar 97/LastChar 97/Widths[1]
        /Encoding<</Type/Encoding/Differences[97/a]>>/CharProcs<</a 6 0 R>>/Resources<</XObject<</A 7 0 R>>>>>>`,
      ['', '1 0 d0 /A Do /A Do'],
      ...levels(9, (i, last): Part => [
        last ? FORM : `${FORM}/Resources<</XObject<</A ${i + 8} 0 R>>>>`,
        last ? LEAF : '/A Do\n'.repeat(10),
      ]),
    ]),
  'two hundred thousand states that are saved': () => pdf('', 'q '.repeat(200_000) + LEAF),
  'instructions packed a thousandfold': () => pdf('', deflateSync(Buffer.alloc(400_000_000, 'q Q ')), [], '/Filter/FlateDecode'),
};

describe('a small PDF whose drawing is endless', () => {
  it.each(Object.keys(UNFOLDED))('of %s is told in words, as a master and as a copy, and costs little', async (name) => {
    const bytes = UNFOLDED[name]!();
    expect(bytes.length).toBeLessThan(500_000);
    const made = await copyOf(masterWith([rectangle('plate', 10, 10)]), services, 'pdf');
    const start = cpuTime();
    const failure: unknown = await bringInAny(bytes, 'a.pdf', { pictures: pictureEngine }).catch((error: unknown) => error);
    expect(failure).toMatchObject({ code: 'pdf-too-large', message: expect.stringMatching(/^The PDF .*\. .+\.$/) as string });
    const { verdict, proof } = await made.check(bytes);
    expect([verdict, proof]).toEqual(['unreadable', (failure as Error).message]);
    expect(cpuTime() - start).toBeLessThan(10_000);
  });

  it('is told from one that uses a drawing often, and from one that only names itself', async () => {
    const used = pdf('/XObject<</A 5 0 R>>', `q 1 0 0 1 1 0 cm /A Do Q\n`.repeat(5000), [
      [`${FORM}/Resources<</XObject<</A 5 0 R>>>>`, LEAF],
    ]);
    const { master, notUnderstood } = await bringInAny(used, 'a.pdf', { pictures: pictureEngine });
    expect([master.boards.length, notUnderstood]).toEqual([1, []]);
  });
});
