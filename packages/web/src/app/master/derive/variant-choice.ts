import { Injectable, computed, linkedSignal, signal } from '@angular/core';
import { Failure, type Master, type VariantName, variantColumns, variantOf, variantsOf } from '@inkwell-twin/core/web';

/** Whether a derivation makes one copy, or one for each row of a table, and of which rows. */
@Injectable()
export class VariantChoice {
  /** What is derived from. */
  readonly master = signal<Master | null>(null);
  /** Whether what is derived says boards, which are what rows vary. */
  readonly fits = signal(false);
  /** The part that one looked at: where that is a table of variants, it is meant. */
  readonly seen = signal('');
  /** What rows are numbered from; empty where they are not. */
  readonly serial = signal('');
  private readonly asked = signal<string | null>(null);

  private readonly tables = computed(() => {
    const master = this.master();
    return (master?.tables ?? []).filter((one) => one.rows.length && variantColumns(master!, one).length);
  });
  /** Whether one looked at a table of variants. */
  readonly isSeen = computed(() => this.tables().some(({ id }) => id === this.seen()));
  /** The table that gives each copy a row; empty where there is to be one copy. */
  readonly table = computed(() => {
    const wanted = this.asked() ?? this.seen();
    return this.fits() ? (this.tables().find(({ id }) => id === wanted)?.id ?? '') : '';
  });
  /** How many copies there can be; nothing where there can only be one. */
  readonly counts = computed(() => {
    if (!this.fits() || !this.tables().length) return [];
    const each = this.tables().map(({ id, name, rows }) => ({
      value: id,
      label: `One for each row of ${name}: ${rows.length}`,
    }));
    return [{ value: '', label: 'One copy' }, ...each];
  });
  private readonly found = computed((): { readonly rows: readonly VariantName[]; readonly problem: string } => {
    const [master, table] = [this.master(), this.tables().find(({ id }) => id === this.table())];
    try {
      return { rows: master && table ? variantsOf(master, table, this.serial().trim()) : [], problem: '' };
    } catch (error) {
      if (!(error instanceof Failure)) throw error;
      return { rows: [], problem: error.message };
    }
  });
  readonly rows = computed(() => this.found().rows);
  /** The rows that somebody left out, and the one that is looked at; another table begins anew. */
  readonly leftOut = linkedSignal<string, ReadonlySet<string>>({ source: this.table, computation: () => new Set() });
  readonly shown = linkedSignal<string, string>({ source: this.table, computation: () => '' });
  /** The rows that become copies. */
  readonly chosen = computed(() => this.rows().filter(({ row, problem }) => !problem && !this.leftOut().has(row)));
  /** Why nothing can be written; empty where it can. */
  readonly waitsFor = computed(() => {
    if (this.found().problem) return this.found().problem;
    return this.table() && !this.chosen().length ? 'Choose a row first: each becomes a copy.' : '';
  });
  /** The master as the row that one looks at has it; null where there is none. */
  readonly varied = computed((): Master | null => {
    const [row, table, master] = [this.shown(), this.table(), this.master()];
    const one = this.rows().find((each) => each.row === row);
    return one && !one.problem && master ? variantOf(master, { table, row }) : null;
  });

  choose(table: string): void {
    this.asked.set(table);
  }

  leave(row: string, out: boolean): void {
    this.leftOut.update((before) => new Set(out ? [...before, row] : [...before].filter((one) => one !== row)));
  }
}
