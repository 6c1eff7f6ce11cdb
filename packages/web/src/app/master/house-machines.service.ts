import { Injectable, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { HouseView } from '@inkwell-twin/api';
import { Api } from '../services/api.service';
import { ServerEvents } from '../services/events.service';
import { Latest } from '../shared/latest';

/** The machines that the house has beside those of the bench. */
@Injectable({ providedIn: 'root' })
export class HouseMachines {
  private readonly api = inject(Api);
  private readonly latest = new Latest();
  private readonly house = signal<HouseView | null>(null);
  readonly own = computed(() => this.house()?.rules.machines ?? []);

  constructor() {
    this.load();
    inject(ServerEvents)
      .all.pipe(takeUntilDestroyed())
      .subscribe(({ kind }) => kind === 'again' && this.load());
  }

  private load(): void {
    this.latest.ask(this.api.call('house'), { next: (view) => this.house.set(view) });
  }
}
