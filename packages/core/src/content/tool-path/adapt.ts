import type { CarryLines } from '../../contracts/report';
import { near } from '../../base/geometry/point';
import { isPicture } from '../../document/paint';
import type { ResolvedBoard } from '../../evaluate/resolve';
import { adaptOutline } from '../../evaluate/boards/curves';
import { outlineText, takenEntries } from '../../evaluate/boards/source';
import type { MaybePromise, Services } from '../../contracts/services';
import { curveNotes } from '../drawing/adapt';
import { isSeeThrough } from '../../contracts/display-list';
import { type ToolPathCarries, settingsIn, toolOf, toolPathFeatures } from './features';
import { type ToolPath, ToolPathBuilder } from './tool-path';

const how = <C>(carry: C): Exclude<C, string> | null => (typeof carry === 'object' ? (carry as Exclude<C, string>) : null);

/** A board as a machine does it: the outlines of what has a tool, stroke by stroke, every rewrite written down. Pure. */
export function adaptToolPath(
  resolved: ResolvedBoard,
  carries: ToolPathCarries,
  lines: CarryLines,
  { fonts }: Services,
): MaybePromise<ToolPath> {
  const settings = settingsIn(carries);
  // Plans are seldom made: what makes them is loaded with the first.
  if (settings)
    return import('./for-machine').then(({ adaptForMachine }) => adaptForMachine(resolved, carries, settings, lines, { fonts }));
  const { board } = resolved;
  const taken = takenEntries(resolved, ({ process }) => toolOf(carries, process) !== undefined, lines);
  const builder = new ToolPathBuilder();
  const rules = {
    arcs: 'chords',
    cubics: 'chords',
    within: how(carries.curves)?.within ?? how(carries.arcs)?.within ?? 0.05,
    step: how(carries.moves)?.step ?? 0,
  } as const;
  const notes = curveNotes(lines, rules);
  const out = (feature: keyof typeof toolPathFeatures, words = toolPathFeatures[feature].words) =>
    lines.line(feature, 'left out', words, 'the target has none');
  const [fills, wording] = [out('fills'), out('fills', 'Colour of text')];
  const [colours, widths, opacity] = [out('line colours'), out('line widths'), out('opacity')];
  const dashes = lines.line('dashes', 'left out', toolPathFeatures.dashes.words, 'whole lines are drawn');
  const asTheyAre = lines.line('outlines', 'kept', 'Outlines', 'arrive as they are');
  const becomesTool = lines.line('layer names', 'restated', 'Layer names', how(carries.tools)?.words ?? '');
  const speedOf = how(carries.speed)?.of;
  const used = new Set(taken.map(({ layer }) => layer.id));
  for (const { id, name, process } of resolved.layers)
    if (used.has(id) && toolOf(carries, process)!.name !== name) becomesTool(id);
  const pictures = out('pictures');
  for (const { entry, layer } of taken) {
    const { style, source, kind } = entry;
    if (isPicture(style.fill)) {
      pictures(source);
      continue;
    }
    if (style.fill) (kind === 'text' ? wording : fills)(source);
    if (style.stroke) {
      colours(source);
      widths(source);
      if (style.line?.dash.length) dashes(source);
    }
    if (isSeeThrough(style)) opacity(source);
    const tool = toolOf(carries, layer.process)!;
    const number = builder.tool(tool.number, tool.name);
    const outlines =
      kind === 'text' ? outlineText(entry, fonts, lines, 'becomes outlines: same look, no longer text') : entry.outlines;
    if (kind === 'path') asTheyAre(source);
    for (const outline of outlines) {
      const { start, segments, closed } = adaptOutline(outline, rules, notes, source);
      if (!segments.length) continue;
      builder.point(start[0], start[1]);
      for (const { to } of segments) builder.point(to[0], to[1]);
      if (closed && !near(segments.at(-1)!.to, start, 1e-9)) builder.point(start[0], start[1]);
      builder.stroke(number, speedOf ? speedOf(tool) : NaN, source);
    }
  }
  if (board.background) out('background')(board.id);
  return builder.finish();
}
