import * as z from 'zod';
import { CONTRACTS, JSON_TYPE, type Contract, NAME_HEADER, PERSON_HEADER, TAB_HEADER } from './contracts';
import { ErrorBody } from './shapes';

const json = (schema: z.ZodType) => ({
  'application/json': {
    schema: z.toJSONSchema(schema, { target: 'draft-2020-12', unrepresentable: 'any', io: 'input' }),
  },
});

/** Bytes have a media type and no schema (OpenAPI 3.1, 4.8.14.3). */
const contentOf = (type: string, schema: z.ZodType | null) => (type === JSON_TYPE && schema ? json(schema) : { [type]: {} });

/** The OpenAPI 3.1 document of all contracts. */
export function openApiDocument(): Record<string, unknown> {
  const paths: Record<string, Record<string, unknown>> = {};
  for (const [id, contract] of Object.entries(CONTRACTS) as [string, Contract][]) {
    const path = contract.path.replace(/:([a-z]+)/g, '{$1}');
    const named = (place: 'path' | 'query' | 'header', required: boolean) => (name: string) => ({
      name,
      in: place,
      required,
      schema: { type: 'string' },
    });
    const parameters = [
      ...[...contract.path.matchAll(/:([a-z]+)/g)].map(([, name]) => named('path', true)(name!)),
      ...contract.query.map(named('query', false)),
      ...[PERSON_HEADER, NAME_HEADER, TAB_HEADER].map(named('header', false)),
    ];
    (paths[path] ??= {})[contract.method] = {
      operationId: id,
      summary: contract.summary,
      parameters,
      ...(contract.takes ? { requestBody: { required: true, content: contentOf(contract.takes, contract.body) } } : {}),
      responses: {
        200: { description: 'Done', content: contentOf(contract.answers, contract.answer) },
        default: { description: 'What went wrong, where, and what to do', content: json(ErrorBody) },
      },
    };
  }
  return { openapi: '3.1.0', info: { title: 'Inkwell Twin', version: '0.1.0' }, paths };
}
