import { request } from 'node:http';
import { gzipSync } from 'node:zlib';
import fc from 'fast-check';
import { type DraftView, ErrorBody } from '@inkwell-twin/api';
import { setAttribute, stepOf } from '@inkwell-twin/core';
import { BRAM, TestServer } from './harness';
import { atDepth } from '../../core/test/depth';

/** Requests that are sent; the seed is printed so that a run can be had again. */
const COUNT = atDepth(600, 10_000);
const SEED = Number(process.env['INKWELL_SEED'] ?? 20261125);

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.withDemo('fuzz');
  await server.idle();
});
afterAll(() => server.close());

type Schema = {
  type?: string;
  properties?: Record<string, Schema>;
  items?: Schema;
  anyOf?: Schema[];
  oneOf?: Schema[];
  enum?: unknown[];
  const?: unknown;
  additionalProperties?: Schema;
};
interface Operation {
  readonly method: string;
  readonly path: string;
  readonly query: readonly string[];
  readonly body: Schema | null;
}

const odd = fc.constantFrom<unknown>(
  null,
  '',
  0,
  -1,
  1e308,
  1.5,
  true,
  [],
  {},
  'x'.repeat(3000),
  '\u0000',
  '\ud800',
  '👍',
  "'; drop table master;--",
  '../../etc',
  'constructor',
  '__proto__',
  2147483648,
  9e15,
  ['a'],
  { a: { b: [] } },
);

/** Values of a schema, with something else in their place now and then. */
function valueOf(schema: Schema | undefined, depth = 0): fc.Arbitrary<unknown> {
  const right = (): fc.Arbitrary<unknown> => {
    if (!schema || depth > 5) return odd;
    if (schema.const !== undefined) return fc.constant(schema.const);
    if (schema.enum) return fc.constantFrom(...schema.enum);
    const either = schema.anyOf ?? schema.oneOf;
    if (either) return fc.oneof(...either.map((one) => valueOf(one, depth + 1)));
    if (schema.type === 'object')
      return schema.properties
        ? fc.record(Object.fromEntries(Object.entries(schema.properties).map(([name, one]) => [name, valueOf(one, depth + 1)])), {
            requiredKeys: [],
          })
        : fc.dictionary(fc.string({ maxLength: 8 }), valueOf(schema.additionalProperties, depth + 1), { maxKeys: 3 });
    if (schema.type === 'array') return fc.array(valueOf(schema.items, depth + 1), { maxLength: 3 });
    if (schema.type === 'integer' || schema.type === 'number') return fc.oneof(fc.integer({ min: -2, max: 12 }), fc.double());
    if (schema.type === 'boolean') return fc.boolean();
    return fc.oneof(fc.constantFrom('svg', 'dxf', 'hpgl', 'a'.repeat(64)), fc.string({ maxLength: 12, unit: 'binary' }));
  };
  return fc.oneof({ weight: 9, arbitrary: right() }, { weight: 1, arbitrary: odd });
}

/** What another person writes into drafts of his own, and nobody else may see. */
const SECRET = 'only Bram knows of 7f3a91';

/** Gives the other person a draft of each of these masters. */
async function writeDrafts(masters: readonly string[]): Promise<void> {
  for (const id of masters) {
    const head = await server.document(id);
    const { step } = stepOf(head, 'Named', setAttribute(head, head.boards[0]!.id, 'name', SECRET).patches);
    expect((await server.addSteps(id, await headOf(id), [], [step], BRAM)).status).toBe(200);
  }
}
const headOf = async (id: string) => (await server.call<{ head: number }>('GET', `/api/masters/${id}`)).body.head;
const draftOf = async (id: string) => {
  const { status, body } = await server.call<{ draft: DraftView | null }>('GET', `/api/masters/${id}/draft`, undefined, BRAM);
  return { status, draft: body.draft };
};

function send(options: {
  method: string;
  path: string;
  headers: Record<string, string>;
  body: Buffer | null;
}): Promise<{ status: number; text: string }> {
  return new Promise((done, fail) => {
    const { hostname, port } = new URL(server.url);
    const call = request(
      {
        hostname,
        port,
        method: options.method,
        path: options.path,
        headers: { ...options.headers, ...(options.body ? { 'Content-Length': String(options.body.length) } : {}) },
      },
      (answer) => {
        const parts: Buffer[] = [];
        // Events never end; that they begin is enough.
        if (answer.headers['content-type']?.startsWith('text/event-stream')) {
          answer.destroy();
          return done({ status: answer.statusCode!, text: '' });
        }
        answer.on('data', (part: Buffer) => parts.push(part));
        answer.on('end', () => done({ status: answer.statusCode!, text: Buffer.concat(parts).toString() }));
        answer.on('error', fail);
      },
    );
    call.on('error', fail);
    call.end(options.body ?? undefined);
  });
}

