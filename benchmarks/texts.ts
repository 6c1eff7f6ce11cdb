import {
  CarryLines,
  type Master,
  type Prose,
  addFormats,
  checkCopy,
  declarationOf,
  derive,
  kindById,
  recipeOf,
} from '@inkwell-twin/core';
import { nodeFormats } from '@inkwell-twin/render';
import { hasJudge } from '../packages/core/test/judged-by';
import { changedTexts } from '../packages/render/test/faults/prose';
import { guide, masterOf, services, time } from '../packages/render/test/prose';

addFormats(nodeFormats);
const ALL = { of: 'texts' as const, ids: [] };
const TARGETS = ['html', 'txt', 'odt', 'docx', 'epub'];

const WORDS = 'the boardwalk heron reed otter water north pool warden bench lantern fen sign cedar path bird'.split(' ');
/** Words that look thrown, the same each time. */
function thrown(seed: number): () => string {
  let state = seed;
  return () => WORDS[(state = (state * 48_271) % 2_147_483_647) % WORDS.length]!;
}

/** A text of so many paragraphs of fifty words; every tenth is another where a second seed is given. */
function longText(paragraphs: number, other = 0): Prose {
  const [one, two] = [thrown(7), thrown(other || 7)];
  const said = (word: () => string) => `${Array.from({ length: 50 }, word).join(' ')}.`;
  return {
    id: 'long',
    name: 'Long',
    language: 'en',
    blocks: Array.from({ length: paragraphs }, (_, i) => {
      const [text, instead] = [said(one), other && i % 10 === 3 ? said(two) : null];
      return {
        id: `long-b${i}`,
        block: 'words' as const,
        role: i % 20 ? ('body' as const) : ('heading 2' as const),
        spans: [{ text: instead ?? text }],
      };
    }),
  };
}

async function sizes(): Promise<Record<string, number>> {
  const figures: Record<string, number> = {};
  const [now, edited] = [await masterOf(longText(2000)), await masterOf(longText(2000, 11))];
  const kind = kindById('prose');
  const carries = declarationOf('html').carries({ values: 'in full' })['prose']!;
  const bodyOf = async (master: Master) =>
    kind.adapt(kind.resolve(master, ALL, services, carries)[0]!.source, carries, new CarryLines(), services);
  const [a, b] = [await bodyOf(now), await bodyOf(edited)];
  const start = performance.now();
  const { differences } = kind.compare(a, b, { tolerance: 0, carries });
  figures['texts of 100,000 words compared, s'] = (performance.now() - start) / 1000;
  console.log(`  ${differences.length} differences`);
  for (const target of [...TARGETS, 'pdf']) {
    const from = performance.now();
    await derive({ master: now, rev: 1, time }, recipeOf(target, {}, ALL), services);
    figures[`${target} of it written and read back, s`] = (performance.now() - from) / 1000;
  }
  return figures;
}

async function faults(seed: number): Promise<Record<string, number>> {
  if (!['docx', 'odf', 'html5lib', 'lxml', 'PIL'].every(hasJudge)) return {};
  const master = await masterOf(await guide());
  const made = new Map<string, { says: string; bytes: Uint8Array }>();
  for (const target of TARGETS) {
    const { files, says } = await derive({ master, rev: 1, time }, recipeOf(target, {}, ALL), services);
    made.set(target, { says, bytes: files[0]!.bytes });
  }
  const counts = { faults: 0, caught: 0, harmless: 0, alarms: 0 };
  const copies = Object.fromEntries([...made].map(([target, { bytes }]) => [target, bytes]));
  for (const { extension, name, harmless, bytes } of changedTexts(copies, seed, 6)) {
    const input = {
      files: [{ part: '', bytes }],
      intact: false,
      says: made.get(extension)!.says,
      recipe: recipeOf(extension, {}, ALL),
    };
    const passes = (await checkCopy({ ...input, current: master, baseline: master }, services)).verdict === 'in step';
    if (passes !== harmless) console.log(`${harmless ? 'false alarm' : 'missed'}: ${extension}, ${name}`);
    counts[harmless ? 'harmless' : 'faults']++;
    if (!passes) counts[harmless ? 'alarms' : 'caught']++;
  }
  return {
    'faults of texts tried': counts.faults,
    'faults of texts caught, %': (100 * counts.caught) / counts.faults,
    'harmless changes of texts tried': counts.harmless,
    'false alarms of texts, %': (100 * counts.alarms) / counts.harmless,
  };
}

/** Long texts compared and written; faults by code that is not ours. */
export const benchmarkTexts = async (seed: number): Promise<Record<string, number>> => ({
  ...(await sizes()),
  ...(await faults(seed)),
});
