import { Failure } from '../../base/failure/failure';
import { type MachineProfile, machineTakes } from '../../base/machines';
import { isPicture } from '../../document/paint';
import type { Finding } from '../../contracts/finding';
import { isSeeThrough } from '../../contracts/display-list';
import type { Machining } from '../../contracts/machining';
import type { CarryLines } from '../../contracts/report';
import type { Services } from '../../contracts/services';
import { type CurveNotes, adaptOutline } from '../boards/curves';
import { outlineText, takenEntries } from '../boards/source';
import { namesOf } from '../names';
import type { ResolvedBoard } from '../resolve';
import { fitFindings } from './fit/fit';
import { type Job, type Prepared, type WorkedOutlines, prepareJobs } from './jobs';
import { layOut } from './lay-out';
import { marksOf } from './marks';
import { planMachining } from './plan';
import type { PlanSettings } from './settings';

/** How a board is to be brought onto a machine, and where what that costs is written down. */
export interface OnMachine {
  readonly settings: PlanSettings;
  /** How near arcs and lines lie to the curves that they stand for, mm. */
  readonly within: number;
  readonly notes: CurveNotes;
  /** What people call a feature. */
  readonly wordsOf: (feature: LostFeature) => string;
  /** Puts a coordinate onto the grid of the file, */
  readonly snap: (value: number) => number;
  /** and what names that grid. */
  readonly grid: string;
}
/** What no machine has of a drawing. */
export type LostFeature = 'fills' | 'line colours' | 'line widths' | 'opacity' | 'pictures' | 'dashes' | 'background';

/** What of a board a machine is to work, as arcs and lines; what it would not take is written down. */
function workedOutlines(
  resolved: ResolvedBoard,
  { settings, within, notes, wordsOf }: OnMachine,
  lines: CarryLines,
  { fonts }: Pick<Services, 'fonts'>,
): WorkedOutlines[] {
  const taken = takenEntries(
    resolved,
    ({ process, work }) =>
      process !== 'print' && process !== 'note' && (work?.tool !== undefined || machineTakes(process, settings.machine)),
    lines,
  );
  const rules = { arcs: 'kept', cubics: 'arcs', within, step: 0 } as const;
  const out = (feature: LostFeature, words = wordsOf(feature)) => lines.line(feature, 'left out', words, 'the machine has none');
  const [fills, wording] = [out('fills'), out('fills', 'Colour of text')];
  const [colours, widths, opacity, pictures, dashes] = [
    out('line colours'),
    out('line widths'),
    out('opacity'),
    out('pictures'),
    out('dashes'),
  ];
  if (resolved.board.background) out('background')(resolved.board.id);
  return taken.flatMap(({ entry, layer }): WorkedOutlines[] => {
    const { style, source, kind, work } = entry;
    if (isPicture(style.fill)) {
      pictures(source);
      return [];
    }
    if (style.fill) (kind === 'text' ? wording : fills)(source);
    if (style.stroke) {
      colours(source);
      widths(source);
      if (style.line?.dash.length) dashes(source);
    }
    if (isSeeThrough(style)) opacity(source);
    const drawn =
      kind === 'text' ? outlineText(entry, fonts, lines, 'becomes outlines: same look, no longer text') : entry.outlines;
    const outlines = drawn.map((outline) => adaptOutline(outline, rules, notes, source));
    return [{ source, layer, work, outlines }];
  });
}

const HOW_MANY = 3;

/** Why nothing is written while a part does not fit. */
function refusal(findings: readonly Finding[], machine: string): Failure {
  const some = findings.slice(0, HOW_MANY).map(({ words }) => words);
  const more = findings.length > HOW_MANY ? ` And ${findings.length - HOW_MANY} more.` : '';
  return new Failure(
    'does-not-fit',
    `This does not fit the ${machine} yet. ${some.join(' ')}${more} Settle each in the fit check (twin fit).`,
    {},
  );
}

interface Readied {
  readonly prepared: Prepared;
  /** As often as they are wanted, marks and all. */
  readonly jobs: readonly Job[];
  readonly worked: readonly WorkedOutlines[];
  readonly findings: readonly Finding[];
  readonly nameOf: (source: string) => string;
}

/** A board made ready for a machine, and all that keeps it from being made. */
function readied(resolved: ResolvedBoard, how: OnMachine, lines: CarryLines, services: Pick<Services, 'fonts'>): Readied {
  const { settings } = how;
  const names = namesOf(resolved);
  const nameOf = (source: string): string => names.get(source) ?? source;
  const worked = workedOutlines(resolved, how, lines, services);
  const prepared = prepareJobs(worked, settings);
  const laid = layOut(prepared.jobs, settings);
  const marks = marksOf(laid.jobs, settings);
  const findings = fitFindings({ prepared, laid, marks, settings, nameOf });
  return { prepared, jobs: [...laid.jobs, ...marks], worked, nameOf, findings };
}

/** All that keeps a board from being made on its machine, gravest first; of what fits, whether the machine holds so many moves. */
export function fitOnMachine(
  resolved: ResolvedBoard,
  how: OnMachine,
  lines: CarryLines,
  services: Pick<Services, 'fonts'>,
): readonly Finding[] {
  const { jobs, findings, nameOf } = readied(resolved, how, lines, services);
  if (findings.length) return findings;
  return overLimits(planned(resolved, jobs, how, nameOf).count, how.settings.machine);
}

/**
 * A board as a machine works it: every way of the tool, every rewrite written down. Pure.
 * @throws Failure `does-not-fit` while anything is not settled
 */
export function onMachine(
  resolved: ResolvedBoard,
  how: OnMachine,
  lines: CarryLines,
  services: Pick<Services, 'fonts'>,
): Machining {
  const { machine } = how.settings;
  const { prepared, jobs, findings, worked, nameOf } = readied(resolved, how, lines, services);
  if (findings.length) throw refusal(findings, machine.name);
  const left = (words: string, sources: readonly string[]) =>
    sources.forEach((source) => lines.line('objects', 'left out', 'Objects', words)(source));
  left('left out of this copy by name', prepared.leftOut.byName);
  left('smaller than what is worth a move', prepared.leftOut.specks);
  left('the same as others', prepared.leftOut.doubles);
  left('in part on lines of others, which are worked once', prepared.leftOut.shared);
  const becomes = lines.line('ways', 'restated', 'Outlines', 'become the ways of the middle of a tool');
  const gone = new Set(prepared.leftOut.byName);
  for (const { source } of worked) if (!gone.has(source)) becomes(source);
  const plan = planned(resolved, jobs, how, nameOf);
  const over = overLimits(plan.count, machine);
  if (over.length) throw refusal(over, machine.name);
  return plan;
}

/** The plan that was made of a board last: who holds it against a machine and then derives it asks for the same twice. */
const last = new WeakMap<ResolvedBoard, { readonly key: string; readonly plan: Machining }>();

function planned(resolved: ResolvedBoard, jobs: readonly Job[], how: OnMachine, nameOf: (source: string) => string): Machining {
  const key = JSON.stringify([how.settings, how.within, how.grid]);
  const known = last.get(resolved);
  if (known?.key === key) return known.plan;
  const plan = planMachining(jobs, how.settings, how.snap, nameOf);
  last.set(resolved, { key, plan });
  return plan;
}

function overLimits(count: number, { limits: { moves } }: MachineProfile): Finding[] {
  if (count <= moves) return [];
  const words = `It takes ${count} moves, and the machine holds ${moves}. Make several copies, each of some of the objects.`;
  return [{ kind: 'over a limit', words, objects: [], place: null, amount: count - moves, unit: 'moves', mends: [] }];
}
