import { pictureRegions } from './placed-pictures';
import type { Comparison } from '../contracts/kind';
import type { Services } from '../contracts/services';
import { asFailure, whereInWords } from '../base/failure/failure';
import type { Master } from '../document/schema';
import { type Difference, byImportance, difference } from '../contracts/difference';
import type { CopyFile, ReadCopy, CopyContent } from '../contracts/codec';
import { codecOf } from '../formats/registry';
import { compareAs, namesIn, project } from './derive';
import { type DistanceFromMaster, distanceFromMaster, distanceInWords } from './distance';
import { footprintHash } from './footprint';
import type { Recipe } from './recipe';
import { opened } from './lock';
import { digestOf } from './compare-contents';
import { nameOfPart } from '../contracts/scope';
import { lookAt, sightInWords } from './sight';
import { unreadDifferences } from './unread';
import { hasObjects } from '../evaluate/boards/chosen';
import { missingOf, variantInWords } from './variants';
import { type Verdict, verdictOf } from './verdict';

/** What is known about a copy when it is checked. */
export interface CheckInput {
  /** The copy's files; null when the first is missing. */
  readonly files: readonly CopyFile[] | null;
  /** Whether the bytes are those that were written; null where nobody knows. */
  readonly intact: boolean | null;
  /** What the copy said when it was written. */
  readonly says: string;
  readonly recipe: Recipe;
  readonly current: Master;
  /** The master at the revision that the copy was made from; null when that is not at hand. */
  readonly baseline: Master | null;
  readonly tolerance?: number | undefined;
  /** What opens its files, where they are locked. */
  readonly password?: string | undefined;
  /** Whether nothing that the copy carries has changed since, where that is known already; else it is found here. */
  readonly unchanged?: boolean | undefined;
}

/** The outcome of a match check, with its proof. */
export interface CheckResult {
  readonly verdict: Verdict;
  readonly remark: string;
  /** The three questions, each with its answer; null where it was not needed or could not be answered. */
  readonly intact: boolean | null;
  readonly unchanged: boolean | null;
  readonly matches: boolean | null;
  /** One sentence that says what the verdict rests on. */
  readonly proof: string;
  readonly differences: readonly Difference[];
  readonly outlines: number;
  readonly equal: number;
  /** How far the copy is from the master itself, where that was asked for and the target rewrites lines. */
  readonly off: DistanceFromMaster | null;
  /** Both sides, where the file was read. */
  readonly sides: { readonly master: CopyContent; readonly copy: CopyContent } | null;
}

const none = { off: null, differences: [], outlines: 0, equal: 0, sides: null, remark: '' };

/**
 * Checks one copy: are its bytes intact, is what it carries unchanged, does it match? An intact copy whose footprint is unchanged is in step by proof and
 * is not even read; in every other case the file is read and compared.
 * @param always reads and compares even where the short proof would do, to have both sides for showing, and measures how far the
 *   copy is from the master itself
 */
export async function checkCopy(input: CheckInput, services: Services, always = false): Promise<CheckResult> {
  const { recipe, current, baseline, intact } = input;
  let { files } = input;
  if (!files)
    return { ...none, verdict: 'gone', intact: false, unchanged: null, matches: null, proof: 'The file is not there any more.' };
  const gone = whatIsGone(input);
  if (gone) return { ...none, verdict: intact ? 'behind' : 'crossed', intact, unchanged: false, matches: false, proof: gone };
  const unchanged = input.unchanged ?? (baseline ? footprintHash(baseline, recipe) === footprintHash(current, recipe) : null);
  if (intact && unchanged && !always)
    return {
      ...none,
      verdict: 'in step',
      intact,
      unchanged,
      matches: true,
      proof: 'The bytes are as written, and nothing that this copy carries has changed since.',
    };
  let read: ReadCopy;
  try {
    const codec = await codecOf(recipe.target);
    files = await opened(codec, files, input.password);
    read = await codec.read(files, { options: recipe.options }, services);
  } catch (error) {
    const failure = asFailure(error);
    const where = whereInWords(failure.where);
    return {
      ...none,
      verdict: 'unreadable',
      intact,
      unchanged,
      matches: null,
      proof: `${failure.message}${where ? ` (${where})` : ''}`,
    };
  }
  const compareTo = (side: CopyContent, nameOf?: (source: string) => string | undefined) =>
    compareAs(recipe, side, read, nameOf, input.tolerance);
  const wanted = (await project(current, recipe, services)).projection;
  // In bytes of our own there is nothing that our own reader does not know; derive makes sure of that.
  const unreadOf = (beyondSight: boolean) =>
    intact ? [] : unreadDifferences(read.notUnderstood.filter((one) => !!one.beyondSight === beyondSight));
  const [unknown, beyondSight] = [unreadOf(false), [...unreadOf(true), ...besideOf(input, read)]];
  // What the reader does not know may still be seen; where that is the same, it says nothing else.
  const sight = unknown.length ? await lookAt(files, wanted, recipe, services) : null;
  const unseen = sight ? (sight.differences.length ? [...sight.differences, ...unknown] : []) : unknown;
  const unread = [...unseen, ...beyondSight];
  const direct = compareTo(wanted, namesIn(current));
  const compared = intact ? direct : ((await withinLoss({ ...input, files }, direct, wanted, compareTo, services)) ?? direct);
  const comparison = { ...compared, differences: [...compared.differences, ...unread].sort(byImportance) };
  const matches = comparison.differences.length === 0;
  const past = new Past(input, wanted, services);
  const matchesBaseline =
    intact === true ||
    (!unread.length && (digestOf(read) === input.says || (unchanged ? matches : await past.says((side) => compareTo(side)))));
  const answers = {
    intact: intact === true,
    matchesBaseline,
    matches,
    // The table asks this only of copies that say neither.
    currentIsBaseline: !matchesBaseline && !matches && (unchanged ?? (await past.isCurrent())),
  };
  const { verdict, remark } = intact === null ? unknownOrigin(verdictOf(answers)) : verdictOf(answers);
  // One that says something else is told of by its differences.
  const off = always && matches ? await distanceFromMaster(current, recipe, read, services) : null;
  const far = distanceInWords(off, read.leaves.length);
  const sentences = [proofOf(intact, matchesBaseline, comparison), far && `It is ${far}.`, sight ? sightInWords(sight) : ''];
  return {
    verdict,
    intact,
    unchanged,
    matches,
    proof: sentences.filter(Boolean).join(' '),
    off,
    ...comparison,
    remark: [remark, ...(comparison.remarks ?? [])].filter(Boolean).join('; '),
    differences: await pictureRegions(comparison.differences, wanted, read, services.pictures),
    sides: { master: wanted, copy: read },
  };
}

