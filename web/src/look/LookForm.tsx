import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import { api, unwrap, type Schemas } from '../api/client';
import type { CaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { useMayWrite } from '../shop/Header';
import { Addr, Field, moment, Trouble } from '../ui/basics';
import { useDraft } from '../ui/useDraft';
import { levelWords, stands } from '../ui/words';
import { SignArt } from './art/SignArt';
import { PhotoKeys, type ShotId } from './Photos';
import { meets, signsFor, useFindings, useTakeBack, type Finding, type Sign } from './useLook';
import { lostBy } from './words';
import { ZoneGlance, ZonePicker } from './ZonePicker';
import { faceFor, mapOf } from './zones';

export { signsFor } from './useLook';

const tones = [
  'border-oil bg-oil-tint text-oil',
  'border-brass bg-brass-tint',
  'border-lead bg-lead-tint',
  'border-lead bg-lead text-sheet',
];

/** A level as a mark that reads at arm's length. */
export const LevelMark = ({ level }: { level: number }) => (
  <span
    className={`fig flex size-8 shrink-0 items-center justify-center rounded border-2 font-bold ${tones[level]}`}
    aria-hidden
  >
    {level === 0 ? '–' : level}
  </span>
);

/**
 * What a part shows: sign, level, zones, done; or looked for and not there; or all of it clean in one touch. Four touches for a
 * common finding.
 */
export function LookForm({
  address,
  context,
  sign: open,
  setSign: setOpen,
  onDone,
}: {
  address: string;
  context: CaseContext;
  sign: string | null;
  setSign: (sign: string | null) => void;
  onDone?: (sign: Sign, level: number) => void;
}) {
  const signs = signsFor(address, context);
  const [search, setSearch] = useState('');
  const { clean } = useFindings(context);
  const left = signs.filter((s) => !s.recorded);
  // Also one that is recorded: a second look may see it otherwise.
  const current = signs.find((s) => s.sign.id === open)?.sign;
  if (current)
    return (
      <Capture
        key={`${address}/${current.id}`}
        sign={current}
        address={address}
        context={context}
        onBack={() => setOpen(null)}
        onDone={(level) => {
          setOpen(null);
          onDone?.(current, level);
        }}
      />
    );
  const shown = left.filter((s) => search === '' || meets(s.sign, search));
  return (
    <div>
      <div className="mb-3 flex flex-wrap items-end gap-3">
        <h3 className="flex-1 text-lg">
          {left.length > 0 ? 'What does it show?' : 'Everything known for this part is recorded.'}
        </h3>
        {left.length > 0 && (
          <button
            className="key key-go"
            disabled={clean.isPending}
            onClick={() => clean.mutate({ place: address, signs: left.map((s) => s.sign.id) })}
          >
            Looked, {left.length < signs.length ? 'rest clean' : 'clean'}
          </button>
        )}
      </div>
      <Trouble problem={clean.error} />
      {left.length > 8 && (
        <input
          className="entry mb-2"
          type="search"
          placeholder="Search, also by the trade’s other names"
          aria-label="Search signs"
          value={search}
          onChange={(e) => setSearch(e.target.value)}
        />
      )}
      <ul className="grid gap-1.5 sm:grid-cols-2">
        {shown.map(({ sign }) => (
          <li key={sign.id}>
            <button
              className="flex min-h-16 w-full items-center gap-3 rounded-lg border-[1.5px] border-line bg-sheet px-2 py-1 text-left hover:border-dye"
              onClick={() => setOpen(sign.id)}
            >
              <SignArt draw={sign.draw} className="h-13 w-17 shrink-0" />
              <span className="min-w-0 leading-tight">
                <span className="block font-semibold">{sign.name}</span>
                {sign.destroyedBy.length > 0 && (
                  <span className="block text-sm text-brass">gone after {lostBy(sign.destroyedBy)}</span>
                )}
              </span>
            </button>
          </li>
        ))}
      </ul>
      {shown.length === 0 && left.length > 0 && (
        <p className="text-soft">
          No sign of this part is called so. Try another word, or look through the{' '}
          <Link className="underline" to="/atlas">
            atlas
          </Link>
          .
        </p>
      )}
    </div>
  );
}

const blankLook = { level: 0, zones: [] as string[], marks: [] as string[], spot: '', note: '' };

function Capture({
  sign,
  address,
  context,
  onBack,
  onDone,
}: {
  sign: Sign;
  address: string;
  context: CaseContext;
  onBack: () => void;
  onDone: (level: number) => void;
}) {
  const { engineCase } = context;
  const map = mapOf(address, context.section, useRoom(engineCase.id, 'look'));
  const { draft, set, settle } = useDraft(`look/${engineCase.id}/${address}/${sign.id}`, blankLook);
  const { one, told } = useFindings(context);
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
    const { zones, marks: pointed, spot, note } = draft;
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
        },
        words: told(sign.id, level),
      })
      .then(
        () => {
          settle(blankLook);
          // Whoever has gone on to another part meanwhile is not called back.
          if (alive.current) onDone(level);
        },
        // Told below, from the mutation.
        () => undefined,
      );
  };
  return (
    <div className="sheet space-y-4 border-2 border-dye p-3 md:p-4">
      <div className="flex items-start gap-3">
        <SignArt draw={sign.draw} className="h-15 w-20 shrink-0 sm:h-24 sm:w-32" />
        <div className="min-w-0 flex-1">
          <h3 className="text-xl">{sign.name}</h3>
          <p className="hidden sm:block">{sign.looks}</p>
          {sign.destroyedBy.length > 0 && (
            <p className="text-sm font-semibold text-brass">Gone after {lostBy(sign.destroyedBy)}.</p>
          )}
        </div>
        <button className="key shrink-0 px-3" onClick={onBack} aria-label="Back to the signs">
          ✕
        </button>
      </div>
      <p className="sm:hidden">{sign.looks}</p>
      <p className="text-sm">
        <b>How to look:</b> {sign.how} <b>Not to be taken for:</b> {sign.confusedWith}{' '}
        <Link className="underline" to={`/atlas/${sign.id}`}>
          Atlas
        </Link>
      </p>
      <div className="grid grid-cols-2 gap-2 lg:grid-cols-4" role="group" aria-label="How bad">
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
          <span className="block">Not there</span>
          <span className="block text-sm font-normal text-soft">looked for it: written at once</span>
        </button>
      </div>
      {draft.level > 0 && (
        <>
          {map && (
            <div>
              <h4 className="font-bold">Where on it?</h4>
              <ZonePicker
                map={map}
                zones={draft.zones}
                onChange={(zones) => set({ zones })}
                first={faceFor(sign.draw)}
              />
              <Where address={address} zones={draft.zones} caseId={engineCase.id} />
            </div>
          )}
          {marks.length > 0 && (
            <div role="group" aria-label="Marks on pictures that show it">
              <span className="label">Shown by the mark</span>
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
                    {m.kind === 'arrow' ? '➚' : '○'} {m.label || 'unnamed mark'}
                  </button>
                ))}
              </div>
            </div>
          )}
          <div className="grid gap-2 sm:grid-cols-2">
            {!map && (
              <Field label="Where on it, if it matters">
                <input className="entry" value={draft.spot} onChange={(e) => set({ spot: e.target.value })} />
              </Field>
            )}
            <Field label="Note, typed or spoken into the keyboard">
              <input className="entry" value={draft.note} onChange={(e) => set({ note: e.target.value })} />
            </Field>
          </div>
          <Trouble problem={one.error} />
          <div className="flex flex-wrap gap-2">
            <button
              className="key key-go px-6 text-lg"
              disabled={one.isPending}
              onClick={() => record(draft.level)}
            >
              Write it
            </button>
            <PhotoKeys address={address} context={context} />
          </div>
        </>
      )}
      {draft.level === 0 && <Trouble problem={one.error} />}
    </div>
  );
}

