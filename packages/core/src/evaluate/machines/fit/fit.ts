import { FINDING_KINDS, type Finding } from '../../../contracts/finding';
import { crossesItself } from './kinds/crosses-itself';
import { doubledLine } from './kinds/doubled-line';
import { holeTooSmall, wrongDrill } from './kinds/hole-too-small';
import { marksThatFail } from './kinds/marks';
import { noTool } from './kinds/no-tool';
import { offTheBed } from './kinds/off-the-bed';
import { openOutline } from './kinds/open-outline';
import { speck } from './kinds/speck';
import { tightCorner } from './kinds/tight-corner';
import { tooMany } from './kinds/too-many';
import { tooNear } from './kinds/too-near';
import { deeperThanStock, deeperThanTool } from './kinds/too-deep';
import type { FitContext, Look } from './look';

const LOOKS: readonly Look[] = [
  offTheBed,
  tooMany,
  tooNear,
  marksThatFail,
  noTool,
  deeperThanStock,
  deeperThanTool,
  openOutline,
  crossesItself,
  holeTooSmall,
  wrongDrill,
  tightCorner,
  doubledLine,
  speck,
];

/** All that keeps a part from being made as it is, gravest first. Pure. */
export const fitFindings = (context: FitContext): Finding[] =>
  LOOKS.flatMap((look) => look(context)).sort((a, b) => FINDING_KINDS.indexOf(a.kind) - FINDING_KINDS.indexOf(b.kind));
