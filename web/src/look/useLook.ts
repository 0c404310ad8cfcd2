import { useMutation } from '@tanstack/react-query';
import { v7 } from 'uuid';
import type { ApiProblem, Schemas } from '../api/client';
import type { CaseContext } from '../casebook/context';
import { enter } from '../outbox/useOutbox';
import { levelWords, stands } from '../ui/words';

export type Sign = Schemas['SignEntry'];
export type Finding = Schemas['Finding'];

/** Signs that a part can show, with whether each is recorded. */
export function signsFor(address: string, { answers, engineCase, knowledge }: CaseContext) {
  const kind = answers.section.cells.find((c) => c.address === address)?.kind;
  const recorded = new Set(
    engineCase.findings
      .filter(stands)
      .filter((f) => f.place === address)
      .map((f) => f.sign),
  );
  return knowledge.signs
    .filter((s) => !s.measured && s.on.includes(kind ?? ''))
    .map((sign) => ({ sign, recorded: recorded.has(sign.id) }));
}

/** Whether a search meets a sign by its name or by one of the trade's other names. */
export const meets = (sign: Sign, search: string) =>
  search
    .toLowerCase()
    .split(/\s+/)
    .every((word) => [sign.name, ...sign.also, sign.term].some((n) => n.toLowerCase().includes(word)));

/** Parts of the same kind, in walking order. */
export const fellowsOf = (address: string, { answers }: Pick<CaseContext, 'answers'>) => {
  const kind = answers.section.cells.find((c) => c.address === address)?.kind;
  return answers.section.cells.filter((c) => c.kind === kind);
};

type Writing = Omit<Schemas['FindingEntry'], 'id' | 'zones' | 'marks'> & { zones: string[]; marks: string[] };

/** Writes findings; each is kept on the device first. */
export function useFindings(context: CaseContext) {
  const { engineCase, knowledge } = context;
  const path = `/api/cases/${engineCase.id}/findings`;
  const name = (id: string) => knowledge.signs.find((s) => s.id === id)?.name ?? id;
  const one = useMutation<unknown, ApiProblem, Writing>({
    mutationFn: (body) =>
      enter(engineCase.id, {
        path,
        kind: 'finding',
        body: { id: v7(), ...body },
        words: `${name(body.sign)}, ${levelWords[body.level]}`,
        place: body.place,
      }),
  });
  /** Looked, clean: everything that is not recorded was looked for and is not there. */
  const clean = useMutation<unknown, ApiProblem, { place: string; signs: string[] }>({
    mutationFn: ({ place, signs }) =>
      enter(engineCase.id, {
        path: `${path}/many`,
        kind: 'findings',
        body: signs.map((sign) => ({
          id: v7(),
          place,
          sign,
          seen: 'absent',
          level: 0,
          spot: '',
          note: '',
          zones: [],
          marks: [],
        })),
        words: `Looked, clean: ${signs.length} signs not there`,
        place,
      }),
  });
  return { one, clean };
}

/** Takes a record of Look back with a reason; it stays in the case, struck out. */
export const useTakeBack = (context: CaseContext, below: 'findings' | 'photos' | 'photo-marks' | 'debris') =>
  useMutation<
    unknown,
    ApiProblem,
    { record: { id: string; version: number; place?: string }; why: string; words: string }
  >({
    mutationFn: ({ record, why, words }) =>
      enter(context.engineCase.id, {
        path: `/api/cases/${context.engineCase.id}/${below}/${record.id}/withdraw`,
        kind: 'withdraw',
        // One that is not sent yet is written as version 1 before this reaches the server.
        body: { why, version: Math.max(1, record.version) },
        words: `Taken back: ${words}`,
        place: record.place ?? '',
      }),
  });
