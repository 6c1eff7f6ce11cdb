import { Injectable, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Subject, catchError, debounceTime, map, merge, of, switchMap, takeUntil, timer } from 'rxjs';
import type { AnswerOf, BodyOf } from '@inkwell-twin/api';
import { Api } from '../../services/api.service';

type Carry = AnswerOf<'carry'>;
type Recipe = BodyOf<'carry'>;

interface Question {
  readonly master: string;
  readonly recipe: Recipe;
}

interface Answer {
  readonly key: string;
  readonly carry: Carry | null;
  readonly problem: string;
}

/** While one chooses, nothing is asked for so long, ms. */
const PAUSE = 120;
/** After so long without an answer, it is asked what becomes of the document without the size of the copy, ms. */
const SOON = 700;

const keyOf = ({ master, recipe }: Question): string => JSON.stringify([master, recipe]);

/** What becomes of a document in a copy, and how large that is. What it says is always of what was asked last. */
@Injectable()
export class Forecast {
  private readonly api = inject(Api);
  private readonly question = signal<Question | null>(null);
  private readonly asked = new Subject<Question>();
  private readonly answer = signal<Answer | null>(null);
  private readonly current = computed(() => {
    const [question, answer] = [this.question(), this.answer()];
    return question && answer?.key === keyOf(question) ? answer : null;
  });
  /** The report of what is asked; null until it is here. */
  readonly carry = computed(() => this.current()?.carry ?? null);
  readonly problem = computed(() => this.current()?.problem ?? '');
  /** Whether the size is still being worked out. */
  readonly sizing = computed(() => this.carry()?.rungs.some(({ bytes }) => bytes === null) ?? false);

  constructor() {
    this.asked
      .pipe(
        debounceTime(PAUSE),
        switchMap((question) => {
          const full = this.call(question, false);
          // A report without sizes comes soon where writing the copy takes long; the whole answer ends it.
          const done = new Subject<void>();
          const soon = timer(SOON).pipe(
            switchMap(() => this.call(question, true)),
            takeUntil(done),
          );
          return merge(
            soon,
            full.pipe(
              map((answer) => {
                done.next();
                return answer;
              }),
            ),
          );
        }),
        takeUntilDestroyed(),
      )
      .subscribe((answer) => this.answer.set(answer));
  }

  private call(question: Question, quick: boolean) {
    const key = keyOf(question);
    return this.api.call('carry', { id: question.master }, { ...question.recipe, quick }).pipe(
      map((carry): Answer => ({ key, carry, problem: '' })),
      catchError((error: Error) => of<Answer>({ key, carry: null, problem: error.message })),
    );
  }

  ask(master: string, recipe: Recipe): void {
    this.question.set({ master, recipe });
    this.asked.next({ master, recipe });
  }

  /** Asks the same once more. */
  again(): void {
    const question = this.question();
    this.answer.set(null);
    if (question) this.asked.next(question);
  }
}
