import fc from 'fast-check';
import { EditorState, TextSelection } from 'prosemirror-state';
import type { Block, Prose } from '@inkwell-twin/core/texts';
import { applyPatches, newMaster } from '@inkwell-twin/core/web';
import { isItem, setBlocks, setOfText } from '@inkwell-twin/core/texts';
import { deeper, emptyTable, lineEnd, ownIds, part, putBlock, setRole } from '../src/app/content/prose/acts';
import { chosenIn } from '../src/app/content/prose/chosen';
import { blocksOf, docOf, settle } from '../src/app/content/prose/convert';
import { schema } from '../src/app/content/prose/schema';
import { anyText } from '../../render/test/prose';
import { runs } from '../../core/test/depth';

const words = (id: string, text: string, rest: Partial<Extract<Block, { block: 'words' }>> = {}): Block => ({
  id,
  block: 'words',
  role: 'body',
  spans: text ? [{ text }] : [],
  ...rest,
});
const stateOf = (blocks: readonly Block[], from = 1, to = from): EditorState => {
  const state = EditorState.create({ doc: docOf(blocks), plugins: [ownIds] });
  return state.apply(state.tr.setSelection(TextSelection.create(state.doc, from, to)));
};
type Act = (state: EditorState, dispatch?: (tr: EditorState['tr']) => void) => boolean;
function after(state: EditorState, ...acts: Act[]): EditorState {
  for (const act of acts) act(state, (tr) => (state = state.apply(tr)));
  return state;
}
const said = (state: EditorState) =>
  blocksOf(state.doc).map((block) =>
    block.block === 'words'
      ? `${block.role}${block.level ?? ''} ${block.spans.map((span) => ('text' in span ? span.text : '^')).join('')}`
      : block.block,
  );
const type =
  (text: string): Act =>
  ({ tr }, dispatch) => (dispatch?.(tr.insertText(text)), true);

describe('a text is edited as it is kept', () => {
  it('whatever it holds goes into the editor and comes back as it was', () => {
    fc.assert(
      fc.property(anyText(['a'.repeat(64), 'b'.repeat(64)]), ({ blocks }) => {
        const fresh = JSON.parse(JSON.stringify(blocks)) as Block[];
        const doc = docOf(fresh);
        doc.check();
        const back = blocksOf(schema.nodeFromJSON(doc.toJSON()));
        // Stretches that look alike come back as one, and what says nothing of itself says nothing.
        const plain = (list: readonly Block[]) =>
          JSON.stringify(list, (key, value: unknown) =>
            key === 'marks' && (value as string[]).length === 0 ? undefined : value,
          );
        const text = (list: readonly Block[]) => plain(list).replace(/[^\p{L}\p{N}]/gu, '').length;
        expect(back.map(({ id }) => id)).toEqual(blocks.length ? blocks.map(({ id }) => id) : ['']);
        expect(blocks.length ? text(back) : 0).toBeLessThanOrEqual(text(blocks));
        // A second time around nothing changes any more.
        expect(blocksOf(schema.nodeFromJSON(docOf(back).toJSON()))).toEqual(back);
      }),
      { numRuns: runs(150) },
    );
  });

  it('what did not change is the very same block again', () => {
    const list = [words('a', 'one'), words('b', 'two'), words('c', 'three')];
    const state = after(stateOf(list, 2), type('x'));
    const now = blocksOf(state.doc);
    expect(now[1]).toBe(list[1]);
    expect(now[2]).toBe(list[2]);
    expect(now[0]).toMatchObject({ spans: [{ text: 'oxne' }] });
    // And what the master made of it is known as that from then on.
    const kept = JSON.parse(JSON.stringify(now)) as Block[];
    settle(state.doc, kept);
    expect(blocksOf(state.doc)[0]).toBe(kept[0]);
  });

  it('Enter parts a paragraph: the first half keeps its id, of an empty first half the second does', () => {
    const list = [words('a', 'one two')];
    const inside = after(stateOf(list, 5), part);
    expect(said(inside)).toEqual(['body one ', 'body two']);
    const ids = blocksOf(inside.doc).map(({ id }) => id);
    expect(ids[0]).toBe('a');
    expect(new Set(ids).size).toBe(2);
    const before = blocksOf(after(stateOf(list, 1), part).doc);
    expect(before.map(({ id }) => id)[1]).toBe('a');
    expect(before.every(({ id }) => id !== '')).toBe(true);
  });

  it('after a heading come plain words; an empty item ends its list', () => {
    const heading = [words('h', 'Birds', { role: 'heading 2' })];
    expect(said(after(stateOf(heading, 6), part, type('next')))).toEqual(['heading 2 Birds', 'body next']);
    const list = [words('i', 'a', { role: 'bullet', level: 1 })];
    const two = after(stateOf(list, 2), part);
    expect(said(two)).toEqual(['bullet1 a', 'bullet1 ']);
    expect(said(after(two, part))).toEqual(['bullet1 a', 'body ']);
  });

  it('items go deeper and come back, and at the top they are items no more', () => {
    const list = [words('i', 'a', { role: 'numbered' }), words('j', 'b', { role: 'numbered' })];
    const deep = after(stateOf(list, 4), deeper(1), deeper(1));
    expect(said(deep)).toEqual(['numbered a', 'numbered2 b']);
    expect(said(after(deep, deeper(-1), deeper(-1), deeper(-1)))).toEqual(['numbered a', 'body b']);
    expect(deeper(1)(stateOf([words('p', 'plain')], 2))).toBe(false);
  });

  it('roles are set for all that is chosen; a line ends without its paragraph ending', () => {
    const list = [words('a', 'one'), words('b', 'two'), words('c', 'three')];
    expect(said(after(stateOf(list, 2, 8), setRole('quote')))).toEqual(['quote one', 'quote two', 'body three']);
    expect(said(after(stateOf(list, 3), lineEnd))[0]).toBe('body on\ne');
  });

  it('a table is put behind the paragraph with the cursor, and there is always a place to go on writing', () => {
    const state = after(stateOf([words('a', 'one')], 2), putBlock(emptyTable(2, 2)), type('after'));
    expect(said(state)).toEqual(['body one', 'table', 'body after']);
    const [, table] = blocksOf(state.doc) as [Block, Extract<Block, { block: 'table' }>];
    expect([table.head, table.grid.length, table.grid[0]!.length]).toEqual([true, 2, 2]);
  });

  it('says what has the cursor', () => {
    const list = [
      words('a', '', {
        role: 'numbered',
        level: 2,
        align: 'right',
        spans: [
          { text: 'bo', marks: ['bold'] },
          { text: 'ld', marks: ['bold', 'italic'], link: 'https://a.example' },
        ],
      }),
    ];
    expect(chosenIn(stateOf(list, 1, 5))).toMatchObject({
      kind: 'words',
      role: 'numbered',
      level: 2,
      align: 'right',
      item: true,
      some: true,
    });
    expect([...chosenIn(stateOf(list, 1, 5)).marks]).toEqual(['bold']);
    expect(chosenIn(stateOf(list, 5)).link).toBe('');
    expect(chosenIn(stateOf(list, 4)).link).toBe('https://a.example');
  });
});

