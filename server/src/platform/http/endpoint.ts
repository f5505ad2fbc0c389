import { type Answer, type AskedPart, type Endpoint, type EndpointSchema, ENDPOINTS } from '@plain-relief/api';
import type { FastifyContextConfig, FastifyInstance, FastifyReply, FastifyRequest, HTTPMethods } from 'fastify';

/** A request to an endpoint whose parameters, query and body are as its schemas say. */
export type EndpointRequest<K extends Endpoint> = FastifyRequest<{
  Params: AskedPart<K, 'params'>;
  Querystring: AskedPart<K, 'query'>;
  Body: AskedPart<K, 'body'>;
}>;

/** What may be told where an answer is due: moments as dates, and nothing that is going to be changed. */
export type Told<T> = T extends (infer U)[]
  ? readonly Told<U>[]
  : T extends object
    ? { readonly [Key in keyof T]: Told<T[Key]> }
    : string extends T
      ? T | Date
      : T;

/** What a route says besides its endpoint. */
export interface RouteChoice {
  readonly config: FastifyContextConfig;
  /** Bytes; the server's own limit where nothing is said. */
  readonly bodyLimit?: number;
}

/**
 * Answers an endpoint of the api package below /api: what comes in is judged by its schemas, and of what is answered only the fields
 * that its schema has go out.
 */
export function endpoint<K extends Endpoint>(
  app: FastifyInstance,
  name: K,
  choice: RouteChoice,
  handler: (request: EndpointRequest<K>, reply: FastifyReply) => Promise<Told<Answer<K>>> | Told<Answer<K>>,
): void {
  const { params, query, body, answer, status: said }: EndpointSchema = ENDPOINTS[name];
  const status = said ?? (answer ? 200 : 204);
  const [method, path] = name.split(' ');
  app.route({
    ...choice,
    method: method as HTTPMethods,
    url: `/api${path}`,
    schema: {
      ...(params && { params }),
      ...(query && { querystring: query }),
      ...(body && { body }),
      ...(answer && { response: { [status]: answer } }),
    },
    handler: (request, reply) => {
      reply.code(status);
      return handler(request as EndpointRequest<K>, reply);
    },
  });
}
