import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Person } from '../services/person';

/** The bar across the top: our mark, where one is, and who sits here. */
@Component({
  selector: 'twin-top-bar',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header>
      <a routerLink="/" class="brand"><img src="mark.svg" alt="" width="28" height="24" /> Inkwell Twin</a>
      <nav aria-label="Views"><a routerLink="/" class="here">Desk</a></nav>
      <ng-content />
      <span class="gap"></span>
      <ng-content select="[actions]" />
      <button
        class="person"
        type="button"
        (click)="rename()"
        [title]="person.name() + ': the name on your revisions. Click to change it.'"
        [attr.aria-label]="'Your name on revisions: ' + person.name()"
      >
        {{ initials() }}
      </button>
    </header>
  `,
  styles: `
    header { display: flex; align-items: center; gap: 14px; height: 52px; padding: 0 20px; background: var(--sheet); border-bottom: 1px solid var(--hairline); }
    .brand { display: flex; align-items: center; gap: 10px; color: var(--ink); font-size: 15.5px; font-weight: 700; white-space: nowrap; }
    .brand:hover { text-decoration: none; }
    nav { display: flex; gap: 16px; }
    .here { color: var(--ink); font-weight: 500; }
    .gap { flex: 1; }
    .person { width: 30px; height: 30px; border: 0; border-radius: 50%; background: var(--action-soft); color: var(--action); font-size: 11.5px; font-weight: 700; cursor: pointer; }
    @media (prefers-color-scheme: dark) {
      img { filter: invert(0.9); }
    }
  `,
})
export class TopBar {
  protected readonly person = inject(Person);
  protected readonly initials = computed(() =>
    this.person
      .name()
      .split(/\s+/)
      .map((part) => part[0]!.toUpperCase())
      .slice(0, 2)
      .join(''),
  );

  protected rename(): void {
    const name = window.prompt('Your name, as it stands on revisions', this.person.name());
    if (name !== null) this.person.rename(name);
  }
}
