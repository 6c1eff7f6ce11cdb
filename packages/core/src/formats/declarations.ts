import * as z from 'zod';
import { Failure } from '../base/failure/failure';
import type { Declaration, Options } from '../contracts/declaration';
import { gathered } from './gathered/declarations';

const known = new Map<string, Declaration>();

/** Adds a target's declaration. @throws Failure `target-taken` where its name is another's */
export function addDeclaration(declaration: Declaration): void {
  const before = known.get(declaration.id);
  if (before && before !== declaration) throw new Failure('target-taken', `There is a target “${declaration.id}” already.`);
  known.set(declaration.id, declaration);
}
Object.values(gathered).forEach(addDeclaration);

/** All targets, in the order in which they are offered. */
export const declarations = (): readonly Declaration[] =>
  [...known.values()].sort((a, b) => (a.offered ?? Infinity) - (b.offered ?? Infinity) || (a.id < b.id ? -1 : 1));

/** @throws Failure `target-unknown` that lists the known ones */
export function declarationOf(target: string): Declaration {
  const found = known.get(target);
  if (found) return found;
  throw new Failure(
    'target-unknown',
    `There is no target “${target}”. Known: ${declarations()
      .map(({ id }) => id)
      .join(', ')}.`,
  );
}

/** Options with their defaults filled in. @throws Failure `option-invalid` that says what is allowed */
export function parseOptions({ id, options, clash }: Declaration, given: Readonly<Record<string, unknown>>): Options {
  const parsed = options.safeParse(given);
  if (parsed.success) {
    const problem = clash?.(parsed.data as Options);
    if (problem) throw new Failure('option-invalid', problem);
    return parsed.data as Options;
  }
  const issue = parsed.error.issues[0]!;
  const what =
    issue.code === 'unrecognized_keys'
      ? `There is no option “${issue.keys.join(', ')}”`
      : `Option “${issue.path.join('.')}”: ${issue.message}`;
  throw new Failure('option-invalid', `${what}. Options of ${id}: ${Object.keys(options.shape).join(', ')}.`);
}

/** What a target is called; its own name where it is of a version that this one does not know. */
export const labelOf = (target: string): string => known.get(target)?.label ?? target;

/** The options of a target that nobody said otherwise; none where it is not known here. */
export function usualOptions(target: string): Options {
  const declaration = known.get(target);
  return declaration ? parseOptions(declaration, {}) : {};
}

/** One option of a target, as a form or a command line shows it. */
export interface OptionField {
  readonly name: string;
  readonly words: string;
  readonly kind: 'number' | 'choice' | 'yes or no' | 'text' | 'machine' | 'objects';
  /** Of a machine: the standard that its files follow. */
  readonly language: string;
  readonly default: string | number | boolean;
  readonly unit: string;
  readonly min: number | null;
  readonly max: number | null;
  readonly whole: boolean;
  /** Where it means something: for parts of one list alone, where a feature occurs, with some values of other options; empty where it always does. */
  readonly only: {
    readonly part?: string;
    readonly feature?: string;
    /** Only where a machine is named. */
    readonly machine?: boolean;
    readonly with?: Readonly<Record<string, string[]>>;
  };
  readonly choices: readonly { readonly value: string; readonly label: string }[];
}

interface JsonSchema {
  readonly type?: string;
  readonly description?: string;
  readonly default?: string | number | boolean;
  readonly fresh?: string | number | boolean;
  readonly enum?: readonly string[];
  readonly const?: string;
  readonly minimum?: number;
  readonly maximum?: number;
  readonly unit?: string;
  readonly machines?: string;
  readonly objects?: boolean;
  readonly only?: OptionField['only'];
  readonly words?: Readonly<Record<string, string>>;
}

/** The options of a target, read out of its schema. */
export function optionFields({ options, versions }: Declaration): OptionField[] {
  const { properties = {} } = z.toJSONSchema(options, { io: 'output' }) as { properties?: Record<string, JsonSchema> };
  return Object.entries(properties).map(([name, one]): OptionField => {
    // Values that look like numbers lose their place in an enumeration; versions have an order of their own.
    const listed = one.enum ?? (one.const === undefined ? undefined : [one.const]);
    const values = versions?.option === name ? versions.values : listed;
    const number = one.type === 'number' || one.type === 'integer';
    return {
      name,
      words: one.description ?? '',
      kind: one.machines
        ? 'machine'
        : one.objects
          ? 'objects'
          : values
            ? 'choice'
            : number
              ? 'number'
              : one.type === 'boolean'
                ? 'yes or no'
                : 'text',
      language: one.machines ?? '',
      default: one.fresh ?? one.default ?? '',
      unit: one.unit ?? '',
      min: number ? (one.minimum ?? null) : null,
      max: number ? (one.maximum ?? null) : null,
      whole: one.type === 'integer',
      only: one.only ?? {},
      choices: (values ?? []).map((value) => ({ value, label: one.words?.[value] ?? value })),
    };
  });
}

/** Options that new copies get where nobody says otherwise, beyond the defaults. */
export const freshOptions = (declaration: Declaration): Options =>
  Object.fromEntries(
    optionFields(declaration)
      .filter(({ name, default: fresh }) => (parseOptions(declaration, {}) as Record<string, unknown>)[name] !== fresh)
      .map(({ name, default: fresh }) => [name, fresh]),
  );

/** The version that options name, for the name of a copy; empty for a target that has only one, or for its usual one. */
export const versionIn = ({ versions, named }: Declaration, options: Options): string =>
  versions ? String(options[versions.option]) : (named?.(options) ?? '');
