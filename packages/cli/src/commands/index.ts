import type { Answer } from '../output';
import type { Arguments } from './shared';

type Command = (args: Arguments) => Answer | Promise<Answer>;

/** The commands by name, each loaded when it is asked for. */
export const COMMANDS: Readonly<Record<string, () => Promise<Command>>> = {
  info: async () => (await import('./info')).info,
  import: async () => (await import('./import')).bringInFile,
  derive: async () => (await import('./derive')).deriveCopy,
  carry: async () => (await import('./carry')).carry,
  check: async () => (await import('./check')).check,
  compare: async () => (await import('./compare')).compareTwo,
  password: async () => (await import('./password')).password,
  machines: async () => (await import('./machines')).machines,
  fit: async () => (await import('./fit')).fit,
  open: async () => (await import('./open')).openAs,
  run: async () => (await import('./run')).runOnBench,
  targets: async () => (await import('./targets')).targets,
};
