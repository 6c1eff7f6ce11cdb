import { Injectable } from '@angular/core';
import type { EventView } from '@inkwell-twin/api';
import { Observable, share } from 'rxjs';

/** What the server tells on its own: progress of jobs, verdicts that changed. Reconnects by itself. */
@Injectable({ providedIn: 'root' })
export class ServerEvents {
  readonly all: Observable<EventView> = new Observable<EventView>((subscriber) => {
    const source = new EventSource('/api/events');
    source.onmessage = ({ data }: MessageEvent<string>) => subscriber.next(JSON.parse(data) as EventView);
    return () => source.close();
  }).pipe(share());
}
