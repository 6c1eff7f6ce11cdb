import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { type PresentView, publicPerson } from '@inkwell-twin/api';
import { Person } from '../services/person';
import { TAB } from '../services/tab';

/** Who else looks at this master now, oneself in another window included. */
@Component({
  selector: 'twin-here',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `@if (words()) {
    <span role="status" [title]="title()"><i class="pi pi-eye" aria-hidden="true"></i> {{ words() }}</span>
  }`,
  styles: `
    :host { display: block; flex: 0 1 auto; min-width: 0; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; color: var(--quiet); font-size: 12.5px; }
    .pi { font-size: 11px; }
  `,
})
export class Here {
  readonly tabs = input.required<readonly PresentView[]>();
  private readonly me = publicPerson(inject(Person).id);

  private readonly others = computed(() => [
    ...new Set(
      this.tabs()
        .filter(({ person }) => person !== this.me)
        .map(({ name }) => name || 'someone'),
    ),
  ]);
  private readonly mine = computed(() => this.tabs().some(({ tab, person }) => person === this.me && tab !== TAB));

  protected readonly words = computed(() => {
    const others = this.others();
    const named = others.length > 2 ? `${others.slice(0, 2).join(', ')} and ${others.length - 2} more` : others.join(' and ');
    return [
      ...(others.length ? [`${named} ${others.length > 1 ? 'are' : 'is'} here`] : []),
      ...(this.mine() ? ['open in another window of yours'] : []),
    ].join(', ');
  });
  protected readonly title = computed(() =>
    [
      ...(this.others().length
        ? [`Looking at this master now: ${this.others().join(', ')}. Each has a draft of their own.`]
        : []),
      ...(this.mine() ? ['Both windows hold one draft: what you change in one shows in the other.'] : []),
    ].join(' '),
  );
}
