import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { strToU8, unzipSync, zipSync } from 'fflate';
import {
  type Patch,
  type Prose,
  type Scope,
  addFormats,
  applyPatches,
  bringInAny,
  changesBetween,
  checkCopy,
  codecOf,
  derive,
  fittedTo,
  footprintHash,
  partWishes,
  recipeOf,
} from '@inkwell-twin/core';
import { python } from '../../core/test/python';
import { seriesMaster } from '../../core/test/series';
import { nodeFormats } from '../src';
import { anyText, guide, masterOf, services, onlySign, pictureIds, time } from './prose';
import { judgedBy } from '../../core/test/judged-by';
import { runs } from '../../core/test/depth';

addFormats(nodeFormats);
const ALL: Scope = { of: 'texts', ids: [] };
/** Every target of texts, under options that carry differently. */
const RECIPES = [
  recipeOf('html', {}, ALL),
  recipeOf('txt', {}, ALL),
  recipeOf('txt', { lines: 'broken', width: 40, ends: 'CR LF', bom: true }, ALL),
  recipeOf('odt', {}, ALL),
  recipeOf('odt', { version: '1.2', paper: 'A5' }, ALL),
  recipeOf('docx', {}, ALL),
  recipeOf('epub', {}, ALL),
  recipeOf('html', {}, ALL, undefined, [{ feature: 'pictures', take: 'left out' }]),
  recipeOf('docx', {}, ALL, undefined, [
    { feature: 'emphasis', take: 'left out' },
    { feature: 'notes', take: 'left out' },
  ]),
  recipeOf('pdf', {}, ALL),
  recipeOf('pdf', { paper: 'A5', text: 'outlines', letters: 5 }, ALL),
];
const named = RECIPES.map(
  (recipe) =>
    [
      `${recipe.target} ${JSON.stringify(recipe.options)} ${recipe.choices.map(({ feature }) => feature).join(' ')}`,
      recipe,
    ] as const,
);

describe('copies of texts', () => {
  it.each(named)('say what their master says, and are the same bytes each time: %s', async (_, recipe) => {
    const master = await masterOf(await guide());
    const [made, again] = [
      await derive({ master, rev: 3, time }, recipe, services),
      await derive({ master, rev: 3, time }, recipe, services),
    ];
    expect(made.defects).toEqual([]);
    expect(Buffer.compare(made.files[0]!.bytes, again.files[0]!.bytes)).toBe(0);
    const whole = { files: made.files, intact: true, says: made.says, recipe, current: master, baseline: master };
    expect(await checkCopy(whole, services, true)).toMatchObject({ verdict: 'in step', differences: [] });
    const read = await (await codecOf(recipe.target)).read(made.files, { options: recipe.options }, services);
    expect(read.notUnderstood).toEqual([]);
    expect(read.mark).toContain('inkwell-twin;');
  });

  it.each(named.filter(([, { target }]) => target !== 'pdf'))('hold any text whatever: %s', async (_, recipe) => {
    const pictures = await pictureIds();
    await fc.assert(
      fc.asyncProperty(anyText(pictures), async (text) => {
        const { defects } = await derive({ master: await masterOf(text), rev: 1, time }, recipe, services);
        expect(defects).toEqual([]);
      }),
      { numRuns: runs(40), examples: ['\u00a0', ' ', '\u2003', '\u200b', '\u00ad'].map((sign) => [onlySign(sign)]) },
    );
  });

  it('follow their master: whatever changes in a text changes what carries it, and nothing else', async () => {
    const master = await masterOf(await guide());
    const changes: [Patch, readonly string[]][] = [
      [
        { op: 'set', node: 'p3', attribute: 'spans', value: [{ text: 'Another wording.' }] },
        ['html', 'txt', 'odt', 'docx', 'epub', 'pdf'],
      ],
      [{ op: 'set', node: 'p3', attribute: 'align', value: 'right' }, ['html', 'odt', 'docx', 'epub', 'pdf']],
      [{ op: 'set', node: 'p3', attribute: 'role', value: 'quote' }, ['html', 'odt', 'docx', 'epub', 'pdf', 'txt']],
      [{ op: 'set', node: 'pic', attribute: 'alt', value: 'Another' }, ['html', 'odt', 'docx', 'epub', 'txt']],
      [{ op: 'set', node: 'guide', attribute: 'language', value: 'de' }, ['html', 'odt', 'docx', 'epub']],
      [{ op: 'remove', parent: 'guide', list: 'blocks', node: 'line' }, ['html', 'odt', 'docx', 'epub', 'pdf']],
      [{ op: 'set', node: master.id, attribute: 'description', value: 'Nothing of it' }, []],
    ];
    for (const [patch, carriers] of changes) {
      const next = applyPatches(master, [patch]).master;
      for (const target of ['html', 'txt', 'odt', 'docx', 'epub', 'pdf']) {
        const recipe = recipeOf(target, {}, ALL);
        const changed = footprintHash(next, recipe) !== footprintHash(master, recipe);
        expect([target, patch, changed]).toEqual([target, patch, carriers.includes(target)]);
      }
      // And it can be taken back.
      const back = changesBetween(next, master);
      expect(applyPatches(next, back).master).toEqual(master);
    }
  });

  it('a page of a text alone is what a master without boards or tables is asked for', async () => {
    const master = await masterOf(await guide());
    expect(fittedTo(recipeOf('html', {}), master).scope).toEqual(ALL);
    expect(fittedTo(recipeOf('pdf', {}), master).scope).toEqual(ALL);
    expect(
      (await derive({ master, rev: 1, time }, fittedTo(recipeOf('pdf', {}), master), services)).projection.leaves.length,
    ).toBeGreaterThan(1);
  });
});

