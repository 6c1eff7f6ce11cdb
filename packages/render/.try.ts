import { writeFileSync } from 'node:fs';
import { recipeOf, derive, newMaster, digest, type Master, checkCopy, kindById, CarryLines } from '@inkwell-twin/core';
import './src/index';
import { addCodecs } from '@inkwell-twin/core';
import { nodeCodecs } from './src/index';
addCodecs(nodeCodecs);
import { pictureEngine, shippedFonts } from './src/index';
const fonts = shippedFonts();
const png = await pictureEngine.png({ width: 40, height: 30, data: new Uint8Array(4800).map((_, i) => (i % 4 === 3 ? 255 : (i * 7) % 251)) });
const sha = digest(png);
const base = newMaster('m-1', 'Guide', 'x', 'text');
const master: Master = { ...base, resources: [{ id: sha, name: 'p.png', mediaType: 'image/png', size: png.length, role: 'picture' }], texts: [{ id: 't', name: 'Visitor guide', language: 'en-GB', blocks: [
  { id: 'a', block: 'words', role: 'heading 1', spans: [{ text: 'Lantern Fen' }] },
  { id: 'b', block: 'words', role: 'body', spans: [{ text: 'The ' }, { text: 'boardwalk', marks: ['bold'] }, { text: ' begins & <ends> ' }, { text: 'here', link: 'https://fen.example/a?b=1&c=2' }, { note: [{ text: 'A note, ' }, { text: 'slanted', marks: ['italic'] }] }, { text: '.\nA new line' }] },
  { id: 'c', block: 'words', role: 'bullet', spans: [{ text: 'One' }] },
  { id: 'd', block: 'words', role: 'numbered', level: 1, spans: [{ text: 'Inner' }] },
  { id: 'e', block: 'words', role: 'numbered', level: 1, spans: [{ text: 'Inner two' }] },
  { id: 'f', block: 'words', role: 'continued', level: 1, spans: [{ text: 'more of it' }] },
  { id: 'f0', block: 'words', role: 'continued', spans: [{ text: 'more of one' }] },
  { id: 'g', block: 'words', role: 'bullet', spans: [{ text: 'Two' }] },
  { id: 'h', block: 'words', role: 'numbered', start: 4, spans: [{ text: 'Four' }] },
  { id: 'i', block: 'words', role: 'numbered', spans: [{ text: 'Five' }] },
  { id: 'i2', block: 'words', role: 'numbered', start: 1, spans: [{ text: 'Again one' }] },
  { id: 'j', block: 'words', role: 'quote', align: 'centre', spans: [{ text: 'Quoted', marks: ['code'] }, {text: ' x'}, {text:'2', marks:['raised']}, {text:'i', marks:['lowered','bold','italic']}] },
  { id: 'k', block: 'table', head: true, caption: [{ text: 'Opening times' }], grid: [[[{ text: 'Day' }], [{ text: 'Hours' }]], [[{ text: 'Monday' }], [{ text: 'nine to\nfive', marks: ['underlined'] }]], [[], [{text:'x', marks:['struck']}]]] },
  { id: 'l', block: 'picture', picture: sha, alt: 'A heron', width: 60, caption: [{ text: 'The heron ' }, { text: 'stands', marks: ['italic'] }] },
  { id: 'm', block: 'break', of: 'page' },
  { id: 'n', block: 'words', role: 'heading 2', align: 'right', spans: [{ text: 'After' }] },
  { id: 'o', block: 'break', of: 'line' },
  { id: 'p', block: 'words', role: 'body', align: 'justified', spans: [{ text: 'Last words — “äöü”\u00a0end.' }] },
] }] };
const resource = (id: string) => { if (id !== sha) throw new Error(id); return png; };
const means = { fonts, pictures: pictureEngine, resource };
for (const [target, options] of [['html', {}], ['txt', {}], ['txt', { lines: 'broken', width: 30 }], ['odt', {}], ['odt', {version:'1.2'}], ['docx', {}], ['epub', {}], ['pdf', {}], ['pdf', {paper: 'A5', text: 'outlines'}]] as const) {
  const recipe = recipeOf(target, options, { of: 'texts', ids: [] });
  const made = await derive({ master, rev: 1, time: '2026-01-01T00:00:00.000Z' }, recipe, means);
  console.log(target, made.files[0]!.bytes.length, made.defects.map((d) => `${d.what}: ${d.kind} ${d.master} / ${d.copy}`));
  writeFileSync(`/tmp/t.${target}`, made.files[0]!.bytes);
  const again = await derive({ master, rev: 1, time: '2026-01-01T00:00:00.000Z' }, recipe, means);
  if (Buffer.compare(Buffer.from(made.files[0]!.bytes), Buffer.from(again.files[0]!.bytes))) console.log('other bytes');
  if (target === 'txt') console.log(new TextDecoder().decode(made.files[0]!.bytes));
  console.log(made.report.sentence, made.report.lines.map((l) => `${l.outcome}: ${l.what} ${l.becomes} ${l.count}`));
}

const words = 'the boardwalk heron reed otter water north pool warden bench lantern fen sign cedar path bird morning light slow deep'.split(' ');
let seed = 7; const rnd = (n: number) => (seed = (seed * 1103515245 + 12345) & 0x7fffffff) % n;
const para = () => Array.from({ length: 50 }, () => words[rnd(words.length)]).join(' ') + '.';
const long: Master = { ...master, texts: [{ id: 't', name: 'Long', language: 'en', blocks: Array.from({ length: 2000 }, (_, i) => ({ id: `b${i}`, block: 'words', role: i % 20 ? 'body' : 'heading 2', spans: [{ text: para() }] })) }] };
const edited: Master = { ...long, texts: [{ ...long.texts![0]!, blocks: long.texts![0]!.blocks.map((b, i) => (i % 10 === 3 && b.block === 'words' ? { ...b, spans: [{ text: para() }] } : i % 50 === 7 && b.block === 'words' ? { ...b, spans: [{ text: (b.spans[0] as { text: string }).text.replace(/water/, 'wine') }] } : b)) }] };
for (const [target] of [['html'], ['txt'], ['odt'], ['docx'], ['epub'], ['pdf']] as const) {
  let t = performance.now();
  const lap = (w: string) => { console.log('  ', w, Math.round(performance.now() - t), 'ms'); t = performance.now(); };
  const recipe = recipeOf(target, {}, { of: 'texts', ids: [] });
  const made = await derive({ master: long, rev: 1, time: '2026-01-01T00:00:00.000Z' }, recipe, means);
  console.log(target, made.files[0]!.bytes.length, made.defects.length);
  lap('derive (write, read, compare)');
  const r = await checkCopy({ files: made.files, whole: null, says: made.says, recipe, now: edited, then: long }, means, true);
  lap('check of an edited one: ' + r.verdict + ' ' + r.differences.length);
}
const kind = kindById('prose');
const src = (m: Master) => kind.resolve(m, { of: 'texts', ids: [] }, means, {})[0]!.source;
const carries = recipeOf('html', {}).target && (await import('@inkwell-twin/core')).declarationOf('html').carries({}).prose;
const a = await kind.adapt(src(long), carries, new CarryLines(), means), b = await kind.adapt(src(edited), carries, new CarryLines(), means);
for (let i = 0; i < 3; i++) { const t = performance.now(); const c = kind.compare(a, b, { tolerance: 0, carries }); console.log('compare', Math.round(performance.now() - t), c.differences.length, c.outlines, c.equal); }
