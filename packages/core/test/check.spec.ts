import {
  Failure,
  type Master,
  type Verdict,
  VERDICTS,
  applyPatches,
  checkCopy,
  declarationOf,
  derive,
  differenceInWords,
  formatMark,
  moveItems,
  parseMark,
  recipeOf,
  recipeOfHow,
  howOf,
  removeItems,
  setAttribute,
  verdictOf,
} from '../src';
import { board, layer, masterWith, rectangle, text } from './build';
import { services, targetById } from './flat';

const time = '2026-11-20T10:00:00.000Z';
const start = masterWith([
  rectangle('frame', 10, 10, { name: 'Frame' }),
  rectangle('hole', 70, 20, { name: 'Hole', width: 8, height: 8 }),
  text('t', 'Sedge Loop'),
]);
const after = (master: Master, ...edits: ((now: Master) => { patches: Parameters<typeof applyPatches>[1] })[]) =>
  edits.reduce((now, edit) => applyPatches(now, edit(now).patches).master, master);
const decode = (bytes: Uint8Array) => new TextDecoder().decode(bytes);
const encode = (words: string) => new TextEncoder().encode(words);

/** Checks a copy made from `then` whose bytes became what `spoil` makes of them, against `now`. */
async function check(target: string, now: Master, spoil: (words: string) => string | null = (words) => words, options = {}) {
  const recipe = recipeOf(target, options);
  const made = await derive({ master: start, rev: 1, time }, recipe, services);
  expect(made.defects).toEqual([]);
  const words = spoil(decode(made.files[0]!.bytes));
  const bytes = words === null ? null : encode(words);
  const whole = words === decode(made.files[0]!.bytes);
  return checkCopy(
    { files: bytes && [{ part: '', bytes }], intact: whole, says: made.says, recipe, current: now, baseline: start },
    services,
  );
}

describe('the verdict table', () => {
  it.each<[boolean, boolean, boolean, boolean, Verdict, string]>([
    [true, true, true, true, 'in step', ''],
    [true, true, true, false, 'in step', ''],
    [false, true, true, true, 'in step', 're-written elsewhere'],
    [true, true, false, false, 'behind', ''],
    [false, false, true, false, 'in step', 'caught up by hand'],
    [false, false, false, true, 'touched', ''],
    [false, false, false, false, 'crossed', ''],
    [false, true, false, false, 'behind', 're-written elsewhere'],
  ])(
    'intact %s, then %s, now %s, now is then %s: %s %s',
    async (intact, matchesBaseline, matches, currentIsBaseline, verdict, remark) =>
      expect(verdictOf({ intact, matchesBaseline, matches, currentIsBaseline })).toEqual({ verdict, remark }),
  );
  it('has a word for every case', async () => {
    const flags = [true, false];
    for (const intact of flags)
      for (const matchesBaseline of flags)
        for (const matches of flags)
          for (const currentIsBaseline of flags)
            expect(VERDICTS).toContain(verdictOf({ intact, matchesBaseline, matches, currentIsBaseline }).verdict);
  });
});