describe('what was edited becomes a step', () => {
  const text: Prose = {
    id: 't',
    name: 'Guide',
    language: 'en',
    blocks: [words('a', 'The first paragraph'), words('b', 'The second'), words('c', 'The third')],
  };
  const master = { ...newMaster('m', 'M', '', 'text'), texts: [text] };
  const step = (blocks: readonly Block[]) => setBlocks(text, blocks);

  it.each<[string, readonly Block[], string, number]>([
    ['nothing', text.blocks, 'Guide: paragraphs moved', 0],
    ['a word', [words('a', 'The first sentence'), ...text.blocks.slice(1)], 'Guide: “The first sentence” reworded', 1],
    [
      'a role',
      [{ ...text.blocks[0]!, role: 'heading 1' } as Block, ...text.blocks.slice(1)],
      'paragraph “The first paragraph” is heading 1 now',
      1,
    ],
    ['one more', [...text.blocks, words('d', 'The fourth')], 'Guide: paragraph “The fourth” added', 1],
    ['one less', text.blocks.slice(1), 'Guide: paragraph “The first paragraph” removed', 1],
    ['another order', [text.blocks[2]!, text.blocks[0]!, text.blocks[1]!], 'Guide: paragraphs moved', 2],
    [
      'many',
      [words('x', 'New'), words('y', 'Newer'), words('b', 'Changed')],
      'Guide: 2 paragraphs added, 2 paragraphs removed, 1 paragraph changed',
      5,
    ],
  ])('%s', (_, blocks, label, patches) => {
    const command = step(blocks);
    expect([command.label, command.patches.length]).toEqual([label, patches]);
    const made = applyPatches(master, command.patches);
    expect(made.master.texts![0]!.blocks).toEqual(blocks);
    expect(applyPatches(made.master, made.inverse).master).toEqual(master);
  });

  it('a picture comes with its file; name and language are attributes', () => {
    const resource = { id: 'f'.repeat(64), name: 'x.png', mediaType: 'image/png', size: 3, role: 'picture' as const };
    const picture: Block = { id: 'p', block: 'picture', picture: resource.id, alt: '', width: 40, caption: [] };
    const command = setBlocks(text, [...text.blocks, picture], { master: 'm', last: null, added: [resource] });
    expect(applyPatches(master, command.patches).master.resources).toEqual([resource]);
    expect(applyPatches(master, setOfText(text, 'language', 'fr').patches).master.texts![0]!.language).toBe('fr');
    expect(() => applyPatches(master, setOfText(text, 'language', 'not a tag').patches)).toThrow(/language/);
    expect(isItem(text.blocks[0]!)).toBe(false);
  });
});
