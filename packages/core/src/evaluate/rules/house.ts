import * as z from 'zod';
import { Failure } from '../../base/failure/failure';
import { MachineProfile } from '../../base/machines';
import { FONTS } from '../../document/faces';
import { PROCESSES } from '../../document/schema';

/** What a name of a file can be made of, in the words of the patterns of names. */
export const NAME_PARTS = ['owner', 'title', 'board', 'date', 'rev', 'version'] as const;
export type NamePart = (typeof NAME_PARTS)[number];
export const LETTER_STYLES = ['lower_underscore', 'CamelParts'] as const;
export const SEPARATORS = ['_', '-', '.'] as const;

const Name = z.string().trim().min(1).max(80);
const Length = z.number().positive().max(1000);

/** Settings of copies under a name: what they are made as, with which options, and what of the master stays away. */
export const Preset = z.strictObject({
  name: Name,
  target: z.string().min(1).max(20),
  options: z.record(z.string().max(40), z.union([z.string().max(40_000), z.number(), z.boolean()])),
  /** Features that are left out. */
  without: z.array(z.string().min(1).max(40)).max(50).default([]),
  /** A standing order: with each update of a master that has such parts, such copies are written. */
  eachUpdate: z.boolean().default(false),
});
export type Preset = z.infer<typeof Preset>;

/** A way by which copies go to people, and the largest file that it takes. */
export const Channel = z.strictObject({ name: Name, megabytes: z.number().positive().max(1_000_000) });
export type Channel = z.infer<typeof Channel>;
/** What most mail takes, where a house says nothing else. */
const USUAL_CHANNELS: readonly Channel[] = [{ name: 'mail', megabytes: 20 }];

/** What a house writes and draws, and nothing else: a list that is empty leaves that free (docs/house-rules.md). */
export const HouseRules = z.strictObject({
  format: z.literal('inkwell-house-rules'),
  version: z.literal(1),
  /** Whose rules these are. */
  house: z.string().max(120).default(''),
  names: z
    .strictObject({
      parts: z
        .array(z.enum(NAME_PARTS))
        .min(1)
        .max(NAME_PARTS.length)
        .refine((parts) => new Set(parts).size === parts.length, 'says a part twice'),
      letters: z.enum(LETTER_STYLES),
      separator: z.enum(SEPARATORS),
      /** Letters that no name may hold, one behind the other; blanks and what some file systems refuse never may. */
      forbidden: z.string().max(40),
      length: z.number().int().min(16).max(200),
      ending: z.enum(['lower', 'upper']),
    })
    .refine(({ separator, forbidden }) => !forbidden.includes(separator), {
      message: 'forbids the letter that it parts names by',
      path: ['forbidden'],
    })
    .refine(({ letters, forbidden }) => letters === 'CamelParts' || !forbidden.includes('_'), {
      message: 'forbids the underscore that it joins words by',
      path: ['forbidden'],
    }),
  layers: z
    .array(
      z.strictObject({
        name: Name,
        process: z.enum(PROCESSES),
        colour: z.string().regex(/^#[0-9a-f]{6}$/, 'is a colour such as #2b4180'),
      }),
    )
    .max(200),
  /** Widths of lines, mm. */
  widths: z.array(Length).max(50),
  /** Types of lines that are not whole: dashes and gaps by turns, mm. */
  lines: z
    .array(
      z.strictObject({
        name: Name,
        dash: z
          .array(z.number().min(0).max(1000))
          .min(1)
          .max(12)
          .refine((dash) => dash.some((length) => length > 0), 'draws nothing'),
      }),
    )
    .max(50),
  fonts: z.array(z.enum(FONTS)).max(200),
  /** Names of the symbols that may be used. */
  symbols: z.array(Name).max(500),
  /** Rules from before there were any have none. */
  presets: z
    .array(Preset)
    .max(200)
    .refine((all) => new Set(all.map(({ name }) => name.toLowerCase())).size === all.length, 'has a name twice')
    .default([]),
  channels: z
    .array(Channel)
    .max(20)
    .default(() => [...USUAL_CHANNELS]),
  /** The house’s own machines, beside those of the bench. */
  machines: z
    .array(MachineProfile)
    .max(100)
    .refine((all) => new Set(all.map(({ id }) => id)).size === all.length, 'has an id twice')
    .default([]),
});
export type HouseRules = z.infer<typeof HouseRules>;

export const NO_RULES: HouseRules = {
  format: 'inkwell-house-rules',
  version: 1,
  house: '',
  names: {
    parts: ['title', 'board', 'rev', 'version'],
    letters: 'lower_underscore',
    separator: '_',
    forbidden: '',
    length: 80,
    ending: 'lower',
  },
  layers: [],
  widths: [],
  lines: [],
  fonts: [],
  symbols: [],
  presets: [],
  channels: [...USUAL_CHANNELS],
  machines: [],
};

/** @throws Failure `rules-invalid` that says where and what */
export function houseRules(value: unknown): HouseRules {
  const said = value as { format?: unknown; version?: unknown } | null;
  if (said?.format !== 'inkwell-house-rules')
    throw new Failure(
      'rules-invalid',
      'These are no house rules: a file of them says "format": "inkwell-house-rules" at its beginning.',
    );
  if (said.version !== 1)
    throw new Failure(
      'rules-invalid',
      `These house rules are of version ${String(said.version)}; this program knows version 1. Ask their sender for those.`,
    );
  const parsed = HouseRules.safeParse(value);
  if (parsed.success) return parsed.data;
  const { path, message } = parsed.error.issues[0]!;
  throw new Failure('rules-invalid', `House rules: ${path.join(' ') || 'they'} ${message}.`);
}

/** A file of house rules. The same rules give the same bytes. */
export const houseRulesText = (rules: HouseRules): string => `${JSON.stringify(HouseRules.parse(rules), null, 2)}\n`;

/** The settings of that name, whatever the case of its letters. @throws Failure `preset-unknown` that lists those that there are */
export function presetOf({ presets, house }: HouseRules, name: string): Preset {
  const found = presets.find((one) => one.name.toLowerCase() === name.trim().toLowerCase());
  if (found) return found;
  const known = presets.map((one) => `“${one.name}”`).join(', ');
  throw new Failure(
    'preset-unknown',
    `${house ? `The rules of ${house} have` : 'The house rules have'} no settings called “${name}”. ${known ? `Known: ${known}.` : 'They have none.'}`,
  );
}

/** The ways that a file of so many bytes is too large for. */
export const tooLargeFor = ({ channels }: Pick<HouseRules, 'channels'>, bytes: number): Channel[] =>
  channels.filter(({ megabytes }) => bytes > megabytes * 1e6);

/** Rules with settings under their name, in the place of those that had it; in the order of names. */
export const withPreset = (rules: HouseRules, preset: Preset): HouseRules => ({
  ...rules,
  presets: [...rules.presets.filter(({ name }) => name.toLowerCase() !== preset.name.toLowerCase()), preset].sort((a, b) =>
    a.name.localeCompare(b.name, 'en'),
  ),
});
