import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import type { Schemas } from '../api/client';
import { useMayWrite } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { Scan } from '../casebook/Scan';
import { usePictureUrl, type Photo } from '../pictures/picture';
import { Addr, Choice, Trouble } from '../ui/basics';
import { custodyWords, facingWords, isOut, stands } from '../ui/words';
import { useAct } from './act';
import { mateStop, stopWords, type GoingIn, type MateStop } from './mate';

/** Parts that go in: each with its tag, how it sat, where it lies, and its picture as it came off. */
export function PartsIn({ step, parts }: { step: string; parts: Schemas['BackPart'][] }) {
  const scanned = parts.filter((p) => p.scan);
  const left = scanned.filter((p) => p.in === null);
  return (
    <section>
      <h3 className="text-lg">
        <Trans>Goes in </Trans>
        {scanned.length > 0 && (
          <span className="text-base font-normal text-soft">
            {left.length === 0
              ? tr`✓ all scanned in`
              : tr`${scanned.length - left.length} of ${scanned.length} scanned in`}
          </span>
        )}
      </h3>
      <ul className="mt-1 divide-y divide-line">
        {parts.map((p) => (
          <PartLine key={p.place} step={step} part={p} />
        ))}
      </ul>
    </section>
  );
}

function PartLine({ step, part }: { step: string; part: Schemas['BackPart'] }) {
  const { openPart, engineCase } = useCaseContext();
  const mayWrite = useMayWrite();
  const [open, setOpen] = useState(false);
  const { act, error } = useAct(step);
  const away = part.custody !== null && (isOut(part.custody) || part.custody === 'scrapped');
  const photo = engineCase.photos.find((p) => stands(p) && p.place === part.place);
  return (
    <li className="py-2">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        {photo && <Thumb photo={photo} />}
        <button className="flex min-h-11 items-center gap-3 text-left" onClick={() => openPart(part.place)}>
          <Addr code={part.place} className="text-xl" />
          <span>{part.name}</span>
        </button>
        <span className="least-40 flex-1 text-sm text-soft">
          {part.custody === null
            ? part.scan && !part.renew && tr`no tag: nobody said which way round it sat`
            : [
                part.mark && tr`mark ${part.mark}`,
                part.facing !== 'unknown' && tr`faced ${facingWords[part.facing].toLowerCase()}`,
                part.sideUp && tr`up: ${part.sideUp}`,
                part.in === null &&
                  !part.renew &&
                  [custodyWords[part.custody].toLowerCase(), part.where].filter(Boolean).join(', '),
              ]
                .filter(Boolean)
                .join(' · ')}
          {part.renew && (
            <b className="block text-ink">
              <Trans>A new one: {part.renewedAs}</Trans>
            </b>
          )}
          {away && part.in === null && <b className="block text-lead">{tr`! not here`}</b>}
        </span>
        {part.in !== null ? (
          <span className="flex items-center gap-2 text-sm">
            <b className="text-oil">
              {tr`✓ in`}
              {part.inNew && tr`, new`}
            </b>{' '}
            {part.inBy}
            {mayWrite && (
              <button
                className="key text-sm"
                aria-label={tr`${part.place} came out again`}
                onClick={() =>
                  void act('takenOut', part.place, tr`${part.place} out again`).catch(() => undefined)
                }
              >
                {tr`Out again`}
              </button>
            )}
          </span>
        ) : (
          mayWrite &&
          part.scan && (
            <button className="key text-sm" aria-expanded={open} onClick={() => setOpen(!open)}>
              {tr`Put it in`}
            </button>
          )
        )}
      </div>
      <Trouble problem={error} />
      {open && part.in === null && <GoesIn step={step} part={part} done={() => setOpen(false)} />}
    </li>
  );
}

export function Thumb({ photo }: { photo: Photo }) {
  const { engineCase } = useCaseContext();
  const url = usePictureUrl(engineCase.id, photo, 'thumb');
  return url ? (
    <img
      src={url}
      alt={photo.caption || tr`${photo.place} as it came off`}
      className="h-14 w-18 rounded object-cover"
    />
  ) : null;
}

