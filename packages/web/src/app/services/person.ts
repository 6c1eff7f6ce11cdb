import { Injectable, signal } from '@angular/core';

const KEY = 'inkwell-person';

/** Who sits here. There are no accounts yet: the name goes onto revisions and can be changed in the header. */
@Injectable({ providedIn: 'root' })
export class Person {
  readonly name = signal(localStorage.getItem(KEY) ?? 'Ines Okoro');

  rename(name: string): void {
    const plain = name.trim().slice(0, 80);
    if (!plain) return;
    localStorage.setItem(KEY, plain);
    this.name.set(plain);
  }
}
