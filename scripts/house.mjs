// Draws the house of core into docs/house.svg. Use: node scripts/house.mjs
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { house } from './lib/house.mjs';

const root = join(fileURLToPath(import.meta.url), '../..');
writeFileSync(join(root, 'docs/house.svg'), house(root));
