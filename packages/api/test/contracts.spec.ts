import { ROUTES } from '../src/light';
import { CONTRACTS, ErrorBody, StepBody, openApiDocument } from '../src';

describe('the contracts', () => {
  it('have one route each', () => {
    const routes = Object.values(CONTRACTS).map(({ method, path }) => `${method} ${path}`);
    expect(new Set(routes).size).toBe(routes.length);
  });
  it('make an OpenAPI document that names every route, its parameters and its body', () => {
    const document = openApiDocument() as {
      openapi: string;
      paths: Record<
        string,
        Record<
          string,
          {
            parameters: { name: string; in: string }[];
            requestBody?: { content: object };
            responses: Record<string, { content: object }>;
          }
        >
      >;
    };
    expect(document.openapi).toBe('3.1.0');
    for (const { method, path, body, query, takes, answers } of Object.values(CONTRACTS)) {
      const operation = document.paths[path.replace(/:([a-z]+)/g, '{$1}')]![method]!;
      const named = (place: string) => operation.parameters.filter((one) => one.in === place).map(({ name }) => name);
      expect(named('path')).toEqual([...path.matchAll(/:([a-z]+)/g)].map(([, name]) => name));
      expect(named('query')).toEqual(query);
      expect(named('header')).toEqual(['x-inkwell-person', 'x-inkwell-name', 'x-inkwell-tab']);
      if (body) expect(takes).toBe('application/json');
      expect(Object.keys(operation.requestBody?.content ?? {})).toEqual(takes ? [takes] : []);
      expect(Object.keys(operation.responses['200']!.content)).toEqual([answers]);
      expect(Object.keys(operation.responses)).toEqual(['200', 'default']);
    }
    expect(JSON.parse(JSON.stringify(document))).toEqual(document);
  });
  it('are where the first view of the browser asks for them; written anew with: node scripts/routes.mjs', () => {
    const routes = Object.fromEntries(Object.entries(CONTRACTS).map(([id, { method, path }]) => [id, { method, path }]));
    expect(ROUTES).toEqual(routes);
  });
  it('refuse bodies that are not as described', () => {
    expect(CONTRACTS.newMaster.body!.safeParse({ title: 'x'.repeat(201), purpose: 'panel', owner: '' }).success).toBe(false);
    expect(CONTRACTS.addSteps.body!.safeParse({ base: 0, position: 0, steps: [] }).success).toBe(false);
    expect(CONTRACTS.addRecipe.body!.parse({ target: 'svg', label: 'web' })).toEqual({
      target: 'svg',
      label: 'web',
      replace: false,
      password: null,
      eachUpdate: false,
      options: {},
      scope: { of: 'boards', ids: [] },
      choices: [],
    });
    expect(ErrorBody.safeParse({ error: { code: 'x', message: 'y' } }).success).toBe(true);
  });
});

describe('a step as it crosses the wire', () => {
  it('may take an attribute away, which JSON says by leaving its value out', () => {
    const set = (value: unknown) => ({ op: 'set', node: 'r', attribute: 'style.dash', value });
    const step = JSON.parse(JSON.stringify({ label: 'Dashes', forward: [set([2, 1])], inverse: [set(undefined)] })) as unknown;
    expect(StepBody.parse(step)).toMatchObject({
      forward: [{ value: [2, 1] }],
      inverse: [{ op: 'set', attribute: 'style.dash' }],
    });
  });
});
