import { type Drawing, codecOf, recognise } from '../src';
import { python } from './python';
import { judgedBy } from './judged-by';

/** The words and the number of lines that are read of a DXF that another library wrote. */
async function read(bytes: Uint8Array) {
  const { leaves, notUnderstood } = await (await codecOf('dxf')).read([{ part: '', bytes }], {}, {} as never);
  const drawing = leaves[0]!.body as Drawing;
  return { words: drawing.texts.map(({ text }) => text), count: drawing.count, told: notUnderstood.map(({ kind }) => kind) };
}
const drawn = (version: string, encoding: string, text: string, how = 'asc') => `
import ezdxf
doc = ezdxf.new('${version}')
doc.encoding = '${encoding}'
doc.units = 4
space = doc.modelspace()
space.add_text(${JSON.stringify(text)}, dxfattribs={'height': 5, 'layer': 'Text'})
space.add_line((0, 0), (10.5, 20.25))
space.add_circle((30, 30), 7.125)
doc.saveas('a.dxf', fmt='${how}')
`;

judgedBy('ezdxf').describe('letters of a DXF that another library wrote', () => {
  it.each([
    ['R2000', 'cp1252', 'Größe 5 µm, déjà vu'],
    ['R2000', 'cp1250', 'Łódka, Žluťoučký'],
    ['R2000', 'cp1251', 'Лодка у моста'],
    ['R2000', 'cp932', '湖の船'],
    ['R2000', 'gbk', '湖边的船'],
    ['R2000', 'cp949', '호수의 배'],
    ['R12', 'cp1253', 'Βάρκα'],
    ['R2010', 'cp1252', 'Лодка und Größe'],
  ])('%s, %s: %s', async (version, encoding, text) => {
    const { written } = python(drawn(version, encoding, text));
    expect(await read(written)).toMatchObject({ words: [text], count: 3 });
  });

  it.each(['R12', 'R2000', 'R2010'])('come from the binary form of %s as from text, with all that is drawn', async (version) => {
    const plain = python(drawn(version, 'cp1252', 'Boathouse, Größe 5')).written;
    const binary = python(drawn(version, 'cp1252', 'Boathouse, Größe 5', 'bin')).written;
    expect(Buffer.from(binary.subarray(0, 400)).includes(0)).toBe(true);
    expect(recognise(binary)?.id).toBe('dxf');
    expect(await read(binary)).toEqual(await read(plain));
    await expect(read(binary.subarray(0, binary.length >> 1))).rejects.toMatchObject({ code: 'dxf-damaged' });
    const { master } = await (await codecOf('dxf')).bringIn!(binary, 'a.dxf');
    expect(master.boards[0]!.items).toHaveLength(3);
  });

  it('of a code page that nobody here knows are told', async () => {
    const { written } = python(drawn('R2000', 'cp1252', 'Größe'));
    const other = Buffer.from(Buffer.from(written).toString('latin1').replace('ANSI_1252', 'dos850xx1'), 'latin1');
    expect((await read(other)).told).toContain('letters of the code page dos850xx1');
  });
});
