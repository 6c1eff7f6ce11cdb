import { checkCopy, derive, recipeOf } from '@inkwell-twin/core';
import { shippedFonts } from '@inkwell-twin/render';
import { largeMaster } from './large-master';
import { median } from './timing';

const time = '2026-11-20T10:00:00.000Z';

/** Deriving and checking copies of 20,000 rectangles, plain ones and ones with round corners, from a master just opened each time. */
export async function benchmarkDeriving(): Promise<Record<string, number>> {
  const services = { fonts: shippedFonts() };
  const figures: Record<string, number> = {};
  for (const [corners, radius] of [
    ['', 0],
    [' with round corners', 3],
  ] as const)
    for (const [label, target, options] of [
      ['SVG', 'svg', {}],
      ['DXF', 'dxf', {}],
      ['HP-GL', 'hpgl', {}],
    ] as const) {
      const master = largeMaster('deriving', radius);
      const recipe = recipeOf(target, options);
      const fresh = () => ({ ...master });
      const of = `${label} of 20,000 rectangles${corners}`;
      figures[`derive ${of}, ms`] = await median(7, () => derive({ master: fresh(), rev: 1, time }, recipe, services));
      const { files, says } = await derive({ master, rev: 1, time }, recipe, services);
      const check = (all: boolean) => () =>
        checkCopy({ files, intact: false, says, recipe, current: fresh(), baseline: master }, services, all);
      figures[`check ${of}, ms`] = await median(7, check(false));
      // With how far it is from the master itself, and both sides for showing.
      figures[`look at ${of}, ms`] = await median(7, check(true));
    }
  return figures;
}
