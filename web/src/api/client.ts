import { t as tr } from '@lingui/core/macro';
import createClient from 'openapi-fetch';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];
export type EngineCase = Schemas['EngineCase'];
/** A screen asks for the plan too where it shows it. */
export type CaseAnswers = Omit<Schemas['CaseAnswers'], 'build'> & { build: Schemas['BuildPlan'] };
export type Layout = Schemas['EngineLayout'];
export type Knowledge = Schemas['KnowledgeView'];

export const api = createClient<paths>({ baseUrl: '/' });

/**
 * How many changes of numbering this screen knows of, by case. The server refuses a write that knows of fewer than there were,
 * because its addresses may mean other parts by now.
 */
export const knownNumbering = new Map<string, number>();

/** Told with every request: the unit of lengths that this person asked for, and who this screen belongs to. */
export const asked: {
  lengths: 'mm' | 'in' | null;
  by: string | null;
  /** Called where the server finds that somebody else has signed in with this browser. */
  another?: () => void;
} = { lengths: null, by: null };

const caseOf = (url: string) => /\/cases\/([0-9a-f-]{36})/.exec(url)?.[1];

/** The newest revision of each case that this screen has read, or has written itself and reads again anyway. */
const knownRevision = new Map<string, number>();

export const knowsRevision = (caseId: string, revision: number) =>
  revision <= (knownRevision.get(caseId) ?? 0);

/**
 * Takes note of the revision that an answer of the server names. True where it is the very next one after the one known: of a write that
 * nobody else wrote in between.
 */
export function noteRevision(url: string, answer: Response): boolean {
  const caseId = caseOf(url);
  const revision = Number(answer.headers.get('X-Case-Revision') ?? 0);
  if (!caseId || knowsRevision(caseId, revision)) return false;
  const next = knownRevision.get(caseId) === revision - 1;
  knownRevision.set(caseId, revision);
  return next;
}

api.use({
  onRequest({ request }) {
    const known = knownNumbering.get(caseOf(request.url) ?? '');
    if (known !== undefined) request.headers.set('X-Numbering', String(known));
    if (asked.lengths) request.headers.set('X-Lengths', asked.lengths);
    // Nothing is written in the name of whoever has signed in meanwhile in another tab.
    if (asked.by && request.method !== 'GET') request.headers.set('X-Writer', encodeURIComponent(asked.by));
    return request;
  },
  onResponse({ request, response }) {
    if (response.status === 412) asked.another?.();
    // The record itself, or a write; what else is read may be newer than the record on the screen.
    if (request.method !== 'GET' || /\/cases\/[0-9a-f-]{36}$/.test(request.url))
      noteRevision(request.url, response);
  },
  onError: ({ request }) => new ApiProblem(0, request.method === 'GET' ? unread : unwritten),
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
    super(typeof body.title === 'string' ? body.title : tr`The server did not understand.`);
    this.status = status;
    this.remedy = typeof body.detail === 'string' ? body.detail : tr`Reload the page and try again.`;
    this.problems = Array.isArray(body.problems) ? (body.problems as FieldProblem[]) : [];
    this.theirs = body.theirs;
  }

  of(field: string): FieldProblem | undefined {
    return this.problems.find((p) => p.field === field);
  }
}

const unread = {
  title: tr`The server does not answer.`,
  detail: tr`What you entered on this device is kept and is sent by itself. Check the connection; what is missing here is asked for again as soon as there is one.`,
};

const unwritten = {
  title: tr`The server does not answer.`,
  detail: tr`This was not saved. What you typed still stands in the form: check the connection and try again.`,
};

/** Unwraps an answer: its data, or a thrown ApiProblem. */
export async function unwrap<T>(
  request: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  const answer = await request;
  if (answer.response.ok) return answer.data as T;
  throw new ApiProblem(answer.response.status, (answer.error ?? {}) as Record<string, unknown>);
}
