import { Failure } from '../../base/failure/failure';
import { isPicture } from '../../document/paint';
import { CarryLines } from '../../contracts/report';
import { isSeeThrough } from '../../contracts/display-list';
import type { Machining } from '../../contracts/machining';
import type { Services } from '../../contracts/services';
import { adaptOutline } from '../../evaluate/boards/curves';
import { outlineText, takenEntries } from '../../evaluate/boards/source';
import type { Finding } from '../../contracts/finding';
import { fitFindings } from '../../evaluate/machines/fit/fit';
import { type Prepared, type WorkedOutlines, prepareJobs } from '../../evaluate/machines/jobs';
import { planMachining } from '../../evaluate/machines/plan';
import type { ResolvedBoard } from '../../evaluate/resolve';
import { curveNotes } from '../drawing/adapt';
import { type MachiningCarries, machineTakes, machiningFeatures, settingsOf } from './features';

const within = ({ curves }: MachiningCarries): number => (typeof curves === 'object' ? curves.within : 0.002);

/** What of a board a machine is to work, as arcs and lines; what it would not take is written down. */
function workedOutlines(
  resolved: ResolvedBoard,
  carries: MachiningCarries,
  lines: CarryLines,
  { fonts }: Pick<Services, 'fonts'>,
): WorkedOutlines[] {
  const how = settingsOf(carries);
  const taken = takenEntries(
    resolved,
    ({ process, work }) => process !== 'print' && process !== 'note' && (work?.tool !== undefined || machineTakes(process, how)),
    lines,
  );
  const rules = { arcs: 'kept', cubics: 'arcs', within: within(carries), step: 0 } as const;
  const notes = curveNotes(lines, rules);
  const out = (feature: keyof typeof machiningFeatures, words = machiningFeatures[feature].words) =>
    lines.line(feature, 'left out', words, 'the machine has none');
  const [fills, wording] = [out('fills'), out('fills', 'Colour of text')];
  const [colours, widths, opacity, pictures, dashes] = [
    out('line colours'),
    out('line widths'),
    out('opacity'),
    out('pictures'),
    out('dashes'),
  ];
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

/** A board made ready for a machine, and all that keeps it from being made. */
function readied(
  resolved: ResolvedBoard,
  carries: MachiningCarries,
  lines: CarryLines,
  services: Pick<Services, 'fonts'>,
): { prepared: Prepared; findings: Finding[]; worked: readonly WorkedOutlines[]; nameOf: (source: string) => string } {
  const { settings } = settingsOf(carries);
  const names = namesOf(resolved);
  const nameOf = (source: string): string => names.get(source) ?? source;
  const worked = workedOutlines(resolved, carries, lines, services);
  const prepared = prepareJobs(worked, settings);
  return { prepared, worked, nameOf, findings: fitFindings({ prepared, settings, nameOf }) };
}

/** All that keeps a board from being made on its machine, gravest first; of what fits, whether the machine holds so many moves. */
export function fitOfBoard(
  resolved: ResolvedBoard,
  carries: MachiningCarries,
  services: Pick<Services, 'fonts'>,
): readonly Finding[] {
  const { prepared, findings, nameOf } = readied(resolved, carries, new CarryLines(), services);
  return findings.length ? findings : overLimits(planned(prepared, carries, nameOf).count, carries);
}

function planned({ jobs }: Prepared, carries: MachiningCarries, nameOf: (source: string) => string): Machining {
  const { settings, unit, decimals } = settingsOf(carries);
  const grid = 10 ** decimals;
  return planMachining(jobs, settings, (value) => (Math.round((value / unit) * grid) / grid) * unit, nameOf);
}

/**
 * A board as a machine works it: every way of the tool, every rewrite written down. Pure.
 * @throws Failure `does-not-fit` while anything is not settled
 */
export function adaptMachining(
  resolved: ResolvedBoard,
  carries: MachiningCarries,
  lines: CarryLines,
  services: Services,
): Machining {
  const { settings } = settingsOf(carries);
  const { prepared, findings, worked, nameOf } = readied(resolved, carries, lines, services);
  if (findings.length) throw refusal(findings, settings.machine.name);
  const left = (words: string, sources: readonly string[]) =>
    sources.forEach((source) => lines.line('ways', 'left out', 'Objects', words)(source));
  left('left out of this copy by name', prepared.leftOut.byName);
  left('smaller than what is worth a move', prepared.leftOut.specks);
  left('the same as others', prepared.leftOut.doubles);
  const becomes = lines.line('ways', 'restated', 'Outlines', 'become the ways of the middle of a tool');
  const gone = new Set(prepared.leftOut.byName);
  for (const { source } of worked) if (!gone.has(source)) becomes(source);
  if (resolved.board.background)
    lines.line('background', 'left out', machiningFeatures.background.words, 'the machine has none')(resolved.board.id);
  const plan = planned(prepared, carries, nameOf);
  const over = overLimits(plan.count, carries);
  if (over.length) throw refusal(over, settings.machine.name);
  return plan;
}

function overLimits(count: number, carries: MachiningCarries): Finding[] {
  const { moves } = settingsOf(carries).settings.machine.limits;
  if (count <= moves) return [];
  const words = `It takes ${count} moves, and the machine holds ${moves}. Make several copies, each of some of the objects.`;
  return [{ kind: 'over a limit', words, objects: [], place: null, amount: count - moves, unit: 'moves', mends: [] }];
}

/** What objects are called, by id: their names, or what they are. */
export const namesOf = ({ board }: Pick<ResolvedBoard, 'board'>): Map<string, string> => {
  const names = new Map<string, string>();
  const visit = (items: readonly { id: string; name?: string | undefined; kind: string; items?: unknown }[]): void => {
    for (const item of items) {
      names.set(item.id, item.name || `${item.kind} ${item.id.slice(0, 8)}`);
      if (Array.isArray(item.items)) visit(item.items as never);
    }
  };
  visit(board.items as never);
  return names;
};