describe('a page of tables and texts', () => {
  const both = async () => {
    const master = await masterOf(await guide());
    return { ...master, tables: seriesMaster().tables! };
  };
  it('says both, is read back as both, and comes in as both', async () => {
    const master = await both();
    const recipe = recipeOf('html', {}, { of: 'master' });
    const { files, defects, projection, says } = await derive({ master, rev: 1, time }, recipe, services);
    expect(defects).toEqual([]);
    expect(projection.leaves.map(({ kind }) => kind)).toEqual(['grid', 'prose']);
    const input = { files, intact: true, says, recipe, current: master, baseline: master };
    expect((await checkCopy(input, services, true)).verdict).toBe('in step');
    const { master: back } = await bringInAny(files[0]!.bytes, 'both.html', services, partWishes());
    expect([back.tables!.length, back.texts!.length]).toEqual([1, 1]);
    expect(back.tables![0]!.rows.length).toBe(master.tables[0]!.rows.length);
  });

  it('one word and one cell that somebody changed are both found, each in its part', async () => {
    const master = await both();
    const recipe = recipeOf('html', {}, { of: 'master' });
    const { files, says } = await derive({ master, rev: 1, time }, recipe, services);
    const text = new TextDecoder().decode(files[0]!.bytes).replace('two hours', 'ten hours');
    const cell = /<td class="number">([^<]+)<\/td>/.exec(text)!;
    const spoiled = text.replace(cell[0], cell[0].replace(cell[1]!, '9999'));
    const { verdict, differences } = await checkCopy(
      { files: [{ part: '', bytes: strToU8(spoiled) }], intact: false, says, recipe, current: master, baseline: master },
      services,
    );
    expect(verdict).toBe('touched');
    expect(differences.map(({ kind, leaf }) => [kind, leaf]).sort()).toEqual([
      ['value changed', 0],
      ['words changed', 1],
    ]);
  });

  it('a copy of one of them does not follow the other', async () => {
    const master = await both();
    const [texts, tables] = [recipeOf('html', {}, ALL), recipeOf('html', {}, { of: 'tables', ids: [] })];
    const next = applyPatches(master, [{ op: 'set', node: 'p3', attribute: 'align', value: 'right' }]).master;
    expect(footprintHash(next, texts)).not.toBe(footprintHash(master, texts));
    expect(footprintHash(next, tables)).toBe(footprintHash(master, tables));
    await expect(
      derive({ master, rev: 1, time }, recipeOf('html', {}, { of: 'texts', ids: ['gone'] }), services),
    ).rejects.toThrow(/no text “gone” in this master. It has: Round the fen/);
    expect(() => recipeOf('docx', {}, { of: 'tables', ids: ['x'] })).toThrow(/says texts, and this asks for tables/);
  });

  it('several texts are several documents of a book, and more than one does not go into a letter', async () => {
    const text = await guide();
    const second = { ...text, id: 'second', name: 'Second', blocks: [{ ...text.blocks[0]!, id: 'second-1' }] };
    const master = await masterOf(text, second);
    const made = await derive({ master, rev: 1, time }, recipeOf('epub', {}, { of: 'master' }), services);
    expect([made.defects, made.projection.leaves.length]).toEqual([[], 2]);
    await expect(derive({ master, rev: 1, time }, recipeOf('docx', {}, { of: 'master' }), services)).rejects.toThrow(
      /one text, and this asks for 2/,
    );
    const named = await derive({ master, rev: 1, time }, recipeOf('docx', {}, { of: 'texts', ids: ['Second'] }), services);
    expect(named.projection.leaves).toMatchObject([{ label: 'Second' }]);
    // In another order it is another book.
    const swapped = { ...master, texts: [second, text] };
    const input = {
      files: made.files,
      intact: true,
      says: made.says,
      recipe: recipeOf('epub', {}, { of: 'master' }),
      current: swapped,
      baseline: master,
    };
    expect((await checkCopy(input, services)).differences.map(({ kind }) => kind)).toContain('sheet re-ordered');
  });
});

