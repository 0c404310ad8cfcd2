import { t as tr } from '@lingui/core/macro';
import { useMutation, useQueryClient, type UseMutationResult } from '@tanstack/react-query';
import { useRef } from 'react';
import { v7 } from 'uuid';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys } from '../api/keys';
import type { Outcome } from './outbox';
import { earlierSent, enter, type NewEntry } from './useOutbox';

/** A write that the device keeps until the server has it: it works without a network. */
export interface KeptWrite<In> {
  readonly offline: 'kept';
  readonly entry: (caseId: string, input: In) => NewEntry;
}

/** A write whose answer the next one hangs on: without a network it fails at once, and what was typed stands in the form. */
export interface DirectWrite<In, Out> {
  readonly offline: 'fails';
  /** The id is made once for each thing written, so that a double press or a repeated send writes it once. */
  readonly send: (caseId: string, input: In, id: string) => Promise<Out>;
}

type New<T> = Omit<T, 'id'>;

const kept = <In>(entry: KeptWrite<In>['entry']): KeptWrite<In> => ({ offline: 'kept', entry });

const direct = <In, Out>(send: DirectWrite<In, Out>['send']): DirectWrite<In, Out> => ({
  offline: 'fails',
  send,
});

/** The id of the nth of several that are written at one touch. */
export const nth = (id: string, n: number) =>
  id.slice(0, -4) + (parseInt(id.slice(-4), 16) ^ (n + 1)).toString(16).padStart(4, '0');

const stepMarkWords: Record<Schemas['StepMarkKind'], string> = {
  ticked: tr`Ticked`,
  unticked: tr`Tick taken back`,
  started: tr`Clock started`,
  stopped: tr`Clock stopped`,
};

export const fastenerWords: Record<Schemas['FastenerState'], string> = {
  out: tr`out`,
  backIn: tr`back in`,
  broken: tr`broken`,
  soaked: tr`soaked`,
  drilled: tr`drilled`,
  sent: tr`left for the shop`,
  restOut: tr`rest out`,
  newIn: tr`new in`,
};

/** A record that is taken back, with the reason; it stays in the case, struck out. */
export interface TakenBack {
  id: string;
  version: number;
  why: string;
}

/** Fields of the form that a recording is sent with; what is null is left out. */
export interface SoundBody {
  id: string;
  seconds: number;
  channels: number;
  rpm: number | null;
  pickup: number;
  cutOut: number;
  where: Schemas['HeardAt'];
  load: Schemas['HeardLoad'];
  warmth: Schemas['HeardWarmth'];
}

/** What the queue says of an entry beside the record itself. */
type Told<Body> = { body: Body; words: string };

/** What somebody entered of a task of the plan, of its record. */
export const taskFields = (t: Schemas['BuildTask']) => {
  const { of, kind, name, least, likely, most, hands, tools, after, holds } = t;
  const { notBefore, expected, byItself, dry, warmerThan, mark, note } = t;
  const what = { of, kind, name, least, likely, most, hands, tools, after, holds };
  return { ...what, notBefore, expected, byItself, dry, warmerThan, mark, note };
};

