import { ellipse } from './ellipse';
import { group } from './group';
import { path } from './path';
import { picture } from './picture';
import { polyline } from './polyline';
import { rectangle } from './rectangle';
import { addItemKind } from './table';
import { text } from './text';
import { use } from './use';

addItemKind(path);
addItemKind(rectangle);
addItemKind(ellipse);
addItemKind(polyline);
addItemKind(text);
addItemKind(picture);
addItemKind(use);
addItemKind(group);

export type { Field, ItemKind, TextLine } from './kind';
export { addItemKind, itemKind, itemKinds } from './table';
export { LONGEST_TEXT, MOST_RUNS, type TextRun } from './text-item';
export { LEADING, type Measure, roughly } from './text-lines';
export { type RunLook, lookWithin, withRun } from './text-runs';
