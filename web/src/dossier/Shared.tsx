import { plural, t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { useParams } from 'react-router';
import { v7 } from 'uuid';
import { api, asked, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { day, moment, percent, Trouble, Waiting } from '../ui/basics';
import { FileKey } from '../ui/FileKey';
import { money } from '../ui/rates';
import { kinds } from './kinds';

/** What somebody reads who was given a link: one dossier, and what he says to the ways to go. */
export function Shared() {
  const { key = '' } = useParams();
  const [unit, setUnit] = useState<'mm' | 'in' | ''>('');
  const told = useQuery<Schemas['SharedDossier'], ApiProblem>({
    queryKey: ['shared', key],
    queryFn: () => unwrap(api.GET('/api/shared/{key}', { params: { path: { key } } })),
    retry: false,
  });
  const page = useQuery<string, ApiProblem>({
    queryKey: ['shared', key, 'page', unit],
    queryFn: () => unwrap(api.GET('/api/shared/{key}/page', { params: { path: { key } }, parseAs: 'text' })),
    retry: false,
    // Each fetch is noted as a reading: it is fetched once.
    staleTime: Infinity,
    refetchOnWindowFocus: false,
  });
  if (told.isPending) return <Waiting what={tr`the dossier`} />;
  if (told.error)
    return (
      <main className="mx-auto flex min-h-dvh max-w-md flex-col justify-center gap-4 px-5 py-8">
        <img src="/mark.svg" alt="" width={56} height={56} />
        <h1 className="text-3xl">{tr`Nothing can be read here`}</h1>
        {told.error.status === 404 ? (
          <p>{tr`The link has ended, was shut, or is not whole. Ask the shop for another.`}</p>
        ) : (
          <Trouble problem={told.error} />
        )}
      </main>
    );
  const file = `/api/shared/${key}`;
  const name = `${told.data.title}, ${kinds[told.data.kind].name.toLowerCase()}`;
  return (
    <main className="mx-auto max-w-4xl px-4 py-5">
      <h1 className="text-2xl">{told.data.title}</h1>
      <p className="text-soft">
        <Trans>
          {kinds[told.data.kind].name}, for {told.data.for}. It can be read here until {day(told.data.until)}.
        </Trans>
      </p>
      <div className="mt-3 flex flex-wrap items-center gap-2">
        <FileKey className="key-go" href={`${file}/pdf`} name={`${name}.pdf`}>
          {tr`Save as PDF`}
        </FileKey>
        <FileKey href={`${file}/page`} name={`${name}.html`}>
          {tr`Save as one page`}
        </FileKey>
        <label className="flex items-center gap-2 whitespace-nowrap">
          {tr`Lengths in`}
          <select
            className="entry"
            value={unit}
            onChange={(e) => {
              // Told with every request, of the files that are saved too.
              asked.lengths = (e.target.value || null) as typeof asked.lengths;
              setUnit(e.target.value as typeof unit);
            }}
          >
            <option value="">{tr`as the shop works`}</option>
            <option value="mm">{tr`mm`}</option>
            <option value="in">{tr`inches`}</option>
          </select>
        </label>
        {told.data.options.length > 0 && (
          <a className="key inline-flex items-center" href="#ways">
            {tr`What should be done? ↓`}
          </a>
        )}
      </div>
      {page.error ? (
        <Trouble problem={page.error} />
      ) : page.data === undefined ? (
        <Waiting what={tr`the page`} />
      ) : (
        <Paper title={kinds[told.data.kind].name} html={page.data} />
      )}
      {told.data.options.length > 0 && <Options shared={key} options={told.data.options} />}
    </main>
  );
}

/** The page as it goes out, as long as it is: whoever reads on a phone turns one page and not two. Nothing of it runs. */
function Paper({ title, html }: { title: string; html: string }) {
  const [height, setHeight] = useState(800);
  return (
    <iframe
      title={title}
      // To be measured; without scripts it can do nothing with it.
      sandbox="allow-same-origin"
      srcDoc={html}
      style={{ height }}
      onLoad={(e) => setHeight((e.currentTarget.contentDocument?.documentElement.scrollHeight ?? 800) + 4)}
      className="mt-4 w-full rounded-xl border-2 border-line bg-white"
    />
  );
}

function Options({ shared, options }: { shared: string; options: Schemas['SharedOption'][] }) {
  const [by, setBy] = useState('');
  return (
    <section id="ways" className="card mt-4 p-4">
      <h2 className="text-xl">{tr`What should be done?`}</h2>
      <p className="text-soft">
        {tr`Say yes to one way, or no with a word why. Your answer goes to the shop with your name and the time.`}
      </p>
      <label className="mt-2 block max-w-sm">
        <span className="label">{tr`Your name`}</span>
        <input
          className="entry w-full"
          value={by}
          onChange={(e) => setBy(e.target.value)}
          autoComplete="name"
        />
      </label>
      <ul className="mt-3 space-y-3">
        {options.map((o) => (
          <Way key={o.id} shared={shared} option={o} by={by} />
        ))}
      </ul>
    </section>
  );
}

function Way({ shared, option, by }: { shared: string; option: Schemas['SharedOption']; by: string }) {
  const client = useQueryClient();
  const id = useRef(v7());
  const [words, setWords] = useState('');
  const say = useMutation<unknown, ApiProblem, boolean>({
    mutationFn: (approves) =>
      unwrap(
        api.POST('/api/shared/{key}/answers', {
          params: { path: { key: shared } },
          body: {
            id: id.current,
            option: option.id,
            approves,
            cost: option.cost,
            currency: option.currency,
            name: by,
            words,
          },
        }),
      ),
    onSuccess: () => {
      id.current = v7();
      setWords('');
      return client.invalidateQueries({ queryKey: ['shared', shared], exact: true });
    },
  });
  const { answer } = option;
  return (
    <li className="rounded-xl border-2 border-line p-3">
      <p className="text-lg">
        <b>{option.title}</b>
        {option.scope && ` (${option.scope})`}
        {option.chosen && <span className="text-soft"> {tr`· what the shop would do`}</span>}
      </p>
      <p>
        <b className="fig">{money(option.cost, option.currency)}</b>
        {option.days > 0 &&
          tr` · ${option.days} ${plural(option.days, { one: 'day', other: 'days' })} until all of it is here`}
        <Trans>
          {' '}
          · by the shop’s reckoning it fails again before its next overhaul with a chance of{' '}
          {percent(option.chance)}
        </Trans>
      </p>
      {answer && (
        <p className="mt-1 font-semibold">
          {answer.approves ? tr`Approved` : tr`Refused`}{' '}
          <Trans>
            by {answer.name}, {moment(answer.at)}
          </Trans>
          {answer.words && `: “${answer.words}”`}
        </p>
      )}
      <label className="mt-2 block">
        <span className="label">{tr`A word to it (needed for a no)`}</span>
        <input className="entry w-full" value={words} onChange={(e) => setWords(e.target.value)} />
      </label>
      <div className="mt-2 flex flex-wrap gap-2">
        <button className="key key-go" disabled={say.isPending} onClick={() => say.mutate(true)}>
          <Trans>Yes, at {money(option.cost, option.currency)}</Trans>
        </button>
        <button className="key" disabled={say.isPending} onClick={() => say.mutate(false)}>
          {tr`No`}
        </button>
      </div>
      <Trouble problem={say.error} />
    </li>
  );
}
