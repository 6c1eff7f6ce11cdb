import { Failure } from '../base/failure/failure';

/** More is cut off by who reads it (ISO 32000-2, 7.6.4.3.3), so that a part of it would open the copy. */
const MOST_BYTES = 127;
/** Fewer letters are found by trying in a day or so. */
const STRONG = 12;

/** What is weak about a password, in words; empty where nothing is. */
export function passwordWeakness(password: string): string {
  const letters = [...password].length;
  if (letters < STRONG)
    return `A password of ${letters === 1 ? '1 letter' : `${letters} letters`} is soon found by trying: take ${STRONG} or more.`;
  return new Set(password).size < 5 ? 'A password of so few different letters is soon found by trying.' : '';
}

/** @throws Failure `password-invalid` for none, or one that is longer than a file can hold */
export function assertPassword(password: string): void {
  if (!password) throw new Failure('password-invalid', 'The password is empty. A copy without one is not locked at all.');
  const bytes = new TextEncoder().encode(password).length;
  if (bytes > MOST_BYTES)
    throw new Failure(
      'password-invalid',
      `The password has ${bytes} bytes; a file takes ${MOST_BYTES}, and would let in whoever has the first ${MOST_BYTES}. Take a shorter one.`,
    );
  if (/[\u0000-\u001f\u007f]/.test(password))
    throw new Failure('password-invalid', 'The password holds a control character, which nobody can type again.');
}
