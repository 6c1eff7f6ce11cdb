import fc from 'fast-check';
import { strToU8, unzipSync, zipSync } from 'fflate';
import {
  Failure,
  type Prose,
  addFormats,
  bringInAny,
  checkCopy,
  codecOf,
  derive,
  partWishes,
  recipeOf,
} from '@inkwell-twin/core';
import { nodeFormats } from '../src';
import { guide, masterOf, services, time } from './prose';
import { cpuTime } from '../../core/test/cpu-time';
import { atDepth, runs } from '../../core/test/depth';

addFormats(nodeFormats);
const ALL = { of: 'texts' as const, ids: [] };
/** The part of each package that holds the words. */
const MAIN = { odt: 'content.xml', docx: 'word/document.xml', epub: 'book/text-1.xhtml' } as const;
/** Parts that say nothing of the text. */
const WITHOUT_A_WORD: Readonly<Record<keyof typeof MAIN, readonly string[]>> = {
  odt: ['mimetype'],
  docx: ['docProps/custom.xml'],
  epub: [],
};
const copies = new Map<string, Promise<Uint8Array>>();
const copy = (target: string): Promise<Uint8Array> => {
  let made = copies.get(target);
  if (!made)
    copies.set(
      target,
      (made = (async () =>
        (await derive({ master: await masterOf(await guide()), rev: 1, time }, recipeOf(target, {}, ALL), services)).files[0]!
          .bytes)()),
    );
  return made;
};
/** Reads a spoiled copy: an answer in words, or a reading; never anything else. */
async function readOrRefused(target: string, bytes: Uint8Array): Promise<'read' | 'refused'> {
  try {
    await (await codecOf(target)).read([{ part: '', bytes }], {}, services);
    return 'read';
  } catch (error) {
    if (error instanceof Failure && error.message.length > 10) return 'refused';
    throw error;
  }
}

