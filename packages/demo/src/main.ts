import { parseArgs } from 'node:util';
import { addCodecs } from '@inkwell-twin/core';
import { pictureCodecs, pictureEngine, shippedFonts } from '@inkwell-twin/render';
import { demoMasters, writeDemo } from './index';

try {
  const { values } = parseArgs({ options: { out: { type: 'string' } } });
  if (!values.out) throw new Error('Use: npm run demo -- --out DIR');
  addCodecs(pictureCodecs);
  const means = { fonts: shippedFonts(), pictures: pictureEngine };
  for (const path of await writeDemo(await demoMasters(means), values.out, means)) console.log(path);
} catch (error) {
  console.error((error as Error).message);
  process.exitCode = 2;
}
