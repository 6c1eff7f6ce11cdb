import { readFileSync } from 'node:fs';
import { codecOf } from '@inkwell-twin/core';
import { pictureEngine } from '@inkwell-twin/render';
const t = performance.now();
const r = await codecOf('svg').bringIn!(readFileSync(process.argv[2]!), 'x.svg', { pictures: pictureEngine });
console.log(
  performance.now() - t,
  r.asPictures,
  JSON.stringify(r.notUnderstood),
  r.master.resources.map((x) => x.width + 'x' + x.height + ' ' + x.size).join(', '),
);
