import { parseArgs } from 'node:util';
import { addFormats } from '@inkwell-twin/core';
import { nodeFormats, pictureEngine, shippedFonts, solidEngine, chartEngine } from '@inkwell-twin/render';
import { type DemoPart, demoMasters, writeDemo } from './index';

try {
  const { values } = parseArgs({ options: { out: { type: 'string' }, part: { type: 'string' } } });
  if (!values.out) throw new Error('Use: npm run demo -- --out DIR [--part drawings|tables|solids|texts|pictures|machines]');
  const known: readonly DemoPart[] = ['drawings', 'tables', 'solids', 'texts', 'pictures', 'machines'];
  const parts = known.filter((part) => values.part === undefined || part === values.part);
  if (!parts.length) throw new Error(`There is no part ${values.part}. Parts: ${known.join(', ')}`);
  addFormats(nodeFormats);
  const services = { fonts: shippedFonts(), pictures: pictureEngine, solids: solidEngine, charts: chartEngine };
  for (const path of await writeDemo(await demoMasters(services, parts), values.out, services)) console.log(path);
} catch (error) {
  console.error((error as Error).message);
  process.exitCode = 2;
}
