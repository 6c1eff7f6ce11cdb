import { Injectable, inject } from '@angular/core';
import type { BenchView } from '@inkwell-twin/api';
import { EMPTY, type Observable, Subject, catchError, merge, shareReplay, switchMap, timer } from 'rxjs';
import { Api } from '../services/api.service';

/** Between two looks at what the machines say, ms. They lie in folders of a network that tells nobody of a change. */
const PAUSE = 2000;

/** The machines of the house, as they are while somebody looks. */
@Injectable({ providedIn: 'root' })
export class Machines {
  private readonly api = inject(Api);
  private readonly again = new Subject<void>();
  readonly view: Observable<BenchView> = merge(timer(0, PAUSE), this.again).pipe(
    // One answer that fails is not the last.
    switchMap(() => this.api.call('bench').pipe(catchError(() => EMPTY))),
    shareReplay({ bufferSize: 1, refCount: true }),
  );

  /** Looks at once: something was just asked of a machine. */
  look(): void {
    this.again.next();
  }
}
