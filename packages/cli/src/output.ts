import { CarryReport as Report, Difference, Finding, JobSize, MachineProfile, SeenCheck } from '@inkwell-twin/core/shapes';
import * as z from 'zod';

const NotUnderstood = z.array(z.object({ kind: z.string(), count: z.number() }));
const MarkOfOrigin = z.object({
  master: z.string(),
  rev: z.number(),
  recipe: z.string(),
  says: z.string(),
  written: z.string(),
  how: z.string(),
});

/** What `--json` prints, command by command. */
export const Output = z.discriminatedUnion('command', [
  z.object({
    command: z.literal('info'),
    file: z.string(),
    kind: z.enum(['master', 'copy', 'file', 'unknown']),
    target: z.string().nullable(),
    master: z
      .object({
        id: z.string(),
        title: z.string(),
        rev: z.number(),
        boards: z.array(z.string()),
        tables: z.array(z.string()),
        solids: z.array(z.string()),
        texts: z.array(z.string()),
        objects: z.number(),
      })
      .nullable(),
    mark: MarkOfOrigin.nullable(),
    notUnderstood: NotUnderstood,
  }),
  z.object({
    command: z.literal('import'),
    file: z.string(),
    out: z.string(),
    master: z.string(),
    objects: z.number(),
    notUnderstood: NotUnderstood,
    /** Parts that came in as pictures of themselves. */
    asPictures: z.number(),
    /** Texts in fonts that the file carries, which came in as outlines. */
    asOutlines: z.number(),
  }),
  z.object({
    command: z.literal('derive'),
    out: z.string(),
    /** Further files. */
    parts: z.array(z.string()),
    bytes: z.number(),
    says: z.string(),
    report: Report,
    defects: z.array(Difference),
    /** Options that were tried on the way to a size, and what each came to. */
    tried: z.array(
      z.object({ options: z.record(z.string(), z.union([z.string(), z.number(), z.boolean()])), bytes: z.number() }),
    ),
  }),
  z.object({
    /** `derive --variants`: one copy a row. */
    command: z.literal('variants'),
    file: z.string(),
    copies: z.array(z.object({ row: z.number(), name: z.string(), out: z.string(), bytes: z.number(), says: z.string() })),
    /** Rows that gave no copy, or one with a defect, counted from 1 below the heading, and why. */
    failed: z.array(z.object({ row: z.number(), message: z.string() })),
  }),
  z.object({
    command: z.literal('carry'),
    target: z.string(),
    report: Report,
    /** How large the copy will be: it is written to nowhere. */
    forecast: z.object({ bytes: z.number() }),
  }),
  z.object({
    command: z.literal('check'),
    copies: z.array(
      z.object({
        file: z.string(),
        /** From what it is taken how the copy was made. */
        by: z.string(),
        verdict: z.string(),
        remark: z.string(),
        /** Null where nobody knows. */
        intact: z.boolean().nullable(),
        unchanged: z.boolean().nullable(),
        matches: z.boolean().nullable(),
        proof: z.string(),
        /** Where it is farthest from the master itself, mm; null where nothing is rewritten, or it is not in step. */
        off: z.object({ amount: z.number(), at: z.array(z.number()).readonly(), leaf: z.number() }).nullable(),
        differences: z.array(Difference),
      }),
    ),
    /** Files of which nothing can be told, and why; the others are told all the same. */
    untold: z.array(z.object({ file: z.string(), code: z.string(), message: z.string() })),
  }),
  z.object({
    /** `check` of an archive package by itself. */
    command: z.literal('check-archive'),
    file: z.string(),
    files: z.number(),
    findings: z.array(z.object({ file: z.string(), what: z.string() })),
    /** The master in it; null where it can't be opened. */
    master: z.object({ id: z.string(), title: z.string(), rev: z.number() }).nullable(),
    problem: z.string(),
  }),
  z.object({
    /** `derive` of several masters, or by several settings. */
    command: z.literal('several'),
    copies: z.array(z.object({ file: z.string(), settings: z.string(), out: z.string(), bytes: z.number(), says: z.string() })),
    failed: z.array(z.object({ file: z.string(), settings: z.string(), message: z.string() })),
  }),
  z.object({ command: z.literal('password'), file: z.string(), out: z.string(), locked: z.boolean() }),
  z.object({
    command: z.literal('compare'),
    same: z.boolean(),
    differences: z.array(Difference),
    changes: z.array(z.string()),
  }),
  z.object({ command: z.literal('machines'), machines: z.array(MachineProfile) }),
  z.object({
    command: z.literal('fit'),
    machine: z.string().nullable(),
    target: z.string(),
    fits: z.boolean(),
    findings: z.array(Finding).readonly(),
    /** How long the machine works; null while something is not settled. */
    job: JobSize.nullable(),
  }),
  z.object({
    /** What a program of an older version sees of a file. */
    command: z.literal('open'),
    reader: z.string(),
    opens: z.boolean(),
    /** Why it does not, and at which line, or byte of a binary file. */
    refused: z.object({ at: z.number(), words: z.string() }).nullable(),
    /** What it passes over, because it does not know it. */
    dropped: z.array(z.object({ what: z.string(), count: z.number() })).readonly(),
    sha256: z.string(),
    /** Counted; the drawing itself goes to --out. */
    lines: z.number(),
    texts: z.number(),
    pictures: z.number(),
    /** What the copy was to say, beside that; null without a master, or where the file is no copy of one board. */
    held: SeenCheck.nullable(),
    isMeant: z.boolean().nullable(),
  }),
  z.object({
    /** What a machine of the bench says to a file. */
    command: z.literal('run'),
    machine: z.string(),
    runs: z.boolean(),
    sha256: z.string(),
    /** Where it would stop, and why: a line, or a byte of files without lines. */
    alarms: z.array(z.object({ at: z.number(), words: z.string() })).readonly(),
    moves: z.number(),
    worked: z.number(),
    travelled: z.number(),
    seconds: z.number(),
    tools: z.array(z.number()).readonly(),
    extents: z
      .object({
        minX: z.number(),
        minY: z.number(),
        minZ: z.number(),
        maxX: z.number(),
        maxY: z.number(),
        maxZ: z.number(),
      })
      .nullable(),
    picture: z.string(),
    log: z.array(z.string()).readonly(),
  }),
  z.object({
    command: z.literal('targets'),
    targets: z.array(
      z.object({
        id: z.string(),
        label: z.string(),
        standard: z.string(),
        options: z.array(
          z.object({ name: z.string(), values: z.array(z.string()), range: z.string(), default: z.string(), words: z.string() }),
        ),
        carries: z.record(z.string(), z.string()),
      }),
    ),
  }),
]);
export type Output = z.input<typeof Output>;

/** What a command answers: an object for programs, lines for people, and the exit code. */
export interface Answer {
  readonly output: Output;
  readonly lines: readonly string[];
  readonly code: 0 | 1 | 2;
}

/** Prints an answer; as JSON it is held against its schema first, so that what is documented is what comes. */
export function print({ output, lines }: Answer, json: boolean): void {
  console.log(json ? JSON.stringify(Output.parse(output), null, 2) : lines.join('\n'));
}
