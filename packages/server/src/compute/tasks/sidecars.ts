import type { SaidField } from '@inkwell-twin/core';
import { orderSidecars, settleSidecars, standSidecars, writeOut } from '../../masters/sidecars';
import type { Engine } from '../engine';

/** Finds again how descriptions and their files stand, and says it where that is news. */
export async function sidecarStand(engine: Engine, { master }: { master: string }): Promise<void> {
  if (await standSidecars(engine, master)) await engine.jobs.event({ kind: 'master', master });
}

/** Some descriptions of a master, or all of them. */
interface Of {
  readonly master: string;
  readonly about?: readonly string[];
}

export const sidecarWrite = (engine: Engine, { master, about }: Of): Promise<void> => writeOut(engine, master, about);

export const sidecarSettle = (
  engine: Engine,
  { master, about, author, choices }: Of & { author: string; choices: Partial<Record<SaidField, 'inside' | 'outside'>> },
): Promise<void> => settleSidecars(engine, master, author, choices, about);

export const sidecarOrder = (engine: Engine, { master, about, on }: Of & { on: boolean }): Promise<void> =>
  orderSidecars(engine, master, on, about);
