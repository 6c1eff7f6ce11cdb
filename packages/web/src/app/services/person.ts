import { Injectable, signal } from '@angular/core';
import { STRICT, browserStore } from './browser-store';

const NAME = 'inkwell-person';
const ID = 'inkwell-person-id';

/**
 * Finds or makes the id of who sits here, before anything else begins. It is kept where a killed browser does not lose it:
 * without it nobody would know whose unsent steps lie in the store.
 */
export async function knowPerson(): Promise<void> {
  try {
    const store = await browserStore();
    const kept = await store.get('self', 'id');
    if (kept) return localStorage.setItem(ID, kept);
    const made = localStorage.getItem(ID) ?? crypto.randomUUID();
    const writing = store.transaction('self', 'readwrite', STRICT);
    await Promise.all([writing.store.put(made, 'id'), writing.done]);
    localStorage.setItem(ID, made);
  } catch {
    // A browser that gives no store (a private window, a full disk) keeps the id as long as it keeps anything.
    if (!localStorage.getItem(ID)) localStorage.setItem(ID, crypto.randomUUID());
  }
}

/**
 * Who sits here. There are no accounts yet: the id tells one person's drafts from another's, the name goes onto revisions
 * and can be changed in the header.
 */
@Injectable({ providedIn: 'root' })
export class Person {
  readonly id = localStorage.getItem(ID) ?? '';
  /** Whether somebody said their name in this browser; until then it is the demo’s. */
  readonly known = signal(localStorage.getItem(NAME) !== null);
  readonly name = signal(localStorage.getItem(NAME) ?? 'Ines Okoro');

  rename(name: string): void {
    const plain = name.trim().slice(0, 80);
    if (!plain) return;
    localStorage.setItem(NAME, plain);
    this.name.set(plain);
    this.known.set(true);
  }
}
