import type { Process } from '../../document/schema';
import type { BoardFeature, BoardReading } from '../../evaluate/boards/footprint';
import { drawingFeatures } from '../drawing/features';
import type { PlanSettings } from '../../evaluate/machines/settings';
import type { CarriesOf } from '../../contracts/kind';
import type { Tool } from './tool-path';
import type { ToolPath } from './tool-path';

declare module '../../contracts/leaf' {
  interface Kinds {
    toolPath: { body: ToolPath; carries: ToolPathCarries };
  }
}

/** What a target has to say of a feature that it can't hold as it is. */
export interface ToolPathHows {
  /** The coordinates of a stroke lie on a grid of `step`, mm. */
  moves: { readonly step: number };
  arcs: { readonly within: number };
  curves: { readonly within: number };
  text: object;
  /** Which tool a process is done with; a process without one is not for this machine. */
  tools: { readonly of: Readonly<Partial<Record<Process, Tool>>>; readonly settings?: PlanSettings };
  /** How layers and objects say that they are worked; for a machine that is known. */
  work: object;
  speed: { readonly of: (tool: Tool) => number };
  order: object;
  fills: object;
  pictures: object;
  'line colours': object;
  'line widths': object;
  dashes: object;
  opacity: object;
  background: object;
}
export type ToolPathCarries = CarriesOf<ToolPathHows>;

const { outlines, arcs, curves, text, fills, opacity, background } = drawingFeatures;

/** The features of tool paths, one row each. */
export const toolPathFeatures: { readonly [F in keyof ToolPathHows]: BoardFeature } = {
  moves: { ...outlines, words: 'Coordinates' },
  arcs,
  curves,
  text,
  tools: { words: 'Layer names', found: ['re-layered', 'missing', 'added'], layer: ({ process }) => process, always: true },
  work: {
    words: 'Side and tool',
    found: ['re-layered', 'missing', 'added'],
    layer: ({ work }) => work ?? null,
    item: ({ work }) => work,
  },
  speed: { aside: true, words: 'Speed', found: ['speed changed'] },
  order: { words: 'Order of work', found: ['re-ordered'], ordered: true },
  fills: { ...fills, found: [] },
  pictures: { words: drawingFeatures.pictures.words, found: [] },
  'line colours': { words: drawingFeatures['line colours'].words, found: [] },
  'line widths': { words: drawingFeatures['line widths'].words, found: [] },
  dashes: { words: drawingFeatures.dashes.words, found: [] },
  opacity: { words: opacity.words, found: [] },
  background: { words: background.words, found: [] },
};

/** Which tool does the objects of a process; undefined where the machine has none for it. */
export const toolOf = ({ tools }: ToolPathCarries, process: Process): Tool | undefined =>
  typeof tools === 'object' ? tools.of[process] : undefined;

/** How footprints of tool paths read boards: only from layers that there is a tool for. */
export const toolPathReading: BoardReading<ToolPathCarries> = {
  kind: 'toolPath',
  features: toolPathFeatures,
  takes: ({ process }, carries) => toolOf(carries, process) !== undefined,
};

/** How a plan is to be made; nothing where no machine is named. */
export const settingsIn = ({ tools }: ToolPathCarries): PlanSettings | undefined =>
  typeof tools === 'object' ? tools.settings : undefined;
