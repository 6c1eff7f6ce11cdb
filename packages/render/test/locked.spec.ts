import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import fc from 'fast-check';
import {
  type Master,
  assertPassword,
  codecOf,
  derive,
  locked,
  markOutside,
  opened,
  parseMark,
  passwordWeakness,
  recipeOf,
} from '@inkwell-twin/core';
import { masterWith, rectangle, text } from '../../core/test/build';
import { richMaster } from '../../core/test/rich';
import { judgedBy } from '../../core/test/judged-by';
import { runs } from '../../core/test/depth';
import { inFolder } from './faults/qpdf';
import { copyOf, servicesWith } from './workshop';

const services = servicesWith(new Map());
const TIME = '2026-11-20T10:00:00.000Z';
const card = (): Master => masterWith([rectangle('plate', 10, 10), text('title', 'Lantern Mere', { x: 20, y: 70, size: 9 })]);

async function lockedCopy(master: Master, password: string, options: Record<string, unknown> = {}) {
  const recipe = recipeOf('pdf', options, { of: 'master' });
  const made = await derive({ master, rev: 1, time: TIME }, recipe, services);
  const shut = await locked(made, recipe, password, services);
  return { plain: made.files[0]!.bytes, shut: shut.files[0]!.bytes, says: made.says };
}

/** Whatever somebody types: letters of any script, marks, blanks. */
const typed = fc.string({ unit: 'grapheme', minLength: 1, maxLength: 24 }).filter((password) => {
  try {
    assertPassword(password);
    return password.normalize('NFKC') === password && !/[\p{Cc}\p{Cn}\p{Co}\p{Cs}]/u.test(password);
  } catch {
    return false;
  }
});

describe('a copy with a password', () => {
  it('says the same behind its lock, whatever it shows and whatever was typed', async () => {
    const codec = await codecOf('pdf');
    await fc.assert(
      fc.asyncProperty(richMaster, typed, async (master, password) => {
        const { shut, plain } = await lockedCopy(master, password);
        expect(codec.lock!.isLocked(shut)).toBe(true);
        const open = await opened(codec, [{ part: '', bytes: shut }], password);
        const [found, wanted] = [
          await codec.read(open, {}, services),
          await codec.read([{ part: '', bytes: plain }], {}, services),
        ];
        expect([found.mark, found.notUnderstood]).toEqual([wanted.mark, wanted.notUnderstood]);
      }),
      { numRuns: runs(12) },
    );
  });

  judgedBy('qpdf').it(
    'is opened by others with the password, and by nobody without; they find AES of 256 bits, of revision 6',
    async () => {
      await fc.assert(
        fc.asyncProperty(typed, async (password) => {
          const { shut } = await lockedCopy(card(), password);
          inFolder((at, run) => {
            writeFileSync(at('shut.pdf'), shut);
            writeFileSync(at('word'), password);
            const said = run('qpdf', '--password-file=word', '--check', '--show-encryption', 'shut.pdf');
            expect(said).toMatch(/R = 6[^]*stream encryption method: AESv3\nstring encryption method: AESv3/);
            expect(() => run('qpdf', '--check', 'shut.pdf')).toThrow(/invalid password/);
          });
        }),
        { numRuns: runs(8) },
      );
    },
  );

  judgedBy('qpdf', 'pdftotext').it('shows the same pixels, texts and names of pages to others', async () => {
    const one = card();
    const back = { ...one.boards[0]!, id: 'b2', name: 'Rückseite', items: [text('word', 'Segge', { y: 30 })] };
    const master = {
      ...one,
      title: 'Fähre „Nord“',
      boards: [
        { ...one.boards[0]!, name: 'Front' },
        { ...back, items: back.items as never },
      ],
    };
    const { shut, plain } = await lockedCopy(master, 'reed warbler north');
    inFolder((at, run) => {
      writeFileSync(at('shut.pdf'), shut);
      writeFileSync(at('plain.pdf'), plain);
      const open = ['-upw', 'reed warbler north'];
      mkdirSync(at('a'));
      mkdirSync(at('b'));
      run('pdftoppm', '-r', '40', ...open, 'shut.pdf', 'a/p');
      run('pdftoppm', '-r', '40', 'plain.pdf', 'b/p');
      for (const page of ['p-1.ppm', 'p-2.ppm'])
        expect(readFileSync(at(`a/${page}`)).equals(readFileSync(at(`b/${page}`)))).toBe(true);
      expect(run('pdftotext', ...open, 'shut.pdf', '-')).toBe(run('pdftotext', 'plain.pdf', '-'));
      // Title, names of layers and of pages: texts outside of any page.
      const about = (...args: string[]) => run('pdfinfo', ...args).replace(/^(Encrypted|File size|PDF version).*\n/gm, '');
      expect(about(...open, 'shut.pdf')).toBe(about('plain.pdf'));
      const words = (file: string, ...how: string[]): string[] =>
        [...run('qpdf', ...how, '--qdf', '--object-streams=disable', file, '-').matchAll(/\/(?:Title|Name) (\(.*\)|<.*>)/g)]
          .map(([all]) => all)
          .sort();
      expect(words('shut.pdf', '--password=reed warbler north', '--decrypt')).toEqual(words('plain.pdf'));
    });
  });

  it('says where it is from to everybody, and what it says to those who open it', async () => {
    const codec = await codecOf('pdf');
    const { shut, plain, says } = await lockedCopy(card(), 'reed warbler north');
    const inside = await codec.read([{ part: '', bytes: plain }], {}, services);
    expect(markOutside(codec, shut)).toBe(inside.mark);
    expect(parseMark(markOutside(codec, shut))).toMatchObject({ says, rev: 1 });
    expect(Buffer.from(shut).toString('latin1')).not.toContain('Lantern');
    await expect(opened(codec, [{ part: '', bytes: shut }], undefined)).rejects.toMatchObject({ code: 'password-missing' });
    await expect(opened(codec, [{ part: '', bytes: shut }], 'reed warbler')).rejects.toMatchObject({ code: 'password-wrong' });
  });

  it('is another file each time, with the same content', async () => {
    const [one, two] = [await lockedCopy(card(), 'reed warbler north'), await lockedCopy(card(), 'reed warbler north')];
    expect(Buffer.from(one.plain).equals(Buffer.from(two.plain))).toBe(true);
    expect(Buffer.from(one.shut).equals(Buffer.from(two.shut))).toBe(false);
  });

  it('is not made where it can’t be, or with what is none', async () => {
    const words = (password: string) => {
      try {
        assertPassword(password);
        return '';
      } catch (error) {
        return (error as Error).message;
      }
    };
    expect(words('')).toMatch(/empty/);
    expect(words('x'.repeat(5000))).toMatch(/5000 bytes.*127/);
    expect(words('ä'.repeat(64))).toMatch(/128 bytes/);
    expect(words('a\tb')).toMatch(/control/);
    expect(words('ä'.repeat(63))).toBe('');
    await expect(lockedCopy(card(), 'reed warbler north', { version: 'A-2b' })).rejects.toMatchObject({ code: 'option-invalid' });
    const svg = await copyOf(card(), services, 'svg');
    await expect(locked(svg, recipeOf('svg', {}), 'reed warbler north', services)).rejects.toThrow(/SVG/);
  });

  it('is called weakly locked where few letters open it', () => {
    expect(passwordWeakness('fen')).toMatch(/3 letters/);
    expect(passwordWeakness('aaaaaaaaaaaaaaaa')).toMatch(/few different/);
    expect(passwordWeakness('reed warbler north')).toBe('');
  });
});
