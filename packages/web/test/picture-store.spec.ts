import { BUDGET, type Held, PictureStore, mostFor } from '../src/app/master/stage/picture-store';

class Picture implements Held {
  closed = false;
  constructor(
    readonly width: number,
    readonly height: number,
  ) {}
  close(): void {
    this.closed = true;
  }
}

/** A store of pictures of 10 × 10 pixels, its making counted and stopped by hand. */
function stored(budget: number) {
  const made = new Map<string, number>();
  const broken = new Set<string>();
  const laters: (() => void)[] = [];
  let came = 0;
  const store = new PictureStore<Picture>({
    budget,
    make: (word) => {
      made.set(word, (made.get(word) ?? 0) + 1);
      return broken.has(word) ? Promise.reject(new Error('away')) : Promise.resolve(new Picture(10, 10));
    },
    came: () => came++,
    later: (work) => laters.push(work),
  });
  return { store, made, broken, laters, came: () => came };
}
const settled = () => new Promise((done) => setTimeout(done));

describe('pictures on the stage', () => {
  it('are made once, however often they are asked for, and tell when they have come', async () => {
    const { store, made, came } = stored(1000);
    expect([store.get('a'), store.get('a')]).toEqual([undefined, undefined]);
    await settled();
    expect([store.get('a') instanceof Picture, made.get('a'), came()]).toEqual([true, 1, 1]);
  });
  it('come again where they had to go, those that were not asked for longest first', async () => {
    const { store, made } = stored(200);
    for (const word of ['a', 'b']) await store.ready(word);
    const [a, b] = [store.get('a')!, store.get('b')!];
    store.get('a');
    await store.ready('c');
    expect([a.closed, b.closed]).toEqual([false, true]);
    expect(store.get('b')).toBeUndefined();
    await settled();
    expect([store.get('b') instanceof Picture, made.get('b')]).toEqual([true, 2]);
  });
  it('are asked for again a while after they failed, and not before', async () => {
    const { store, made, broken, laters, came } = stored(1000);
    broken.add('a');
    store.get('a');
    await settled();
    store.get('a');
    expect(made.get('a')).toBe(1);
    broken.clear();
    for (const later of laters) later();
    expect(came()).toBe(1);
    store.get('a');
    await settled();
    expect(store.get('a')).toBeInstanceOf(Picture);
  });
  it('keep a picture that alone is larger than all the room there is', async () => {
    const { store } = stored(50);
    const a = await store.ready('a');
    expect([a.closed, store.get('a')]).toEqual([false, a]);
  });
  it('all fit in the room at the size in which they are shown, plain and corrected, two thousand of them too', () => {
    for (const count of [1, 24, 25, 60, 96, 97, 500, 2000, 6000])
      expect([count, 2 * count * mostFor(count) ** 2 <= BUDGET]).toEqual([count, true]);
    expect([mostFor(1), mostFor(24), mostFor(25)]).toEqual([2048, 2048, 1024]);
  });
});
