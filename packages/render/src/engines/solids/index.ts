import type { SolidEngine } from '@inkwell-twin/core';

/** Changes whenever other triangles come of the same plan. */
export const SOLID_WRITER = '1, replicad-opencascadejs 1.1.0';

const engine = async (): Promise<SolidEngine> => (await import('./engine')).solidEngine;

/** Solids by the Open CASCADE kernel, which is loaded when the first one is asked for. */
export const solidEngine: SolidEngine = {
  mesh: async (...asked) => (await engine()).mesh(...asked),
  writeStep: async (...asked) => (await engine()).writeStep(...asked),
  readStep: async (...asked) => (await engine()).readStep(...asked),
  lines: async (...asked) => (await engine()).lines(...asked),
};
