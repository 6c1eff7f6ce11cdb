import type { DraftView } from '@inkwell-twin/api';
import type { Master, Step } from '@inkwell-twin/core/web';

/** Something done to a draft that the server has to acknowledge: steps that build on a hash, or undo and redo to one. */
export type DraftAct =
  | {
      readonly kind: 'add';
      readonly base: number;
      readonly position: number;
      readonly hash: string;
      readonly steps: readonly Step[];
    }
  | { readonly kind: 'move'; readonly position: number; readonly hash: string };

/** A document at a revision, of one life of its master. */
export interface Resting {
  readonly life: string;
  readonly base: number;
  readonly document: Master;
}

/** What the server has of one's draft of a master, and what it rests on: the head where there is none. */
export interface There extends Resting {
  readonly draft: DraftView | null;
}

/** The server, as far as drafts go. Its failures say what they mean. */
export interface DraftServer {
  send(act: DraftAct): Promise<unknown>;
  replace(body: { base: number; replaces: string; steps: readonly Step[] }): Promise<unknown>;
  look(): Promise<There>;
  /** The head, whatever one's draft rests on. */
  newest(): Promise<Resting>;
}

export interface Outbox {
  keep(act: DraftAct): Promise<() => Promise<void>>;
}

/** Why a call failed: to be tried again, not fitting what is there, or not to be had. */
export type Trouble = 'away' | 'conflict' | 'refused';
