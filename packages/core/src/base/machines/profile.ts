import * as z from 'zod';
import { Failure } from '../failure/failure';
import { MACHINE_PROCESSES, type MachineProcess } from './processes';

const Name = z.string().trim().min(1).max(80);
const length = z.number().min(0).max(100_000);
const some = z.number().positive().max(100_000);

/** What the tools of a machine are. */
export const TOOL_KINDS = ['mill', 'drill', 'knife', 'pen', 'laser', 'needle'] as const;

/** One tool: lengths in mm, feeds in mm/min. */
export const MachineTool = z
  .strictObject({
    number: z.number().int().min(1).max(99),
    name: Name,
    kind: z.enum(TOOL_KINDS),
    /** What it is taken for where nobody names a tool. */
    does: z.array(z.enum(MACHINE_PROCESSES)).min(1).max(MACHINE_PROCESSES.length),
    /** How wide it cuts. 0 where it is as good as a line. */
    diameter: length,
    /** How deep it can cut at all; 0 where it does not go into the stock. */
    flute: length.default(0),
    /** How deep it goes at once. */
    pass: length.default(0),
    feed: some,
    /** Feed straight down. */
    plunge: some,
    /** Turns a minute, of a needle stitches a minute; 0 where nothing turns. */
    speed: z.number().int().min(0).max(100_000).default(0),
    /** Force on the stock, in grams; 0 leaves it to the machine. */
    force: z.number().int().min(0).max(10_000).default(0),
  })
  .superRefine(({ pass, flute, kind, diameter }, context) => {
    if (pass > flute)
      context.addIssue({ code: 'custom', path: ['pass'], message: `is deeper (${pass} mm) than its flute (${flute} mm)` });
    if (!(pass > 0) && ['mill', 'drill'].includes(kind))
      context.addIssue({ code: 'custom', path: ['pass'], message: 'is missing: say how deep it goes at once' });
    if (!(diameter > 0) && ['mill', 'drill'].includes(kind))
      context.addIssue({ code: 'custom', path: ['diameter'], message: 'is 0: a mill or a drill has a width' });
  });
export type MachineTool = z.infer<typeof MachineTool>;

/** A machine: how large it is, what it takes, with which tools, and what it can't do. Lengths in mm. */
export const MachineProfile = z
  .strictObject({
    id: z.string().regex(/^[a-z0-9][a-z0-9-]{0,39}$/, 'is of small letters, digits and - only'),
    name: Name,
    /** The standard that its files follow, by which the targets for it are known. */
    language: z.string().trim().min(1).max(40),
    unit: z.enum(['mm', 'inch']),
    area: z.strictObject({ width: some, height: some, depth: length }),
    origin: z.enum(['lower left', 'middle']),
    tools: z.array(MachineTool).min(1).max(99),
    /** mm/s². */
    acceleration: some,
    /** Feed of moves through the air, mm/min. */
    rapid: some,
    /** How long it takes to change a tool, s. */
    changeSeconds: length.default(0),
    limits: z.strictObject({ moves: z.number().int().positive().max(1e9), bytes: z.number().int().positive().max(1e11) }),
    /** How far above the stock it moves through the air. */
    safeHeight: length,
    stock: z.strictObject({
      thickness: length,
      /** How far it may go below the stock, into what lies there. */
      below: length,
    }),
  })
  .superRefine(({ tools, area, safeHeight, stock }, context) => {
    const numbers = tools.map(({ number }) => number);
    if (new Set(numbers).size < numbers.length)
      context.addIssue({ code: 'custom', path: ['tools'], message: 'have a number twice' });
    if (safeHeight + stock.thickness > area.depth && area.depth > 0)
      context.addIssue({
        code: 'custom',
        path: ['safeHeight'],
        message: `and the stock are ${safeHeight + stock.thickness} mm, and the machine has ${area.depth} mm of height`,
      });
  });
export type MachineProfile = z.infer<typeof MachineProfile>;

const FILE = { format: 'inkwell-machine', version: 1 } as const;

/** A profile as a file of its own: JSON, UTF-8. The same profile gives the same bytes. */
export const machineText = (machine: MachineProfile): string =>
  `${JSON.stringify({ ...FILE, ...MachineProfile.parse(machine) }, null, 2)}\n`;

/** A profile from such a file, or from its plain members. @throws Failure `machine-invalid` that says where and what */
export function machineFrom(value: unknown): MachineProfile {
  const { format, version, ...rest } = (value ?? {}) as Record<string, unknown>;
  if (format !== undefined && format !== FILE.format)
    throw new Failure('machine-invalid', `This is no machine: a file of one says "format": "${FILE.format}" at its beginning.`);
  if (version !== undefined && version !== FILE.version)
    throw new Failure('machine-invalid', `This machine is of version ${String(version)}; this program knows version 1.`);
  const parsed = MachineProfile.safeParse(rest);
  if (parsed.success) return parsed.data;
  const { path, message } = parsed.error.issues[0]!;
  throw new Failure('machine-invalid', `Machine ${machineWords(rest)}: ${path.join(' ') || 'it'} ${message}.`);
}

const machineWords = ({ name, id }: Record<string, unknown>): string =>
  typeof name === 'string' ? `“${name}”` : typeof id === 'string' ? id : '';

/** The tool that does a process: the one of that number, or the first that is taken for it; none where there is none. */
export const toolFor = (
  { tools }: MachineProfile,
  process: MachineProcess,
  number: number | null = null,
): MachineTool | undefined => tools.find((tool) => (number === null ? tool.does.includes(process) : tool.number === number));

/** Whether a machine has a tool that does what a process asks for. */
export const machineTakes = (process: string, { tools }: Pick<MachineProfile, 'tools'>): boolean =>
  tools.some(({ does }) => (does as readonly string[]).includes(process));
