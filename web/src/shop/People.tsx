import { plural, t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { v7 } from 'uuid';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys, useMe } from '../api/queries';
import { day, moment, Trouble, Waiting } from '../ui/basics';
import { entriesOf, roleWords } from '../ui/words';

const does: Record<string, string> = {
  lead: tr`does everything, signs, and lets others in`,
  mechanic: tr`works on all cases`,
  viewer: tr`reads only`,
  student: tr`works at the bench of a class`,
};

/** A link that was just made. It stands here once. */
interface Made {
  link: string;
  words: string;
}

const linkOf = (code: string) => `${location.origin}/join#${code}`;

/** Who belongs to the shop. For leads. */
export function People() {
  const client = useQueryClient();
  const view = useQuery({ queryKey: keys.people, queryFn: () => unwrap(api.GET('/api/people')) });
  const [made, setMade] = useState<Made | null>(null);
  const again = () => client.invalidateQueries({ queryKey: keys.people });
  const invite = useMutation<Schemas['InvitationCode'], ApiProblem, string>({
    mutationFn: (role) => unwrap(api.POST('/api/people/invitations', { body: { id: v7(), role } })),
    onSuccess: ({ code, until }, role) => {
      setMade({
        link: linkOf(code),
        words: tr`Lets one ${role} in, once, until ${moment(until)}.`,
      });
      return again();
    },
  });
  const uninvite = useMutation<unknown, ApiProblem, string>({
    mutationFn: (id) =>
      unwrap(api.POST('/api/people/invitations/{id}/withdraw', { params: { path: { id } } })),
    onSuccess: again,
  });
  if (view.isPending) return <Waiting what={tr`the people`} />;
  if (!view.data)
    return (
      <main className="mx-auto max-w-3xl p-4">
        <Trouble problem={view.error as ApiProblem} />
      </main>
    );
  return (
    <main className="mx-auto max-w-4xl px-4 py-6">
      <h1 className="text-3xl">{tr`People`}</h1>
      <p className="mt-1 max-w-prose text-soft">
        <Trans>
          Each comes in by a link that is good once, with a name of their own: it stands beside all that they
          enter. What is done here, and to every record, stands in the{' '}
          <Link className="underline" to="/changes">
            record of changes
          </Link>
          .
        </Trans>
      </p>
      <section className="card mt-5 p-4" aria-labelledby="let-in">
        <h2 id="let-in" className="text-xl">
          {tr`Let somebody in`}
        </h2>
        <ul className="mt-3 grid gap-2 sm:grid-cols-2 lg:grid-cols-4">
          {entriesOf(roleWords).map(([role, word]) => (
            <li key={role}>
              <button
                className="key h-full w-full flex-col items-start py-2 text-left whitespace-normal"
                disabled={invite.isPending}
                onClick={() => invite.mutate(role)}
              >
                <b className="block">{word}</b>
                <span className="block text-sm text-soft">{does[role]}</span>
              </button>
            </li>
          ))}
        </ul>
        <Trouble problem={invite.error} />
        {made && <OneLink made={made} />}
        {view.data.invitations.length > 0 && (
          <ul className="mt-4 divide-y divide-line border-t border-line">
            {view.data.invitations.map((i) => (
              <li key={i.id} className="flex flex-wrap items-center gap-x-3 gap-y-1 py-2">
                <span className="min-w-0 flex-1">
                  {i.name ? (
                    <b>
                      <Trans>A new password for {i.name}</Trans>
                    </b>
                  ) : (
                    <b>
                      <Trans>For a {i.role}</Trans>
                    </b>
                  )}
                  <span className="text-soft">
                    <Trans> · made by</Trans> {i.by || tr`the program`}
                    <Trans>
                      , {moment(i.at)}; good until {moment(i.until)}
                    </Trans>
                  </span>
                </span>
                <button className="key text-sm" onClick={() => uninvite.mutate(i.id)}>
                  {tr`Take the link back`}
                </button>
              </li>
            ))}
          </ul>
        )}
      </section>
      <ul className="mt-5 space-y-3" aria-label={tr`People of the shop`}>
        {view.data.people.map((p) => (
          <li key={p.id}>
            <PersonCard person={p} onLink={setMade} />
          </li>
        ))}
      </ul>
    </main>
  );
}

