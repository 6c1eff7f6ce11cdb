import fc from 'fast-check';
import {
  type Block,
  type Master,
  type Patch,
  type Prose,
  type Step,
  addItem,
  allItems,
  applyPatches,
  changesBetween,
  findNode,
  journalHashes,
  moveItems,
  nodeHash,
  rebaseSteps,
  removeItems,
  setAttribute,
  stepOf,
} from '../src';
import { plainOf } from '../src/document/texts/words';
import { setBlocks } from '../src/evaluate/texts/commands';
import { board, masterWith, rectangle } from './build';

const start = masterWith(['a', 'b', 'c', 'd', 'e', 'f'].map((id, i) => rectangle(id, i * 10, 5)));
/** Steps of commands, one made on what the last one left. */
function steps(
  from: Master,
  ...commands: ((now: Master) => { label: string; patches: Patch[] })[]
): { after: Master; steps: Step[] } {
  let after = from;
  const made = commands.map((command) => {
    const { label, patches } = command(after);
    const done = stepOf(after, label, patches);
    after = done.master;
    return done.step;
  });
  return { after, steps: made };
}
const move = (id: string, dx: number) => (now: Master) => moveItems(now, [id], dx, 0);
const colour = (id: string, fill: string) => (now: Master) => setAttribute(now, id, 'style.fill', fill);
const remove = (id: string) => (now: Master) => removeItems(now, [id]);
const add = (id: string) => (now: Master) => addItem(board(now), rectangle(id, 1, 1));

describe('the hash of a journal', () => {
  const { steps: two } = steps(start, move('a', 3), move('b', 1));
  it('names every step before it, the master and the revision', () => {
    const hashes = journalHashes('m1', 1, two);
    expect(hashes).toHaveLength(3);
    expect(new Set([...hashes, ...journalHashes('m1', 2, two), ...journalHashes('m2', 1, two)]).size).toBe(9);
    expect(journalHashes('m1', 1, [...two].reverse())[2]).not.toBe(hashes[2]);
  });
  it('is the same after the way over the wire', () => {
    const { steps: unnamed } = steps(
      start,
      (now) => ({ ...setAttribute(now, 'a', 'name', 'Frame') }),
      (now) => setAttribute(now, 'a', 'name', undefined),
    );
    expect(journalHashes('m1', 1, JSON.parse(JSON.stringify(unnamed)) as Step[])).toEqual(journalHashes('m1', 1, unnamed));
  });
});

