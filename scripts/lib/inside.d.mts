import type { BuildOptions } from 'esbuild';

export const forNode: BuildOptions;
