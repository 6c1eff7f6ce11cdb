import { readFileSync, writeFileSync } from 'node:fs';
import { addCodecs, applyPatches, checkCopy, codecOf, derive, recipeOf, declarationOf, compareAs } from '@inkwell-twin/core';
import { demoMasters } from '@inkwell-twin/demo';
import { nodeCodecs, pictureEngine, shippedFonts } from './src';
import { CHANGES } from '../core/test/faults/trial';
import { Dice } from '../core/test/faults/dice';
import { PDF_CHANGES } from './test/faults/pdf';
import { PICTURE_CHANGES } from './test/faults/pictures';
addCodecs(nodeCodecs);
const [title, board, target, options, change, seed] = process.argv.slice(2) as string[];
const changes: any = { ...CHANGES, ...PICTURE_CHANGES, pdf: PDF_CHANGES };
const plain: any = { fonts: shippedFonts(), pictures: pictureEngine };
let master: any,
  means = plain;
if (title === 'Weathervane')
  master = (
    (await codecOf('svg').bringIn!(readFileSync('packages/core/test/fixtures/weathervane.svg'), 'weathervane.svg')) as any
  ).master;
else {
  const d = (await demoMasters(plain, [], 0.15)).find(({ first }) => first.title.includes(title!))!;
  const files = new Map((d.kept ?? []).map(({ resource, bytes }: any) => [resource.id, bytes]));
  master = d.revisions.reduce((now: any, { patches }: any) => applyPatches(now, patches).master, d.first);
  means = { ...plain, resource: (sha: string) => files.get(sha)! };
}
const recipe = recipeOf(target!, JSON.parse(options!), board!);
const made = await derive({ master, rev: 1, time: '2026-11-20T10:00:00.000Z' }, recipe, means);
const tol = Object.values(declarationOf(target!).tolerance)[0]!;
const bytes = made.files[0]!.bytes;
const run = changes[target!].faults[change!] ?? changes[target!].harmless[change!];
const after = run(bytes, new Dice(Number(seed)), tol);
writeFileSync('/tmp/t1/before', bytes);
writeFileSync('/tmp/t1/after', after);
const { verdict, differences, proof } = await checkCopy(
  { files: [{ part: '', bytes: after }], whole: false, says: made.says, recipe, now: master, then: master },
  means,
);
console.log(verdict, proof, JSON.stringify(differences.slice(0, 4), null, 1));