function OneLink({ made }: { made: Made }) {
  const [copied, setCopied] = useState(false);
  return (
    <div role="status" className="mt-3 rounded-lg border-2 border-dye bg-dye-tint p-3">
      <p className="fig break-all select-all">{made.link}</p>
      <div className="mt-2 flex flex-wrap items-center gap-3">
        <button
          className="key"
          onClick={() =>
            void navigator.clipboard
              ?.writeText(made.link)
              .then(() => setCopied(true))
              .catch(() => undefined)
          }
        >
          {copied ? tr`Copied` : tr`Copy it`}
        </button>
        <span className="text-sm">
          <Trans>
            {made.words} It is shown only now: hand it over on paper or by a message to that person alone.
          </Trans>
        </span>
      </div>
    </div>
  );
}

function PersonCard({ person, onLink }: { person: Schemas['PersonLine']; onLink: (made: Made) => void }) {
  const client = useQueryClient();
  const { data: me } = useMe();
  const { id, name } = person;
  const out = person.shutOutAt !== null;
  const act = useMutation<unknown, ApiProblem, () => Promise<unknown>>({
    mutationFn: (work) => work(),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.people }),
  });
  const path = { params: { path: { id } } };
  const reset = async () => {
    const { code, until } = await unwrap(api.POST('/api/people/{id}/reset', path));
    onLink({ link: linkOf(code), words: tr`Sets a new password for ${name}, once, until ${moment(until)}.` });
    scrollTo({ top: 0 });
  };
  return (
    <article className={`card p-4 ${out ? 'border-lead bg-lead-tint' : ''}`}>
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h2 className="text-xl">{name}</h2>
        <p className="font-semibold">{roleWords[person.role] ?? person.role}</p>
        <p className="text-sm text-soft">
          {out
            ? tr`Shut out since ${day(person.shutOutAt!)}`
            : person.devices === 0
              ? tr`Signed in nowhere`
              : tr`Signed in on ${person.devices} ${plural(person.devices, { one: 'device', other: 'devices' })}, last seen ${moment(person.seenAt!)}`}
          {person.passkeys > 0 &&
            `; ${person.passkeys} ${plural(person.passkeys, { one: 'passkey', other: 'passkeys' })}`}
        </p>
      </div>
      <div className="mt-3 flex flex-wrap items-end gap-x-6 gap-y-3">
        <div role="group" aria-label={tr`Role of ${name}`} className="flex flex-wrap gap-1.5">
          {entriesOf(roleWords).map(([role, word]) => (
            <button
              key={role}
              className="key"
              aria-pressed={person.role === role}
              disabled={act.isPending || person.role === role}
              onClick={() =>
                act.mutate(() => unwrap(api.POST('/api/people/{id}/role', { ...path, body: { role } })))
              }
            >
              {word}
            </button>
          ))}
        </div>
        <div className="flex flex-wrap gap-1.5">
          <button className="key" disabled={act.isPending} onClick={() => act.mutate(reset)}>
            {tr`Link for a new password`}
          </button>
          <button
            className="key"
            disabled={act.isPending || person.devices === 0}
            onClick={() => act.mutate(() => unwrap(api.POST('/api/people/{id}/sign-out', path)))}
          >
            {tr`Sign out everywhere`}
          </button>
          {out ? (
            <button
              className="key"
              disabled={act.isPending}
              onClick={() => act.mutate(() => unwrap(api.POST('/api/people/{id}/let-in', path)))}
            >
              {tr`Let in again`}
            </button>
          ) : (
            <button
              className="key"
              disabled={act.isPending || me?.name === name}
              onClick={() => act.mutate(() => unwrap(api.POST('/api/people/{id}/shut-out', path)))}
            >
              {tr`Shut out now`}
            </button>
          )}
        </div>
      </div>
      <Trouble problem={act.error} />
    </article>
  );
}
