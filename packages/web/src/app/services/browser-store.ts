import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import type { DraftAct } from './draft-acts';

/** An act that the server has not acknowledged, and whose it is. */
export interface KeptAct {
  readonly person: string;
  readonly master: string;
  /** The window that made it; one that is still open sends it itself. */
  readonly window: string;
  readonly act: DraftAct;
}
export interface Store extends DBSchema {
  unsent: { key: number; value: KeptAct; indexes: { of: [string, string] } };
  /** Who sits here. */
  self: { key: 'id'; value: string };
}

/** Strict: on disk, not in a buffer, when a promise is kept. */
export const STRICT = { durability: 'strict' } as const;

let opened: Promise<IDBPDatabase<Store>> | undefined;

/** The browser's own store, where what must survive a killed browser is kept. @throws where the browser gives none */
export const browserStore = (): Promise<IDBPDatabase<Store>> =>
  (opened ??= openDB<Store>('inkwell-twin', 1, {
    upgrade: (store) => {
      store.createObjectStore('unsent', { autoIncrement: true }).createIndex('of', ['person', 'master']);
      store.createObjectStore('self');
    },
  }));