describe('copies of texts that came to harm', () => {
  it.each(['odt', 'docx', 'epub', 'html', 'txt'])(
    'with bytes that flipped, in any place, are read or refused in words: %s',
    async (target) => {
      const bytes = await copy(target);
      await fc.assert(
        fc.asyncProperty(
          fc.array(fc.tuple(fc.nat(bytes.length - 1), fc.nat(255)), { minLength: 1, maxLength: 6 }),
          async (flips) => {
            const spoiled = bytes.slice();
            for (const [at, value] of flips) spoiled[at] = value;
            await readOrRefused(target, spoiled);
          },
        ),
        { numRuns: runs(60) },
      );
    },
  );

  it.each(['odt', 'docx', 'epub'])('cut off anywhere are unreadable, with where and why: %s', async (target) => {
    const bytes = await copy(target);
    const master = await masterOf(await guide());
    for (const share of [0, 0.1, 0.5, 0.9, 0.999]) {
      const cut = bytes.slice(0, Math.floor(bytes.length * share));
      const input = {
        files: [{ part: '', bytes: cut }],
        intact: false,
        says: '',
        recipe: recipeOf(target, {}, ALL),
        current: master,
        baseline: null,
      };
      const { verdict, proof } = await checkCopy(input, services);
      expect([share, verdict]).toEqual([share, 'unreadable']);
      expect(proof).toMatch(/package|zip|damaged|no /i);
    }
  });

  it.each(Object.entries(MAIN))('with elements thrown about in it are read or refused: %s', async (target, part) => {
    const parts = unzipSync(await copy(target));
    const tags = [...new TextDecoder().decode(parts[part]!).matchAll(/<\/?[a-z][^>]*>/gi)];
    await fc.assert(
      fc.asyncProperty(
        fc.nat(tags.length - 1),
        fc.nat(tags.length - 1),
        fc.constantFrom('drop', 'double', 'swap'),
        async (i, j, how) => {
          const text = new TextDecoder().decode(parts[part]!);
          const [one, other] = [tags[i]!, tags[j]!];
          const changed =
            how === 'drop'
              ? text.slice(0, one.index) + text.slice(one.index + one[0].length)
              : how === 'double'
                ? text.slice(0, one.index) + one[0] + text.slice(one.index)
                : text.replace(one[0], other[0]);
          await readOrRefused(target, zipSync({ ...parts, [part]: strToU8(changed) }));
        },
      ),
      { numRuns: runs(60) },
    );
  });

  it.each(Object.keys(MAIN))('without a part are found out, or say all the same: %s', async (target) => {
    const recipe = recipeOf(target, {}, ALL);
    const master = await masterOf(await guide());
    const { files, says } = await derive({ master, rev: 1, time }, recipe, services);
    const parts = unzipSync(files[0]!.bytes);
    const unnoticed: string[] = [];
    for (const name of Object.keys(parts)) {
      const { [name]: _, ...rest } = parts;
      const input = {
        files: [{ part: '', bytes: zipSync(rest) }],
        intact: false,
        says,
        recipe,
        current: master,
        baseline: master,
      };
      const { verdict, proof, differences } = await checkCopy(input, services);
      if (verdict === 'in step') unnoticed.push(name);
      // Told what is missing: by its name, or by what it said.
      else expect([name, verdict === 'unreadable' ? proof.length > 30 : differences.length > 0]).toEqual([name, true]);
    }
    expect(unnoticed).toEqual(WITHOUT_A_WORD[target as keyof typeof MAIN]);
  });

  it('bombs are not unpacked', async () => {
    const bomb = new Uint8Array(40_000_000);
    for (const [target, part] of Object.entries(MAIN).slice(0, atDepth(1, 3))) {
      const parts = unzipSync(await copy(target));
      await expect(bringInAny(zipSync({ ...parts, [part]: bomb }), `x.${target}`, services, partWishes())).rejects.toThrow(
        /sensible/,
      );
    }
  });

  it('a page of 20,000 notes is read in time that grows with its length', async () => {
    const each = (of: (i: number) => string) => Array.from({ length: 20_000 }, (_, i) => of(i + 1)).join('');
    const page = `<html><body>${each((i) => `<p>x<a role="doc-noteref" href="#n${i}">${i}</a></p>`)}
      <section role="doc-endnotes"><ol>${each((i) => `<li id="n${i}">y</li>`)}</ol></section></body></html>`;
    const begun = cpuTime();
    const codec = await codecOf('html');
    const { notUnderstood } = await codec.read([{ part: '', bytes: strToU8(page) }], { options: {} }, services);
    expect(notUnderstood).toEqual([]);
    expect(cpuTime() - begun).toBeLessThan(20_000);
  });

  it('a table of a million cells, a row repeated ten million times, a list as deep as a well: bounded', async () => {
    const parts = unzipSync(await copy('odt'));
    const text = new TextDecoder().decode(parts['content.xml']!);
    const put = (inner: string) =>
      zipSync({ ...parts, 'content.xml': strToU8(text.replace('<office:text>', `<office:text>${inner}`)) });
    const repeated =
      '<table:table><table:table-row table:number-rows-repeated="10000000"><table:table-cell table:number-columns-repeated="10000000"><text:p>x</text:p></table:table-cell></table:table-row></table:table>';
    await expect(bringInAny(put(repeated), 'x.odt', services, partWishes())).rejects.toThrow(/cells/);
    const deep = `${'<text:list><text:list-item>'.repeat(100)}<text:p>down</text:p>${'</text:list-item></text:list>'.repeat(100)}`;
    const { master } = await bringInAny(put(deep), 'x.odt', services, partWishes());
    expect(master.texts![0]!.blocks[0]).toMatchObject({ role: 'bullet' });
    const page = `<html><body>${'<div>'.repeat(20_000)}end${'</div>'.repeat(20_000)}</body></html>`;
    await expect(bringInAny(strToU8(page), 'x.html', services, partWishes())).resolves.toMatchObject({ master: { texts: [{}] } });
  });

  it('links and notes that lead nowhere, ids twice, numbers that are none', async () => {
    const page = `<html lang="not a language!"><body><p id=a>One<a role="doc-noteref" href="#gone">1</a> <a href="javascript:alert(1)">two</a></p>
      <p id=a>Three</p><ol start="x"><li value="-4">four</ol><ol start=99999999999><li>five</ol><table><tr><td colspan=999999>six</table></body></html>`;
    const { master } = await bringInAny(strToU8(page), 'x.html', services, partWishes());
    const [text] = master.texts!;
    expect(text!.language).toBe('en');
    expect(text!.blocks.map((one) => one.block)).toEqual(['words', 'words', 'words', 'words', 'table']);
    const { defects } = await derive({ master, rev: 1, time }, recipeOf('html', {}, ALL), services);
    expect(defects).toEqual([]);
  });

  it('words that look like markup are words', async () => {
    const said = [
      '</w:t>',
      '<!-- x -->',
      ']]>',
      '&lt;',
      '"quoted"',
      "'one'",
      '<script>alert(1)</script>',
      '\u202eturned',
      '\ufeffmark',
      '%PDF-1.7',
      'a\u0000b\u0007c',
    ];
    const text = {
      id: 't',
      name: '</title><script>',
      language: 'en',
      blocks: said.map((words, i) => ({
        id: `b${i}`,
        block: 'words' as const,
        role: 'body' as const,
        spans: [{ text: words, link: `https://x.example/?${encodeURIComponent(words)}` }],
      })),
    };
    for (const target of ['html', 'odt', 'docx', 'epub', 'pdf']) {
      const { files, defects } = await derive(
        { master: await masterOf(text), rev: 1, time },
        recipeOf(target, {}, ALL),
        services,
      );
      // What XML can't hold at all is left away; all else arrives.
      expect([target, defects.filter(({ what }) => !/a.?b/.test(what))]).toEqual([target, []]);
      if (target === 'html') expect(new TextDecoder().decode(files[0]!.bytes)).not.toMatch(/<script>/);
    }
  });
});

