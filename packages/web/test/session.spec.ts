import '@angular/compiler';
import { ApplicationRef, Injector, runInInjectionContext } from '@angular/core';
import { Observable, of, throwError } from 'rxjs';
import type { CopyView } from '@inkwell-twin/api';
import { type Patch, type Step, journalHash, moveItems, recipeOf } from '@inkwell-twin/core';
import { masterWith, rectangle, text } from '../../core/test/build';
import { carriedBy } from '../src/app/master/board/carried-by';
import { newItem } from '../src/app/master/board/new-item';
import { Api, ApiError } from '../src/app/services/api.service';
import { DraftSession } from '../src/app/services/draft-session';
import { Impact } from '../src/app/services/impact.service';
import { Person } from '../src/app/services/person';
import type { ImpactRequest } from '../src/app/workers/impact.worker';

// A browser without a store or locks: the server alone keeps the draft.
Object.assign(globalThis, { indexedDB: undefined, navigator: {} });
const master = masterWith([rectangle('a'), rectangle('b', 60, 10), text('t', 'Sedge')]);

/** The server's answers, and what it was asked. */
class FakeApi {
  steps: Step[] = [];
  position = 0;
  away = false;
  head = 1;
  changes: Patch[] | null = [];
  readonly asked: string[] = [];
  call(id: string, parameters: { rev?: number }, body?: { steps?: Step[]; position?: number; hash?: string }) {
    this.asked.push(id);
    if (this.away) return throwError(() => new ApiError('offline', 'The server can’t be reached.', true));
    if (id === 'master') return of({ life: 'l1', head: this.head });
    if (id === 'revision')
      return of({ document: parameters.rev! < this.head ? { ...master, title: `As at r${parameters.rev}` } : master });
    if (id === 'changes') return of({ patches: this.changes });
    if (id === 'draft') return of({ draft: null });
    if (id === 'addSteps') {
      this.steps = [...this.steps.slice(0, body!.position), ...body!.steps!];
      this.position = this.steps.length;
      return of({ position: this.position, hash: body!.steps!.reduce(journalHash, body!.hash!) });
    }
    if (id === 'moveDraft') this.position = body!.position!;
    if (id === 'update') return of({ rev: 2, job: 'j' });
    return of({});
  }
}

/** Turns of the loop, and not time: a busy machine gets through none of them in any time. */
const settled = async (): Promise<void> => {
  for (let turn = 0; turn < 40; turn++) await new Promise((done) => setTimeout(done));
};

/** @param head the newest revision; each earlier one has a title of its own */
async function opened(head = 1) {
  const api = new FakeApi();
  api.head = head;
  const app = { destroyed: false, drawn: 0, tick: () => void app.drawn++ };
  const injector = Injector.create({
    providers: [
      { provide: ApplicationRef, useValue: app },
      { provide: Api, useValue: api },
      { provide: Person, useValue: { id: 'ines-okoro-1', name: () => 'Ines Okoro' } },
      { provide: DraftSession, useClass: DraftSession },
    ],
  });
  const session = runInInjectionContext(injector, () => new DraftSession());
  await session.open('m1');
  return { api, app, session };
}

