// Writes the lists of what the folders of formats hold. Use: node scripts/gather.mjs
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { gather } from './lib/gather.mjs';

gather(join(fileURLToPath(import.meta.url), '../..'));