/** What lies beside a master in a copy that is all of it is never made anew elsewhere: it is what it was, or it was changed. */
const besideOf = ({ intact, says }: CheckInput, read: ReadCopy): Difference[] =>
  read.renditions && !intact && digestOf(read) !== says
    ? [difference('not understood', 'What lies in the package', { master: 'as it was laid in', copy: 'something else' })]
    : [];

/** Why the master says nothing any more of what a copy was made of; null where it does. */
function whatIsGone({ current, baseline, recipe }: CheckInput): string | null {
  const [missing] = missingOf(current, recipe);
  if (!missing)
    return hasObjects(current, recipe.scope) ? null : 'The objects that it was made of are not in the master any more.';
  const { list, name, word, message } = missing;
  const called = baseline && (list ? nameOfPart(baseline, list, name) : recipe.row && variantInWords(baseline, recipe.row));
  return message ?? `The master has no ${word} “${called || name}” any more.`;
}

/** What only a loss makes: pixels that are a little otherwise. */
const LOSS: readonly Difference['kind'][] = ['region changed', 're-compressed', 'recoloured overall'];

/**
 * What is left of differences where a file was written again with loss: that alone, and whatever it does not explain.
 * @param direct what was found without a thought of that; @returns null where it explains nothing
 */
async function withinLoss(
  { files, recipe }: CheckInput,
  direct: Comparison,
  wanted: CopyContent,
  compareTo: (side: CopyContent) => Comparison,
  services: Services,
): Promise<Comparison | null> {
  const lost = direct.differences.filter(({ kind }) => LOSS.includes(kind));
  const { again } = await codecOf(recipe.target);
  if (!lost.length || !again) return null;
  const once = await again(files!, wanted, services);
  const left = once && compareTo(once.content);
  // What stays otherwise through the same loss was changed besides.
  if (!left || left.differences.filter(({ kind }) => LOSS.includes(kind)).length >= lost.length) return null;
  const worst = lost.reduce((a, b) => ((b.amount ?? 0) > (a.amount ?? 0) ? b : a));
  const loss: Difference = {
    ...worst,
    kind: 're-compressed',
    what: 'The picture',
    place: null,
    master: 'as our writer makes it',
    copy: once.words,
  };
  return { ...left, differences: [...left.differences, loss].sort(byImportance), equal: direct.equal };
}

/** Where nobody knows whether the bytes are as written, nobody knows either whether they were re-written elsewhere. */
const unknownOrigin = ({ verdict }: ReturnType<typeof verdictOf>) => ({ verdict, remark: '' });

/** What the master said when the copy was made: worked out only where the table of verdicts asks for it. */
class Past {
  private projection: CopyContent | null | undefined;

  constructor(
    private readonly input: CheckInput,
    private readonly current: CopyContent,
    private readonly services: Services,
  ) {}

  private async content(): Promise<CopyContent | null> {
    const { baseline, recipe } = this.input;
    if (this.projection === undefined) {
      const there = baseline && !whatIsGone({ ...this.input, current: baseline });
      this.projection = there ? (await project(baseline, recipe, this.services)).projection : null;
    }
    return this.projection;
  }

  async says(compare: (side: CopyContent) => Comparison): Promise<boolean> {
    const before = await this.content();
    return before !== null && compare(before).differences.length === 0;
  }

  async isCurrent(): Promise<boolean> {
    const before = await this.content();
    if (!before) return digestOf(this.current) === this.input.says;
    return compareAs(this.input.recipe, this.current, before, undefined, this.input.tolerance).differences.length === 0;
  }
}

function proofOf(
  intact: boolean | null,
  matchesBaseline: boolean,
  { outlines, equal, differences, counted = 'outlines' }: Comparison,
): string {
  const bytes = intact
    ? 'The bytes are as written'
    : intact === null
      ? 'Nobody knows whether the bytes are as written'
      : matchesBaseline
        ? 'The file was re-written but says the same'
        : 'The file was changed since it was written';
  if (!differences.length) return `${bytes}; read back, it says what the master says now.`;
  const count = differences.length === 1 ? '1 difference' : `${differences.length} differences`;
  return `${bytes}; read back, it has ${count} from the master now (${equal} of ${outlines} ${counted} agree).`;
}