describe('checking a copy', () => {
  const moved = after(start, (now) => moveItems(now, ['hole'], 5, 0));
  const edit: Record<string, (words: string) => string> = {
    svg: (words) => words.replace('Sedge Loop', 'Sedge Lopp'),
    dxf: (words) => words.replace('Sedge Loop', 'Sedge Lopp'),
    hpgl: (words) => words.replace('PU400,400;\nPD2000,400', 'PU400,400;\nPD2040,400'),
  };
  const rewrite: Record<string, (words: string) => string> = {
    svg: (words) =>
      words
        .replace('<?xml version="1.0" encoding="UTF-8"?>\n', '')
        .replace(/ fill="none" stroke="#14213a"/g, ' style="stroke:rgb(20,33,58);fill:none"')
        .replace(/(\d)L/g, '$1 L '),
    dxf: (words) => words.replace(/\n/g, '\r\n').replace(/^ *(\d+)\r\n/gm, '  $1\r\n'),
    hpgl: (words) => words.replace(/\n/g, '').replace(/PU(\d)/g, 'PU;PA$1'),
  };

  describe.each(['svg', 'dxf', 'hpgl'])('%s', (target) => {
    it('is in step by proof when nothing has changed, without being read', async () => {
      expect(await check(target, start)).toMatchObject({ verdict: 'in step', intact: true, unchanged: true, sides: null });
    });
    it('is in step when what changed is not carried', async () => {
      expect(
        await check(
          target,
          after(start, (now) => setAttribute(now, 'frame', 'name', 'Border')),
        ),
      ).toMatchObject({ verdict: 'in step', unchanged: true });
    });
    it('is in step when the footprint changed but the copy says the same', async () => {
      const there = after(start, (now) => setAttribute(now, 'hole', 'radius', 0.00001));
      expect(await check(target, there)).toMatchObject({ verdict: 'in step', unchanged: false, matches: true });
    });
    it('is behind when the master moved on, and says where and by how much', async () => {
      const result = await check(target, moved);
      expect(result).toMatchObject({ verdict: 'behind', intact: true, unchanged: false, matches: false });
      expect(result.differences.map(differenceInWords)).toEqual(['Hole: moved, 5.00 mm']);
    });
    it('is in step, re-written, when another program saved it and it says the same', async () => {
      expect(await check(target, start, rewrite[target])).toMatchObject({
        verdict: 'in step',
        remark: 're-written elsewhere',
        intact: false,
      });
    });
    it('is behind, re-written, when both happened', async () =>
      expect(await check(target, moved, rewrite[target])).toMatchObject({ verdict: 'behind', remark: 're-written elsewhere' }));
    it('is touched when someone changed it', async () => {
      const result = await check(target, start, edit[target]);
      expect(result).toMatchObject({ verdict: 'touched', intact: false, unchanged: true, matches: false });
      expect(result.differences).toHaveLength(1);
    });
    it('is crossed when both sides changed', async () =>
      expect(await check(target, moved, edit[target])).toMatchObject({ verdict: 'crossed' }));
    it('is gone without a file', async () => expect(await check(target, start, () => null)).toMatchObject({ verdict: 'gone' }));
    it('is unreadable when cut off, and says where', async () => {
      const result = await check(target, start, (words) =>
        words.slice(
          0,
          words.lastIndexOf(target === 'hpgl' ? ',' : 'ENTITIES') > 0
            ? words.lastIndexOf(target === 'hpgl' ? ',' : 'ENTITIES') - 1
            : words.length - 30,
        ),
      );
      expect(result.verdict).toBe('unreadable');
      expect(result.proof).toMatch(/line \d+|byte \d+/);
    });
    it('has caught up when someone made the same change by hand', async () => {
      const later = await derive({ master: moved, rev: 2, time }, recipeOf(target, {}), services);
      expect(await check(target, moved, () => decode(later.files[0]!.bytes))).toMatchObject({
        verdict: 'in step',
        remark: 'caught up by hand',
      });
    });
    it('does not match when its tolerance is exceeded, and only then', async () => {
      const nudged = async (by: number) =>
        (
          await check(
            target,
            after(start, (now) => moveItems(now, ['hole'], by, 0)),
          )
        ).verdict;
      const tolerance = targetById(target).tolerance;
      expect(await nudged(tolerance * 0.4)).toBe('in step');
      expect(await nudged(tolerance * 2.2)).toBe('behind');
    });
  });

  it.each<[string, (words: string) => string, string]>([
    ['svg', (words) => words.replace('</svg>', '<image href="x.png"/></svg>'), 'picture in another file'],
    ['svg', (words) => words.replace('<path ', '<path clip-path="url(#w)" '), 'clip-path of something missing'],
    [
      'svg',
      (words) => words.replace('font-family="Commissioner, sans-serif', 'font-family="Unheard'),
      'font Unheard, shown in Commissioner',
    ],
    [
      'dxf',
      (words) => words.replace('0\nENDSEC\n0\nSECTION\n2\nOBJECTS', '0\nHATCH\n8\ncut\n0\nENDSEC\n0\nSECTION\n2\nOBJECTS'),
      'hatch without an edge',
    ],
    ['hpgl', (words) => words.replace('IN;', 'IN;LT2,1;'), 'instruction LT'],
  ])('does not call a changed %s in step when it shows something that was not understood (%#)', async (target, spoil, kind) => {
    const result = await check(target, start, spoil);
    expect(result).toMatchObject({ verdict: 'touched', matches: false });
    expect(result.differences).toMatchObject([{ kind: 'not understood', what: kind, master: 'none', copy: '1 ×' }]);
    const now = after(start, (master) => setAttribute(master, 'frame', 'x', 14));
    expect((await check(target, now, spoil)).verdict).toBe('crossed');
  });
  it.each<[string, (words: string) => string]>([
    ['svg', (words) => words.replace('</svg>', '<other:view xmlns:other="urn:x" zoom="2"/></svg>')],
    ['svg', (words) => words.replace('</svg>', '<rect width="5" height="5" display="none"/></svg>')],
    ['dxf', (words) => words.replace('0\nSECTION\n2\nENTITIES\n', '0\nSECTION\n2\nENTITIES\n0\nVIEWPORT\n67\n1\n8\n0\n')],
  ])('does not mind what nobody sees in a %s (%#)', async (target, spoil) =>
    expect(await check(target, start, spoil)).toMatchObject({ verdict: 'in step', remark: 're-written elsewhere' }),
  );

  it('keeps to its board when that is renamed, and is behind when it is gone', async () => {
    const two = { ...start, boards: [...start.boards, { ...board(start), id: 'b2', name: 'Back', items: [] }] };
    const recipe = recipeOf('svg', {}, 'b1');
    const made = await derive({ master: two, rev: 1, time }, recipe, services);
    const against = (now: Master, bytes = made.files[0]!.bytes, whole = true) =>
      checkCopy({ files: [{ part: '', bytes }], intact: whole, says: made.says, recipe, current: now, baseline: two }, services);
    expect((await against(after(two, (now) => setAttribute(now, 'b1', 'name', 'Face')))).verdict).toBe('in step');
    const without = { ...two, boards: two.boards.slice(1) };
    expect(await against(without)).toMatchObject({ verdict: 'behind', proof: 'The master has no board “Front” any more.' });
    expect((await against(without, encode(decode(made.files[0]!.bytes).replace('Sedge', 'Hedge')), false)).verdict).toBe(
      'crossed',
    );
  });
  it('knows that hiding a layer takes its objects out of a copy', async () => {
    const hidden = masterWith(board(start).items, { layers: [layer('cut', 'cut', { visible: false }), layer('print', 'print')] });
    const { verdict, differences } = await check('svg', hidden);
    expect(verdict).toBe('behind');
    expect(differences.map(({ kind }) => kind)).toEqual(['added', 'added', 'added']);
  });
  it('lists a deleted object as added in the copy', async () => {
    const { differences } = await check(
      'dxf',
      after(start, (now) => removeItems(now, ['hole'])),
    );
    expect(differences).toMatchObject([{ kind: 'added', amount: expect.closeTo(32) }]);
  });
  it('can do with the digest alone when the revision is not at hand', async () => {
    const recipe = recipeOf('svg', {});
    const made = await derive({ master: start, rev: 1, time }, recipe, services);
    const rewritten = encode(rewrite['svg']!(decode(made.files[0]!.bytes)));
    expect(
      await checkCopy(
        { files: [{ part: '', bytes: rewritten }], intact: false, says: made.says, recipe, current: moved, baseline: null },
        services,
      ),
    ).toMatchObject({
      verdict: 'behind',
      remark: 're-written elsewhere',
      unchanged: null,
    });
  });
});

