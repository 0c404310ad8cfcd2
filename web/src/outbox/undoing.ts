import { client } from '../device/queryClient';
import { keys } from '../api/keys';
import type { Outcome } from './outbox';
import { atOnce, offerUndo } from './undo';
import { enter, type NewEntry } from './useOutbox';
import { afterWrites, writes, type DirectWrite } from './writes';

/** Under which path records of a kind are taken back. */
const paths = {
  finding: 'findings',
  findings: 'findings',
  photo: 'photos',
  photoMark: 'photo-marks',
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
  run: (caseId: string, out: never, id: string) => Promise<unknown>;
};

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
      words: () => 'verdict for all of them',
      run: (caseId, _, id) => writes.verdictsBack.send(caseId, { id, why: atOnce }, id),
    },
  ],
  [writes.limit, one('limit', writes.limitBack)],
  [writes.examination, one('test', writes.examinationBack)],
  [writes.orderLine, one('order line', writes.orderLineBack)],
  [writes.orderMove, one('order', writes.orderMoveBack)],
]);

/** Offers to take back what was written straight to the server. */
function offerWriteBack(write: object, caseId: string, out: unknown, id: string) {
  const back = backs.get(write);
  if (!back) return;
  offerUndo(back.words(out as never), async () => {
    await back.run(caseId, out as never, id);
    await client.invalidateQueries({ queryKey: keys.case(caseId) });
  });
}

/** From now on what a form has written can be undone for a while. */
export const watchWrites = () => afterWrites(offerEntryBack, offerWriteBack);
