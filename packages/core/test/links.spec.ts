import * as fc from 'fast-check';
import {
  type Master,
  type Resource,
  applyPatches,
  linkPlaces,
  linkTo,
  replaceResource,
  setLink,
  usesInWords,
  usesOfResource,
} from '../src';
import { masterWith } from './build';

const part = fc.stringMatching(/^[a-z]{1,3}$/);
const folder = fc.array(part, { maxLength: 4 });
const path = fc.array(part, { minLength: 1, maxLength: 5 });

describe('links', () => {
  it('lead back to the file that they were made for, and still do when a folder that both are in is moved', () => {
    fc.assert(
      fc.property(folder, path, folder, (home, file, moved) => {
        const link = linkTo(home.join('/'), file.join('/'));
        expect(linkPlaces(home.join('/'), link)).toContain(file.join('/'));
        // What both have in common is taken away or replaced by other folders.
        let common = 0;
        while (common < home.length && common < file.length - 1 && home[common] === file[common]) common++;
        const now = (parts: readonly string[]) => [...moved, ...parts.slice(common)].join('/');
        expect(linkPlaces(now(home), link)).toContain(now(file));
      }),
    );
  });

  it('are looked for in the master’s folder first, then in each one above', () => {
    expect(linkPlaces('Hides/hide_panel', 'pics/reeds.png')).toEqual([
      'Hides/hide_panel/pics/reeds.png',
      'Hides/pics/reeds.png',
      'pics/reeds.png',
    ]);
    expect(linkTo('Hides/hide_panel', 'Hides/hide_panel/linked/a.png')).toBe('linked/a.png');
    expect(linkTo('Hides/hide_panel', 'Pool/a.png')).toBe('Pool/a.png');
  });

  const file = (id: string, name: string): Resource => ({
    id: id.repeat(64),
    name,
    mediaType: 'image/png',
    size: 5,
    role: 'picture',
  });
  const showing = (): Master => {
    const [old] = [file('a', 'old.png')];
    const master = masterWith([]);
    const style = { fill: null, stroke: null, strokeWidth: 0 };
    const shown = (id: string) => ({
      kind: 'picture' as const,
      id,
      name: `Shown ${id}`,
      layer: master.layers[0]!.id,
      style,
      resource: old.id,
      x: 0,
      y: 0,
      width: 10,
      height: 10,
    });
    return {
      ...master,
      resources: [old],
      boards: master.boards.map((board, i) => (i ? board : { ...board, items: [...board.items, shown('p1')] })),
      symbols: [...master.symbols, { id: 'sym-pic', name: 'Badge', anchor: [0, 0], items: [shown('p2')] }],
      texts: [
        {
          id: 'prose',
          name: 'Guide',
          language: 'en',
          blocks: [{ id: 'block-pic', block: 'picture', picture: old.id, alt: 'Reeds', width: 50, caption: [] }],
        } as never,
      ],
    };
  };

  it('to a file that changed take the new one wherever the old one was shown: on boards, in symbols, in texts', () => {
    const master = showing();
    const by = { ...file('b', 'old.png'), link: 'pics/old.png' };
    expect(
      usesOfResource(master, 'a'.repeat(64))
        .map(({ node }) => node.id)
        .sort(),
    ).toEqual(['block-pic', 'p1', 'p2']);
    const { master: now, inverse } = applyPatches(master, replaceResource(master, 'a'.repeat(64), by).patches);
    expect(now.resources).toEqual([by]);
    expect(usesOfResource(now, 'a'.repeat(64))).toEqual([]);
    expect(usesInWords(now, by.id).map(({ words }) => words)).toEqual(
      expect.arrayContaining([expect.stringContaining('in Guide'), 'Shown p2 in Badge']),
    );
    expect(applyPatches(now, inverse).master).toEqual(master);
    // One that the master keeps already is not kept twice.
    const two = { ...master, resources: [...master.resources, by] };
    expect(applyPatches(two, replaceResource(two, 'a'.repeat(64), by).patches).master.resources).toEqual([by]);
    // The very same bytes elsewhere are only another place.
    const same = { ...file('a', 'old.png'), link: 'there/old.png' };
    expect(applyPatches(master, replaceResource(master, same.id, same).patches).master.resources).toEqual([same]);
  });

  it('are paths below a folder and nothing else', () => {
    const master = showing();
    for (const link of ['/etc/passwd', '../up.png', 'a/../b.png', 'a\\b.png', 'a//b.png', './a.png'])
      expect(() => applyPatches(master, setLink(master, 'a'.repeat(64), link, 'x').patches)).toThrow(/path below a folder/);
  });
});