describe('deriving', () => {
  it.each(['svg', 'dxf', 'hpgl'])('%s gives the same bytes for the same revision and recipe', async (target) => {
    const bytes = async () => {
      const master = JSON.parse(JSON.stringify(start)) as Master;
      return decode((await derive({ master, rev: 3, time }, recipeOf(target, {}), services)).files[0]!.bytes);
    };
    expect(await bytes()).toBe(await bytes());
  });
  it.each(['svg', 'dxf', 'hpgl'])('%s carries a mark that says where it came from', async (target) => {
    const recipe = recipeOf(target, target === 'svg' ? { precision: 4 } : { chord: 0.02 }, 'Front');
    const { files, says } = await derive({ master: start, rev: 3, time }, recipe, services);
    const mark = parseMark(targetById(target).read(files[0]!.bytes).mark)!;
    expect(mark).toEqual({ master: 'm1', rev: 3, recipe: recipe.id, says, written: time, how: howOf(recipe) });
    expect(recipeOfHow(mark.how, mark.recipe)).toEqual({ ...recipe, writer: declarationOf(target).writer });
  });
  it('refuses a board that is not there, an unknown target and a wrong option, each in words', async () => {
    await expect(derive({ master: start, rev: 1, time }, recipeOf('svg', {}, 'Back'), services)).rejects.toThrow('It has: Front');
    expect(() => recipeOf('scroll', {})).toThrow('Known: svg, pdf, png, jpeg, tiff, webp, dxf, hpgl');
    expect(() => recipeOf('dxf', { version: 'R9' })).toThrow(Failure);
    expect(() => recipeOf('dxf', { colour: 'red' })).toThrow('There is no option “colour”');
  });
});

describe('the mark of origin', () => {
  const mark = { master: 'a-b', rev: 12, recipe: 'c', says: 'ff00', written: time, how: 'svg?text=a b#Bo;ard é' };
  it('goes there and back through text, whatever it holds', async () =>
    expect(parseMark(`<!-- ${formatMark(mark)} -->`.replace(' -->', ''))).toEqual(mark));
  it('is plain characters only, so that any format can hold it', async () => expect(formatMark(mark)).toMatch(/^[\x20-\x7e]+$/));
  it.each([
    '',
    'something else',
    'inkwell-twin; master=a',
    'inkwell-twin; master=a; rev=x; recipe=b; says=c; written=d; how=e',
    'inkwell-twin; master=%E0%A4%A; rev=1; recipe=b; says=c; written=d; how=e',
  ])('is none in “%s”', async (words) => expect(parseMark(words)).toBeNull());
});
