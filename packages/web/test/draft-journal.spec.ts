import fc from 'fast-check';
import type { DraftView } from '@inkwell-twin/api';
import {
  type Master,
  type Step,
  applyPatches,
  changesBetween,
  journalHash,
  journalHashes,
  nodeHash,
  setAttribute,
  stepOf,
} from '@inkwell-twin/core';
import { masterWith, rectangle } from '../../core/test/build';
import type { DraftAct, DraftServer, Trouble } from '../src/app/services/draft-acts';
import { DraftJournal } from '../src/app/services/draft-journal';

class ServerError extends Error {
  constructor(readonly trouble: Trouble) {
    super(trouble);
  }
}
const start = masterWith(['a', 'b', 'c'].map((id, i) => rectangle(id, i * 50, 10)));
const applied = (master: Master, steps: readonly Step[]) =>
  steps.reduce((now, { forward }) => applyPatches(now, forward).master, master);

/** The server's side of the agreement, in memory: a step fits or is refused with what is there. */
class FakeServer implements DraftServer {
  life = 'l1';
  base = 1;
  document = start;
  steps: Step[] = [];
  position = 0;
  /** What the next calls come to: done, done but with its answer lost, or never arrived. */
  luck: ('done' | 'answer lost' | 'lost')[] = [];
  calls = 0;

  private hashes = () => journalHashes(this.life, this.base, this.steps);

  private receive(act: DraftAct): void {
    const hashes = this.hashes();
    if (act.kind === 'move') {
      if (hashes[act.position] !== act.hash) throw new ServerError('conflict');
      this.position = act.position;
      return;
    }
    const reached = act.steps.reduce(journalHash, act.hash);
    const end = act.position + act.steps.length;
    if (hashes[act.position] === act.hash && hashes[end] === reached && this.position >= end) return;
    if (act.base !== this.base || act.position !== this.position || hashes[act.position] !== act.hash)
      throw new ServerError('conflict');
    this.steps = [...this.steps.slice(0, act.position), ...(JSON.parse(JSON.stringify(act.steps)) as Step[])];
    this.position = this.steps.length;
  }

  async send(act: DraftAct): Promise<void> {
    this.calls++;
    const luck = this.luck.shift() ?? 'done';
    await Promise.resolve();
    if (luck === 'lost') throw new ServerError('away');
    this.receive(act);
    if (luck === 'answer lost') throw new ServerError('away');
  }
  async replace({ base, replaces, steps }: { base: number; replaces: string; steps: readonly Step[] }): Promise<void> {
    if (this.hashes()[this.position] !== replaces || base !== this.base + 1) throw new ServerError('conflict');
    this.moveOn();
    this.steps = [...steps];
    this.position = steps.length;
  }
  private newer: Master | null = null;
  /** Somebody else updates: the head is another, one's draft stays on its base until it is carried over. */
  overtake(document: Master): void {
    this.newer = document;
  }
  /** It is deleted for good, and brought in again from a backup. */
  liveAgain(document: Master): void {
    this.life += ' and another';
    this.document = document;
    this.steps = [];
    this.position = 0;
  }
  private moveOn(): void {
    this.base++;
    this.document = this.newer!;
    this.newer = null;
  }
  draft = (): DraftView | null =>
    this.steps.length
      ? {
          base: this.base,
          position: this.position,
          steps: this.steps as never,
          hash: this.hashes()[this.position]!,
          updatedAt: '',
          unclaimed: false,
        }
      : null;
  async look() {
    return { life: this.life, base: this.base, document: this.document, draft: this.draft() };
  }
  async newest() {
    const { life } = this;
    return this.newer ? { life, base: this.base + 1, document: this.newer } : { life, base: this.base, document: this.document };
  }
  get result(): Master {
    return applied(this.document, this.steps.slice(0, this.position));
  }
}

/** A browser's own store: what is in it survives the window. */
class FakeOutbox {
  readonly held = new Map<number, DraftAct>();
  private next = 0;
  async keep(act: DraftAct) {
    const key = this.next++;
    this.held.set(key, JSON.parse(JSON.stringify(act)) as DraftAct);
    return async () => void this.held.delete(key);
  }
}
const troubleOf = (error: unknown): Trouble => (error as ServerError).trouble ?? 'refused';