describe('texts that come in', () => {
  it.each(['html', 'odt', 'docx', 'epub', 'txt'])('from a copy of their own are what they were: %s', async (target) => {
    const text = await guide();
    const master = await masterOf(text);
    const { files } = await derive({ master, rev: 1, time }, recipeOf(target, {}, ALL), services);
    const brought = await bringInAny(files[0]!.bytes, `guide.${target}`, services, partWishes());
    const [back] = brought.master.texts!;
    const plain = (one: Prose) => one.blocks.map(({ id: _, ...rest }) => ('picture' in rest ? { ...rest, picture: '' } : rest));
    if (target !== 'txt') expect(plain(back!)).toEqual(plain(text));
    else expect(back!.blocks.length).toBeGreaterThan(20);
    expect(brought.notUnderstood).toEqual([]);
    // And copies of what came in are true, too.
    const kept = new Map(brought.kept.map(({ resource, bytes }) => [resource.id, bytes]));
    const again = { ...services, resource: (sha: string) => kept.get(sha)! };
    expect((await derive({ master: brought.master, rev: 1, time }, recipeOf('docx', {}, ALL), again)).defects).toEqual([]);
  });

  const bring = (bytes: Uint8Array, name: string) => bringInAny(bytes, name, services, partWishes());

  it('a page from elsewhere, with what can’t be read counted', async () => {
    const page = `<!DOCTYPE html><html lang=fr><head><title>Du marais</title><style>p::before{content:"- "}</style><script>alert(1)</script></head>
      <body onload="x()"><h2>Un titre</h2><p>Premier <b>gras <i>et penché</i></b> <a href='/la'>lien</a><br>suite
      <p style="display:none">caché</p><ul><li>un<ul><li>deux</ul><li><p>trois</p><p>encore</p></ul>
      <ol start=7><li>sept</ol><dl><dt>mot</dt><dd>sens</dd></dl><pre>  a\n  b</pre><video src=x></video>
      <table><tr><th>A<th>B<tr><td colspan=2>c</table><img src="https://elsewhere.example/x.png" alt=loin></body></html>`;
    const { master, notUnderstood } = await bring(strToU8(page), 'du-marais.html');
    const [text] = master.texts!;
    expect(text).toMatchObject({ name: 'Du marais', language: 'fr' });
    const roles = text!.blocks.map((one) =>
      one.block === 'words'
        ? `${one.role} ${one.level ?? 0} ${one.spans.map((span) => ('text' in span ? span.text : '')).join('')}`
        : one.block,
    );
    expect(roles).toEqual([
      'heading 2 0 Un titre',
      'body 0 Premier gras et penché lien\nsuite',
      'bullet 0 un',
      'bullet 1 deux',
      'bullet 0 trois',
      'continued 0 encore',
      'numbered 0 sept',
      'body 0 mot',
      'body 0 sens',
      'body 0 \u00a0\u00a0a\n\u00a0\u00a0b',
      'table',
    ]);
    expect(notUnderstood.map(({ kind }) => kind).sort()).toEqual(
      ['cell across several', 'hidden words', 'picture that is not in it', 'script', 'style sheet', 'video'].sort(),
    );
  });

  it.each([
    [
      'a package with an entity',
      zipSync({ 'word/document.xml': strToU8('<!DOCTYPE d [<!ENTITY x SYSTEM "file:///etc/passwd">]><d>&x;</d>') }),
      'x.docx',
      /document type/,
    ],
    ['a package without a text', zipSync({ 'word/document.xml': strToU8('<d/>') }), 'x.docx', /no text/],
    ['broken XML', zipSync({ 'content.xml': strToU8('<a><b></a>') }), 'x.odt', /damaged/],
    ['a book without its list', zipSync({ 'META-INF/container.xml': strToU8('<container/>') }), 'x.epub', /does not say/],
    [
      'a book with an entity',
      zipSync({
        'META-INF/container.xml': strToU8('<container><rootfiles><rootfile full-path="p.opf"/></rootfiles></container>'),
        'p.opf': strToU8(
          '<package><manifest><item id="a" href="a.xhtml"/></manifest><spine><itemref idref="a"/></spine></package>',
        ),
        'a.xhtml': strToU8('<!DOCTYPE html [<!ENTITY x "y">]><html><body>&x;</body></html>'),
      }),
      'x.epub',
      /document type/,
    ],
    [
      'nested beyond reason',
      zipSync({
        'content.xml': strToU8(`<a><body><text>${'<section>'.repeat(5000)}${'</section>'.repeat(5000)}</text></body></a>`),
      }),
      'x.odt',
      /too deep/,
    ],
    ['no word', strToU8('<html><body><p> </p></body></html>'), 'x.html', /no words/],
  ])('are refused with a reason: %s', async (_, bytes, name, reason) => {
    await expect(bring(bytes, name)).rejects.toThrow(reason);
  });

  it('in an older code page, said and chosen', async () => {
    const bytes = Uint8Array.from('Gr\u00fc\u00dfe vom Moor.\n\nEs regnet.', (char) => char.charCodeAt(0));
    const guessed = await bring(bytes, 'gruss.txt');
    expect(guessed.master.texts![0]!.blocks[0]).toMatchObject({ spans: [{ text: 'Grüße vom Moor.' }] });
    expect(guessed.notUnderstood[0]!.kind).toMatch(/encoding/);
    const chosen = await bringInAny(bytes, 'gruss.txt', services, partWishes({ encoding: 'iso-8859-2' }));
    expect(chosen.notUnderstood).toEqual([]);
  });

  it('with changes that are not settled and hidden words, told', async () => {
    const { files } = await derive({ master: await masterOf(await guide()), rev: 1, time }, recipeOf('docx', {}, ALL), services);
    const parts = unzipSync(files[0]!.bytes);
    const name = 'word/document.xml';
    const xml = new TextDecoder().decode(parts[name]!);
    const changed = xml
      .replace(/(<w:r>(?:(?!<w:r>).)*What to bring<\/w:t><\/w:r>)/, '<w:ins w:id="1" w:author="x">$1</w:ins>')
      .replace('<w:t xml:space="preserve">A whistle</w:t>', '<w:rPr><w:vanish/></w:rPr><w:t>A whistle</w:t>');
    const read = await (
      await codecOf('docx')
    ).read([{ part: '', bytes: zipSync({ ...parts, [name]: strToU8(changed) }) }], {}, services);
    expect(read.notUnderstood).toEqual(
      expect.arrayContaining([
        { kind: 'change that is not settled', count: 1, shows: true },
        { kind: 'hidden words', count: 1, shows: true },
      ]),
    );
  });
});

