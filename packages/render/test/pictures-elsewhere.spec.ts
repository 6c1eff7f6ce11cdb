import { type PictureItem, addFormats, addSources, bringInAny } from '@inkwell-twin/core';
import { nodeFormats, pictureEngine, pictureSources } from '../src';
import { judgedBy } from '../../core/test/judged-by';
import { type Corpus, corpusOf, seeds } from './elsewhere/corpus';

addFormats(nodeFormats);
addSources(pictureSources);
const services = { pictures: pictureEngine };
const isPicture = (name: string): boolean => !name.endsWith('.rgb');

/** What a picture shows, as the other library has it. */
function shownIn(said: Buffer): { width: number; height: number; parts: Uint8Array } {
  return { width: said.readUInt32LE(0), height: said.readUInt32LE(4), parts: new Uint8Array(said.subarray(8)) };
}

/** The largest step between what is read and what is shown, of 255; infinite where the sizes are not the same. */
async function off(bytes: Uint8Array, said: Buffer): Promise<number> {
  const { width, height, data } = await pictureEngine.pixels(bytes, 8);
  const meant = shownIn(said);
  if (width !== meant.width || height !== meant.height) return Infinity;
  let most = 0;
  for (let p = 0; p < width * height; p++)
    for (let k = 0; k < 3; k++) most = Math.max(most, Math.abs(data[4 * p + k]! - meant.parts[3 * p + k]!));
  return most;
}

judgedBy('PIL', 'numpy').describe.each(seeds())('pictures that other programs wrote, seed %i', (seed) => {
  let corpus: Corpus;
  beforeAll(() => {
    corpus = corpusOf('pictures.py', seed);
  });
  afterAll(() => corpus.close());
  const board = async (name: string) => {
    const { master, notUnderstood } = await bringInAny(corpus.bytes(name), name, services);
    const [item] = master.boards[0]!.items as PictureItem[];
    return { item: item!, resource: master.resources[0]!, told: notUnderstood.map(({ kind }) => kind) };
  };

  it('show the very pixels that the other library sees', async () => {
    const wrong: [string, number][] = [];
    for (const name of corpus.names.filter((one) => isPicture(one) && one !== 'half.tif')) {
      const found = await off(corpus.bytes(name), corpus.bytes(`${name}.rgb`));
      if (found > 1) wrong.push([name, found]);
    }
    expect(wrong).toEqual([]);
  });

  it('have the size that their density makes, 72 to the inch too; only what states none is said to', async () => {
    for (const ppi of [72, 96, 150, 300])
      for (const kind of ['jpg', 'png', 'tif', 'bmp']) {
        const { item, resource, told } = await board(`stated${ppi}.${kind}`);
        expect([kind, ppi, told, item.width]).toEqual([kind, ppi, [], expect.closeTo((resource.width! / ppi) * 25.4, 5)]);
      }
    for (const kind of ['jpg', 'png', 'webp'])
      expect((await board(`unstated.${kind}`)).told).toEqual(['no density stated, taken as 96 pixels per inch']);
  });

  it('have it too where a program leaves bytes between the parts of a JPEG', async () => {
    const plain = corpus.bytes('stated150.jpg');
    const filled = Buffer.concat([plain.subarray(0, 2), Buffer.from([0xff, 0xff, 0xff]), plain.subarray(2)]);
    const { master, notUnderstood } = await bringInAny(filled, 'a.jpg', services);
    const [item] = master.boards[0]!.items as PictureItem[];
    expect([item!.width, notUnderstood]).toEqual([expect.closeTo((master.resources[0]!.width! / 150) * 25.4, 5), []]);
  });

  it('are as oblong as their pixels', async () => {
    for (const name of ['oblong.jpg', 'oblong.png', 'oblong.tif', 'oblong2.tif']) {
      const { item, resource, told } = await board(name);
      expect([name, told, item.width, item.height]).toEqual([
        name,
        [],
        expect.closeTo((resource.width! / 300) * 25.4, 5),
        expect.closeTo((resource.height! / 150) * 25.4, 2),
      ]);
    }
  });

  it('say what was taken as white where they don’t', async () => {
    const told = async (name: string) => (await board(name)).told.filter((kind) => /white/.test(kind));
    expect(await told('broken1.tif')).toEqual(['numbers that don’t say what is white, 1 taken as it']);
    expect(await told('light.tif')).toEqual(['numbers of light, 1 taken as white']);
    expect(await told('signed16.tif')).toEqual(['numbers that don’t say what is white, 32767 taken as it']);
    expect(await told('big.tif')).toEqual([]);
    await expect(board('half.tif')).rejects.toMatchObject({ code: 'picture-unknown' });
  });
});