async function openOn(server: FakeServer, outbox = new FakeOutbox(), left: readonly DraftAct[] = []) {
  const journal = new DraftJournal(
    server,
    outbox,
    troubleOf,
    () => undefined,
    () => Promise.resolve(),
  );
  journal.open(await server.look(), left, async () => outbox.held.clear());
  if (journal.offered) journal.resume();
  return { journal, outbox };
}
const move = (journal: DraftJournal, id: string, x: number) => journal.do(setAttribute(journal.document!, id, 'x', x));

describe('the way of a draft to the server', () => {
  it('loses nothing and doubles nothing, whatever is lost on the way, with undo and redo at any moment', async () => {
    const acts = fc.array(
      fc.oneof(fc.tuple(fc.constantFrom('a', 'b', 'c'), fc.nat(90)), fc.constantFrom('undo', 'redo', 'wait')),
      {
        minLength: 1,
        maxLength: 14,
      },
    );
    const luck = fc.array(fc.constantFrom('done' as const, 'done' as const, 'answer lost' as const, 'lost' as const), {
      maxLength: 20,
    });
    await fc.assert(
      fc.asyncProperty(acts, luck, async (list, fate) => {
        const server = new FakeServer();
        server.luck = [...fate];
        const { journal, outbox } = await openOn(server);
        for (const act of list)
          if (act === 'undo') journal.undo();
          else if (act === 'redo') journal.redo();
          else if (act === 'wait') await Promise.resolve();
          else move(journal, ...act);
        await journal.settled();
        await new Promise((done) => setTimeout(done));
        expect(journal.saving).toBe('kept');
        expect([server.position, server.steps.length]).toEqual([journal.position, journal.steps.length]);
        expect(nodeHash(server.result)).toBe(nodeHash(journal.document!));
        expect(outbox.held.size).toBe(0);
      }),
    );
  });

  it('two windows of one person that follow each other end alike, whatever each does and when', async () => {
    const acts = fc.array(
      fc.tuple(
        fc.constantFrom(0, 1),
        fc.oneof(fc.tuple(fc.constantFrom('a', 'b', 'c'), fc.nat(90)), fc.constantFrom('undo', 'redo', 'wait', 'follow')),
      ),
      { minLength: 1, maxLength: 14 },
    );
    await fc.assert(
      fc.asyncProperty(acts, async (list) => {
        const server = new FakeServer();
        const windows = [(await openOn(server)).journal, (await openOn(server)).journal];
        for (const [of, act] of list) {
          const journal = windows[of]!;
          if (act === 'undo') journal.undo();
          else if (act === 'redo') journal.redo();
          else if (act === 'wait') await journal.settled();
          else if (act === 'follow') await journal.follow();
          else move(journal, ...act);
          journal.meeting?.settle(new Map());
        }
        for (let round = 0; round < 3; round++)
          for (const journal of windows) {
            await journal.settled();
            journal.meeting?.settle(new Map());
            await journal.settled();
            await journal.follow();
          }
        for (const journal of windows) {
          expect(journal.saving).toBe('kept');
          expect(nodeHash(journal.document!)).toBe(nodeHash(server.result));
          expect(journal.position).toBe(server.position);
        }
      }),
    );
  });

  it('carries what was done over onto a master that was deleted and brought in again, and mistakes neither for the other', async () => {
    const server = new FakeServer();
    const { journal } = await openOn(server);
    move(journal, 'a', 5);
    await journal.settled();
    // Another master by now, at the same revision: what it says of the others stays.
    server.liveAgain(applied(start, [stepOf(start, 'Moved', setAttribute(start, 'c', 'x', 77).patches).step]));
    move(journal, 'b', 6);
    await journal.settled();
    const at = (id: string) => server.result.boards[0]!.items.find((item) => item.id === id);
    expect([at('b'), at('c')]).toMatchObject([{ x: 6 }, { x: 77 }]);
    expect(nodeHash(journal.document!)).toBe(nodeHash(server.result));
  });

  it('holds everything that was not acknowledged in the browser’s own store, from the moment it shows', async () => {
    const server = new FakeServer();
    server.luck = Array<'lost'>(1000).fill('lost');
    const outbox = new FakeOutbox();
    const stuck = new DraftJournal(
      server,
      outbox,
      troubleOf,
      () => undefined,
      () => new Promise(() => undefined),
    );
    stuck.open(await server.look());
    move(stuck, 'a', 5);
    move(stuck, 'b', 6);
    stuck.undo();
    await Promise.resolve();
    expect([...outbox.held.values()].map(({ kind }) => kind)).toEqual(['add', 'add', 'move']);
    // The window is gone; the next one takes up what it left.
    server.luck = [];
    const { journal } = await openOn(server, outbox, [...outbox.held.values()]);
    await journal.settled();
    await new Promise((done) => setTimeout(done));
    expect(journal.position).toBe(1);
    expect(journal.document!.boards[0]!.items[0]).toMatchObject({ x: 5 });
    expect(nodeHash(server.result)).toBe(nodeHash(journal.document!));
    expect(outbox.held.size).toBe(0);
  });

  it('brings two windows of one person together, in whichever order their steps arrive', async () => {
    const which = fc.array(fc.tuple(fc.constantFrom(0, 1), fc.nat(90)), { minLength: 2, maxLength: 8 });
    await fc.assert(
      fc.asyncProperty(which, async (list) => {
        const server = new FakeServer();
        const windows = [(await openOn(server)).journal, (await openOn(server)).journal];
        const last: Record<string, number> = {};
        for (const [one, x] of list) {
          // Each changes an object of its own: they never mean the same.
          const id = one ? 'a' : 'b';
          move(windows[one]!, id, x + 1);
          last[id] = x + 1;
          await Promise.resolve();
        }
        for (const window of windows) await window.settled();
        expect(windows.map(({ meeting, saving }) => [meeting, saving])).toEqual([
          [null, 'kept'],
          [null, 'kept'],
        ]);
        for (const [id, x] of Object.entries(last))
          expect(server.result.boards[0]!.items.find((item) => item.id === id)).toMatchObject({ x });
      }),
    );
  });

  it('shows both sides where two windows changed the same, and goes on with what was chosen', async () => {
    for (const [choice, x] of [
      ['mine', 9],
      ['theirs', 4],
    ] as const) {
      const server = new FakeServer();
      const [one, two] = [(await openOn(server)).journal, (await openOn(server)).journal];
      move(one, 'a', 4);
      await one.settled();
      move(two, 'a', 9);
      move(two, 'b', 77);
      await two.settled();
      expect(two.meeting!.clashes).toMatchObject([{ what: 'rectangle: place across', mine: '9', theirs: '4' }]);
      // Until somebody chose, nothing more is done and nothing was dropped.
      move(two, 'c', 1);
      expect(two.document!.boards[0]!.items[1]).toMatchObject({ x: 77 });
      expect(server.steps).toHaveLength(1);
      two.meeting!.settle(new Map([['a x', choice]]));
      await two.settled();
      expect(server.result.boards[0]!.items).toMatchObject([{ x }, { x: 77 }, { x: 100 }]);
      expect(nodeHash(server.result)).toBe(nodeHash(two.document!));
    }
  });

  it('carries a whole draft over onto what somebody else made of the master', async () => {
    const server = new FakeServer();
    const { journal } = await openOn(server);
    move(journal, 'a', 4);
    move(journal, 'b', 8);
    await journal.settled();
    server.overtake(applyPatches(start, setAttribute(start, 'c', 'x', 50).patches).master);
    await journal.carryOver();
    expect([journal.base, journal.position, server.base]).toEqual([2, 2, 2]);
    expect(server.result.boards[0]!.items).toMatchObject([{ x: 4 }, { x: 8 }, { x: 50 }]);
    move(journal, 'a', 6);
    await journal.settled();
    expect(server.result.boards[0]!.items[0]).toMatchObject({ x: 6 });
  });

  it('carries over what is done while the carried draft is on its way, too', async () => {
    for (const choice of ['mine', 'theirs'] as const) {
      const server = new FakeServer();
      const { journal } = await openOn(server);
      move(journal, 'a', 4);
      await journal.settled();
      server.overtake(applyPatches(start, setAttribute(start, 'a', 'x', 50).patches).master);
      const replace = server.replace.bind(server);
      let answer!: () => void;
      const held = new Promise<void>((done) => (answer = done));
      server.replace = (draft) => replace(draft).then(() => held);
      await journal.carryOver();
      journal.meeting!.settle(new Map([['a x', choice]]));
      move(journal, 'b', 8);
      answer();
      await journal.settled();
      expect([journal.meeting, journal.saving, journal.base]).toEqual([null, 'kept', 2]);
      expect(server.result.boards[0]!.items).toMatchObject([{ x: choice === 'mine' ? 4 : 50 }, { x: 8 }, { x: 100 }]);
      expect(nodeHash(journal.document!)).toBe(nodeHash(server.result));
    }
  });

  it('makes a step of what is being typed before anything of others comes in', async () => {
    /** Words in an editor that are no step yet: made one, everything becomes as it stands in the editor. */
    const type = (journal: DraftJournal, id: string, x: number) => {
      const typed = applyPatches(journal.document!, setAttribute(journal.document!, id, 'x', x).patches).master;
      let isOpen = true;
      journal.unfinished = () => {
        if (isOpen) journal.do({ label: 'Typed', patches: changesBetween(journal.document!, typed) });
        isOpen = false;
      };
    };
    const places = (server: FakeServer) => server.result.boards[0]!.items.map((item) => (item as { x: number }).x);
    const pause = async (journal: DraftJournal) => {
      journal.unfinished();
      await journal.settled();
    };
    const elsewhere = applyPatches(start, setAttribute(start, 'c', 'x', 90).patches).master;

    // Another window of the same person did something: this one hears of it, or its own steps meet it.
    for (const hears of [true, false]) {
      const server = new FakeServer();
      const [one, two] = [(await openOn(server)).journal, (await openOn(server)).journal];
      move(one, 'a', 4);
      await one.settled();
      if (!hears) move(two, 'c', 7);
      type(two, 'b', 9);
      if (hears) await two.follow();
      await two.settled();
      await pause(two);
      expect(places(server)).toEqual([4, 9, hears ? 100 : 7]);
    }

    // Somebody else updated, and it is carried over: typed before, while the newest is asked for, while it is put in its place.
    for (const when of ['before', 'newest', 'replace'] as const) {
      const server = new FakeServer();
      const { journal } = await openOn(server);
      move(journal, 'a', 4);
      await journal.settled();
      server.overtake(elsewhere);
      if (when === 'before') type(journal, 'b', 9);
      const { newest, replace } = server;
      if (when === 'newest')
        server.newest = async () => {
          server.newest = newest;
          const found = await newest.call(server);
          type(journal, 'b', 9);
          return found;
        };
      if (when === 'replace') server.replace = (draft) => replace.call(server, draft).then(() => type(journal, 'b', 9));
      await journal.carryOver();
      await pause(journal);
      expect([when, journal.saving, journal.base, ...places(server)]).toEqual([when, 'kept', 2, 4, 9, 90]);
    }

    // A file from the shelf is taken in.
    const shelf = new FakeServer();
    const { journal } = await openOn(shelf);
    type(journal, 'b', 8);
    await journal.takeIn(start, elsewhere, 'Taken in');
    await pause(journal);
    expect(places(shelf)).toEqual([0, 8, 90]);
  });

  it('says so when the server will not have a step, and does not try for ever', async () => {
    const server = new FakeServer();
    server.send = () => Promise.reject(new ServerError('refused'));
    const { journal } = await openOn(server);
    move(journal, 'a', 4);
    await journal.settled();
    expect([journal.saving, journal.problem]).toEqual(['refused', 'refused']);
  });
});