/** The touched zones in the program's words, while there is a network; the zones themselves are kept in any case. */
function Where({ address, zones, caseId }: { address: string; zones: string[]; caseId: string }) {
  const sorted = [...zones].sort().join(',');
  const spot = useQuery({
    queryKey: ['spot', caseId, address, sorted],
    queryFn: () =>
      unwrap(
        api.GET('/api/cases/{caseId}/spot', {
          params: { path: { caseId }, query: { place: address, zones: sorted } },
        }),
      ),
    enabled: zones.length > 0,
    gcTime: 60_000,
    retry: false,
    placeholderData: (before) => before,
  });
  if (zones.length === 0)
    return (
      <p className="text-sm text-soft">
        Touch the zones, draw over them, or press a row’s name for all of it.
      </p>
    );
  return (
    <p aria-live="polite" className="font-semibold">
      {spot.data ? <SpotWords spot={spot.data} /> : `${zones.length} zones`}
    </p>
  );
}

export function SpotWords({ spot }: { spot: Schemas['Spot'] }) {
  const share =
    spot.share >= 0.995 ? 'all of it' : `${Math.max(1, Math.round(100 * spot.share))} % of the face`;
  return (
    <>
      {spot.words}; {share}
      {spot.edges.length > 0 && `, reaches ${spot.edges.join(' and ')}`}
      {spot.mates.map((m) => (
        <span key={m.finding} className={m.linesUp ? 'text-lead' : 'text-soft'}>
          {' '}
          · {m.words}
        </span>
      ))}
    </>
  );
}

