import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { useNavigate, useSearchParams } from 'react-router';
import { v7 } from 'uuid';
import * as z from 'zod/mini';
import { api, ApiProblem, unwrap, type EngineCase, type Schemas } from '../api/client';
import { keys } from '../api/queries';
import { LongSection } from '../section/LongSection';
import { Hatches } from '../section/Swatch';
import { Field, Trouble } from '../ui/basics';
import { EntryForm, needed, TextField, useEntryForm } from '../ui/form';
import { LayoutFields, layoutOf, taken, type Rows, type Shape } from './LayoutFields';

const schema = z.object({
  engineName: needed(tr`Name the engine as the job card does.`),
  title: z.string(),
  owner: z.string(),
  shape: z.custom<Shape>(),
  rows: z.custom<Rows>(),
  kindId: z.nullable(z.string()),
});

type Fields = z.input<typeof schema>;

const blank: Fields = {
  engineName: '',
  title: '',
  owner: '',
  shape: {
    arrangement: 'inline',
    cylinders: 4,
    cycle: 'fourStroke',
    bearings: 'plain',
    numbering: 'alongTheCrank',
    numberOneEnd: 'freeEnd',
    rotation: 'clockwise',
    mains: null,
    rodBearings: null,
    crank: null,
    bankAngle: null,
    bankAOnTheLeft: true,
    oilFeedEnd: 'freeEnd',
    ringsPerPiston: 3,
    oilRings: null,
    valveGear: 'overhead',
    inletValves: 1,
    exhaustValves: 1,
    camDrive: null,
    camPhasers: null,
    balanceShafts: 0,
    uniflow: false,
    fuel: 'carburettor',
    feed: null,
    charging: null,
    oilJets: null,
    boreMetal: null,
    ringMetal: null,
    journalSurface: null,
    boreSurface: null,
    reliefValves: 1,
    bores: null,
    cooling: 'liquid',
    case: 'block',
    gearboxInCase: false,
    primary: null,
    kickStart: false,
    ends: { flywheel: null, clutch: null, timing: null, starter: null },
    exhaustAt: null,
  },
  rows: { firing: '1 3 4 2', mainsAfter: '', mainTypes: '', gearTeeth: '', firingAngles: '' },
  kindId: null,
};

