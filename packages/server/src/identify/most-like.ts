import { type CopyContent, type Options, codecOf, digestOf, likenessOf, resemblance } from '@inkwell-twin/core';
import { readBlob } from '../blobs/blobs';
import type { Engine } from '../compute/engine';

/** So much of what is in either must be in both. */
const ALIKE = 0.4;
/** Fewer pieces than these are in everything. */
const FEW = 3;
/** So many that share most are looked at. */
const LOOKED_AT = 50;

/** A copy that a file is like. */
interface Like {
  /** The live copy of its recipe. */
  readonly copy: string;
  readonly label: string;
  readonly master: string;
  readonly title: string;
  /** The revision of it that the file is most like. */
  readonly rev: number;
  /** 0 to 1 */
  readonly share: number;
  /** Each says what the other says. */
  readonly same: boolean;
}

/** So many copies from before samples were kept are sampled at once, and for so many milliseconds at most: the rest at the next question. */
const [SAMPLED, SAMPLING] = [300, 5_000];

/** Samples the copies of a target that were written before samples were kept. */
async function sampleOlder({ database, services }: Engine, target: string): Promise<void> {
  const rows = await database.rows<{ id: string; sha256: string; options: Options }>(
    `select copy.id, copy.sha256, recipe.options from copy join recipe on recipe.id = copy.recipe
      where recipe.target = $1 and copy.likeness is null and copy.state <> 'withdrawn' order by copy.written_at desc limit $2`,
    [target, SAMPLED],
  );
  const codec = await codecOf(target);
  const end = performance.now() + SAMPLING;
  for (const { id, sha256, options } of rows) {
    if (performance.now() > end) return;
    const read = async () =>
      likenessOf(await codec.read([{ part: '', bytes: await readBlob(database, sha256) }], { options }, services));
    // One that can't be read by itself, or any more, is like nothing.
    const likeness = await read().catch(() => []);
    await database.query('update copy set likeness = $2 where id = $1', [id, likeness]);
  }
}

/** The copy on record that a file is most like, of those of one target; null where it is like none. */
export async function mostLike(engine: Engine, target: string, content: CopyContent): Promise<Like | null> {
  const likeness = likenessOf(content);
  if (!likeness.length) return null;
  await sampleOlder(engine, target);
  const says = digestOf(content);
  const rows = await engine.database.rows<Omit<Like, 'share' | 'same'> & { says: string; likeness: number[] }>(
    `select live.id as copy, recipe.label, master.id as master, master.title, copy.rev, copy.says, copy.likeness
       from copy join recipe on recipe.id = copy.recipe join master on master.id = recipe.master
       join copy live on live.recipe = recipe.id and live.state = 'live'
      where recipe.target = $1 and copy.likeness && $2::integer[]
      order by copy.says = $3 desc, (select count(*) from unnest(copy.likeness) piece where piece = any ($2)) desc, copy.rev desc
      limit ${LOOKED_AT}`,
    [target, likeness, says],
  );
  const found = rows.map(({ says: said, likeness: other, ...row }) => ({
    ...row,
    share: resemblance(likeness, other),
    same: said === says,
  }));
  const [first] = found.sort((a, b) => Number(b.same) - Number(a.same) || b.share - a.share || b.rev - a.rev);
  return first && (first.same || (likeness.length >= FEW && first.share >= ALIKE)) ? first : null;
}