/** What is recorded of a place; each can be taken back with a reason and stays in the case. */
export function FindingList({
  address,
  context,
  onShow,
}: {
  address: string;
  context: CaseContext;
  /** Opens the picture on which a mark lies. */
  onShow?: (photo: string) => void;
}) {
  const { engineCase } = context;
  const look = useRoom(engineCase.id, 'look');
  const findings = engineCase.findings.filter((f) => f.place === address && stands(f));
  const clashes = look.clashes.filter((c) => c.place === address);
  const clashing = new Set(clashes.flatMap((c) => c.findings));
  const single = findings.filter((f) => !clashing.has(f.id));
  const seen = single.filter((f) => f.level > 0).sort((a, b) => b.level - a.level);
  const absent = single.filter((f) => f.level === 0);
  if (findings.length === 0) return <p className="text-soft">Nothing has been looked at here yet.</p>;
  return (
    <div className="space-y-3">
      {clashes.map((c) => (
        <Clash key={c.sign} clash={c} context={context} />
      ))}
      <ul className="divide-y divide-line border-y border-line empty:hidden">
        {seen.map((f) => (
          <FindingRow key={f.id} finding={f} context={context} {...(onShow ? { onShow } : {})} />
        ))}
      </ul>
      {absent.length > 0 && (
        <details
          className="rounded-lg border border-line px-3 py-1.5"
          open={seen.length === 0 && absent.length < 6}
        >
          <summary className="cursor-pointer font-semibold">
            <span className="text-oil">–</span> Looked for and not there: {absent.length}
          </summary>
          <ul className="divide-y divide-line">
            {absent.map((f) => (
              <FindingRow key={f.id} finding={f} context={context} />
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}

function FindingRow({
  finding: f,
  context,
  onShow,
}: {
  finding: Finding;
  context: CaseContext;
  onShow?: (photo: string) => void;
}) {
  const { engineCase, knowledge } = context;
  const look = useRoom(engineCase.id, 'look');
  const mayWrite = useMayWrite();
  const [why, setWhy] = useState<string | null>(null);
  const takeBack = useTakeBack(context);
  const name = knowledge.signs.find((s) => s.id === f.sign)?.name ?? f.sign;
  const spot = look.spots.find((s) => s.finding === f.id);
  const map = mapOf(f.place, context.section, look);
  const marks = engineCase.photoMarks.filter((m) => f.marks.includes(m.id) && stands(m));
  return (
    <li className="py-2">
      <div className="flex items-start gap-3">
        <LevelMark level={f.level} />
        <div className="min-w-0 flex-1">
          <p className="font-semibold">
            {name}, {levelWords[f.level]}
          </p>
          {spot ? (
            <p className="text-sm">
              <SpotWords spot={spot} />
            </p>
          ) : (
            f.zones.length > 0 && <p className="text-sm">{f.zones.length} zones</p>
          )}
          <p className="text-sm text-soft">
            {[f.spot, f.note].filter(Boolean).join('. ')}
            {(f.spot || f.note) && ' · '}
            {f.by}, {moment(f.at)}
            {f.version === 0 && <b className="text-brass"> · kept here, not yet sent</b>}
          </p>
          {marks.map((m) => (
            <button key={m.id} className="key mt-1 mr-1 text-sm" onClick={() => onShow?.(m.photo)}>
              {m.kind === 'arrow' ? '➚' : '○'} {m.label || 'on the picture'}
            </button>
          ))}
        </div>
        {map && f.zones.length > 0 && <ZoneGlance map={map} zones={f.zones} />}
        {mayWrite && (
          <button className="key px-2 text-sm" onClick={() => setWhy(why === null ? '' : null)}>
            Take back
          </button>
        )}
      </div>
      {why !== null && (
        <form
          className="mt-2 flex gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            takeBack.mutate({ of: 'findings', record: f, why, words: `${name}, ${levelWords[f.level]}` });
          }}
        >
          <input
            className="entry"
            placeholder="Why? It stays in the record."
            value={why}
            required
            onChange={(e) => setWhy(e.target.value)}
            aria-label="Why"
          />
          <button className="key key-go shrink-0">Take back</button>
        </form>
      )}
      <Trouble problem={takeBack.error} />
    </li>
  );
}

/** Two who do not agree, side by side; it counts for nothing until one of them is taken back. */
function Clash({ clash, context }: { clash: Schemas['Clash']; context: CaseContext }) {
  const { engineCase, knowledge } = context;
  const mayWrite = useMayWrite();
  const takeBack = useTakeBack(context);
  const findings = clash.findings.flatMap((id) =>
    engineCase.findings.filter((f) => f.id === id && stands(f)),
  );
  const name = knowledge.signs.find((s) => s.id === clash.sign)?.name ?? clash.sign;
  if (findings.length < 2) return null;
  return (
    <section
      className="rounded-lg border-2 border-lead bg-lead-tint p-3"
      aria-label={`Disagreement: ${name}`}
    >
      <p className="font-bold">
        <Addr code={clash.place} /> {name}: recorded differently. Both are kept; look again and say which
        stands.
      </p>
      <div className="mt-2 grid gap-2 sm:grid-cols-2">
        {findings.map((f) => (
          <div key={f.id} className="rounded-lg border border-line bg-sheet p-3">
            <p className="flex items-center gap-2 text-lg font-bold">
              <LevelMark level={f.level} /> {levelWords[f.level]}
            </p>
            <p className="text-sm text-soft">
              {f.by}, {moment(f.at)}
            </p>
            {f.note && <p>{f.note}</p>}
            {mayWrite && (
              <button
                className="key mt-2"
                disabled={takeBack.isPending}
                onClick={() => {
                  for (const other of findings.filter((o) => o.id !== f.id))
                    takeBack.mutate({
                      of: 'findings',
                      record: other,
                      why: `Looked again: ${levelWords[f.level]} (${f.by}) stands.`,
                      words: `${name}, ${levelWords[other.level]}`,
                    });
                }}
              >
                This one stands
              </button>
            )}
          </div>
        ))}
      </div>
      <Trouble problem={takeBack.error} />
    </section>
  );
}

export type { ShotId };
