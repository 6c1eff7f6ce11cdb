import { type Group, Refused } from './groups';
import type { Place } from './shapes';

/** What stands between one group 0 and the next. */
export interface Entity {
  readonly type: string;
  readonly at: number;
  readonly groups: Group[];
}

/** The first value of a group. */
export const text = ({ groups }: Entity, code: number): string | undefined => groups.find((group) => group.code === code)?.value;

/** The value of a group as a number. @throws Refused */
export function asNumber({ code, value, at }: Group): number {
  const found = Number(value);
  if (!Number.isFinite(found)) throw new Refused(at, `group ${code} is no number: “${value.slice(0, 20)}”`);
  return found;
}

/** The first value of a group as a number. @throws Refused */
export function number({ groups }: Entity, code: number): number | undefined {
  const group = groups.find((one) => one.code === code);
  return group && asNumber(group);
}

/** All values of a group as numbers. @throws Refused */
export const all = ({ groups }: Entity, code: number): number[] =>
  groups.flatMap((group) => (group.code === code ? [asNumber(group)] : []));

/** A place by its first group. @throws Refused */
export const place = (entity: Entity, code: number): Place => [number(entity, code) ?? 0, number(entity, code + 10) ?? 0];

/** The places of a group that comes several times. @throws Refused */
export function places(entity: Entity, code: number): Place[] {
  const [xs, ys] = [all(entity, code), all(entity, code + 10)];
  if (xs.length !== ys.length) throw new Refused(entity.at, `${entity.type} has ${xs.length} places and ${ys.length} heights`);
  return xs.map((x, i): Place => [x, ys[i]!]);
}

/** Whether a bit of the flags of group 70 is set. @throws Refused */
export const isSet = (entity: Entity, bit: number): boolean => ((number(entity, 70) ?? 0) & bit) !== 0;

interface Section {
  readonly head: Group[];
  readonly entities: Entity[];
}

/** The sections of a file: what stands before their first entity, and those. @throws Refused */
export function sectionsOf(groups: readonly Group[]): Map<string, Section> {
  const sections = new Map<string, Section>();
  let open: Section | null = null;
  groups.forEach((group, i) => {
    const value = group.value.trim();
    if (group.code === 0 && value === 'SECTION') {
      const name = groups[i + 1];
      if (name?.code !== 2) throw new Refused(group.at, 'a section has no name');
      sections.set(name.value.trim(), (open = { head: [], entities: [] }));
    } else if (group.code === 0 && (value === 'ENDSEC' || value === 'EOF')) {
      if (value === 'EOF' && open) throw new Refused(group.at, 'a section has no end');
      open = null;
    } else if (open && group.code === 0) open.entities.push({ type: value, at: group.at, groups: [] });
    else if (open) (open.entities.at(-1)?.groups ?? open.head).push(group);
    else if (group.code === 0) throw new Refused(group.at, `${value} stands in no section`);
  });
  return sections;
}
