import { Injectable, inject } from '@angular/core';
import type { EventView } from '@inkwell-twin/api';
import { BehaviorSubject, Observable, distinctUntilChanged, share, switchMap } from 'rxjs';
import { Person } from './person';
import { TAB } from './tab';

/**
 * What the server tells on its own: progress of jobs, verdicts that changed, who else looks at the same master. Reconnects by
 * itself; what was told meanwhile is lost, so everyone is asked to look again.
 */
@Injectable({ providedIn: 'root' })
export class ServerEvents {
  private readonly person = inject(Person);
  private readonly where = new BehaviorSubject('');
  private opened = false;

  readonly all: Observable<EventView> = this.where.pipe(
    distinctUntilChanged(),
    switchMap((master) => this.listen(master)),
    share(),
  );

  /** Says which master this window looks at; none on the Desk. */
  at(master: string): void {
    this.where.next(master);
  }

  private listen(master: string): Observable<EventView> {
    return new Observable<EventView>((subscriber) => {
      const asked = new URLSearchParams({ master, tab: TAB, person: this.person.id, name: this.person.name() });
      const source = new EventSource(`/api/events${master ? `?${asked}` : ''}`);
      source.onmessage = ({ data }: MessageEvent<string>) => subscriber.next(JSON.parse(data) as EventView);
      source.onopen = () => {
        if (this.opened) subscriber.next({ kind: 'again', master: '' });
        this.opened = true;
      };
      return () => source.close();
    });
  }
}
