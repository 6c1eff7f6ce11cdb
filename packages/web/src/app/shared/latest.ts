import { type Observable, type Observer, Subscription, tap } from 'rxjs';

interface Running {
  readonly question: string;
  readonly subscriptions: Subscription[];
}

/**
 * Asks the server where the same is asked again and again, so that no answer that comes late replaces a newer one. Of each matter
 * only the last question is answered. Where the same question is asked anew before it is answered, as whenever the server tells of
 * a change, the first answer is taken, too: otherwise a stream of changes would leave one waiting until its end.
 */
export class Latest {
  private readonly running = new Map<string, Running>();

  /**
   * @param about what is asked about, where one owner asks about several matters side by side
   * @param question tells one question about it from another; without it, each is another
   */
  ask<T>(asked: Observable<T>, answer: Partial<Observer<T>>, about = '', question: string | null = null): void {
    const before = this.running.get(about);
    const kept = question !== null && before?.question === question ? before : null;
    if (!kept) before?.subscriptions.forEach((one) => one.unsubscribe());
    const { subscriptions } = kept ?? this.begin(about, question ?? '');
    const own = new Subscription();
    subscriptions.push(own);
    const older = (): void => subscriptions.splice(0, subscriptions.indexOf(own)).forEach((one) => one.unsubscribe());
    own.add(asked.pipe(tap({ next: older, error: older })).subscribe(answer));
  }

  private begin(about: string, question: string): Running {
    const begun = { question, subscriptions: [] };
    this.running.set(about, begun);
    return begun;
  }

  /** What was asked is of no interest any more. */
  forget(): void {
    for (const { subscriptions } of this.running.values()) subscriptions.forEach((one) => one.unsubscribe());
    this.running.clear();
  }
}
