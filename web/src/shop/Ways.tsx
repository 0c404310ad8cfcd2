import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys, useMe } from '../api/queries';
import { keepingWords, useSettings } from '../strip/useStrip';
import { Choice, Trouble, Waiting } from '../ui/basics';
import { entriesOf } from '../ui/words';
import { Header } from './Header';

/** Ways of the shop in which practitioners differ; set by a lead. */
export function Ways() {
  const client = useQueryClient();
  const settings = useSettings();
  const { data: me } = useMe();
  const lead = me?.role === 'lead';
  const [draft, setDraft] = useState<Partial<Schemas['SettingsEntry']>>({});
  const save = useMutation<unknown, ApiProblem, Schemas['SettingsEntry']>({
    mutationFn: (body) => unwrap(api.PUT('/api/settings', { body })),
    onSuccess: () => {
      setDraft({});
      return client.invalidateQueries({ queryKey: keys.settings });
    },
  });
  if (!settings.data) return <Waiting what="the shop’s ways" />;
  const shown = { ...settings.data, ...draft };
  const own = Object.entries(shown.keepingBySet);
  return (
    <>
      <Header>
        <span className="font-bold">Shop ways</span>
      </Header>
      <main className="mx-auto max-w-3xl space-y-6 px-4 py-6">
        <h1 className="text-2xl">How this shop works</h1>
        {!lead && <p className="text-soft">A lead sets these.</p>}
        <Choice
          label="Hold points are signed by"
          value={shown.holdSigner === 'mechanic' ? 'mechanic' : 'lead'}
          disabled={!lead || save.isPending}
          options={[
            ['lead', 'A lead or teacher'],
            ['mechanic', 'The mechanic himself, or a lead'],
          ]}
          onChange={(holdSigner) => setDraft({ ...draft, holdSigner })}
        />
        <Choice
          label="Fasteners are kept"
          value={shown.keeping}
          disabled={!lead || save.isPending}
          options={entriesOf(keepingWords)}
          onChange={(keeping) => setDraft({ ...draft, keeping })}
        />
        {own.length > 0 && (
          <div>
            <span className="label">Sets with a way of their own</span>
            <ul>
              {own.map(([key, keeping]) => (
                <li key={key} className="flex items-center gap-3">
                  <span className="fig flex-1 text-sm">{key}</span>
                  {keepingWords[keeping]}
                  {lead && (
                    <button
                      className="key"
                      aria-label={`No way of its own for ${key}`}
                      onClick={() =>
                        setDraft({
                          ...draft,
                          keepingBySet: Object.fromEntries(own.filter(([k]) => k !== key)),
                        })
                      }
                    >
                      ✕
                    </button>
                  )}
                </li>
              ))}
            </ul>
          </div>
        )}
        <Trouble problem={save.error} />
        {lead && (
          <button
            className="key key-go"
            disabled={save.isPending || Object.keys(draft).length === 0}
            onClick={() =>
              save.mutate({
                version: shown.version,
                holdSigner: shown.holdSigner,
                keeping: shown.keeping,
                keepingBySet: shown.keepingBySet,
              })
            }
          >
            So we do it
          </button>
        )}
      </main>
    </>
  );
}
