import { Injectable, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { type Observable, tap } from 'rxjs';
import type { HouseView } from '@inkwell-twin/api';
import type { Preset } from '@inkwell-twin/core/web';
import { Api } from '../../services/api.service';
import { ServerEvents } from '../../services/events.service';
import { Latest } from '../../shared/latest';

/** Settings of copies that the house keeps under names. */
@Injectable()
export class Presets {
  private readonly api = inject(Api);
  private readonly latest = new Latest();
  private readonly house = signal<HouseView | null>(null);
  readonly rules = computed(() => this.house()?.rules ?? null);
  readonly all = computed(() => this.house()?.rules.presets ?? []);

  constructor() {
    this.load();
    inject(ServerEvents)
      .all.pipe(takeUntilDestroyed())
      .subscribe(({ kind }) => kind === 'again' && this.load());
  }

  private load(): void {
    // Without them everything else goes on.
    this.latest.ask(this.api.call('house'), { next: (view) => this.house.set(view) });
  }

  /** @param replace whether those go that have the name */
  keep(preset: Preset, replace: boolean): Observable<HouseView> {
    this.latest.forget();
    return this.api.call('keepPreset', {}, { preset, replace }).pipe(tap((view) => this.house.set(view)));
  }
}
