import { setTimeout } from 'node:timers/promises';
import ajvCompiler from '@fastify/ajv-compiler';
import serializerOf from '@fastify/fast-json-stringify-compiler';
import type { FastifyServerOptions } from 'fastify';

type Factory = NonNullable<NonNullable<FastifyServerOptions['schemaController']>['compilersFactory']>;
type ValidatorFactory = NonNullable<Factory['buildValidator']>;
type SerializerFactory = NonNullable<Factory['buildSerializer']>;

/** As Fastify asks a schema whether a value is right, and looks for what is wrong on the function that it asked. */
interface Validate {
  (data: unknown): unknown;
  errors?: unknown;
}

/** In ms. What was not needed so far is compiled so long after the start, */
const begin = 2000;
/** and with so much room in between for requests. */
const room = 10;

type Schema = Readonly<Record<string, unknown>>;

/**
 * A schema of answers without its unions, which are written as they come: to find out which of fifteen kinds a part is,
 * Fastify would ask a validator of each. `null` as the other choice stays.
 */
export function withoutUnions(schema: unknown): unknown {
  if (Array.isArray(schema)) return schema.map(withoutUnions);
  if (typeof schema !== 'object' || schema === null) return schema;
  const { anyOf } = schema as { readonly anyOf?: readonly Schema[] };
  if (!anyOf) return Object.fromEntries(Object.entries(schema).map(([key, of]) => [key, withoutUnions(of)]));
  const [one, ...others] = anyOf.filter(({ type }) => type !== 'null');
  return one && others.length === 0 ? { ...(withoutUnions(one) as Schema), nullable: true } : {};
}

/**
 * Fastify’s own compilers of schemas, each schema compiled when a request first needs it: all of them at once take longer
 * than everything else at a start. The rest follows while the server has nothing else to do.
 */
export function lazyCompilers() {
  const waiting = new Set<() => unknown>();
  const once = <Made>(compile: () => Made): (() => Made) => {
    let made: { readonly it: Made } | undefined;
    const get = () => {
      waiting.delete(get);
      made ??= { it: compile() };
      return made.it;
    };
    waiting.add(get);
    return get;
  };
  const [validators, serializers] = [ajvCompiler(), serializerOf()];
  const buildValidator = (...given: Parameters<typeof validators>) => {
    const compile = validators(...given) as (route: unknown) => Validate;
    return (route: unknown): Validate => {
      const compiled = once(() => compile(route));
      const validate: Validate = (data) => {
        const ofSchema = compiled();
        const answer = ofSchema(data);
        validate.errors = ofSchema.errors;
        return answer;
      };
      return validate;
    };
  };
  const buildSerializer = (...given: Parameters<typeof serializers>) => {
    const compile = serializers(...given);
    return (route: Parameters<typeof compile>[0]) => {
      const compiled = once(() => compile({ ...route, schema: withoutUnions(route.schema) }));
      return (answer: unknown): string => compiled()(answer);
    };
  };
  return {
    compilersFactory: {
      buildValidator: buildValidator as ValidatorFactory,
      buildSerializer: buildSerializer as SerializerFactory,
    },
    /** @throws Error for a schema that is none. */
    compileRest: async (): Promise<void> => {
      await setTimeout(begin, undefined, { ref: false });
      for (const compile of waiting) {
        compile();
        await setTimeout(room, undefined, { ref: false });
      }
    },
  };
}