describe('links of a text', () => {
  const linked = (link: string): Prose => ({
    id: 'any',
    name: 'Linked',
    language: 'en',
    blocks: [{ block: 'words', id: 'b1', role: 'body', spans: [{ text: 'before ' }, { text: 'the map', link }] }],
  });
  const HOSTILE = [
    'javascript:alert(1)',
    ' \tjava\nscript:alert(1)',
    'data:text/html,<script>alert(1)</script>',
    'vbscript:x',
    'file:///etc/passwd',
  ];
  it.each(['html', 'epub', 'docx', 'odt', 'pdf', 'txt'])(
    'go into %s only where they lead somewhere, and what is left out is told',
    async (target) => {
      for (const link of HOSTILE) {
        const master = await masterOf(linked(link));
        const { files, report, defects } = await derive({ master, rev: 1, time }, recipeOf(target, {}, ALL), services);
        expect(defects).toEqual([]);
        const { bytes } = files[0]!;
        const parts = target in MAIN ? Object.values(unzipSync(bytes)) : [bytes];
        expect(parts.map((part) => Buffer.from(part).toString('latin1')).join()).not.toMatch(/script:|data:text|etc\/passwd/i);
        // Pages carry no links at all, and say so.
        expect(report.lines.map(({ what }) => what)).toContain(target === 'pdf' ? 'Links' : 'Links that run something');
      }
    },
  );
  it('arrive where they led, whatever blanks and ends of lines stand in them', async () => {
    for (const target of ['html', 'epub', 'docx', 'odt'])
      for (const link of [
        'https://fen.example/a?b=1&c=2',
        ' https://fen.example/a\tb\r\nc ',
        'mailto:ines@fen.example',
        '#part',
        'maps/a%20b.html',
      ]) {
        const master = await masterOf(linked(link));
        const recipe = recipeOf(target, {}, ALL);
        const made = await derive({ master, rev: 1, time }, recipe, services);
        expect([target, link, made.defects]).toEqual([target, link, []]);
        expect(made.report.lines.map(({ what }) => what)).not.toContain('Links that run something');
      }
  });
});