/** Every write to a case. Which of the two it is says whether it works without a network. */
export const writes = {
  finding: kept(
    (
      caseId,
      {
        body,
        words,
      }: Told<Omit<Schemas['FindingEntry'], 'id' | 'zones' | 'marks'> & { zones: string[]; marks: string[] }>,
    ) => ({
      path: `/api/cases/${caseId}/findings`,
      kind: 'finding',
      body: { id: v7(), ...body },
      words,
      place: body.place,
    }),
  ),
  /** All clear: everything that is not recorded was looked for and is not there. */
  clean: kept((caseId, { place, signs }: { place: string; signs: string[] }) => ({
    path: `/api/cases/${caseId}/findings/many`,
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
      doneBy: 'running',
    })),
    words: tr`All clear: ${signs.length} signs not there`,
    place,
  })),
  photo: kept(
    (caseId, { file, ...body }: { id: string; place: string; step: string; shot: string; file: File }) => ({
      path: `/api/cases/${caseId}/photos`,
      kind: 'photo',
      body,
      words: tr`Picture ${file.name}`,
      place: body.place,
      file,
    }),
  ),
  photoMark: kept(
    (
      caseId,
      { mark, fileName, place }: { mark: Schemas['PhotoMarkEntry']; fileName: string; place: string },
    ) => ({
      path: `/api/cases/${caseId}/photo-marks`,
      kind: 'photoMark',
      body: mark,
      words: tr`Mark on ${fileName}: ${mark.label || mark.kind}`,
      place,
    }),
  ),
  /** What is measured in a picture: the points are kept, and the server reckons when they reach it. */
  pictureMeasure: kept(
    (caseId, { body, words, place }: Told<Schemas['PictureMeasureEntry']> & { place: string }) => ({
      path: `/api/cases/${caseId}/picture-measures`,
      kind: 'pictureMeasure',
      body,
      words,
      place,
    }),
  ),
  /** A recording, whole, with what it was made under. */
  sound: kept((caseId, { file, ...body }: SoundBody & { file: File }) => ({
    path: `/api/cases/${caseId}/sounds`,
    kind: 'sound',
    body,
    words: tr`Recording ${file.name}`,
    place: '',
    file,
  })),
  /** What a recording was made under, put right. */
  soundChange: direct((caseId, { of, ...body }: Schemas['SoundEntry'] & { of: string }) =>
    unwrap(api.PUT('/api/cases/{caseId}/sounds/{id}', { params: { path: { caseId, id: of } }, body })),
  ),
  debris: kept((caseId, { body, words }: Told<Schemas['DebrisEntry']>) => ({
    path: `/api/cases/${caseId}/debris`,
    kind: 'debris',
    body,
    words,
    place: body.place,
  })),
  /** `soon`: nothing looks wrong with it here, and the hand is not kept waiting for the server. */
  reading: kept((caseId, { body, words, soon }: Told<Schemas['ReadingEntry']> & { soon: boolean }) => ({
    path: `/api/cases/${caseId}/readings`,
    kind: 'reading',
    body,
    words,
    place: body.place,
    soon,
  })),
  stepMark: kept((caseId, body: Omit<Schemas['StepMarkEntry'], 'id'>) => ({
    path: `/api/cases/${caseId}/step-marks`,
    kind: 'stepMark',
    body: { id: v7(), ...body },
    words: `${stepMarkWords[body.kind]}: ${body.step}`,
    place: '',
  })),
  fastener: kept((caseId, body: Omit<Schemas['FastenerEntry'], 'id'>) => ({
    path: `/api/cases/${caseId}/fasteners`,
    kind: 'fastener',
    body: { id: v7(), ...body },
    words: `${body.count} × ${body.set} ${fastenerWords[body.state]}: ${body.step}`,
    place: '',
  })),
  /** Something that is done at a step of the way back. */
  backAct: kept((caseId, { body, words }: Told<Omit<Schemas['BackActEntry'], 'id'>>) => ({
    path: `/api/cases/${caseId}/back-acts`,
    kind: 'backAct',
    body: { id: v7(), ...body },
    words,
    place: body.kind === 'fitted' || body.kind === 'takenOut' ? body.of : '',
  })),
  /** Takes back a record that the device keeps. */
  takeBack: kept(
    (
      caseId,
      {
        of,
        record,
        why,
        words,
      }: {
        of: 'findings' | 'photos' | 'photo-marks' | 'picture-measures' | 'sounds' | 'debris' | 'readings';
        record: { id: string; version: number; place?: string };
        why: string;
        words: string;
      },
    ) => ({
      path: `/api/cases/${caseId}/${of}/${record.id}/withdraw`,
      kind: 'withdraw',
      // One that is not sent yet is written as version 1 before this reaches the server.
      body: { why, version: Math.max(1, record.version) },
      words: tr`Undone: ${words}`,
      place: record.place ?? '',
    }),
  ),

  comeback: direct((id, body: Schemas['Comeback']) =>
    unwrap(api.PUT('/api/cases/{id}/comeback', { params: { path: { id } }, body })),
  ),
  arrival: direct((id, body: Schemas['ArrivalEntry']) =>
    unwrap(api.PUT('/api/cases/{id}/arrival', { params: { path: { id } }, body })),
  ),
  /** The whole case is withdrawn, or taken up again. */
  caseBack: direct((_, { id, ...body }: TakenBack) =>
    unwrap(api.POST('/api/cases/{id}/withdraw', { params: { path: { id } }, body })),
  ),
  caseUp: direct((id, body: Schemas['CaseVersion']) =>
    unwrap(api.POST('/api/cases/{id}/take-up', { params: { path: { id } }, body })),
  ),
  strip: direct((caseId, body: Schemas['StripSetup']) =>
    unwrap(api.PUT('/api/cases/{caseId}/strip', { params: { path: { caseId } }, body })),
  ),
  step: direct((caseId, body: New<Schemas['StepEntry']>, id) =>
    unwrap(api.POST('/api/cases/{caseId}/steps', { params: { path: { caseId } }, body: { id, ...body } })),
  ),
  stepBack: direct((caseId, { id, ...body }: TakenBack) =>
    unwrap(api.POST('/api/cases/{caseId}/steps/{id}/withdraw', { params: { path: { caseId, id } }, body })),
  ),
  ownStep: direct((caseId, body: New<Schemas['OwnStepEntry']>, id) =>
    unwrap(
      api.POST('/api/cases/{caseId}/own-steps', { params: { path: { caseId } }, body: { id, ...body } }),
    ),
  ),
  signOff: direct((caseId, body: New<Schemas['SignOffEntry']>, id) =>
    unwrap(
      api.POST('/api/cases/{caseId}/sign-offs', { params: { path: { caseId } }, body: { id, ...body } }),
    ),
  ),
  fastenerBack: direct((caseId, { id, ...body }: TakenBack) =>
    unwrap(
      api.POST('/api/cases/{caseId}/fasteners/{id}/withdraw', { params: { path: { caseId, id } }, body }),
    ),
  ),
  /** A tag; with the id of the one that stands it is changed. */
  part: direct((caseId, { standing, ...body }: New<Schemas['PartEntry']> & { standing: string | null }, id) =>
    unwrap(
      standing === null
        ? api.POST('/api/cases/{caseId}/parts', { params: { path: { caseId } }, body: { id, ...body } })
        : api.PUT('/api/cases/{caseId}/parts/{id}', {
            params: { path: { caseId, id: standing } },
            body: { id: standing, ...body },
          }),
    ),
  ),
  partBack: direct((caseId, { id, ...body }: TakenBack) =>
    unwrap(api.POST('/api/cases/{caseId}/parts/{id}/withdraw', { params: { path: { caseId, id } }, body })),
  ),
  parts: direct((caseId, body: Schemas['PartEntry'][]) =>
    unwrap(api.POST('/api/cases/{caseId}/parts/many', { params: { path: { caseId } }, body })),
  ),
  /** A part that is offered, or a bag; with the id of the one that stands it is changed. */
  candidate: direct(
    (caseId, { standing, ...body }: New<Schemas['CandidateEntry']> & { standing: string | null }, id) =>
      unwrap(
        standing === null
          ? api.POST('/api/cases/{caseId}/candidates', {
              params: { path: { caseId } },
              body: { id, ...body },
            })
          : api.PUT('/api/cases/{caseId}/candidates/{id}', {
              params: { path: { caseId, id: standing } },
              body: { id: standing, ...body },
            }),
      ),
  ),
  candidateBack: direct((caseId, { id, ...body }: TakenBack) =>
    unwrap(
      api.POST('/api/cases/{caseId}/candidates/{id}/withdraw', { params: { path: { caseId, id } }, body }),
    ),
  ),
  stow: direct((caseId, { standing, ...body }: New<Schemas['StowEntry']> & { standing: string | null }, id) =>
    unwrap(
      standing === null
        ? api.POST('/api/cases/{caseId}/stows', { params: { path: { caseId } }, body: { id, ...body } })
        : api.PUT('/api/cases/{caseId}/stows/{id}', {
            params: { path: { caseId, id: standing } },
            body: { id: standing, ...body },
          }),
    ),
  ),
  stowBack: direct((caseId, { id, ...body }: TakenBack) =>
    unwrap(api.POST('/api/cases/{caseId}/stows/{id}/withdraw', { params: { path: { caseId, id } }, body })),
  ),
  renumber: direct((caseId, body: New<Schemas['RenumberEntry']>, id) =>
    unwrap(api.POST('/api/cases/{caseId}/renumber', { params: { path: { caseId } }, body: { id, ...body } })),
  ),
  layout: direct((caseId, body: New<Schemas['LayoutEntry']>, id) =>
    unwrap(api.POST('/api/cases/{caseId}/layout', { params: { path: { caseId } }, body: { id, ...body } })),
  ),
  labels: direct((caseId, body: New<Schemas['LabelOrder']>, id) =>
    unwrap(
      api.POST('/api/cases/{caseId}/label-jobs', { params: { path: { caseId } }, body: { id, ...body } }),
    ),
  ),
  limit: direct((caseId, body: New<Schemas['LimitEntry']>, id) =>
    unwrap(api.POST('/api/cases/{caseId}/limits', { params: { path: { caseId } }, body: { id, ...body } })),
  ),
  limitBack: direct((caseId, { id, ...body }: TakenBack) =>
    unwrap(api.POST('/api/cases/{caseId}/limits/{id}/withdraw', { params: { path: { caseId, id } }, body })),
  ),
  table: direct(
    (
      caseId,
      {
        what,
        file,
        keepGood,
        confirmed,
      }: { what: 'limits' | 'readings'; file: File; keepGood: boolean; confirmed: boolean },
    ) =>
      unwrap<Schemas['TableTaken']>(
        api.POST(`/api/cases/{caseId}/gauge/${what}.csv`, {
          params: { path: { caseId }, query: { keepGood, confirmed } },
          body: file as never,
          bodySerializer: () => file,
          headers: { 'Content-Type': 'text/csv' },
        }),
      ),
  ),
  conclusion: direct((caseId, body: New<Schemas['ConclusionEntry']>, id) =>
    unwrap(
      api.POST('/api/cases/{caseId}/conclusions', { params: { path: { caseId } }, body: { id, ...body } }),
    ),
  ),
  verdict: direct((caseId, body: New<Schemas['VerdictEntry']>, id) =>
    unwrap(api.POST('/api/cases/{caseId}/verdicts', { params: { path: { caseId } }, body: { id, ...body } })),
  ),
  /** One touch for several places; the id of each follows from that of the touch, so that a repeated send writes each once. */
  verdicts: direct((caseId, { places, ...body }: { places: string[]; course: string; reason: string }, id) =>
    unwrap(
      api.POST('/api/cases/{caseId}/verdicts/together', {
        params: { path: { caseId } },
        body: { id, ...body, of: places.map((place, i) => ({ id: nth(id, i), place })) },
      }),
    ),
  ),
  verdictBack: direct((caseId, { id, version, why }: TakenBack) =>
    unwrap(
      api.POST('/api/cases/{caseId}/verdicts/{id}/withdraw', {
        params: { path: { caseId, id } },
        body: { why, version },
      }),
    ),
  ),
  verdictsBack: direct((caseId, { id, why }: { id: string; why: string }) =>
    unwrap(
      api.POST('/api/cases/{caseId}/verdicts/together/{id}/withdraw', {
        params: { path: { caseId, id } },
        body: { why, version: 0 },
      }),
    ),
  ),
  examination: direct((caseId, body: New<Schemas['ExaminationEntry']>, id) =>
    unwrap(
      api.POST('/api/cases/{caseId}/examinations', { params: { path: { caseId } }, body: { id, ...body } }),
    ),
  ),
  examinationBack: direct((caseId, { id, version, why }: TakenBack) =>
    unwrap(
      api.POST('/api/cases/{caseId}/examinations/{id}/withdraw', {
        params: { path: { caseId, id } },
        body: { why, version },
      }),
    ),
  ),
  sizes: direct((caseId, body: New<Schemas['SizesEntry']>, id) =>
    unwrap(api.POST('/api/cases/{caseId}/sizes', { params: { path: { caseId } }, body: { id, ...body } })),
  ),
  option: direct(
    (caseId, { id: stands, ...body }: Omit<Schemas['OptionEntry'], 'id'> & { id: string | null }, id) =>
      stands
        ? unwrap(
            api.PUT('/api/cases/{caseId}/options/{id}', {
              params: { path: { caseId, id: stands } },
              body: { id: stands, ...body },
            }),
          )
        : unwrap(
            api.POST('/api/cases/{caseId}/options', { params: { path: { caseId } }, body: { id, ...body } }),
          ),
  ),
  optionBack: direct((caseId, { id, version, why }: TakenBack) =>
    unwrap(
      api.POST('/api/cases/{caseId}/options/{id}/withdraw', {
        params: { path: { caseId, id } },
        body: { why, version },
      }),
    ),
  ),
  choice: direct((caseId, body: New<Schemas['ChoiceEntry']>, id) =>
    unwrap(api.POST('/api/cases/{caseId}/choices', { params: { path: { caseId } }, body: { id, ...body } })),
  ),
  choiceBack: direct((caseId, { id, version, why }: TakenBack) =>
    unwrap(
      api.POST('/api/cases/{caseId}/choices/{id}/withdraw', {
        params: { path: { caseId, id } },
        body: { why, version },
      }),
    ),
  ),
  orderLine: direct(
    (
      caseId,
      { standing, ...body }: Omit<Schemas['OrderLineEntry'], 'id'> & { standing: string | null },
      id,
    ) =>
      standing
        ? unwrap(
            api.PUT('/api/cases/{caseId}/order/lines/{id}', {
              params: { path: { caseId, id: standing } },
              body: { id: standing, ...body },
            }),
          )
        : unwrap(
            api.POST('/api/cases/{caseId}/order/lines', {
              params: { path: { caseId } },
              body: { id, ...body },
            }),
          ),
  ),
  /** One touch for several needs; the id of each follows from that of the touch. */
  orderLines: direct((caseId, lines: Omit<Schemas['OrderLineEntry'], 'id'>[], id) =>
    unwrap(
      api.POST('/api/cases/{caseId}/order/lines/together', {
        params: { path: { caseId } },
        body: lines.map((line, i) => ({ id: nth(id, i), ...line })),
      }),
    ),
  ),
  orderLineBack: direct((caseId, { id, version, why }: TakenBack) =>
    unwrap(
      api.POST('/api/cases/{caseId}/order/lines/{id}/withdraw', {
        params: { path: { caseId, id } },
        body: { why, version },
      }),
    ),
  ),
  orderMove: direct((caseId, body: New<Schemas['OrderMoveEntry']>, id) =>
    unwrap(
      api.POST('/api/cases/{caseId}/order/moves', { params: { path: { caseId } }, body: { id, ...body } }),
    ),
  ),
  orderMoveBack: direct((caseId, { id, version, why }: TakenBack) =>
    unwrap(
      api.POST('/api/cases/{caseId}/order/moves/{id}/withdraw', {
        params: { path: { caseId, id } },
        body: { why, version },
      }),
    ),
  ),
  offer: direct((caseId, body: New<Schemas['OfferEntry']>, id) =>
    unwrap(
      api.POST('/api/cases/{caseId}/order/offers', { params: { path: { caseId } }, body: { id, ...body } }),
    ),
  ),
  offerBack: direct((caseId, { id, version, why }: TakenBack) =>
    unwrap(
      api.POST('/api/cases/{caseId}/order/offers/{id}/withdraw', {
        params: { path: { caseId, id } },
        body: { why, version },
      }),
    ),
  ),
  /** Over the line to a supplier. */
  askSupplier: direct((caseId, body: New<Schemas['AskEntry']>, id) =>
    unwrap(
      api.POST('/api/cases/{caseId}/order/ask', { params: { path: { caseId } }, body: { id, ...body } }),
    ),
  ),
  takeSplit: direct((caseId, by: Schemas['SplitBy']) =>
    unwrap(api.POST('/api/cases/{caseId}/order/take', { params: { path: { caseId } }, body: { by } })),
  ),
  sendOrder: direct((caseId, body: New<Schemas['SendEntry']>, id) =>
    unwrap(
      api.POST('/api/cases/{caseId}/order/send', { params: { path: { caseId } }, body: { id, ...body } }),
    ),
  ),
  followOrder: direct((caseId, supplier: string, id) =>
    unwrap(
      api.POST('/api/cases/{caseId}/order/follow', {
        params: { path: { caseId } },
        body: { id, supplier },
      }),
    ),
  ),
  /** A task or wait of Build; with the id of the record that stands it is changed. */
  buildTask: direct(
    (
      caseId,
      { standing, ...body }: Omit<Schemas['BuildTaskEntry'], 'id'> & { standing: string | null },
      id,
    ) =>
      standing
        ? unwrap(
            api.PUT('/api/cases/{caseId}/build-tasks/{id}', {
              params: { path: { caseId, id: standing } },
              body: { id: standing, ...body },
            }),
          )
        : unwrap(
            api.POST('/api/cases/{caseId}/build-tasks', {
              params: { path: { caseId } },
              body: { id, ...body },
            }),
          ),
  ),
  buildTaskBack: direct((caseId, { id, ...body }: TakenBack) =>
    unwrap(
      api.POST('/api/cases/{caseId}/build-tasks/{id}/withdraw', { params: { path: { caseId, id } }, body }),
    ),
  ),
  tightening: direct((caseId, body: New<Schemas['TighteningEntry']>, id) =>
    unwrap(
      api.POST('/api/cases/{caseId}/tightenings', { params: { path: { caseId } }, body: { id, ...body } }),
    ),
  ),
  buildPromise: direct((caseId, body: New<Schemas['BuildPromiseEntry']>, id) =>
    unwrap(
      api.POST('/api/cases/{caseId}/build-promises', { params: { path: { caseId } }, body: { id, ...body } }),
    ),
  ),
  buildPromiseBack: direct((caseId, { id, ...body }: TakenBack) =>
    unwrap(
      api.POST('/api/cases/{caseId}/build-promises/{id}/withdraw', {
        params: { path: { caseId, id } },
        body,
      }),
    ),
  ),
  sizesBack: direct((caseId, { id, version, why }: TakenBack) =>
    unwrap(
      api.POST('/api/cases/{caseId}/sizes/{id}/withdraw', {
        params: { path: { caseId, id } },
        body: { why, version },
      }),
    ),
  ),
};

