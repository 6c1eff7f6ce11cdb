import { type Correction, Master, applyPatches, describePictures, sayAbout, saidAbout } from '../src';
import { masterWith, rectangle } from './build';

const picture = (id: string, said?: { keywords: string[]; caption: string; rights: string }) => ({
  id,
  name: `${id}.jpg`,
  mediaType: 'image/jpeg',
  size: 10,
  role: 'picture' as const,
  ...(said ? { said } : {}),
});
const master = {
  ...masterWith([rectangle('r', 0, 0)]),
  resources: [picture('reeds', { keywords: ['Reeds', 'fen'], caption: 'Reeds', rights: 'Trust' }), picture('mere')],
};

describe('pictures', () => {
  it('are described together: words are added to what each says, the rest replaces it where it is given', () => {
    const { label, patches } = describePictures(master, ['reeds', 'mere'], {
      add: ['FEN', 'water'],
      remove: ['reeds'],
      rights: 'Ines',
    });
    expect(label).toBe('2 pictures described');
    const { master: now, inverse } = applyPatches(master, patches);
    expect(saidAbout(now, 'reeds')).toEqual({ keywords: ['fen', 'water'], caption: 'Reeds', rights: 'Ines' });
    expect(saidAbout(now, 'mere')).toEqual({ keywords: ['FEN', 'water'], caption: '', rights: 'Ines' });
    expect(applyPatches(now, inverse).master).toEqual(master);
    expect(describePictures(now, ['reeds', 'mere'], { rights: 'Ines' }).patches).toEqual([]);
  });

  it('of which nothing is said any more are as they were before anything was', () => {
    const { master: now } = applyPatches(master, sayAbout(master, 'reeds', { keywords: [], caption: '', rights: '' }));
    expect(now.resources[0]).toEqual(picture('reeds'));
  });

  it('have the corrections that all their places on boards have, and get new ones in all of them', () => {
    const shown = (id: string, corrections?: Correction[]) => ({
      kind: 'picture' as const,
      id,
      layer: 'layer-1',
      style: { fill: null, stroke: null, strokeWidth: 0 },
      resource: 'mere',
      x: 0,
      y: 0,
      width: 30,
      height: 20,
      ...(corrections ? { corrections } : {}),
    });
    const dark: Correction[] = [{ kind: 'exposure', stops: -1 }];
    const board = { ...masterWith([shown('one', dark), { kind: 'group', id: 'g', layer: null, items: [shown('two', dark)] }]) };
    const twice = { ...board, resources: master.resources };
    expect(saidAbout(twice, 'mere').corrections).toEqual(dark);
    expect(saidAbout(twice, 'reeds').corrections).toBeUndefined();
    const bright: Correction[] = [{ kind: 'exposure', stops: 1 }];
    const { master: now } = applyPatches(twice, sayAbout(twice, 'mere', { ...saidAbout(twice, 'mere'), corrections: bright }));
    expect(saidAbout(now, 'mere').corrections).toEqual(bright);
    // Here with some and there with others, there is no single answer, and what is said of words leaves them alone.
    const apart = applyPatches(now, [{ op: 'set', node: 'two', attribute: 'corrections', value: undefined }]).master;
    expect(saidAbout(apart, 'mere').corrections).toBeUndefined();
    expect(sayAbout(apart, 'mere', { keywords: [], caption: 'A mere', rights: '' })).toHaveLength(1);
    expect(describePictures(apart, ['mere'], { caption: 'A mere' }).patches).toHaveLength(1);
  });

  it('that are gone can’t be described, and more than there is room for is cut where the room ends', () => {
    expect(() => describePictures(master, ['gone'], { add: ['x'] })).toThrow('no such picture');
    const much = {
      keywords: Array.from({ length: 99 }, (_, i) => `${i}`.padEnd(99, 'x')),
      caption: 'c'.repeat(9000),
      rights: '',
    };
    const { master: now } = applyPatches(master, sayAbout(master, 'mere', much));
    expect(saidAbout(now, 'mere').keywords).toHaveLength(64);
    expect(Master.parse(JSON.parse(JSON.stringify(now)))).toBeTruthy();
  });
});
