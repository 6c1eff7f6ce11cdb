import { carry } from './carry';
import { check } from './check';
import { compareTwo } from './compare';
import { deriveCopy } from './derive';
import { bringInFile } from './import';
import { info } from './info';
import { targets } from './targets';
import type { Answer } from '../output';
import type { Arguments } from './shared';

/** The commands by name. */
export const COMMANDS: Readonly<Record<string, (args: Arguments) => Answer | Promise<Answer>>> = {
  info,
  import: bringInFile,
  derive: deriveCopy,
  carry,
  check,
  compare: compareTwo,
  targets,
};
