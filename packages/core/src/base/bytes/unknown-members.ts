/** Members that a reader knows: by name, a list of things of one kind, or `true` where what is in it is read or says nothing. */
export type Known = true | readonly [Known] | { readonly [member: string]: Known };

/**
 * Tells of members of a document that its reader does not know: what they say would be lost in silence.
 * @param tell is called with the name of each
 */
export function unknownMembers(value: unknown, known: Known, report: (member: string) => void): void {
  if (known === true || typeof value !== 'object' || value === null) return;
  if (Array.isArray(known)) {
    if (Array.isArray(value)) for (const one of value) unknownMembers(one, (known as readonly [Known])[0], report);
    return;
  }
  const members = known as { readonly [member: string]: Known };
  for (const [member, held] of Object.entries(value))
    if (Object.hasOwn(members, member)) unknownMembers(held, members[member]!, report);
    else report(member.slice(0, 60));
}