export function NewCase() {
  const navigate = useNavigate();
  const client = useQueryClient();
  const { form, settle } = useEntryForm(schema, blank, { draft: 'new-engine' });
  const [id] = useState(() => v7());
  const [shape, rows, kindId] = useWatch({ control: form.control, name: ['shape', 'rows', 'kindId'] });
  const layout = layoutOf(shape, rows, []);
  const starts = useQuery({
    queryKey: [tr`layout starts`],
    queryFn: () => unwrap(api.GET('/api/layouts')),
  });

  const preview = useQuery({
    queryKey: ['preview', JSON.stringify(layout)],
    queryFn: () => unwrap(api.POST('/api/layouts/preview', { body: layout })),
    placeholderData: (before) => before,
    retry: false,
    staleTime: Infinity,
  });
  const create = useMutation<EngineCase, ApiProblem, Fields>({
    mutationFn: (entry) =>
      unwrap(
        api.POST('/api/cases', {
          body: {
            id,
            title: entry.title,
            engineName: entry.engineName,
            owner: entry.owner,
            layout: layoutOf(entry.shape, entry.rows, []),
            kindId: entry.kindId,
          },
        }),
      ),
    onSuccess: async (made) => {
      settle(blank);
      await client.invalidateQueries({ queryKey: keys.cases });
      await navigate(`/cases/${made.id}/arrival`);
    },
  });

  const lay = (next: { shape: Shape; rows: Rows }) => {
    form.setValue('shape', next.shape, { shouldDirty: true });
    form.setValue('rows', next.rows, { shouldDirty: true });
  };
  const begin = (start: Schemas['LayoutStart'] | null) => {
    if (start) lay(taken(start.layout));
    form.setValue('kindId', start?.kindId ?? null, { shouldDirty: true });
    if (start?.kindId && form.getValues('engineName') === '')
      form.setValue('engineName', start.name, { shouldDirty: true });
  };
  // A kind that the address names is begun with at once; what was changed since, and outlived a reload, stays.
  const [params] = useSearchParams();
  const asked = starts.data?.find((s) => s.kindId !== null && s.kindId === params.get('kind'));
  const [begun, setBegun] = useState(false);
  if (asked && !begun && kindId !== asked.kindId) {
    setBegun(true);
    queueMicrotask(() => begin(asked));
  }
  const wrong = preview.error instanceof ApiProblem ? preview.error : null;

  return (
    <>
      <Hatches />
      <main className="mx-auto grid max-w-7xl gap-6 px-4 py-5 lg:grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)]">
        <EntryForm form={form} send={create.mutateAsync} className="space-y-4">
          <h1 className="text-2xl">{tr`What is on the stand?`}</h1>
          <TextField
            form={form}
            name="engineName"
            label={tr`Engine`}
            hint={tr`As on the job card: name, size, what it drives.`}
          />
          <div className="grid gap-4 sm:grid-cols-2">
            <TextField
              form={form}
              name="title"
              label={tr`Title of the case`}
              placeholder={tr`what went wrong, in a word`}
            />
            <TextField form={form} name="owner" label={tr`Owner`} />
          </div>
          <Starts starts={starts.data ?? []} kindId={kindId} onChoose={begin} />
          <LayoutFields shape={shape} rows={rows} onChange={lay} numbering />
          <Trouble problem={create.error ?? wrong} />
          <button className="key key-go w-full sm:w-auto" disabled={create.isPending || wrong !== null}>
            {tr`Start the case`}
          </button>
        </EntryForm>
        <aside className="space-y-3">
          <h2 className="text-xl">{tr`Check the layout`}</h2>
          <div className={`card p-3 ${wrong ? 'opacity-40' : ''}`}>
            {preview.data && <LongSection section={preview.data.section} quiet fit />}
          </div>
          {preview.data && !wrong && (
            <div className="card p-4">
              <p>
                <Trans>
                  <b>{preview.data.addresses} addresses.</b> Check the ends and the thrust sides before a tag
                  is written: a wrong number one makes every tag wrong.
                </Trans>
              </p>
              <div className="mt-3 overflow-x-auto" tabIndex={0} role="region" aria-label={tr`Cylinders`}>
                <table className="w-full text-left [&_td]:pr-3 [&_th]:pr-3">
                  <thead className="text-sm text-soft">
                    <tr>
                      <th>{tr`Cylinder`}</th>
                      <th>{tr`Fires at`}</th>
                      <th>{tr`Crankpin`}</th>
                      <th>{tr`Between mains`}</th>
                      <th>{tr`Thrust side`}</th>
                    </tr>
                  </thead>
                  <tbody className="fig">
                    {preview.data.cylinders.map((c) => (
                      <tr key={c.number} className="border-t border-line">
                        <td className="py-0.5 font-bold">{c.number}</td>
                        <td>{Math.round(c.firingAngle)}°</td>
                        <td>
                          <Trans>K{c.crankpin}</Trans>
                        </td>
                        <td>
                          {tr`M`}
                          {c.flankingMains.join(', M')}
                        </td>
                        <td>{c.majorThrustSide}</td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              </div>
              {preview.data.marksMeet !== null && (
                <p className="mt-3">
                  <Trans>
                    The marks of the timing gears meet again after{' '}
                    <b className="fig">{preview.data.marksMeet}</b> turns of the crankshaft.
                  </Trans>
                </p>
              )}
              {preview.data.oilRoute.length > 0 && (
                <p className="mt-3 text-sm text-soft">
                  <Trans>
                    Oil reaches the bearings in this order:{' '}
                    <span className="fig">{preview.data.oilRoute.join(' ')}</span>. Taken from common
                    practice; the maker’s drawing comes first.
                  </Trans>
                </p>
              )}
            </div>
          )}
        </aside>
      </main>
    </>
  );
}

/** What the layout starts from: an engine that was here before, or a family. All of it can be changed afterwards. */
function Starts({
  starts,
  kindId,
  onChoose,
}: {
  starts: Schemas['LayoutStart'][];
  /** The kind that was begun with. */
  kindId: string | null;
  onChoose: (start: Schemas['LayoutStart'] | null) => void;
}) {
  const [at, setAt] = useState('');
  const ofKind = kindId === null ? -1 : starts.findIndex((s) => s.kindId === kindId);
  const value = ofKind >= 0 ? String(ofKind) : at;
  const chosen = value === '' ? undefined : starts[Number(value)];
  if (starts.length === 0) return null;
  const lines = starts.map((start, i) => ({ start, i }));
  return (
    <Field
      label={tr`Start from`}
      hint={
        chosen?.kindId
          ? tr`Its figures, sizes, torques and script come with it; the layout can be changed below.`
          : chosen
            ? chosen.says || tr`As the last case of this engine has it. Look at each field all the same.`
            : tr`An engine that was here before, or a family; all of it can be changed below.`
      }
    >
      <select
        className="entry"
        value={value}
        onChange={(e) => {
          setAt(e.target.value);
          onChoose(e.target.value === '' ? null : (starts[Number(e.target.value)] ?? null));
        }}
      >
        <option value="">{tr`nothing: I lay it out myself`}</option>
        {lines.some((l) => l.start.kindId) && (
          <optgroup label={tr`Kinds, with their figures`}>
            {lines
              .filter((l) => l.start.kindId)
              .map((l) => (
                <option key={l.i} value={l.i}>
                  {l.start.name}
                </option>
              ))}
          </optgroup>
        )}
        <optgroup label={tr`Engines of this shop`}>
          {lines
            .filter((l) => l.start.ofThisShop && !l.start.kindId)
            .map((l) => (
              <option key={l.i} value={l.i}>
                {l.start.name}
              </option>
            ))}
        </optgroup>
        <optgroup label={tr`Families`}>
          {lines
            .filter((l) => !l.start.ofThisShop)
            .map((l) => (
              <option key={l.i} value={l.i}>
                {l.start.name}
              </option>
            ))}
        </optgroup>
      </select>
    </Field>
  );
}
