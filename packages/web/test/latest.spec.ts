import { Subject } from 'rxjs';
import { Latest } from '../src/app/shared/latest';

/** Asks each question in turn and lets the answers come in another order. @returns what was shown, in order */
function shownOf(questions: readonly (string | null)[], order: readonly number[]): string[] {
  const latest = new Latest();
  const shown: string[] = [];
  const answers = questions.map((question, i) => {
    const answer = new Subject<string>();
    latest.ask(answer, { next: (text) => shown.push(text), error: (error: string) => shown.push(error) }, '', question);
    return (): void => answer.next(`${question ?? 'any'} ${i}`);
  });
  for (const i of order) answers[i]!();
  return shown;
}

describe('the latest answer', () => {
  it('is that to the last question, whichever answer comes last', () => {
    expect(shownOf([null, null], [0, 1])).toEqual(['any 1']);
    expect(shownOf([null, null], [1, 0])).toEqual(['any 1']);
    expect(shownOf(['a', 'b'], [1, 0])).toEqual(['b 1']);
    expect(shownOf(['a', 'b', 'a'], [0, 2, 1])).toEqual(['a 2']);
  });

  it('does not wait for the end of a stream of the same questions, and never goes back to an older answer', () => {
    expect(shownOf(['a', 'a', 'a'], [0, 2, 1])).toEqual(['a 0', 'a 2']);
    expect(shownOf(['a', 'a'], [1, 0])).toEqual(['a 1']);
  });

  it('keeps matters apart, and forgets all of them', () => {
    const latest = new Latest();
    const shown: string[] = [];
    const [one, other] = [new Subject<string>(), new Subject<string>()];
    latest.ask(one, { next: (text) => shown.push(text) }, 'one');
    latest.ask(other, { next: (text) => shown.push(text) }, 'other');
    one.next('of one');
    latest.forget();
    other.next('of the other');
    expect(shown).toEqual(['of one']);
  });

  it('of a failure shows it, and not what was older', () => {
    const latest = new Latest();
    const shown: string[] = [];
    const [one, other] = [new Subject<string>(), new Subject<string>()];
    latest.ask(one, { next: (text) => shown.push(text) }, '', 'a');
    latest.ask(other, { error: () => shown.push('failed') }, '', 'a');
    other.error(new Error());
    one.next('older');
    expect(shown).toEqual(['failed']);
  });
});
