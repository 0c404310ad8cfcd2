import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import type { ApiProblem, Schemas } from '../api/client';
import { useDossierPage, type DossierKind } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { pictureUrl } from '../pictures/picture';
import { Trouble, Waiting } from '../ui/basics';
import { FileKey } from '../ui/FileKey';
import { stands } from '../ui/words';
import { forMachineShop, kinds } from './kinds';
import { Links } from './Links';
import { Seals } from './Seals';

type Paper = 'a4' | 'letter';

/** Who it is for, which pictures, whose names: then it stands below as it goes out, and is kept as PDF or as one page that needs no network. */
export function Dossier() {
  const { engineCase } = useCaseContext();
  const [kind, setKind] = useState<DossierKind>('examiner');
  const [leaveOutNames, setLeaveOutNames] = useState(false);
  const [pictures, setPictures] = useState<string[] | null>(null);
  const [paper, setPaper] = useState<Paper>('a4');
  const wish = { kind, leaveOutNames, ...(pictures && { pictures: pictures.join(',') }) };
  const page = useDossierPage(engineCase.id, wish);
  const search = new URLSearchParams({
    kind,
    leaveOutNames: String(leaveOutNames),
    ...(pictures && { pictures: pictures.join(',') }),
  }).toString();
  const file = `/api/cases/${engineCase.id}/dossier`;
  const name = `${engineCase.title}, ${kinds[kind].name.toLowerCase()}`;
  return (
    <div className="mx-auto max-w-5xl">
      <div role="group" aria-label={tr`Who it is for`} className="grid gap-2 sm:grid-cols-2 lg:grid-cols-4">
        {Object.entries(kinds).map(([id, k]) => (
          <button
            key={id}
            className="key h-full flex-col items-start px-3 py-2 text-left"
            aria-pressed={kind === id}
            onClick={() => setKind(id as DossierKind)}
          >
            <span className="block font-semibold">{k.name}</span>
            <span className="block text-sm font-normal text-soft">{k.says}</span>
          </button>
        ))}
      </div>
      <p className="mt-2 text-sm text-soft">{forMachineShop}</p>
      <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <label className="flex min-h-11 items-center gap-2">
          <input
            type="checkbox"
            className="size-5"
            checked={leaveOutNames}
            onChange={(e) => setLeaveOutNames(e.target.checked)}
          />
          {tr`Leave out names`}
        </label>
        <label className="flex items-center gap-2">
          {tr`Paper`}
          <select className="entry" value={paper} onChange={(e) => setPaper(e.target.value as Paper)}>
            <option value="a4">{tr`A4`}</option>
            <option value="letter">{tr`Letter`}</option>
          </select>
        </label>
        <span className="flex flex-wrap gap-2">
          <FileKey className="key-go" href={`${file}/pdf/told?${search}&size=${paper}`} name={`${name}.pdf`}>
            {tr`Save as PDF`}
          </FileKey>
          <FileKey href={`${file}/page?${search}`} name={`${name}.html`}>
            {tr`Save as one page`}
          </FileKey>
        </span>
      </div>
      <Pictures photos={engineCase.photos.filter(stands)} chosen={pictures} choose={setPictures} />
      <div className="mt-3 grid items-start gap-3 lg:grid-cols-2">
        <Seals />
        <Links kind={kind} leaveOutNames={leaveOutNames} />
      </div>
      <Preview page={page} title={kinds[kind].name} />
    </div>
  );
}

function Preview({ page, title }: { page: ReturnType<typeof useDossierPage>; title: string }) {
  if (page.error) return <Trouble problem={page.error as ApiProblem} />;
  if (page.data === undefined) return <Waiting what={tr`the dossier`} />;
  // Nothing of it runs, and its links stay within it.
  return (
    <iframe
      title={title}
      sandbox=""
      srcDoc={page.data}
      className="mt-4 h-[75vh] w-full rounded-xl border-2 border-line bg-white"
    />
  );
}

/** Touched one after the other they stand in that order; untouched, those that show most are taken. */
function Pictures({
  photos,
  chosen,
  choose,
}: {
  photos: Schemas['Photo'][];
  chosen: string[] | null;
  choose: (pictures: string[] | null) => void;
}) {
  const { engineCase } = useCaseContext();
  if (photos.length === 0) return null;
  const toggle = (id: string) => {
    const now = chosen ?? [];
    const next = now.includes(id) ? now.filter((p) => p !== id) : [...now, id];
    choose(next.length > 0 ? next : null);
  };
  return (
    <details className="mt-3 rounded-xl border border-line p-3">
      <summary className="min-h-8 cursor-pointer font-semibold">
        <Trans>Pictures: </Trans>
        {chosen === null ? tr`those that show most` : tr`${chosen.length} of ${photos.length}, in your order`}
      </summary>
      <p className="mt-1 text-sm text-soft">
        {tr`Touch them in the order in which they should stand; touch one again to leave it out.`}
      </p>
      <ul className="mt-2 grid grid-cols-2 gap-2 sm:grid-cols-4 lg:grid-cols-6">
        {photos.map((p) => {
          const nth = chosen?.indexOf(p.id) ?? -1;
          return (
            <li key={p.id}>
              <button
                className="relative block w-full overflow-hidden rounded-lg border-2 border-line text-left aria-pressed:border-dye"
                aria-pressed={nth >= 0}
                aria-label={`${p.place} ${p.caption}`}
                onClick={() => toggle(p.id)}
              >
                <img
                  src={pictureUrl(engineCase.id, p.id, 'thumb')}
                  alt=""
                  className="aspect-4/3 w-full object-cover"
                />
                <span className="block truncate px-1 text-sm">
                  {p.place} {p.caption}
                </span>
                {nth >= 0 && (
                  <b className="absolute top-1 left-1 rounded-full bg-dye px-2 text-paper">{nth + 1}</b>
                )}
              </button>
            </li>
          );
        })}
      </ul>
      {chosen !== null && (
        <button className="key mt-2 text-sm" onClick={() => choose(null)}>
          {tr`Those that show most`}
        </button>
      )}
    </details>
  );
}
