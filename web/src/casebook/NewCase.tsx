import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { v7 } from 'uuid';
import * as z from 'zod/mini';
import { api, ApiProblem, unwrap, type EngineCase, type Layout } from '../api/client';
import { keys } from '../api/queries';
import { Hatches, LongSection } from '../section/LongSection';
import { Choice, Field, Trouble } from '../ui/basics';
import { EntryForm, needed, TextField, useEntryForm } from '../ui/form';

type Shape = Omit<Layout, 'firingOrder'>;

const schema = z.object({
  engineName: needed('Name the engine as the job card does.'),
  title: z.string(),
  owner: z.string(),
  layout: z.custom<Shape>(),
  firing: z.string(),
});

type Fields = z.input<typeof schema>;

const blank: Fields = {
  engineName: '',
  title: '',
  owner: '',
  layout: {
    arrangement: 'inline',
    cylinders: 4,
    cycle: 'fourStroke',
    bearings: 'plain',
    numbering: 'alongTheCrank',
    numberOneEnd: 'freeEnd',
    rotation: 'clockwise',
    mains: null,
    bankAngle: null,
    bankAOnTheLeft: true,
    oilFeedEnd: 'freeEnd',
    ringsPerPiston: 3,
    valveGear: 'overhead',
    inletValves: 1,
    exhaustValves: 1,
    fuel: 'carburettor',
    cooling: 'liquid',
    case: 'block',
    gearboxInCase: false,
    exhaustAt: null,
  },
  firing: '1 3 4 2',
};

/** Firing orders often met, offered as a start; the maker's plate decides. */
const usual: Record<string, string> = {
  single1: '1',
  inline2: '1 2',
  inline3: '1 3 2',
  inline4: '1 3 4 2',
  inline5: '1 2 4 5 3',
  inline6: '1 5 3 6 2 4',
  vee6: '1 2 3 4 5 6',
  vee8: '1 8 4 3 6 5 7 2',
  flat2: '1 2',
  flat4: '1 4 3 2',
  flat6: '1 6 2 4 3 5',
};

const layoutOf = ({ layout, firing }: Pick<Fields, 'layout' | 'firing'>): Layout => ({
  ...layout,
  firingOrder: firing
    .split(/[^0-9]+/)
    .filter(Boolean)
    .map(Number),
});

