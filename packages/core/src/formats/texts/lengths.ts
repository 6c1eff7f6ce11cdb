const UNITS: Readonly<Record<string, number>> = { mm: 1, cm: 10, in: 25.4, pt: 25.4 / 72, pc: 25.4 / 6, q: 0.25, px: 25.4 / 96 };

/** Millimetres of a length with a unit (CSS Values 4, 6.2; ODF 1.3-3, 18.3.18); 0 where it is none. A number alone is one of pixels. */
export function lengthInMm(text: string | undefined): number {
  const found = /^([\d.]+)\s*([a-z]*)$/i.exec((text ?? '').trim());
  const unit = UNITS[found?.[2]?.toLowerCase() || 'px'];
  return found && unit ? Number(found[1]) * unit || 0 : 0;
}
