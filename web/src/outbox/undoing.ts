import { t as tr } from '@lingui/core/macro';
import type { EngineCase, Schemas } from '../api/client';
import { client } from '../device/queryClient';
import { keys } from '../api/keys';
import type { Outcome } from './outbox';
import { atOnce, offerUndo } from './undo';
import { enter, type NewEntry } from './useOutbox';
import { afterWrites, taskFields, writes, type DirectWrite } from './writes';

/** Under which path records of a kind are taken back. */
const paths = {
  finding: 'findings',
  findings: 'findings',
  photo: 'photos',
  photoMark: 'photo-marks',
  pictureMeasure: 'picture-measures',
  sound: 'sounds',
  debris: 'debris',
  reading: 'readings',
} as const satisfies Partial<Record<NewEntry['kind'], string>>;

/** Offers to take back what was kept on the device: as it is kept too, this works without a network, and follows what it takes back. */
function offerEntryBack(caseId: string, entry: NewEntry, outcome: Outcome) {
  const of = entry.kind in paths ? paths[entry.kind as keyof typeof paths] : null;
  if (!of || outcome.kind === 'refused' || outcome.kind === 'unkept') return;
  const ids = (Array.isArray(entry.body) ? entry.body : [entry.body]) as { id: string }[];
  offerUndo([entry.place, entry.words].filter(Boolean).join(', '), () =>
    Promise.all(
      ids.map(({ id }) => {
        const record = { id, version: 1, place: entry.place };
        return enter(caseId, writes.takeBack.entry(caseId, { of, record, why: atOnce, words: entry.words }));
      }),
    ),
  );
}

interface Written {
  id: string;
  version: number;
  place?: string;
  what?: string;
}

type Back = {
  words: (out: never) => string;
  /** @param before The case as it stood on the screen before it was written. */
  run: (caseId: string, out: never, id: string, before: EngineCase | undefined) => Promise<unknown>;
};

type Part = Schemas['Part'];

const tagBack = (caseId: string, { id, version }: Part) =>
  writes.partBack.send(caseId, { id, version, why: atOnce }, id);

/** A new tag is taken back; one that was changed becomes what it was. */
function tagAsBefore(caseId: string, out: Part, before: EngineCase | undefined) {
  const was = before?.parts.find((p) => p.id === out.id);
  if (!was) return tagBack(caseId, out);
  const { place, mark, method, sameOnAll, facing, gradeStamped, custody, where } = was;
  const { sent, dueBack, sideUp, weight, remarks, on } = was;
  const tag = { place, mark, method, sameOnAll, facing, gradeStamped, custody, where };
  const rest = { sent, dueBack, sideUp, weight, remarks, on };
  return writes.part.send(caseId, { ...tag, ...rest, version: out.version, standing: out.id }, out.id);
}

type BuildTask = Schemas['BuildTask'];

/** A new task is taken back; one that was changed becomes what it was. */
function taskAsBefore(caseId: string, out: BuildTask, before: EngineCase | undefined) {
  const was = before?.buildTasks.find((t) => t.id === out.id);
  if (!was)
    return writes.buildTaskBack.send(caseId, { id: out.id, version: out.version, why: atOnce }, out.id);
  return writes.buildTask.send(
    caseId,
    { ...taskFields(was), version: out.version, standing: out.id },
    out.id,
  );
}

const one = (
  words: string,
  back: DirectWrite<{ id: string; version: number; why: string }, unknown>,
): Back => ({
  words: (out: Written) => [out.place, out.what, words].filter(Boolean).join(', '),
  run: (caseId, out: Written) => back.send(caseId, { id: out.id, version: out.version, why: atOnce }, out.id),
});

/** Writes that go straight to the server, and how each is taken back. */
const backs = new Map<object, Back>([
  [writes.verdict, one('verdict', writes.verdictBack)],
  [
    writes.verdicts,
    {
      words: () => tr`verdict for all of them`,
      run: (caseId, _, id) => writes.verdictsBack.send(caseId, { id, why: atOnce }, id),
    },
  ],
  [
    writes.part,
    {
      words: (out: Part) => tr`${out.place}, tag`,
      run: (caseId, out: Part, _, before) => tagAsBefore(caseId, out, before),
    },
  ],
  [
    writes.parts,
    {
      words: (out: Part[]) => tr`${out.length} tags`,
      run: (caseId, out: Part[]) => Promise.all(out.map((part) => tagBack(caseId, part))),
    },
  ],
  [
    writes.buildTask,
    {
      words: (out: BuildTask) => out.name || tr`the plan`,
      run: (caseId, out: BuildTask, _, before) => taskAsBefore(caseId, out, before),
    },
  ],
  [writes.buildPromise, one('promise', writes.buildPromiseBack)],
  [writes.limit, one('limit', writes.limitBack)],
  [writes.examination, one('test', writes.examinationBack)],
  [writes.orderLine, one(tr`order line`, writes.orderLineBack)],
  [writes.orderMove, one('order', writes.orderMoveBack)],
]);

/** Offers to take back what was written straight to the server. */
function offerWriteBack(write: object, caseId: string, out: unknown, id: string) {
  const back = backs.get(write);
  if (!back) return;
  const before = client.getQueryData<EngineCase>(keys.record(caseId));
  offerUndo(back.words(out as never), async () => {
    await back.run(caseId, out as never, id, before);
    await client.invalidateQueries({ queryKey: keys.case(caseId) });
  });
}

/** From now on what a form has written can be undone for a while. */
export const watchWrites = () => afterWrites(offerEntryBack, offerWriteBack);
