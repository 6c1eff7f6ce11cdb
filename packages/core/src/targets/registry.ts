import { Failure } from '../failure/failure';
import { dxf } from './dxf/target';
import { hpgl } from './hpgl/target';
import { svg } from './svg/target';
import type { OptionValues, Target } from './target';

/** All targets, in the order in which they are offered. */
export const TARGETS: readonly Target[] = [svg, dxf, hpgl];

/** @throws Failure `target-unknown` that lists the known ones */
export function targetById(id: string): Target {
  const target = TARGETS.find((one) => one.id === id);
  if (target) return target;
  throw new Failure('target-unknown', `There is no target “${id}”. Known: ${TARGETS.map((one) => one.id).join(', ')}.`);
}

/** Options with their defaults filled in. @throws Failure `option-invalid` that says what is allowed */
export function parseOptions(target: Target, given: Readonly<Record<string, unknown>>): OptionValues {
  const parsed = target.options.safeParse(given);
  if (parsed.success) return parsed.data as OptionValues;
  const issue = parsed.error.issues[0]!;
  const known = Object.keys(target.options.shape).join(', ');
  const what =
    issue.code === 'unrecognized_keys'
      ? `There is no option “${issue.keys.join(', ')}”`
      : `Option “${issue.path.join('.')}”: ${issue.message}`;
  throw new Failure('option-invalid', `${what}. Options of ${target.id}: ${known}.`);
}

/** The values that an option of a target can have, in order; none for one that is a number. */
export function optionValues(target: Target, name: string): readonly string[] {
  if (name === 'version' && target.versions.length) return target.versions;
  return (
    (target.options.shape[name] as { def?: { innerType?: { options?: string[] } } } | undefined)?.def?.innerType?.options ?? []
  );
}

/** The target whose files look like these bytes, or undefined. */
export function recognise(bytes: Uint8Array): Target | undefined {
  const start = new TextDecoder('latin1').decode(bytes.subarray(0, 4096));
  return TARGETS.find((target) => target.recognise(start));
}
