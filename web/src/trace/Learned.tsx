import { plural, t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys, useKnowledge, useMayWrite } from '../api/queries';
import { Trouble } from '../ui/basics';
import { oftenWords } from './causeWords';

/** Words that the shop's closed cases speak against, with the one that fits better. Nothing is changed until somebody does. */
export function Learned({ onUse }: { onUse: (offer: Schemas['LearnedOffer']) => void }) {
  const mayWrite = useMayWrite();
  const learned = useQuery({
    queryKey: keys.learned,
    queryFn: () => unwrap(api.GET('/api/causes/learned')),
  });
  if (!learned.data) return null;
  const { closed, offers } = learned.data;
  return (
    <section className="card p-4">
      <h2 className="text-xl">{tr`What this shop’s closed cases say`}</h2>
      <p className="text-soft">
        <Trans>From {closed}</Trans> {plural(closed, { one: 'case', other: 'cases' })}{' '}
        {tr`with a finding of your own that is proven or probable.`}
        {offers.length === 0
          ? tr` No word is spoken against so far: that takes counts that fit another word ten times better.`
          : tr` Nothing is taken over until you do it.`}
      </p>
      <ul className="mt-1 divide-y divide-line">
        {offers.map((o) => (
          <li
            key={`${o.cause}/${o.link}/${o.prediction}`}
            className="flex flex-wrap items-center justify-between gap-3 py-2"
          >
            <p className="least-64 flex-1">
              <Link
                className="font-bold underline decoration-line underline-offset-4"
                to={`/causes/${o.cause}`}
              >
                {o.causeName}
              </Link>
              {o.sign ? (
                <>
                  <Trans>
                    {' '}
                    leaves “{o.signName}” <b>{oftenWords[o.now]}</b>, it says. Looked for {o.of} times, found{' '}
                    {o.seen}.
                  </Trans>
                </>
              ) : (
                <>
                  <Trans>
                    {' '}
                    is <b>{oftenWords[o.now]}</b> met, it says. It was {o.seen} of {o.of} closed cases.
                  </Trans>
                </>
              )}{' '}
              <span className="text-soft">
                <Trans>“{oftenWords[o.offered]}” fits</Trans>{' '}
                {o.times >= 1000 ? tr`over 1000` : Math.round(o.times)} {tr`times better.`}
              </span>
            </p>
            {mayWrite && (
              <button className="key" onClick={() => onUse(o)}>
                <Trans>Use “{oftenWords[o.offered]}”</Trans>
              </button>
            )}
          </li>
        ))}
      </ul>
      <Kinds learned={learned.data} />
    </section>
  );
}

type Odds = Schemas['KindOdds'];

/** How kinds of engines fail more often than others; taken over and taken back by a person. */
function Kinds({ learned }: { learned: Schemas['LearnedView'] }) {
  const client = useQueryClient();
  const mayWrite = useMayWrite();
  const knowledge = useKnowledge();
  const move = useMutation<Schemas['LearnedView'], ApiProblem, { odds: Odds; back: boolean }>({
    mutationFn: ({ odds: { kind, cause, cylinder }, back }) =>
      unwrap(
        api.POST(back ? '/api/causes/learned/odds/back' : '/api/causes/learned/odds', {
          body: { kind, cause, cylinder },
        }),
      ),
    onSuccess: (view) => {
      client.setQueryData(keys.learned, view);
      return client.invalidateQueries({ queryKey: ['case'] });
    },
  });
  if (learned.kinds.length + learned.taken.length === 0) return null;
  const row = (o: Odds, back: boolean) => (
    <li
      key={`${o.kind}/${o.cause}/${o.cylinder}`}
      className="flex flex-wrap items-center justify-between gap-3 py-2"
    >
      <p className="least-64 flex-1">
        <b>{o.kind}</b>:{' '}
        {o.cause
          ? (knowledge.data?.causes.find((c) => c.id === o.cause)?.name ?? o.cause)
          : tr`cylinder ${o.cylinder ?? ''}`}
        <Trans>
          , {o.seen} of {o.of} closed cases; <span className="fig">{o.times}</span> times the usual odds
        </Trans>
        {back && <b className="text-oil"> {tr`· taken over`}</b>}
      </p>
      {mayWrite && (
        <button className="key" disabled={move.isPending} onClick={() => move.mutate({ odds: o, back })}>
          {back ? tr`Undo` : tr`Take over`}
        </button>
      )}
    </li>
  );
  return (
    <>
      <h3 className="mt-3 text-lg">{tr`Kinds of engines with a habit`}</h3>
      <ul className="divide-y divide-line">
        {learned.taken.map((o) => row(o, true))}
        {learned.kinds.map((o) => row(o, false))}
      </ul>
      <Trouble problem={move.error} />
    </>
  );
}
