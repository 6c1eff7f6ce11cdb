import { gzipSync } from 'node:zlib';
import type { SolidHead } from '@inkwell-twin/api';
import { Failure, Master, type Solid, kindById, newMaster, planSolid, valuesOf } from '@inkwell-twin/core';
import { packOne } from '../../copies/match-wire';
import type { Engine } from '../engine';

/** How finely solids are looked at while they are made. */
const LOOK = { chord: 0.05, angle: 10 } as const;

/** A solid of a draft, with what of the rest it takes its outlines from. */
export interface Asked {
  readonly solid: Solid;
  readonly boards: readonly unknown[];
  readonly layers: readonly unknown[];
  readonly symbols: readonly unknown[];
}

/** Makes a solid of a draft. @returns packed and compressed @throws Failure `solid-invalid` with the feature */
export async function solid({ services }: Engine, { solid: one, boards, layers, symbols }: Asked): Promise<Uint8Array> {
  const empty = newMaster('draft', 'Draft', '', 'part');
  const parsed = Master.safeParse({ ...empty, boards, symbols, layers: layers.length ? layers : empty.layers, solids: [one] });
  if (!parsed.success) {
    const issue = parsed.error.issues[0]!;
    throw new Failure('request-invalid', `The draft can’t be read at ${issue.path.join('.')}: ${issue.message}.`);
  }
  const plan = planSolid(parsed.data, one, services.fonts);
  const mesh = await services.solids!.mesh(plan, LOOK, services.resource);
  const { exact } = mesh;
  const facts = exact && { volume: exact.volume, area: exact.area, bodies: exact.bodies, holes: exact.holes.length };
  // eslint-disable-next-line no-restricted-syntax -- solids are sent as what they are
  const packed = kindById('mesh').pack({ ...mesh, colour: one.colour ?? '', source: one.id });
  // eslint-disable-next-line no-restricted-syntax -- solids are sent as what they are
  return gzipSync(packOne<SolidHead>({ facts, values: [...valuesOf(one).values] }, 'mesh', packed), { level: 1 });
}
