import { bringInAny, lookAt } from '../src';
import { services } from './flat';

const bytes = (text: string) => new TextEncoder().encode(text);
/** A table of names in older encodings, as the Encoding Standard's own tables have them. */
const WORDS: Readonly<Record<string, string>> = {
  'windows-1250': 'Součet;Příliš žluťoučký kůň;Šířka desky;Tloušťka;Vrták;Ořezová šablona;Délka závěsu;Zpět',
  'iso-8859-2': 'Magyarország;Szélesség;Vastagság;Fúró;Élhossz;Műszer;Közép;Hőmérséklet;Tűrés',
  'windows-1251': 'Ширина доски;Толщина;Сверло;Шаблон кромки;Длина петли;Покрытие;Образец',
  'koi8-r': 'Ширина доски;Толщина;Сверло;Шаблон кромки;Длина петли;Покрытие;Образец',
  'windows-1253': 'Πλάτος σανίδας;Πάχος;Τρυπάνι;Μήκος μεντεσέ;Επίστρωση;Δείγμα',
  shift_jis: '板の幅;厚さ;ドリル;縁のテンプレート;ヒンジの長さ;塗装;試料',
  gb18030: '木板的宽度;厚度是多少;钻头在这里;边缘的模板;铰链的长度;涂层和颜色;样品的编号;请选择一个文件;不能打开这个文件',
  'windows-1252': 'Größe der Tafel;Dicke;Bohrer für Löcher;Länge des Scharniers;Überzug;Prüfkörper',
  macintosh: 'Größe der Tafel;Dicke;Bohrer für Löcher;Länge des Scharniers;Überzug;Prüfkörper',
};
/** The letters of an encoding by their bytes: of one byte, and of two. */
function encoderOf(label: string): (text: string) => Uint8Array {
  const decoder = new TextDecoder(label, { fatal: true });
  const codes = new Map<string, number[]>();
  const take = (...some: number[]) => {
    try {
      const letter = decoder.decode(Uint8Array.from(some));
      if ([...letter].length === 1 && !codes.has(letter)) codes.set(letter, some);
    } catch {
      /* No letter has these bytes. */
    }
  };
  for (let one = 0; one < 256; one++) take(one);
  if (/jis|gb/.test(label)) for (let a = 0x81; a < 0xff; a++) for (let b = 0x40; b < 0xff; b++) take(a, b);
  return (text) => Uint8Array.from([...text].flatMap((letter) => codes.get(letter)!));
}

describe('a text in an older encoding', () => {
  it.each(Object.entries(WORDS))('%s is found, which is said to be a guess', async (encoding, words) => {
    const rows = words.split(';').map((word, i) => `${i};${word}`);
    const file = encoderOf(encoding)(['Nr;Name', ...rows].join('\r\n'));
    const { master, notUnderstood } = await bringInAny(file, 'a.csv', services);
    const [table] = master.tables!;
    expect(table!.rows.map(({ cells }) => cells[table!.columns[1]!.id])).toEqual(words.split(';'));
    expect(notUnderstood.map(({ kind }) => kind)).toContain(`letters read as ${encoding}, a guess`);
  });

  it('of Windows with curly apostrophes is none of an old Macintosh', async () => {
    const file = Uint8Array.from('Nr;Nom\n1;l\x92huile d\x92olive\n2;aujourd\x92hui\n3;l\x92eau\n', (letter) =>
      letter.charCodeAt(0),
    );
    const look = (await lookAt(file, 'a.csv', {}))!;
    expect(look.settings.find(({ name }) => name === 'encoding')).toMatchObject({ value: 'windows-1252', sure: false });
  });
});

describe('cells between apostrophes', () => {
  it('are found, told as a guess, and can be read otherwise', async () => {
    const file = bytes("id,where\n1,'Hall 3, left'\n2,'Fen''s end'\n3,'x'\n");
    const { master, notUnderstood } = await bringInAny(file, 'a.csv', services);
    const [table] = master.tables!;
    expect(table!.rows.map(({ cells }) => cells[table!.columns[1]!.id])).toEqual(['Hall 3, left', "Fen's end", 'x']);
    expect(notUnderstood.map(({ kind }) => kind)).toContain('marks around cells taken as apostrophe, a guess');
    const other = await bringInAny(file, 'a.csv', services, { quotes: 'double' } as never);
    expect(other.master.tables![0]!.columns).toHaveLength(3);
  });

  it('are not seen in words that only begin with one', async () => {
    const { master } = await bringInAny(bytes("id,word\n1,'tis\n2,'twas here\n"), 'a.csv', services);
    expect(master.tables![0]!.rows.map(({ cells }) => Object.values(cells)[1])).toEqual(["'tis", "'twas here"]);
  });
});

describe('lines of a plain text', () => {
  const file = bytes('Oak\nAsh\nElm\n\nPine\nLarch\n');
  const count = async (wishes = {}) =>
    (await bringInAny(file, 'a.txt', services, wishes as never)).master.texts![0]!.blocks.length;
  it('are paragraphs or parts of them, as somebody says', async () => {
    const look = (await lookAt(file, 'a.txt', {}))!;
    expect(look.settings[0]).toMatchObject({ name: 'lines', value: 'paragraphs', sure: false });
    expect(await count({ lines: 'parts of paragraphs' })).toBe(2);
    expect(await count({ lines: 'paragraphs' })).toBe(5);
    expect(await lookAt(bytes('One line.\nAnother.\n'), 'b.txt', {})).toBeNull();
  });
});