describe('others read our copies as we do', () => {
  const write = async (target: string, options = {}) => {
    const { files } = await derive(
      { master: await masterOf(await guide()), rev: 1, time },
      recipeOf(target, options, ALL),
      services,
    );
    return files[0]!.bytes;
  };

  judgedBy('docx').it('DOCX by python-docx', async () => {
    const { out } = python(
      `import docx, json, sys
d = docx.Document('a.docx')
print(json.dumps([[p.style.name, p.text] for p in d.paragraphs] + [[c.text for c in r.cells] for t in d.tables for r in t.rows] + [len(d.inline_shapes), round(d.inline_shapes[0].width.mm, 1), d.core_properties.title, d.core_properties.language]))`,
      await write('docx'),
      'a.docx',
    );
    expect(JSON.parse(out)).toEqual(
      expect.arrayContaining([
        ['Heading 1', 'Round the fen'],
        ['Heading 2', 'What to bring'],
        ['Quote', 'Who walks slowly sees twice.'],
        ['Table caption', 'When the gate is open'],
        ['June to August', '6:00', '21:30'],
        60,
        'Round the fen',
        'en-GB',
      ]),
    );
  });

  judgedBy('odf').it('ODT by odfpy', async () => {
    const { out } = python(
      `import json, sys
from odf.opendocument import load
from odf import text, table, draw, teletype
d = load('a.odt')
print(json.dumps([[h.getAttribute('outlinelevel'), teletype.extractText(h)] for h in d.getElementsByType(text.H)] + [teletype.extractText(c) for c in d.getElementsByType(table.TableCell)] + [len(d.getElementsByType(draw.Frame)), len(d.getElementsByType(text.Note)), len(d.getElementsByType(text.ListItem))]))`,
      await write('odt'),
      'a.odt',
    );
    expect(JSON.parse(out)).toEqual(expect.arrayContaining([['1', 'Round the fen'], '21:30', 2, 1, 7]));
  });

  it('every part of every package is XML as xmllint reads it', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'prose-'));
    try {
      for (const target of ['odt', 'docx', 'epub'])
        for (const [name, bytes] of Object.entries(unzipSync(await write(target)))) {
          if (!/\.(xml|opf|xhtml|rels)$/.test(name)) continue;
          const file = join(folder, 'part.xml');
          writeFileSync(file, bytes);
          const { status, stderr } = spawnSync('xmllint', ['--noout', '--nonet', file], { encoding: 'utf8' });
          expect([target, name, status, stderr]).toEqual([target, name, 0, '']);
        }
    } finally {
      rmSync(folder, { recursive: true });
    }
  });

  judgedBy('pdftotext').it('PDF by pdftotext: all words, in order, page by page', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'prose-'));
    try {
      writeFileSync(join(folder, 'a.pdf'), await write('pdf'));
      const { stdout } = spawnSync('pdftotext', ['-layout', join(folder, 'a.pdf'), '-'], { encoding: 'utf8' });
      const plain = stdout.replace(/\s+/g, ' ');
      for (const words of [
        'Round the fen',
        'The boardwalk leaves the lower gate and takes two hours',
        '• Boots that may get wet',
        '3. Reed bed to the north pool',
        'June to August 6:00 21:30',
        'The heron of the north pool',
        'Counted on forty mornings',
      ])
        expect(plain).toContain(words);
    } finally {
      rmSync(folder, { recursive: true });
    }
  });
});
