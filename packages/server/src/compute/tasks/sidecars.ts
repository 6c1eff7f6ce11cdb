import type { SaidField } from '@inkwell-twin/core';
import { orderSidecar, settleSidecar, standSidecar, writeOut } from '../../masters/sidecars';
import type { Engine } from '../engine';

/** Finds again how a description and its file stand, and says it where that is news. */
export async function sidecarStand(engine: Engine, { master }: { master: string }): Promise<void> {
  if (await standSidecar(engine, master)) await engine.jobs.event({ kind: 'master', master });
}

export const sidecarWrite = (engine: Engine, { master }: { master: string }): Promise<void> => writeOut(engine, master);

export const sidecarSettle = (
  engine: Engine,
  { master, author, choices }: { master: string; author: string; choices: Partial<Record<SaidField, 'inside' | 'outside'>> },
): Promise<void> => settleSidecar(engine, master, author, choices);

export const sidecarOrder = (engine: Engine, { master, on }: { master: string; on: boolean }): Promise<void> =>
  orderSidecar(engine, master, on);
