import { Injectable, signal } from '@angular/core';

const NAME = 'inkwell-person';
const ID = 'inkwell-person-id';

/** An id for who sits here, made once and kept in this browser. */
function ownId(): string {
  const known = localStorage.getItem(ID);
  if (known) return known;
  const made = crypto.randomUUID();
  localStorage.setItem(ID, made);
  return made;
}

/**
 * Who sits here. There are no accounts yet: the id tells one person's drafts from another's, the name goes onto revisions
 * and can be changed in the header.
 */
@Injectable({ providedIn: 'root' })
export class Person {
  readonly id = ownId();
  readonly name = signal(localStorage.getItem(NAME) ?? 'Ines Okoro');

  rename(name: string): void {
    const plain = name.trim().slice(0, 80);
    if (!plain) return;
    localStorage.setItem(NAME, plain);
    this.name.set(plain);
  }
}