let entered: ((caseId: string, entry: NewEntry, outcome: Outcome) => void) | undefined;
let written: ((write: object, caseId: string, out: unknown, id: string) => void) | undefined;

/** Who hears of what a form has written; the bar that offers to undo it. */
export function afterWrites(kept: typeof entered, direct: typeof written) {
  [entered, written] = [kept, direct];
}

/** Writes once, where what waits for it is no form. */
export function write<In>(caseId: string, write: KeptWrite<In>, input: In): Promise<Outcome> {
  return enter(caseId, write.entry(caseId, input));
}

/** Writes to a case. Afterwards everything that hangs on the case is read again. */
export function useWrite<In>(
  caseId: string,
  write: KeptWrite<In>,
  done?: (out: Outcome, input: In) => void,
): UseMutationResult<Outcome, ApiProblem, In>;
export function useWrite<In, Out>(
  caseId: string,
  write: DirectWrite<In, Out>,
  done?: (out: Out, input: In) => void,
): UseMutationResult<Out, ApiProblem, In>;
export function useWrite<In, Out>(
  caseId: string,
  write: KeptWrite<In> | DirectWrite<In, Out>,
  done?: (out: never, input: In) => void,
) {
  const client = useQueryClient();
  const id = useRef(v7());
  const again = () => client.invalidateQueries({ queryKey: keys.case(caseId) });
  return useMutation<Outcome | Out, ApiProblem, In>({
    mutationFn: async (input) => {
      if (write.offline === 'kept') {
        const entry = write.entry(caseId, input);
        const outcome = await enter(caseId, entry);
        entered?.(caseId, entry, outcome);
        return outcome;
      }
      await earlierSent(caseId);
      return write.send(caseId, input, id.current);
    },
    onSuccess: (out, input) => {
      if (write.offline === 'fails') written?.(write, caseId, out, id.current);
      id.current = v7();
      done?.(out as never, input);
      // What is kept is read again as soon as it is sent.
      return write.offline === 'kept' ? undefined : again();
    },
    // What went wrong is told at once; without a network the reading would never end.
    onError: () => void again(),
  });
}
