import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import { api, unwrap, type Schemas } from '../api/client';
import type { CaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { ranAgain } from '../casebook/ranAgain';
import { Field, Trouble } from '../ui/basics';
import { useArrival } from '../ui/useArrival';
import { useDraft } from '../ui/useDraft';
import { doneByWords, entriesOf, levelWords, stands } from '../ui/words';
import { SignArt } from '../art/SignArt';
import { PhotoKeys } from '../pictures/Photos';
import { useFindings, type Sign } from './useLook';
import { lostBy } from '../ui/lookWords';
import { ZonePicker } from './ZonePicker';
import { faceFor, mapOf, type ZoneMap } from './zones';
import { SpotWords } from './LevelBadge';
import { whereOn } from './where';

const blankLook = {
  level: 0,
  zones: [] as string[],
  marks: [] as string[],
  spot: '',
  note: '',
  doneBy: 'running' as Schemas['DoneBy'],
  felt: false,
};

export function Capture({
  sign,
  address,
  context,
  zones: given,
  onBack,
  onDone,
}: {
  sign: Sign;
  address: string;
  context: CaseContext;
  /** Where it lies, as a picture told. */
  zones?: string[] | undefined;
  onBack: () => void;
  onDone: (level: number) => void;
}) {
  const { engineCase } = context;
  const map = mapOf(address, context.section, useRoom(engineCase.id, 'look'));
  const again = ranAgain(engineCase);
  const empty: typeof blankLook = {
    ...blankLook,
    doneBy: again ? 'runAgain' : 'running',
    zones: given ?? [],
  };
  const { draft, set, settle } = useDraft(`look/${engineCase.id}/${address}/${sign.id}`, empty);
  const { one, told } = useFindings(context);
  const heading = useArrival<HTMLHeadingElement>(`${address}/${sign.id}`, true);
  const alive = useRef(true);
  useEffect(() => {
    alive.current = true;
    return () => void (alive.current = false);
  }, []);
  const marks = engineCase.photoMarks
    .filter(stands)
    .filter(
      (m) => m.kind !== 'scale' && engineCase.photos.some((p) => p.id === m.photo && p.place === address),
    );
  const record = (level: number) => {
    if (one.isPending) return;
    const { zones, marks: pointed, spot, note, doneBy, felt } = draft;
    one
      .mutateAsync({
        body: {
          place: address,
          sign: sign.id,
          seen: level > 0 ? 'present' : 'absent',
          level,
          spot,
          note,
          zones: level > 0 ? zones : [],
          marks: level > 0 ? pointed : [],
          doneBy: level > 0 || doneBy === 'runAgain' ? doneBy : 'running',
          felt,
          chance: null,
        },
        words: told(sign.id, level),
      })
      .then(
        () => {
          settle(empty);
          // Whoever has gone on to another part meanwhile is not called back.
          if (alive.current) onDone(level);
        },
        // Told below, from the mutation.
        () => undefined,
      );
  };
  return (
    <div className="card space-y-4 border-2 border-dye p-3 md:p-4">
      <div className="flex items-start gap-3">
        <SignArt draw={sign.draw} className="h-15 w-20 shrink-0 sm:h-24 sm:w-32" />
        <div className="min-w-0 flex-1">
          <h3 ref={heading} tabIndex={-1} className="scroll-mt-6 text-xl outline-none">
            {sign.name}
          </h3>
          <p className="hidden sm:block">{sign.looks}</p>
          {sign.destroyedBy.length > 0 && (
            <p className="text-sm font-semibold text-brass">
              <Trans>Gone after {lostBy(sign.destroyedBy)}.</Trans>
            </p>
          )}
        </div>
        <button className="key shrink-0 px-3" onClick={onBack} aria-label={tr`Back to the signs`}>
          ✕
        </button>
      </div>
      <p className="sm:hidden">{sign.looks}</p>
      <p className="text-sm">
        <b>{tr`How to look:`}</b> {sign.how} <b>{tr`Don’t confuse with:`}</b> {sign.confusedWith}{' '}
        <Link className="underline" to={`/atlas/${sign.id}`}>
          {tr`Atlas`}
        </Link>
      </p>
      <label className="flex min-h-11 cursor-pointer items-center gap-3">
        <input
          type="checkbox"
          className="size-6 shrink-0 accent-dye"
          checked={draft.felt}
          onChange={(e) => set({ felt: e.target.checked })}
        />
        <span>
          <b>{tr`Felt, not opened`}</b>{' '}
          <span className="hidden text-sm text-soft sm:inline">
            {tr`turned or rocked by hand only; it weighs less than what was seen`}
          </span>
        </span>
      </label>
      <div className="grid grid-cols-2 gap-2 lg:grid-cols-4" role="group" aria-label={tr`How bad`}>
        {[1, 2, 3].map((level) => (
          <button
            key={level}
            className="key py-2 text-left leading-tight"
            aria-pressed={draft.level === level}
            onClick={() => set({ level })}
          >
            <span className="block">
              <span className="fig">{level}</span> {levelWords[level]}
            </span>
            <span className="block text-sm font-normal text-soft">{sign.levels[level - 1]}</span>
          </button>
        ))}
        <button
          className="key py-2 text-left leading-tight"
          disabled={one.isPending}
          onClick={() => record(0)}
        >
          <span className="block">{tr`Not there`}</span>
          <span className="block text-sm font-normal text-soft">{tr`checked; noted at once`}</span>
        </button>
      </div>
      {draft.level > 0 && (
        <>
          {map && (
            <div>
              <h4 className="font-bold">{tr`Where on it?`}</h4>
              <ZonePicker
                map={map}
                zones={draft.zones}
                onChange={(zones) => set({ zones })}
                first={faceFor(sign.draw)}
              />
              <WhereItLies map={map} address={address} zones={draft.zones} caseId={engineCase.id} />
            </div>
          )}
          {marks.length > 0 && (
            <div role="group" aria-label={tr`Marks on pictures that show it`}>
              <span className="label">{tr`Shown by the mark`}</span>
              <div className="flex flex-wrap gap-1.5">
                {marks.map((m) => (
                  <button
                    key={m.id}
                    className="key"
                    aria-pressed={draft.marks.includes(m.id)}
                    onClick={() =>
                      set({
                        marks: draft.marks.includes(m.id)
                          ? draft.marks.filter((x) => x !== m.id)
                          : [...draft.marks, m.id],
                      })
                    }
                  >
                    {m.kind === 'arrow' ? '➚' : '○'} {m.label || tr`unnamed mark`}
                  </button>
                ))}
              </div>
            </div>
          )}
          <div className="grid gap-2 sm:grid-cols-2">
            {!map && (
              <Field label={tr`Where on it, if it matters`}>
                <input className="entry" value={draft.spot} onChange={(e) => set({ spot: e.target.value })} />
              </Field>
            )}
            <Field label={tr`Note, typed or spoken into the keyboard`}>
              <input className="entry" value={draft.note} onChange={(e) => set({ note: e.target.value })} />
            </Field>
          </div>
          <div role="group" aria-label={tr`Whose doing`}>
            <span className="label">{tr`Whose doing`}</span>
            <div className="flex flex-wrap gap-1.5">
              {entriesOf(doneByWords)
                .filter(([id]) => id !== 'runAgain' || again)
                .map(([id, words]) => (
                  <button
                    key={id}
                    className="key px-3"
                    aria-pressed={draft.doneBy === id}
                    onClick={() => set({ doneBy: id })}
                  >
                    {words}
                  </button>
                ))}
            </div>
            {draft.doneBy !== 'running' && (
              <p className="mt-1 text-sm text-soft">
                {tr`It is kept and shown, and says nothing of why the engine failed.`}
              </p>
            )}
          </div>
          <Trouble problem={one.error} />
          <div className="flex flex-wrap gap-2">
            <button
              className="key key-go px-6 text-lg"
              disabled={one.isPending}
              onClick={() => record(draft.level)}
            >
              {tr`Save`}
            </button>
            <PhotoKeys address={address} context={context} />
          </div>
        </>
      )}
      {draft.level === 0 && <Trouble problem={one.error} />}
    </div>
  );
}

/** The touched zones in words, and, while there is a network, what they line up with on the mates. */
function WhereItLies({
  map,
  address,
  zones,
  caseId,
}: {
  map: ZoneMap;
  address: string;
  zones: string[];
  caseId: string;
}) {
  const [settled, setSettled] = useState('');
  const sorted = [...zones].sort().join(',');
  useEffect(() => {
    const rest = setTimeout(() => setSettled(sorted), 400);
    return () => clearTimeout(rest);
  }, [sorted]);
  const spot = useQuery({
    queryKey: ['spot', caseId, address, settled],
    queryFn: () =>
      unwrap(
        api.GET('/api/cases/{caseId}/spot', {
          params: { path: { caseId }, query: { place: address, zones: settled } },
        }),
      ),
    enabled: settled !== '',
    gcTime: 60_000,
    retry: false,
  });
  if (zones.length === 0)
    return (
      <p className="text-sm text-soft">
        {tr`Touch the zones, draw over them, or press a row’s name for all of it.`}
      </p>
    );
  return (
    <p aria-live="polite" className="font-semibold">
      <SpotWords spot={{ ...whereOn(map, zones), mates: (sorted === settled && spot.data?.mates) || [] }} />
    </p>
  );
}
