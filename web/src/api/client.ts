import createClient from 'openapi-fetch';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];
export type EngineCase = Schemas['EngineCase'];
export type CaseAnswers = Schemas['CaseAnswers'];
export type Layout = Schemas['EngineLayout'];
export type Knowledge = Schemas['KnowledgeView'];

export const api = createClient<paths>({ baseUrl: '/' });

/**
 * How many changes of numbering this screen knows of, by case. The server refuses a write that knows of fewer than there were,
 * because its addresses may mean other parts by now.
 */
export const knownNumbering = new Map<string, number>();

api.use({
  onRequest({ request }) {
    const known = knownNumbering.get(/\/cases\/([0-9a-f-]{36})/.exec(request.url)?.[1] ?? '');
    if (known !== undefined) request.headers.set('X-Numbering', String(known));
    return request;
  },
});

/** One thing that is wrong, with the field and what to do. */
export interface FieldProblem {
  field: string;
  text: string;
  remedy: string;
}

/** An answer of the server that is not the one hoped for, as RFC 9457 problem details. */
export class ApiProblem extends Error {
  readonly status: number;
  readonly remedy: string;
  readonly problems: FieldProblem[];
  readonly theirs: unknown;

  constructor(status: number, body: Record<string, unknown>) {
    super(typeof body.title === 'string' ? body.title : 'The server did not understand.');
    this.status = status;
    this.remedy = typeof body.detail === 'string' ? body.detail : 'Reload the page and try again.';
    this.problems = Array.isArray(body.problems) ? (body.problems as FieldProblem[]) : [];
    this.theirs = body.theirs;
  }

  of(field: string): FieldProblem | undefined {
    return this.problems.find((p) => p.field === field);
  }
}

const offline = {
  title: 'The server does not answer.',
  detail: 'Nothing was written. Check the connection and try again.',
};

/** Unwraps an answer: its data, or a thrown ApiProblem. */
export async function unwrap<T>(
  request: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  const answer = await request.catch(() => {
    throw new ApiProblem(0, offline);
  });
  if (answer.response.ok) return answer.data as T;
  throw new ApiProblem(answer.response.status, (answer.error ?? {}) as Record<string, unknown>);
}
