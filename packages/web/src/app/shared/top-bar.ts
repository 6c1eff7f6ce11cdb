import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { RouterLink, RouterLinkActive } from '@angular/router';
import { AutoFocus } from 'primeng/autofocus';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import { map, of, switchMap, timer } from 'rxjs';
import { ServerEvents } from '../services/events.service';
import { Person } from '../services/person';
import { AtWorkButton } from './at-work-button';
import { Finder } from './finder';

/** Milliseconds without word from the server that nobody needs to know of. */
const PATIENCE = 3_000;

/** The bar across the top: our mark, where one is, and who sits here. */
@Component({
  selector: 'twin-top-bar',
  imports: [AtWorkButton, AutoFocus, Button, Dialog, Finder, FormsModule, InputText, RouterLink, RouterLinkActive],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header>
      <a routerLink="/" class="brand"><svg viewBox="0 0 28 24" width="28" height="24" aria-hidden="true">
          <path d="M9 3C6 8 3 11.500 3 15a6 6 0 0 0 12 0c0-3.500-3-7-6-12z" fill="currentColor" />
          <path
            d="M19 3c-3 5-6 8.500-6 12a6 6 0 0 0 12 0c0-3.500-3-7-6-12z"
            fill="var(--sheet)"
            stroke="currentColor"
            stroke-width="2"
          />
        </svg>
        <span>Inkwell Twin</span></a>
      <nav aria-label="Views"><a routerLink="/" routerLinkActive="here" [routerLinkActiveOptions]="{ exact: true }" ariaCurrentWhenActive="page">Desk</a><a routerLink="/bench" routerLinkActive="here" ariaCurrentWhenActive="page">Bench</a><a routerLink="/house" routerLinkActive="here" ariaCurrentWhenActive="page">House rules</a></nav>
      <ng-content />
      <span class="gap"></span>
      @if (deaf()) {
        <span class="deaf" role="status" title="Changes of others don’t show just now; it is tried again. The server is away, or tells too many browsers of changes already. What you do is kept as always.">
          No news of others</span>
      }
      <twin-at-work />
      <twin-finder />
      <ng-content select="[actions]" />
      <button
        class="person"
        type="button"
        (click)="ask()"
        [title]="person.name() + ': the name on your revisions. Click to change it.'"
        [attr.aria-label]="'Your name on revisions: ' + person.name()"
      >
        {{ initials() }}
      </button>
    </header>
    <p-dialog
      header="Who sits here"
      [modal]="true"
      [dismissableMask]="true"
      [draggable]="false"
      [resizable]="false"
      [visible]="naming()"
      (visibleChange)="naming.set($event)"
      [style]="{ width: '340px' }"
    >
      <form (ngSubmit)="rename()">
        <label for="own-name">Your name, as it stands on revisions</label>
        <input pInputText [pAutoFocus]="true" id="own-name" name="name" [(ngModel)]="name" maxlength="120" autocomplete="name" />
        <p class="ways">
          <p-button type="submit" label="Keep this name" [disabled]="!name.trim()" />
          <button type="button" class="link" (click)="naming.set(false)">Not now</button>
        </p>
      </form>
    </p-dialog>
  `,
  styles: `
    header { display: flex; align-items: center; gap: 14px; height: 52px; padding: 0 20px; background: var(--sheet); border-bottom: 1px solid var(--hairline); }
    .brand { display: flex; align-items: center; gap: 10px; color: var(--ink); font-size: 15.5px; font-weight: 700; white-space: nowrap; }
    .brand:hover { text-decoration: none; }
    nav { display: flex; gap: 16px; white-space: nowrap; }
    nav a { color: var(--ink-two); }
    nav .here { color: var(--ink); font-weight: 500; }
    .gap { flex: 1; }
    .deaf { color: var(--quiet); font-size: 12.5px; white-space: nowrap; }
    .person { width: 30px; height: 30px; border: 0; border-radius: 50%; background: var(--action-soft); color: var(--action); font-size: 11.5px; font-weight: 700; cursor: pointer; }
    @media (max-width: 1100px) { header { gap: 10px; padding: 0 12px; } .brand span { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); } }
    @media (max-width: 760px) { nav a:not(.here):not(:first-child) { display: none; } .gap { display: none; } }
    form { display: flex; flex-direction: column; gap: 8px; }
    .ways { display: flex; align-items: center; gap: 16px; margin-top: 6px; }
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

  /** Whether nothing has been heard for a while of what others do; a moment of it is no news. */
  protected readonly deaf = toSignal(
    toObservable(inject(ServerEvents).deaf).pipe(switchMap((deaf) => (deaf ? timer(PATIENCE).pipe(map(() => true)) : of(false)))),
    { initialValue: false },
  );
  protected readonly naming = signal(false);
  protected name = '';

  protected ask(): void {
    this.name = this.person.name();
    this.naming.set(true);
  }

  protected rename(): void {
    if (!this.name.trim()) return;
    this.person.rename(this.name);
    this.naming.set(false);
  }
}
