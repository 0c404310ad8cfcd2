import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys, useMe, useSettings } from '../api/queries';
import { keepingWords } from '../ui/words';
import { Choice, Field, Trouble, Waiting } from '../ui/basics';
import { entriesOf } from '../ui/words';
import { NumberField } from '../ui/NumberField';

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
  const school = (change: Partial<Schemas['Schools']>) =>
    setDraft({ ...draft, schools: { ...shown.schools!, ...change } });
  return (
    <>
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
        <h2 className="text-xl">Where practitioners differ on measuring</h2>
        <Choice
          label="Second ring’s gap"
          value={shown.schools!.secondGap}
          disabled={!lead || save.isPending}
          options={[
            ['notSmaller', 'never smaller than the first'],
            ['mayBeSmaller', 'may be smaller, as of old'],
          ]}
          onChange={(secondGap) => school({ secondGap })}
        />
        <Choice
          label="Ring gaps are reckoned for"
          value={shown.schools!.ringUse}
          disabled={!lead || save.isPending}
          options={[
            ['ordinary', 'ordinary use'],
            ['hardDuty', 'hard duty'],
            ['airCooled', 'air-cooled engines'],
            ['twoStroke', 'two-strokes'],
            ['boosted', 'boost or nitrous'],
          ]}
          onChange={(ringUse) => school({ ringUse })}
        />
        <Choice
          label="Bores are honed with"
          value={shown.schools!.honing}
          disabled={!lead || save.isPending}
          options={[
            ['rigid', 'a rigid hone'],
            ['ball', 'a ball hone, for glaze only'],
          ]}
          onChange={(honing) => school({ honing })}
        />
        <Choice
          label="The ridge is"
          value={shown.schools!.cutRidge ? 'cut' : 'left'}
          disabled={!lead || save.isPending}
          options={[
            ['cut', 'cut before the pistons come out'],
            ['left', 'left for the boring bar'],
          ]}
          onChange={(v) => school({ cutRidge: v === 'cut' })}
        />
        <Choice
          label="A part that is replaced anyway"
          value={shown.schools!.measureReplaced ? 'measured' : 'not'}
          disabled={!lead || save.isPending}
          options={[
            ['measured', 'is measured all the same: it is evidence'],
            ['not', 'is left out of the rounds'],
          ]}
          onChange={(v) => school({ measureReplaced: v === 'measured' })}
        />
        <Choice
          label="Lengths are told in"
          value={shown.lengths}
          disabled={!lead || save.isPending}
          options={[
            ['mm', 'millimetres'],
            ['inch', 'inches'],
          ]}
          onChange={(lengths) => lengths && setDraft({ ...draft, lengths })}
        />
        <Choice
          label="Undersizes and oversizes are to be had in"
          value={shown.schools!.steps}
          disabled={!lead || save.isPending}
          options={[
            ['both', 'both'],
            ['metric', 'metric steps'],
            ['inch', 'inch steps'],
          ]}
          onChange={(steps) => school({ steps })}
        />
        <Choice
          label="Journals are ground and bores are bored"
          value={shown.schools!.centres}
          disabled={!lead || save.isPending}
          options={[
            ['original', 'on the old centres: wear on one side counts twice'],
            ['shifted', 'following the wear'],
          ]}
          onChange={(centres) => school({ centres })}
        />
        <div className="grid items-end gap-3 sm:grid-cols-3">
          {(
            [
              ['grindingAllowance', 'Grinding takes at least, mm on the diameter'],
              ['boringAllowance', 'Boring and honing take at least, mm'],
              ['roomSpan', 'The shop is 20 °C, give or take, K'],
            ] as const
          ).map(([key, label]) => (
            <NumberField
              key={key}
              label={label}
              min={0}
              max={key === 'roomSpan' ? 40 : key === 'boringAllowance' ? 2 : 1}
              disabled={!lead}
              value={shown.schools![key]}
              onChange={(value) => value !== null && school({ [key]: value })}
            />
          ))}
        </div>
        <Field
          label="Gauge on the network, host and port"
          hint="Empty: there is no gauge. The operator of the server must have allowed the address. The line protocol is in docs/gauge-protocol.md."
        >
          <input
            className="entry fig"
            disabled={!lead}
            placeholder="bench-gauge:7171"
            value={shown.gaugeAddress ?? ''}
            onChange={(e) => setDraft({ ...draft, gaugeAddress: e.target.value })}
          />
        </Field>
        <Field
          label="Label printer on the network, host and port"
          hint="Empty: there is none, and labels are printed from the PDF. The line protocol is in docs/printer-protocol.md."
        >
          <input
            className="entry fig"
            disabled={!lead}
            placeholder="label-printer:7172"
            value={shown.printerAddress ?? ''}
            onChange={(e) => setDraft({ ...draft, printerAddress: e.target.value })}
          />
        </Field>
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
                schools: shown.schools,
                gaugeAddress: shown.gaugeAddress,
                printerAddress: shown.printerAddress,
                lengths: shown.lengths,
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