describe('a draft carried over onto what others did meanwhile', () => {
  it('goes together with changes to other objects and other attributes, whatever they are', () => {
    const mine = fc.constantFrom(move('a', 4), colour('b', '#c23b22'), remove('c'), add('x'));
    const theirs = fc.constantFrom(colour('a', '#17796a'), move('b', -3), remove('d'), add('y'), move('e', 9));
    fc.assert(
      fc.property(fc.uniqueArray(mine, { minLength: 1 }), fc.uniqueArray(theirs, { minLength: 1 }), (ours, others) => {
        const draft = steps(start, ...ours);
        const head = steps(start, ...others).after;
        const rebased = rebaseSteps(start, head, draft.steps);
        expect(rebased.clashes).toEqual([]);
        // Whoever comes first, the same things have been done in the end.
        const other = rebaseSteps(start, draft.after, steps(start, ...others).steps).master;
        const said = (one: Master) => [...allItems(board(one).items)].map(nodeHash).sort();
        expect(said(rebased.master)).toEqual(said(other));
        // And the steps lead there from the new head, and back.
        let now = head;
        for (const step of rebased.steps) now = applyPatches(now, step.forward).master;
        expect(nodeHash(now)).toBe(nodeHash(rebased.master));
        for (const step of [...rebased.steps].reverse()) now = applyPatches(now, step.inverse).master;
        expect(changesBetween(head, now)).toEqual([]);
      }),
    );
  });

  const meets = (mine: Parameters<typeof steps>[1], theirs: Parameters<typeof steps>[1]) => {
    const draft = steps(start, mine).steps;
    const head = steps(start, theirs).after;
    return (choices?: ReadonlyMap<string, 'mine' | 'theirs'>) => rebaseSteps(start, head, draft, choices);
  };
  it('shows both sides where both changed the same, and takes the one that is chosen', () => {
    const rebase = meets(colour('a', '#c23b22'), colour('a', '#17796a'));
    const { clashes, steps: left } = rebase();
    expect(clashes).toEqual([{ key: 'a style.fill', what: 'rectangle: fill', mine: '#c23b22', theirs: '#17796a' }]);
    expect(left).toEqual([]);
    const taken = (choice: 'mine' | 'theirs') => findNode(rebase(new Map([['a style.fill', choice]])).master, 'a');
    expect(taken('mine')).toMatchObject({ style: { fill: '#c23b22' } });
    expect(taken('theirs')).toMatchObject({ style: { fill: '#17796a' } });
    expect(rebase(new Map([['a style.fill', 'mine']])).clashes).toEqual([]);
  });
  it('the same change on both sides is none', () =>
    expect(meets(colour('a', '#c23b22'), colour('a', '#c23b22'))().clashes).toEqual([]));
  it('says when what I changed was taken away, and when I took away what was changed', () => {
    expect(meets(move('a', 3), remove('a'))().clashes).toMatchObject([{ mine: 'changed', theirs: 'taken away' }]);
    const rebase = meets(remove('a'), move('a', 3));
    expect(rebase().clashes).toMatchObject([{ key: 'a removed', mine: 'taken away', theirs: 'changed' }]);
    expect(findNode(rebase(new Map([['a removed', 'mine']])).master, 'a')).toBeUndefined();
    expect(meets(remove('a'), remove('a'))()).toMatchObject({ clashes: [], steps: [] });
  });
  it('what stood behind something that is gone goes to the end', () => {
    const behind = (now: Master): { label: string; patches: Patch[] } => ({
      label: 'put behind c',
      patches: [{ op: 'insert', parent: board(now).id, list: 'items', after: 'c', node: rectangle('n') }],
    });
    expect(board(meets(behind, remove('c'))().master).items.map(({ id }) => id)).toEqual(['a', 'b', 'd', 'e', 'f', 'n']);
  });
  it('drops nothing without a word: what does not fit is a clash', () => {
    const rebase = meets(add('n'), add('n'));
    expect(rebase().clashes).toMatchObject([{ theirs: 'its place is not there any more' }]);
  });
});

describe('two people in one text', () => {
  const words = (id: string, text: string): Block => ({ id, block: 'words', role: 'body', spans: [{ text }] });
  const text: Prose = {
    id: 't',
    name: 'Guide',
    language: 'en',
    blocks: ['pa', 'pb', 'pc'].map((id) => words(id, `Paragraph ${id}`)),
  };
  const begin: Master = { ...start, texts: [text] };
  const write = (change: (blocks: Block[]) => Block[]) => (now: Master) =>
    setBlocks(now.texts![0]!, change([...now.texts![0]!.blocks]));
  const reword = (id: string, said: string) => write((blocks) => blocks.map((one) => (one.id === id ? words(id, said) : one)));
  const carried = (mine: ReturnType<typeof write>, theirs: ReturnType<typeof write>) => {
    const head = steps(begin, theirs).after;
    return rebaseSteps(begin, head, steps(begin, mine).steps);
  };
  const said = ({ master }: { master: Master }) =>
    master.texts![0]!.blocks.map((block) => block.block === 'words' && plainOf(block.spans));

  it('other paragraphs go together, new ones find their places', () => {
    const both = carried(reword('pa', 'Mine'), reword('pc', 'Theirs'));
    expect([both.clashes, said(both)]).toEqual([[], ['Mine', 'Paragraph pb', 'Theirs']]);
    const added = carried(
      write((blocks) => [blocks[0]!, words('n', 'New of mine'), ...blocks.slice(1)]),
      write((blocks) => [...blocks, words('m', 'New of theirs')]),
    );
    expect([added.clashes, said(added)]).toEqual([
      [],
      ['Paragraph pa', 'New of mine', 'Paragraph pb', 'Paragraph pc', 'New of theirs'],
    ]);
  });

  it('the same paragraph is shown with both wordings', () => {
    const { clashes } = carried(reword('pb', 'What I say'), reword('pb', 'What they say'));
    expect(clashes).toMatchObject([{ key: 'pb spans', mine: '“What I say”', theirs: '“What they say”' }]);
    expect(clashes[0]!.what).toContain('paragraph “');
  });

  it('one that was taken away while I wrote in it is said to be', () => {
    const { clashes } = carried(
      reword('pb', 'What I say'),
      write((blocks) => blocks.filter(({ id }) => id !== 'pb')),
    );
    expect(clashes).toMatchObject([{ mine: 'changed', theirs: 'taken away' }]);
  });
});
