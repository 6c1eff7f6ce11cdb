/** A name and a unit as they stand in one heading: “Gloss (GU)”. */
export const inHeading = (name: string, unit: string): string => (unit ? `${name} (${unit})` : name);

/** A heading as a name and a unit: what stands last, in brackets, without a blank. */
export function fromHeading(text: string): { name: string; unit: string } {
  const found = /^(.*\S)\s*\(([^()\s]{1,12}|[^()\s]{1,8} [^()\s]{1,8})\)$/s.exec(text.trim());
  return found ? { name: found[1]!, unit: found[2]! } : { name: text.trim(), unit: '' };
}
