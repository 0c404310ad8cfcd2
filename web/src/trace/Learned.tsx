import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, unwrap, type Schemas } from '../api/client';
import { keys, useMayWrite } from '../api/queries';
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
      <h2 className="text-xl">What this shop’s closed cases say</h2>
      <p className="text-soft">
        From {closed} {closed === 1 ? 'case' : 'cases'} with a finding of your own that is proven or probable.
        {offers.length === 0
          ? ' No word is spoken against so far: that takes counts that fit another word ten times better.'
          : ' Nothing is taken over until you do it.'}
      </p>
      <ul className="mt-1 divide-y divide-line">
        {offers.map((o) => (
          <li
            key={`${o.cause}/${o.link}/${o.prediction}`}
            className="flex flex-wrap items-center justify-between gap-3 py-2"
          >
            <p className="min-w-64 flex-1">
              <Link
                className="font-bold underline decoration-line underline-offset-4"
                to={`/causes/${o.cause}`}
              >
                {o.causeName}
              </Link>
              {o.sign ? (
                <>
                  {' '}
                  leaves “{o.signName}” <b>{oftenWords[o.now]}</b>, it says. Looked for {o.of} times, found{' '}
                  {o.seen}.
                </>
              ) : (
                <>
                  {' '}
                  is <b>{oftenWords[o.now]}</b> met, it says. It was {o.seen} of {o.of} closed cases.
                </>
              )}{' '}
              <span className="text-soft">
                “{oftenWords[o.offered]}” fits {o.times >= 1000 ? 'over 1000' : Math.round(o.times)} times
                better.
              </span>
            </p>
            {mayWrite && (
              <button className="key" onClick={() => onUse(o)}>
                Use “{oftenWords[o.offered]}”
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
