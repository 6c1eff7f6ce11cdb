import type { EventView } from '@inkwell-twin/api';
import { type TestServer, type Who } from './harness';

/** A browser that listens: what it was told, newest last, and a way to say where its windows are. */
export async function browserOf(server: TestServer, who: Who, stream: string) {
  const stop = new AbortController();
  const answer = await fetch(`${server.url}/api/events?stream=${stream}`, { signal: stop.signal });
  const told: EventView[] = [];
  void (async () => {
    for await (const chunk of answer.body!.pipeThrough(new TextDecoderStream()) as unknown as AsyncIterable<string>)
      for (const line of chunk.split('\n')) if (line.startsWith('data: ')) told.push(JSON.parse(line.slice(6)) as EventView);
  })().catch(() => undefined);
  return {
    told,
    at: (...masters: string[]) =>
      server.call(
        'PUT',
        `/api/streams/${stream}`,
        { windows: masters.map((master, i) => ({ tab: `${stream} ${i}`, master })) },
        who,
      ),
    /** Who was told last to look at a master, by name; undefined before anything was told. */
    seen: (master: string): string[] | undefined => {
      const last = told.findLast((event) => event.kind === 'present' && event.master === master);
      return last?.kind === 'present' ? last.tabs.map(({ name }) => name).sort() : undefined;
    },
    moves: (master: string): number[] =>
      told.flatMap((event) => (event.kind === 'draft' && event.master === master ? [event.position] : [])),
    close: () => stop.abort(),
  };
}
