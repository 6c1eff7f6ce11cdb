import { Failure } from '../../base/failure/failure';
import { toolFor } from '../../base/machines';
import type { Box } from '../../base/geometry/measure';
import { invert } from '../../base/geometry/matrix';
import type { Finding, Mend } from '../../contracts/finding';
import type { Machining } from '../../contracts/machining';
import { type CarryLines } from '../../contracts/report';
import type { Services } from '../../contracts/services';
import { isSeeThrough } from '../../contracts/display-list';
import { type PlacedPaint, isGradient, isPicture, isPlain } from '../../document/paint';
import { missingCharacters, takenEntries } from '../boards/source';
import { meanColour } from '../gradients/gradient';
import { boxOnBoard, mm } from '../machines/fit/look';
import { type WorkedOutlines, placing, processOf } from '../machines/jobs';
import type { ResolvedBoard, ResolvedEntry } from '../resolve';
import { namesOf } from '../names';
import { needleLine } from './letters/letters';
import { planStitches } from './plan';
import type { StitchSettings } from './settings';
import { type Asked, type Sewn, sewnOf, strokesOnBoard } from './sewn';
import { threadsOf } from './threads';

/** How wide letters for the needle are sewn, as a share of their size. */
const [STEM, BOLD] = [0.11, 0.16];

export interface OnNeedle {
  readonly settings: StitchSettings;
  readonly snap: (value: number) => number;
}

/** The colour of a thread for a paint; null for what no thread has. */
function threadColour(paint: PlacedPaint | null): string | null {
  if (!paint || isPicture(paint)) return null;
  if (isPlain(paint)) return paint.slice(0, 7).toLowerCase();
  return isGradient(paint) ? meanColour(paint).slice(0, 7).toLowerCase() : null;
}

type Notes = ReturnType<typeof notesOf>;
function notesOf(lines: CarryLines) {
  const out = (key: string, words: string) => lines.line(key, 'left out', words, 'no needle has it');
  return {
    ways: lines.line('ways', 'restated', 'Outlines', 'become stitches'),
    text: lines.line('text', 'restated', 'Text', 'is sewn in letters of the needle'),
    outlined: lines.line('text', 'restated', 'Text', 'becomes areas that are sewn'),
    colours: lines.line('threads', 'restated', 'Colours', 'become threads'),
    mixed: lines.line('mixed', 'approximated', 'Gradients and patterns', 'become one thread'),
    dashes: out('dashes', 'Dashes'),
    pictures: out('pictures', 'Pictures'),
    opacity: out('opacity', 'Opacity'),
    background: out('background', 'Background of the board'),
  };
}

/** What an entry of a board asks a needle for; null for what it has no thread for. */
function askedOf(
  entry: ResolvedEntry,
  work: Asked['work'],
  { settings, fonts, lines, notes }: { settings: StitchSettings; fonts: Services['fonts']; lines: CarryLines; notes: Notes },
): Asked | null {
  const { source, style } = entry;
  if (isPicture(style.fill)) {
    notes.pictures(source);
    return null;
  }
  for (const paint of [style.fill, style.stroke]) if (paint && !isPlain(paint)) notes.mixed(source);
  const [fillColour, lineColour] = [threadColour(style.fill), threadColour(style.stroke)];
  if (fillColour || lineColour) notes.colours(source);
  if (style.line?.dash.length) notes.dashes(source);
  if (isSeeThrough(style)) notes.opacity(source);
  notes.ways(source);
  if (entry.kind === 'text' && settings.letters === 'of the needle' && work?.stitch?.as !== 'fill') {
    const { strokes, width, missing } = needleLine(entry.text, (entry.spacing ?? 0) / entry.size);
    const shift = { start: 0, middle: -width / 2, end: -width }[entry.align] * entry.size;
    const colour = fillColour ?? lineColour;
    if (!colour) return null;
    notes.text(source);
    if (missing.length) missingCharacters(entry, missing, lines);
    const [a, b, c, d] = entry.frame;
    const scale = Math.sqrt(Math.abs(a * d - b * c));
    const stem = (/bold/i.test(entry.font) ? BOLD : STEM) * entry.size * scale;
    const outlines = strokesOnBoard(strokes, { frame: entry.frame, size: entry.size, shift });
    // Letters are columns, however small they are.
    const sewn = { ...work, stitch: { ...work?.stitch, as: work?.stitch?.as ?? ('satin' as const) } };
    return { source, work: sewn, area: null, lines: outlines.map((outline) => ({ outline, width: stem, colour })) };
  }
  if (entry.kind === 'text') notes.outlined(source);
  const found = entry.kind === 'text' ? fonts.outline(entry) : { outlines: entry.outlines, missing: [] };
  if (entry.kind === 'text' && found.missing.length) missingCharacters(entry, found.missing, lines);
  return {
    source,
    work,
    area: fillColour ? { outlines: found.outlines, colour: fillColour } : null,
    lines: lineColour ? found.outlines.map((outline) => ({ outline, width: style.strokeWidth, colour: lineColour })) : [],
  };
}

interface Readied {
  readonly sewn: readonly Sewn[];
  readonly findings: readonly Finding[];
  readonly nameOf: (source: string) => string;
}