it(`no request makes the server lose its head, or sees or changes what is another’s: ${COUNT} of them, seed ${SEED}`, async () => {
  const { body: api } = await server.call<{
    paths: Record<
      string,
      Record<
        string,
        { parameters: { name: string; in: string }[]; requestBody?: { content: Record<string, { schema?: Schema }> } }
      >
    >;
  }>('GET', '/api/openapi.json');
  const operations: Operation[] = Object.entries(api.paths).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, { parameters, requestBody }]) => ({
      method: method.toUpperCase(),
      path,
      query: parameters.filter((one) => one.in === 'query').map(({ name }) => name),
      body: requestBody?.content['application/json']?.schema ?? null,
    })),
  );
  expect(operations.length).toBeGreaterThan(25);
  const desk = (await server.call<{ masters: { id: string; copies: { id: string }[] }[] }>('GET', '/api/desk')).body;
  const known = desk.masters.flatMap(({ id, copies }) => [id, ...copies.map((copy) => copy.id)]);
  const masters = desk.masters.map(({ id }) => id);
  await writeDrafts(masters);
  const before = new Map<string, DraftView | null>();
  for (const id of masters) before.set(id, (await draftOf(id)).draft);
  const piece = fc.oneof(
    { weight: 4, arbitrary: fc.constantFrom(...known) },
    {
      weight: 1,
      arbitrary: fc.constantFrom(
        '%00',
        '%',
        '%zz',
        '%c0%ae',
        '..%2f..',
        '0',
        '-1',
        '1e9',
        '99999999999',
        '%F0%9F%91%8D',
        "'--",
        'x'.repeat(2000),
        'null',
        '1',
      ),
    },
    { weight: 1, arbitrary: fc.string({ maxLength: 12, unit: 'binary' }).map(encodeURIComponentSafe) },
  );
  const headers = fc.record({
    person: fc.constantFrom('ines-okoro-1', 'ines-okoro-1', 'ines-okoro-1', '', 'x', 'a'.repeat(65)),
    name: fc.constantFrom('Ines', '%E4', '%', '%00'),
    type: fc.constantFrom(
      'application/json',
      'application/json',
      'application/json',
      'application/json; charset=klingon',
      'application/octet-stream',
      'text/plain',
      'application/x-www-form-urlencoded',
      'application/json; charset=utf-16',
      '',
    ),
    encoding: fc.constantFrom('', '', '', '', '', 'gzip', 'br', 'deflate', 'zip', 'gzip, gzip'),
  });
  const one = fc.constantFrom(...operations).chain((operation) =>
    fc.record({
      operation: fc.constant(operation),
      path: fc.array(piece, { minLength: 3, maxLength: 3 }),
      query: fc.array(fc.tuple(fc.constantFrom(...operation.query, 'x', '__proto__'), piece), { maxLength: 2 }),
      headers,
      body: fc.oneof(
        { weight: 8, arbitrary: valueOf(operation.body ?? undefined).map((value) => Buffer.from(JSON.stringify(value) ?? '')) },
        { weight: 1, arbitrary: fc.uint8Array({ maxLength: 60 }).map((bytes) => Buffer.from(bytes)) },
        {
          weight: 1,
          arbitrary: fc.constantFrom(
            Buffer.from('{'),
            Buffer.from('{"a":"\\u0000"}'),
            gzipSync('{}').subarray(0, 9),
            Buffer.from('['.repeat(5000)),
            Buffer.alloc(0),
          ),
        },
      ),
      packed: fc.boolean(),
    }),
  );
  const seen = new Map<number, number>();
  for (const { operation, path, query, headers: said, body, packed } of fc.sample(one, { seed: SEED, numRuns: COUNT })) {
    let at = 0;
    const filled = operation.path.replace(/\{[a-z]+\}/g, () => path[at++ % path.length]!);
    const search = query.length ? `?${query.map(([name, value]) => `${name}=${value}`).join('&')}` : '';
    const bytes = operation.method === 'GET' ? null : said.encoding === 'gzip' && packed ? gzipSync(body) : body;
    const sent: Record<string, string> = {
      Host: new URL(server.url).host,
      'x-inkwell-person': said.person,
      'x-inkwell-name': said.name,
      ...(said.type ? { 'Content-Type': said.type } : {}),
      ...(said.encoding && bytes ? { 'Content-Encoding': said.encoding } : {}),
    };
    const what = `${operation.method} ${filled.slice(0, 200)}${search.slice(0, 100)} ${JSON.stringify(sent)} ${bytes?.toString('latin1').slice(0, 300)}`;
    const answer = await send({ method: operation.method, path: filled + search, headers: sent, body: bytes });
    seen.set(answer.status, (seen.get(answer.status) ?? 0) + 1);
    if (answer.status >= 500)
      throw new Error(`${answer.status} to ${what}: ${answer.text}\n${server.problems.map(String).join('\n')}`);
    if (answer.text.includes(SECRET) || answer.text.includes(BRAM.id)) throw new Error(`Bram’s own is told to ${what}`);
    if (answer.status >= 400) expect({ what, answer, says: inWords(answer.text) }).toEqual({ what, answer, says: true });
  }
  console.log(
    `${COUNT} requests, seed ${SEED}: ${[...seen]
      .sort()
      .map(([status, count]) => `${count} × ${status}`)
      .join(', ')}`,
  );
  expect((await server.call('GET', '/api/health')).status).toBe(200);
  for (const id of masters) {
    const { status, draft } = await draftOf(id);
    // What was deleted for good took its drafts along.
    if (status === 404) continue;
    expect([draft?.base, draft?.position, draft?.steps]).toEqual([
      before.get(id)?.base,
      before.get(id)?.position,
      before.get(id)?.steps,
    ]);
  }
  expect(server.problems).toEqual([]);
});

/** Whether an answer says what is wrong in the one form that answers have. */
function inWords(text: string): boolean {
  try {
    return ErrorBody.safeParse(JSON.parse(text)).success;
  } catch {
    return false;
  }
}

function encodeURIComponentSafe(text: string): string {
  try {
    return encodeURIComponent(text);
  } catch {
    return '%ED%A0%80';
  }
}