describe('the session of a draft', () => {
  it('has all drawn anew before anything else happens, once for whatever was done in one breath', async () => {
    const { app, session } = await opened();
    session.do(moveItems(session.document()!, ['a'], 5, 0));
    session.do(moveItems(session.document()!, ['b'], 5, 0));
    expect(app.drawn).toBe(0);
    await Promise.resolve();
    expect(app.drawn).toBe(1);
    session.undo();
    await Promise.resolve();
    expect(app.drawn).toBe(2);
  });

  it('goes back beyond one’s own changes to earlier revisions, and forward again', async () => {
    const { api, session } = await opened(3);
    expect([session.takesBack(), session.canUndo(), session.canRedo()]).toEqual([3, true, false]);
    session.undo();
    await settled();
    // What r2 said differs from now in one place: that is the step.
    expect([session.changes(), session.takesBack(), api.steps.at(-1)!.label]).toEqual([1, 2, 'Back to r2']);
    expect(session.document()!.title).toBe('As at r2');
    session.undo();
    await settled();
    expect([session.document()!.title, session.takesBack(), session.canUndo()]).toEqual(['As at r1', 0, false]);
    session.redo();
    session.redo();
    await settled();
    expect([session.changes(), session.canRedo(), session.takesBack()]).toEqual([0, false, 3]);
    expect(session.document()).toEqual(master);
    // One’s own change comes first.
    session.do(moveItems(session.document()!, ['a'], 5, 0));
    expect(session.takesBack()).toBe(0);
    session.undo();
    expect([session.document(), session.takesBack()]).toEqual([master, 3]);
  });

  it('redo takes back an undo whose revision is still on its way, and no other', async () => {
    const { api, session } = await opened(3);
    session.undo();
    await settled();
    const call = api.call.bind(api);
    let arrive = (): void => undefined;
    jest
      .spyOn(api, 'call')
      .mockImplementation((id, parameters, body) =>
        id === 'revision'
          ? new Observable((answer) => void (arrive = () => call(id, parameters, body).subscribe(answer)))
          : call(id, parameters, body),
      );
    session.undo();
    expect([session.canUndo(), session.canRedo()]).toEqual([false, true]);
    session.redo();
    arrive();
    await settled();
    expect([session.document()!.title, session.takesBack(), session.canRedo()]).toEqual(['As at r2', 2, true]);
  });

  it('opens the document, keeps what is done, and undoes it', async () => {
    const { api, session } = await opened();
    expect(session.document()).toEqual(master);
    expect([session.changes(), session.canUndo(), session.canRedo()]).toEqual([0, false, false]);
    session.do(moveItems(session.document()!, ['a'], 5, 0));
    await settled();
    expect(session.document()!.boards[0]!.items[0]).toMatchObject({ x: 15 });
    expect([session.changes(), session.canUndo(), session.saving(), api.steps.length]).toEqual([1, true, 'kept', 1]);
    session.undo();
    await settled();
    expect([session.changes(), session.canRedo(), api.position]).toEqual([0, true, 0]);
    expect(session.document()).toEqual(master);
    session.redo();
    await settled();
    expect(await session.update('Moved')).toBe(2);
    expect(api.asked).toContain('update');
  });
  it('takes only what changed since, and the whole document where that does not lead there', async () => {
    const { api, session } = await opened();
    api.head = 2;
    api.changes = moveItems(master, ['a'], 5, 0).patches as Patch[];
    await session.open('m1');
    expect(session.base()).toBe(2);
    expect(session.document()!.boards[0]!.items[0]).toMatchObject({ x: 15 });
    expect(api.asked.filter((id) => id === 'revision')).toHaveLength(1);
    for (const changes of [null, [{ op: 'set', node: 'nobody', attribute: 'x', value: 1 }] as Patch[]]) {
      Object.assign(api, { head: api.head + 1, changes });
      await session.open('m1');
      expect([session.base(), session.document()]).toEqual([api.head, master]);
    }
    expect(api.asked.filter((id) => id === 'revision')).toHaveLength(3);
  });
  it('says that nothing is kept while the server is away, and loses nothing', async () => {
    const { api, session } = await opened();
    api.away = true;
    session.do(moveItems(session.document()!, ['a'], 5, 0));
    await settled();
    expect([session.saving(), session.changes()]).toEqual(['away', 1]);
    expect(session.document()!.boards[0]!.items[0]).toMatchObject({ x: 15 });
    api.away = false;
    for (let i = 0; i < 100 && session.saving() !== 'kept'; i++) await settled();
    expect([session.saving(), api.steps.length]).toEqual(['kept', 1]);
  });
  it('says in words why something can’t be done, and leaves the document as it is', async () => {
    const { session } = await opened();
    session.do({ label: 'nonsense', patches: [{ op: 'set', node: 'nobody', attribute: 'x', value: 1 }] });
    expect(session.problem()).toContain('There is no object nobody');
    expect(session.document()).toEqual(master);
  });
});

describe('live impact', () => {
  const sent: ImpactRequest[] = [];
  class FakeWorker {
    onmessage: ((event: { data: unknown }) => void) | null = null;
    postMessage = (request: ImpactRequest) => sent.push(request);
    terminate = () => undefined;
  }
  Object.assign(globalThis, { Worker: FakeWorker });
  const step = (label: string): Step => ({ label, forward: [{ op: 'set', node: 'a', attribute: 'x', value: 1 }], inverse: [] });

  it('sends the document once and then only the steps that are new, after what is on the screen was painted', async () => {
    Object.assign(globalThis, { requestAnimationFrame: (then: () => void) => setTimeout(then) });
    const impact = new Impact();
    const [one, two, three] = [step('one'), step('two'), step('three')];
    impact.document(master);
    impact.change([one]);
    impact.change([one, two]);
    impact.change([one, two]);
    impact.change([one]);
    impact.change([one, three]);
    expect(sent).toEqual([]);
    // However busy the machine is.
    while (sent.length < 5) await new Promise((done) => setTimeout(done));
    expect(sent.map((request) => (request.kind === 'steps' ? [request.from, request.steps.length] : request.kind))).toEqual([
      'document',
      [0, 1],
      [1, 1],
      [1, 0],
      [1, 1],
    ]);
  });
});

describe('what the lanes say', () => {
  const copy = (label: string, target: string, ids: string[]): CopyView => {
    const { options, scope, choices } = recipeOf(target, {}, { of: 'boards', ids });
    return { label, target, options, scope, choices } as unknown as CopyView;
  };
  it('names the copies that carry an object: those of its board that take its layer', () => {
    const two = { ...master, boards: [...master.boards, { ...master.boards[0]!, id: 'b2', name: 'Back', items: [] }] };
    const copies = [copy('web', 'svg', ['b1']), copy('cut', 'hpgl', ['b1']), copy('back', 'svg', ['b2'])];
    const printed = rectangle('p', 0, 0, { layer: 'print' });
    const all = { ...two, boards: [{ ...two.boards[0]!, items: [...two.boards[0]!.items, printed] }, two.boards[1]!] };
    expect(carriedBy(all, all.boards[0]!, [all.boards[0]!.items[0]!], copies)).toEqual(['web', 'cut']);
    expect(carriedBy(all, all.boards[0]!, [printed], copies)).toEqual(['web']);
  });
  it('adds what each kind of item offers, in the middle of the board, on the layer that is asked for', () => {
    for (const kind of ['rectangle', 'ellipse', 'text'])
      expect(newItem(kind, master, master.boards[0]!, master.layers.at(-1)!)).toMatchObject({
        kind,
        layer: master.layers.at(-1)!.id,
        id: expect.stringMatching(/.+/),
      });
  });
});