/** A board made ready for a needle, and all that keeps it from being sewn. */
function readied(
  resolved: ResolvedBoard,
  { settings }: OnNeedle,
  lines: CarryLines,
  { fonts }: Pick<Services, 'fonts'>,
): Readied {
  const { machine } = settings;
  const names = namesOf(resolved);
  const nameOf = (source: string): string => names.get(source) ?? source;
  const taken = takenEntries(resolved, ({ process, work }) => work?.tool !== undefined || process === 'stitch', lines);
  const notes = notesOf(lines);
  if (resolved.board.background) notes.background(resolved.board.id);
  const gone = new Set(settings.leftOut);
  const byName = lines.line('objects', 'left out', 'Objects', 'left out of this copy by name');
  const asked: (Asked & Pick<WorkedOutlines, 'layer'>)[] = [];
  for (const { entry, layer } of taken) {
    if (processOf(layer, entry.work) !== 'stitch') continue;
    if (gone.has(entry.source)) {
      byName(entry.source);
      continue;
    }
    const work = { ...layer.work, ...entry.work, stitch: { ...layer.work?.stitch, ...entry.work?.stitch } };
    const one = askedOf(entry, work, { settings, fonts, lines, notes });
    if (one) asked.push({ ...one, layer });
  }
  const outlinesOf = ({ area, lines: own }: Asked) => [...(area?.outlines ?? []), ...own.map(({ outline }) => outline)];
  const at = placing(
    asked.map((one) => ({ source: one.source, layer: one.layer, work: one.work, outlines: outlinesOf(one) })),
    settings,
  );
  const sewn = asked.flatMap((one) => sewnOf(one, at, settings));
  const back = invert(at)!;
  const place = (box: Box): Box => boxOnBoard(box, back);
  const leaveOut = (source: string): Mend => ({
    words: `Leave “${nameOf(source)}” out`,
    options: { leftOut: [...settings.leftOut, source].join(' ') },
  });
  const findings: Finding[] = [];
  const once = new Set<string>();
  const add = (
    kind: Finding['kind'],
    one: Sewn,
    words: string,
    amount: number | null,
    mends: readonly Mend[],
    unit = 'mm',
  ): void => {
    if (once.has(`${kind} ${one.source}`)) return;
    once.add(`${kind} ${one.source}`);
    findings.push({
      kind,
      words,
      objects: [one.source],
      place: place(one.box),
      amount,
      unit: amount === null ? '' : unit,
      mends: [...mends, leaveOut(one.source)],
    });
  };
  const { width, height } = machine.area;
  const [left, bottom] = machine.origin === 'middle' ? [-width / 2, -height / 2] : [0, 0];
  const threads = threadsOf(sewn, machine);
  sewn.forEach((one, i) => {
    const name = nameOf(one.source);
    const over = Math.max(
      left - one.box.minX,
      one.box.maxX - left - width,
      bottom - one.box.minY,
      one.box.maxY - bottom - height,
    );
    if (over > 5e-4)
      add(
        'off the bed',
        one,
        `“${name}” goes ${mm(over)} beyond what the ${machine.name} reaches (${width} × ${height} mm).`,
        over,
        [...(settings.place === 'in the middle' ? [] : [{ words: 'Sew it in the middle', options: { place: 'in the middle' } }])],
      );
    if (!threads[i]) {
      const wanted = one.needle;
      const words =
        wanted !== undefined && !toolFor(machine, 'stitch', wanted)
          ? `“${name}” asks for needle ${wanted}, which the ${machine.name} has not.`
          : `“${name}” wants one more thread, ${one.colour}, and the ${machine.name} holds ${machine.tools.length}.`;
      add('no tool', one, words, null, []);
    }
    if (one.narrow !== null)
      add('too fine', one, `“${name}” is ${mm(one.narrow)} wide: satin holds from 0.8 mm on.`, one.narrow, [
        { words: 'Sew such lines along', options: { narrow: 'along' } },
      ]);
  });
  return { sewn, findings, nameOf };
}

function plan(resolved: ResolvedBoard, how: OnNeedle, lines: CarryLines, services: Pick<Services, 'fonts'>) {
  const { sewn, findings, nameOf } = readied(resolved, how, lines, services);
  if (findings.length) return { findings, moves: null };
  const { machine } = how.settings;
  const threads = threadsOf(sewn, machine).map((thread) => thread!);
  const moves = planStitches(sewn, threads, how.settings, how.snap, nameOf);
  if (moves.count <= machine.limits.moves) return { findings, moves };
  const words = `It takes ${moves.count} stitches, and the ${machine.name} holds ${machine.limits.moves}. Sew it less dense, or in several copies.`;
  return { findings: [limit(words, moves.count - machine.limits.moves)], moves: null };
}

const limit = (words: string, amount: number): Finding => ({
  kind: 'over a limit',
  words,
  objects: [],
  place: null,
  amount,
  unit: 'stitches',
  mends: [],
});

/** All that keeps a board from being sewn. */
export const fitOnNeedle = (
  resolved: ResolvedBoard,
  how: OnNeedle,
  lines: CarryLines,
  services: Pick<Services, 'fonts'>,
): readonly Finding[] => plan(resolved, how, lines, services).findings;

/**
 * A board as a needle sews it, stitch by stitch. Pure.
 * @throws Failure `does-not-fit` while anything is not settled
 */
export function onNeedle(
  resolved: ResolvedBoard,
  how: OnNeedle,
  lines: CarryLines,
  services: Pick<Services, 'fonts'>,
): Machining {
  const { findings, moves } = plan(resolved, how, lines, services);
  if (moves) return moves;
  const some = findings.slice(0, 3).map(({ words }) => words);
  const more = findings.length > some.length ? ` And ${findings.length - some.length} more.` : '';
  throw new Failure(
    'does-not-fit',
    `This does not fit the ${how.settings.machine.name} yet. ${some.join(' ')}${more} Settle each in the fit check (twin fit).`,
    {},
  );
}
