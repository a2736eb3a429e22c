// Requests of routes, made of their schemas: a plain one, and ones that nobody means well.

import { z } from 'zod';

const TEXTS = ['kite', '', 'a\0b, half \ud83d', '../../etc', 'x'.repeat(5000), '%_\\'];
const NUMBERS = [1, -1, 2 ** 31, 2 ** 53, 0.5];

interface Schema {
  type?: string;
  properties?: Record<string, Schema>;
  items?: Schema | boolean;
  additionalProperties?: Schema | boolean;
  anyOf?: Schema[];
  oneOf?: Schema[];
  allOf?: Schema[];
  enum?: unknown[];
  const?: unknown;
  format?: string;
  $ref?: string;
}

/** Requests of a schema: a plain one first, then ones that differ from it in one place. */
function samples(schema: Schema, known: string, depth = 0): unknown[] {
  if (depth > 8) return [null];
  if ('const' in schema) return [schema.const];
  if (schema.enum) return [schema.enum[0], 'a\0b', 7];
  const options = schema.anyOf ?? schema.oneOf;
  if (options) return options.flatMap((option) => samples(option, known, depth + 1));
  if (schema.allOf) return samples(Object.assign({}, ...schema.allOf) as Schema, known, depth + 1);
  if (schema.type === 'object' && schema.properties) {
    // An empty query means all photos.
    const parts = Object.entries(schema.properties).map(
      ([name, part]) =>
        [name, name === 'query' ? ['', ...samples(part, known, depth + 1)] : samples(part, known, depth + 1)] as const,
    );
    const plain = Object.fromEntries(parts.map(([name, [first]]) => [name, first]));
    return [plain, ...parts.flatMap(([name, [, ...others]]) => others.map((other) => ({ ...plain, [name]: other })))];
  }
  if (schema.type === 'object') {
    const values =
      typeof schema.additionalProperties === 'object' ? samples(schema.additionalProperties, known, depth + 1) : ['x'];
    return values.flatMap((value) => [{ 'a\0b': value }, { a: value }]);
  }
  if (schema.type === 'array') {
    const items = typeof schema.items === 'object' ? samples(schema.items, known, depth + 1) : ['x'];
    return [...items.map((item) => [item]), []];
  }
  if (schema.type === 'integer' || schema.type === 'number') return [...NUMBERS, 'x\0'];
  if (schema.type === 'boolean') return [true, 'perhaps'];
  if (schema.type === 'null') return [null];
  if (schema.format === 'uuid') return [known, 'a\0b', '0b9f4c2e-5d3a-4f6b-8c1d-2e3f4a5b6c7d'];
  return TEXTS;
}

/** Values for a part of a request: the first is a plain one. `known`: the id of a drive that is there. */
export function samplesOf(part: z.ZodType, known: string): unknown[] {
  return samples(z.toJSONSchema(part, { unrepresentable: 'any', reused: 'inline' }) as Schema, known);
}

const given = (value: unknown) => Object.entries((value ?? {}) as Record<string, unknown>);

/** The address for some parameters and a query. */
export function addressOf(path: string, params: unknown, query: unknown): string {
  const values = new Map(given(params).map(([name, value]) => [name, escaped(value)]));
  const asked = given(query).map(([name, value]) => `${escaped(name)}=${escaped(value)}`);
  return `${path.replace(/:(\w+)/g, (_, name: string) => values.get(name) || '1')}?${asked.join('&')}`;
}

/** Halves of characters can't stand in an address. */
const escaped = (value: unknown) =>
  encodeURIComponent((typeof value === 'string' ? value : (JSON.stringify(value) ?? '')).toWellFormed());