/** A part is scanned or typed as it goes in; what is wrong stops it here, in large letters, before anything is written. */
function GoesIn({ step, part, done }: { step: string; part: Schemas['BackPart']; done: () => void }) {
  const { engineCase } = useCaseContext();
  const { act, error, isPending } = useAct(step);
  const [going, setGoing] = useState<GoingIn>({
    tag: '',
    facing: 'unknown',
    sideUp: false,
    isNew: part.renew,
    line: part.new.length === 1 ? part.new[0]!.line : null,
    why: '',
  });
  const [stop, setStop] = useState<MateStop | null>(null);
  const say = (change: Partial<GoingIn>) => {
    setStop(null);
    setGoing((g) => ({ ...g, ...change }));
  };
  const goIn = async (tag = going.tag) => {
    const now = { ...going, tag };
    const wrong = mateStop(part, now);
    setStop(wrong);
    setGoing(now);
    if (wrong) return;
    try {
      await act('fitted', part.place, tr`${part.place} in`, {
        tag: now.isNew ? '' : tag.trim().toUpperCase(),
        isNew: now.isNew,
        facing: now.facing,
        sideUp: now.sideUp,
        line: now.isNew ? now.line : null,
        why: now.isNew ? now.why.trim() : '',
      });
      done();
    } catch {
      // What is wrong stands below.
    }
  };
  const told = stop && stopWords[stop](part, going);
  return (
    <form
      className="mt-2 space-y-3 rounded-lg border-2 border-dye p-3"
      onSubmit={(e) => {
        e.preventDefault();
        void goIn();
      }}
    >
      {!part.renew && (
        <Choice
          label={tr`What goes in`}
          value={going.isNew ? 'new' : 'own'}
          options={[
            ['own', tr`its own, by its tag`],
            ['new', tr`a new one`],
          ]}
          onChange={(v) => say({ isNew: v === 'new' })}
        />
      )}
      {going.isNew ? (
        part.new.length > 0 ? (
          <Choice
            label={tr`It came with`}
            value={going.line ?? ''}
            options={part.new.map((n) => [n.line, n.checked ? n.what : tr`${n.what} (not let in)`] as const)}
            onChange={(line) => say({ line })}
          />
        ) : (
          <label className="block">
            <span className="label">{tr`Where it came from`}</span>
            <input className="entry" value={going.why} onChange={(e) => say({ why: e.target.value })} />
          </label>
        )
      ) : (
        <div className="flex flex-wrap items-end gap-2">
          <label className="block">
            <span className="label">{tr`The address on it`}</span>
            <input
              className="entry fig w-32 uppercase"
              autoCapitalize="characters"
              autoComplete="off"
              value={going.tag}
              onChange={(e) => say({ tag: e.target.value })}
            />
          </label>
          <Scan caseId={engineCase.id} onFound={(address) => void goIn(address)} />
        </div>
      )}
      {!going.isNew && part.facing !== 'unknown' && (
        <Choice
          label={tr`Its mark faces now`}
          value={going.facing}
          options={(['freeEnd', 'driveEnd', 'left', 'right'] as const).map(
            (f) => [f, facingWords[f]] as const,
          )}
          onChange={(facing) => say({ facing })}
        />
      )}
      {!going.isNew && part.sideUp && (
        <label className="flex min-h-11 items-center gap-3">
          <input
            type="checkbox"
            className="size-6"
            checked={going.sideUp}
            onChange={(e) => say({ sideUp: e.target.checked })}
          />
          <Trans>Up is: {part.sideUp}</Trans>
        </label>
      )}
      {told && (
        <div role="alert" className="rounded-lg border-4 border-lead bg-lead-tint p-3">
          <p className="text-2xl font-bold">✕ {told[0]}</p>
          <p>{told[1]}</p>
        </div>
      )}
      <Trouble problem={error} />
      <div className="flex gap-2">
        <button className="key key-go" disabled={isPending}>
          {tr`It is in`}
        </button>
        <button type="button" className="key" onClick={done}>
          {tr`Not now`}
        </button>
      </div>
    </form>
  );
}
