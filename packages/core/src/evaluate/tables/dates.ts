/** Dates are ISO 8601: a day, or a day with a time to the minute or second. */
const ISO = /^(\d{4})-(\d{2})-(\d{2})(?:[T ](\d{2}):(\d{2})(?::(\d{2})(?:\.\d+)?)?)?Z?$/;
const DAY = 86_400_000;

/** Days since 1970-01-01, with a share of a day for a time; NaN where it is no date that there is. */
export function daysOf(text: string): number {
  const found = ISO.exec(text);
  if (!found) return NaN;
  const [year, month, day, hour, minute, second] = found.slice(1).map((part) => Number(part ?? 0)) as number[];
  const at = new Date(0);
  at.setUTCFullYear(year!, month! - 1, day);
  if (at.getUTCMonth() !== month! - 1 || at.getUTCDate() !== day || hour! > 24 || minute! > 59 || second! > 60) return NaN;
  return at.getTime() / DAY + (hour! * 3600 + minute! * 60 + second!) / 86_400;
}

/** The date of a count of days; with its time to the second where it has one. */
export function dateOf(days: number): string {
  // 9999-12-31 is the last that has four digits.
  if (!(days > -719_529 && days < 2_932_897)) return '';
  const text = new Date(Math.round(days * 86_400) * 1000).toISOString();
  const time = text.slice(11, 19);
  return time === '00:00:00' ? text.slice(0, 10) : `${text.slice(0, 10)}T${time.endsWith(':00') ? time.slice(0, 5) : time}`;
}
