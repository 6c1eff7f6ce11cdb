import { parseArgs } from 'node:util';
import { shippedFonts } from '@inkwell-twin/render';
import { demoMasters, writeDemo } from './index';

try {
  const { values } = parseArgs({ options: { out: { type: 'string' } } });
  if (!values.out) throw new Error('Use: npm run demo -- --out DIR');
  for (const path of await writeDemo(demoMasters(), values.out, { fonts: shippedFonts() })) console.log(path);
} catch (error) {
  console.error((error as Error).message);
  process.exitCode = 2;
}