export function NewCase() {
  const navigate = useNavigate();
  const client = useQueryClient();
  const { form, settle } = useEntryForm(schema, blank, { draft: 'new-case' });
  const [id] = useState(() => v7());
  const [l, firing] = useWatch({ control: form.control, name: ['layout', 'firing'] });
  const layout = layoutOf({ layout: l, firing });
  const twoBanks = layout.arrangement === 'vee' || layout.arrangement === 'flat';

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
            layout: layoutOf(entry),
          },
        }),
      ),
    onSuccess: async (made) => {
      settle(blank);
      await client.invalidateQueries({ queryKey: keys.cases });
      await navigate(`/cases/${made.id}/arrival`);
    },
  });

  const shape = (change: Partial<Shape>) => {
    const next = { ...l, ...change };
    if (next.arrangement === 'single') next.cylinders = 1;
    else if (next.cylinders === 1) next.cylinders = next.arrangement === 'inline' ? 4 : 2;
    const banks = next.arrangement === 'vee' || next.arrangement === 'flat';
    if (banks !== (next.numbering !== 'alongTheCrank')) next.numbering = banks ? 'oddEven' : 'alongTheCrank';
    const changed = next.arrangement !== l.arrangement || next.cylinders !== l.cylinders;
    const offered =
      usual[`${next.arrangement}${next.cylinders}`] ??
      Array.from({ length: next.cylinders }, (_, i) => i + 1).join(' ');
    form.setValue('layout', next, { shouldDirty: true });
    if (changed) form.setValue('firing', offered, { shouldDirty: true });
  };
  const wrong = preview.error instanceof ApiProblem ? preview.error : null;

  return (
    <>
      <Hatches />
      <main className="mx-auto grid max-w-7xl gap-6 px-4 py-5 lg:grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)]">
        <EntryForm form={form} send={create.mutateAsync} className="space-y-4">
          <h1 className="text-2xl">What is on the stand?</h1>
          <TextField
            form={form}
            name="engineName"
            label="Engine"
            hint="As on the job card: name, size, what it drives."
          />
          <div className="grid gap-4 sm:grid-cols-2">
            <TextField
              form={form}
              name="title"
              label="Title of the case"
              placeholder="what went wrong, in a word"
            />
            <TextField form={form} name="owner" label="Owner" />
          </div>
          <Choice
            label="Arrangement"
            value={l.arrangement}
            onChange={(arrangement) => shape({ arrangement })}
            options={[
              ['single', 'Single'],
              ['inline', 'Inline'],
              ['vee', 'Vee'],
              ['flat', 'Flat'],
            ]}
          />
          <div className="flex flex-wrap gap-x-6 gap-y-4">
            <div>
              <span className="label" id="cyl">
                Cylinders
              </span>
              <div className="flex items-center gap-1.5" role="group" aria-labelledby="cyl">
                <button
                  type="button"
                  className="key"
                  aria-label="Fewer cylinders"
                  disabled={l.arrangement === 'single' || l.cylinders <= 2}
                  onClick={() => shape({ cylinders: l.cylinders - (twoBanks ? 2 : 1) })}
                >
                  −
                </button>
                <output className="fig w-10 text-center text-2xl font-bold">{l.cylinders}</output>
                <button
                  type="button"
                  className="key"
                  aria-label="More cylinders"
                  disabled={l.arrangement === 'single' || l.cylinders >= 24}
                  onClick={() => shape({ cylinders: l.cylinders + (twoBanks ? 2 : 1) })}
                >
                  +
                </button>
              </div>
            </div>
            <Choice
              label="Cycle"
              value={l.cycle}
              onChange={(cycle) => shape({ cycle })}
              options={[
                ['fourStroke', 'Four-stroke'],
                ['twoStroke', 'Two-stroke'],
              ]}
            />
            <Choice
              label="Crank bearings"
              value={l.bearings}
              onChange={(bearings) => shape({ bearings })}
              options={[
                ['plain', 'Plain shells'],
                ['rolling', 'Rolling'],
              ]}
            />
          </div>
          <details>
            <summary className="key inline-flex cursor-pointer items-center">
              Valve gear, fuel, cooling, case
            </summary>
            <div className="mt-3 flex flex-wrap gap-x-6 gap-y-4">
              {l.cycle === 'fourStroke' && (
                <>
                  <Choice
                    label="Valves opened by"
                    value={l.valveGear}
                    onChange={(valveGear) => shape({ valveGear })}
                    options={[
                      ['side', 'Side valves'],
                      ['pushrod', 'Pushrods'],
                      ['overhead', 'One overhead camshaft'],
                      ['twinOverhead', 'Two overhead camshafts'],
                    ]}
                  />
                  <Choice
                    label="Valves per cylinder, inlet and exhaust"
                    value={`${l.inletValves}${l.exhaustValves}`}
                    onChange={(v) => shape({ inletValves: Number(v[0]), exhaustValves: Number(v[1]) })}
                    options={[
                      ['11', '1 + 1'],
                      ['21', '2 + 1'],
                      ['22', '2 + 2'],
                      ['32', '3 + 2'],
                    ]}
                  />
                </>
              )}
              <Choice
                label="Fuel"
                value={l.fuel}
                onChange={(fuel) => shape({ fuel })}
                options={[
                  ['carburettor', 'Carburettor or mixer'],
                  ['injected', 'Injected, spark'],
                  ['diesel', 'Diesel'],
                ]}
              />
              <Choice
                label="Cooling"
                value={l.cooling}
                onChange={(cooling) => shape({ cooling })}
                options={[
                  ['liquid', 'Liquid'],
                  ['air', 'Air'],
                ]}
              />
              <Choice
                label="Crankcase"
                value={l.case}
                onChange={(build) => shape({ case: build })}
                options={[
                  ['block', 'Block with caps or cover'],
                  ['split', 'Two halves'],
                ]}
              />
              <Choice
                label="Gearbox in the same case"
                value={l.gearboxInCase ? 'yes' : 'no'}
                onChange={(v) => shape({ gearboxInCase: v === 'yes' })}
                options={[
                  ['no', 'No'],
                  ['yes', 'Yes'],
                ]}
              />
            </div>
            <Field
              label="Exhaust lies at, o’clock"
              hint="Seen from the head, 12 toward the free end. It marks the exhaust on the maps of bore and piston; leave it empty when nobody looked."
            >
              <select
                className="entry max-w-40"
                value={l.exhaustAt ?? ''}
                onChange={(e) => shape({ exhaustAt: e.target.value === '' ? null : Number(e.target.value) })}
              >
                <option value="">not noted</option>
                {Array.from({ length: 12 }, (_, i) => (
                  <option key={i}>{i + 1}</option>
                ))}
              </select>
            </Field>
          </details>
          <div className="flex flex-wrap gap-x-6 gap-y-4">
            <Choice
              label="Number one is at the"
              value={l.numberOneEnd}
              onChange={(numberOneEnd) => shape({ numberOneEnd })}
              options={[
                ['freeEnd', 'Free end'],
                ['driveEnd', 'Drive end'],
              ]}
            />
            <Choice
              label="Turns, seen from the free end"
              value={l.rotation}
              onChange={(rotation) => shape({ rotation })}
              options={[
                ['clockwise', 'Clockwise ↻'],
                ['anticlockwise', 'Anticlockwise ↺'],
              ]}
            />
          </div>
          {twoBanks && (
            <div className="flex flex-wrap gap-x-6 gap-y-4">
              <Choice
                label="Numbering"
                value={l.numbering}
                onChange={(numbering) => shape({ numbering })}
                options={[
                  ['oddEven', 'Odd and even banks'],
                  ['bankAfterBank', 'Bank after bank'],
                ]}
              />
              <Choice
                label="Bank with number one, from the free end"
                value={l.bankAOnTheLeft ? 'left' : 'right'}
                onChange={(side) => shape({ bankAOnTheLeft: side === 'left' })}
                options={[
                  ['left', 'Left'],
                  ['right', 'Right'],
                ]}
              />
            </div>
          )}
          <TextField
            form={form}
            name="firing"
            label="Firing order"
            hint="Offered as often met; the maker’s plate or manual decides."
            inputMode="numeric"
            className="fig text-lg"
          />
          <Trouble problem={create.error ?? wrong} />
          <button className="key key-go w-full sm:w-auto" disabled={create.isPending || wrong !== null}>
            Start the case
          </button>
        </EntryForm>
        <aside className="space-y-3">
          <h2 className="text-xl">So it is laid out</h2>
          <div className={`card p-3 ${wrong ? 'opacity-40' : ''}`}>
            <div className="h-72">{preview.data && <LongSection section={preview.data.section} quiet />}</div>
          </div>
          {preview.data && !wrong && (
            <div className="card p-4">
              <p>
                <b>{preview.data.addresses} addresses.</b> Check the ends and the thrust sides before a tag is
                written: a wrong number one makes every tag wrong.
              </p>
              <table className="mt-3 w-full text-left">
                <thead className="text-sm text-soft">
                  <tr>
                    <th>Cylinder</th>
                    <th>Fires at</th>
                    <th>Crankpin</th>
                    <th>Between mains</th>
                    <th>Thrust side</th>
                  </tr>
                </thead>
                <tbody className="fig">
                  {preview.data.cylinders.map((c) => (
                    <tr key={c.number} className="border-t border-line">
                      <td className="py-0.5 font-bold">{c.number}</td>
                      <td>{Math.round(c.firingAngle)}°</td>
                      <td>K{c.crankpin}</td>
                      <td>M{c.flankingMains.join(', M')}</td>
                      <td>{c.majorThrustSide}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
              {preview.data.oilRoute.length > 0 && (
                <p className="mt-3 text-sm text-soft">
                  Oil reaches the bearings in this order:{' '}
                  <span className="fig">{preview.data.oilRoute.join(' ')}</span>. Taken from common practice;
                  the maker’s drawing comes first.
                </p>
              )}
            </div>
          )}
        </aside>
      </main>
    </>
  );
}
