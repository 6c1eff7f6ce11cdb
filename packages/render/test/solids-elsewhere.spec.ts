import { addFormats, boxOfMesh, bringInAny, codecOf, sizesOf, volumeAndArea } from '@inkwell-twin/core';
import type { Mesh } from '../../core/src/contracts/mesh';
import { nodeFormats } from '../src';
import { judgedBy } from '../../core/test/judged-by';
import { services } from '../../core/test/flat';
import { type Corpus, corpusOf, seeds } from './elsewhere/corpus';

addFormats(nodeFormats);

judgedBy('gmsh', 'assimp').describe.each(seeds())('solids that other programs wrote, seed %i', (seed) => {
  let corpus: Corpus;
  beforeAll(() => {
    corpus = corpusOf('solids.py', seed);
  });
  afterAll(() => corpus.close());
  const brought = async (name: string) => {
    const beside = (other: string) => (corpus.names.includes(other) ? new Uint8Array(corpus.bytes(other)) : undefined);
    const { kept, notUnderstood } = await bringInAny(new Uint8Array(corpus.bytes(name)), name, { beside });
    const [own] = kept.filter(({ resource }) => resource.role === 'solid');
    const { leaves } = await (await codecOf('stl')).read([{ part: '', bytes: own!.bytes }], {}, services);
    return { mesh: leaves[0]!.body as Mesh, told: notUnderstood.map(({ kind }) => kind) };
  };

  it('have the volume and the sides that they were made with, and nothing is told of them', async () => {
    const truth = JSON.parse(corpus.bytes('truth.json').toString()) as Record<string, { volume: number; sides: number[] }>;
    const wrong: unknown[] = [];
    for (const [name, { volume, sides }] of Object.entries(truth)) {
      const { mesh, told } = await brought(name);
      const found = sizesOf(boxOfMesh(mesh)!).sort((a, b) => a - b);
      // Far away single numbers are some hundredths apart.
      const near = name.includes('far') ? 2e-2 : 1e-3;
      const isRight =
        Math.abs(volumeAndArea(mesh).volume / volume - 1) < near &&
        found.every((side, i) => Math.abs(side / sides[i]! - 1) < near);
      const expected = name.includes('inside-out') ? ['solid that was inside out, turned'] : [];
      if (!isRight || told.join() !== expected.join()) wrong.push([name, volumeAndArea(mesh).volume, volume, found, sides, told]);
    }
    expect(wrong).toEqual([]);
  });

  it('that go through themselves are told to, with a place', async () => {
    for (const name of corpus.names.filter((one) => one.includes('through')))
      expect([name, (await brought(name)).told]).toEqual([
        name,
        [expect.stringMatching(/^triangle that goes through another \(the first at -?[\d.]+, -?[\d.]+, -?[\d.]+ mm\)$/)],
      ]);
  });
});
