import { BoundedCache } from '../src/compute/cache';
import { FairQueue } from '../src/compute/fair-queue';

/** Work that ends when it is told to. */
function bench(concurrency: number) {
  const queue = new FairQueue(concurrency);
  const begun: string[] = [];
  const ends = new Map<string, () => void>();
  return {
    begun,
    ask: (queueKey: string, name: string, large = false) =>
      queue.run(queueKey, large, async () => {
        begun.push(name);
        await new Promise<void>((done) => ends.set(name, done));
        return name;
      }),
    end: async (name: string) => {
      ends.get(name)!();
      await new Promise((done) => setTimeout(done));
    },
  };
}

describe('turns', () => {
  it('go round between masters, however much one of them has waiting', async () => {
    const { ask, end, begun } = bench(1);
    for (const i of [1, 2, 3, 4]) void ask('a', `a${i}`);
    void ask('b', 'b1');
    void ask('c', 'c1');
    for (const name of ['a1', 'b1', 'c1', 'a2', 'a3']) await end(name);
    expect(begun).toEqual(['a1', 'b1', 'c1', 'a2', 'a3', 'a4']);
  });
  it('never give the last free hand to something large: small work waits for none', async () => {
    const { ask, end, begun } = bench(2);
    for (const i of [1, 2, 3]) void ask(`large ${i}`, `large ${i}`, true);
    expect(begun).toEqual(['large 1']);
    for (const i of [1, 2, 3]) {
      void ask(`small ${i}`, `small ${i}`);
      await end(`small ${i}`);
    }
    expect(begun).toEqual(['large 1', 'small 1', 'small 2', 'small 3']);
    await end('large 1');
    expect(begun.at(-1)).toBe('large 2');
  });
  it('go on after something failed, and give its failure to who asked', async () => {
    const queue = new FairQueue(1);
    await expect(queue.run('a', false, () => Promise.reject(new Error('no ink')))).rejects.toThrow('no ink');
    expect(await queue.run('a', false, async () => 'dry')).toBe('dry');
  });
  it('let a single hand take large work too', async () => {
    const { ask, begun } = bench(1);
    void ask('a', 'large', true);
    expect(begun).toEqual(['large']);
  });
});

describe('a cache', () => {
  it('forgets what was least used once it weighs too much', () => {
    const cache = new BoundedCache<string>(100);
    cache.set('a', 'A', 40);
    cache.set('b', 'B', 40);
    expect(cache.get('a')).toBe('A');
    cache.set('c', 'C', 40);
    expect([cache.get('a'), cache.get('b'), cache.get('c'), cache.bytes]).toEqual(['A', undefined, 'C', 80]);
  });
  it('never holds more than it may, whatever comes', () => {
    const cache = new BoundedCache<number>(1000);
    for (let i = 0; i < 500; i++) {
      cache.set(`k${i % 37}`, i, (i * 7919) % 1500);
      expect(cache.bytes).toBeLessThanOrEqual(1000);
    }
    cache.set('huge', 1, 1001);
    expect(cache.get('huge')).toBeUndefined();
  });
});
