/** What stands before or behind a number and says what it is of: currencies and shares. */
const UNITS = [...'€$£¥₹₽₩', ...'EUR USD GBP CHF JPY CNY SEK NOK DKK PLN CZK HUF INR AUD CAD Fr. kr zł Kč'.split(' ')];
const BEHIND = [...UNITS, '%', '‰'];
const isSign = (letter: string | undefined): boolean => letter === '+' || letter === '-' || letter === '\u2212';
const isDigit = (letter: string | undefined): boolean => letter !== undefined && letter >= '0' && letter <= '9';

/** A number apart from its currency or share; as it stands, and without a unit, where it has none. */
export function withoutAffix(text: string): { readonly number: string; readonly unit: string } {
  const word = text.trim();
  const none = { number: word, unit: '' };
  const sign = isSign(word[0]) ? word[0]! : '';
  const rest = word.slice(sign.length).trimStart();
  if (isDigit(rest[0])) {
    const unit = BEHIND.find((one) => rest.endsWith(one));
    return unit ? { number: sign + rest.slice(0, -unit.length).trimEnd(), unit } : none;
  }
  const unit = UNITS.find((one) => rest.startsWith(one));
  const number = unit ? rest.slice(unit.length).trimStart() : '';
  return unit && isDigit(number.at(-1)) && (!sign || !isSign(number[0])) ? { number: sign + number, unit } : none;
}

/** The unit that all words of a column carry; empty where they carry none, or not the same. */
export function commonUnit(words: readonly string[]): string {
  let unit = '';
  for (const word of words) {
    if (!word.trim()) continue;
    const found = withoutAffix(word).unit;
    if (!found || (unit && found !== unit)) return '';
    unit = found;
  }
  return unit;
}
