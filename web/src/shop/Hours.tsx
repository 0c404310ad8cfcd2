import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useRef } from 'react';
import { useFieldArray } from 'react-hook-form';
import * as z from 'zod/mini';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { useMayWrite, useMe, useSettings } from '../api/queries';
import { day as dayWords, Trouble, Waiting } from '../ui/basics';
import {
  asTyped,
  EntryForm,
  FigureField,
  KeysField,
  needed,
  numberNeeded,
  numberTyped,
  TextField,
  useEntryForm,
} from '../ui/form';
import { hoursWords, readHours, readTools, toolsWords, weekdays } from './hours';

const hours = z.string().check(
  z.refine((text) => readHours(text) !== null, {
    message: tr`Write it as 8–12, 13–17, or leave it empty.`,
  }),
);
const schema = z.object({
  zone: z.string(),
  week: z.object({
    monday: hours,
    tuesday: hours,
    wednesday: hours,
    thursday: hours,
    friday: hours,
    saturday: hours,
    sunday: hours,
  }),
  hands: numberNeeded({ whole: true, min: 1, max: 50 }),
  benches: numberNeeded({ whole: true, min: 1, max: 50 }),
  tools: z.string().check(
    z.refine((text) => readTools(text) !== null, {
      message: tr`Write a name and how many: hoist 1, press 2.`,
    }),
  ),
  away: z.array(
    z.object({
      who: z.string(),
      from: needed(tr`From when?`),
      to: needed(tr`Until when?`),
      hands: numberNeeded({ whole: true, min: 0, max: 50 }),
    }),
  ),
  weatherAddress: z.string(),
});

type Fields = z.input<typeof schema>;

const fieldsOf = ({ work }: Schemas['ShopSettings']): Fields => ({
  zone: work.zone,
  week: Object.fromEntries(weekdays.map((d) => [d, hoursWords(work.week, d)])) as Fields['week'],
  hands: asTyped(work.hands),
  benches: asTyped(work.benches),
  tools: toolsWords(work.tools),
  away: work.away.map((a) => ({ ...a, hands: asTyped(a.hands) })),
  weatherAddress: work.weatherAddress,
});

/** When, with how many hands and in what weather the shop works: what every plan goes by. */
export function Hours() {
  const settings = useSettings();
  return settings.data ? (
    <main className="mx-auto grid max-w-6xl gap-8 px-4 py-6 lg:grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)]">
      <Work settings={settings.data} />
      <Weather settings={settings.data} />
    </main>
  ) : (
    <Waiting what={tr`the shop’s hours`} />
  );
}

function Work({ settings }: { settings: Schemas['ShopSettings'] }) {
  const client = useQueryClient();
  const lead = useMe().data?.role === 'lead';
  const here = Intl.DateTimeFormat().resolvedOptions().timeZone;
  const { form, touched, settle, version } = useEntryForm(schema, fieldsOf(settings), {
    draft: 'hours',
    version: settings.version,
  });
  const { fields, append, remove } = useFieldArray({ control: form.control, name: 'away' });
  const save = useMutation<Schemas['ShopSettings'], ApiProblem, z.output<typeof schema>>({
    mutationFn: ({ week, tools, ...rest }) =>
      unwrap(
        api.PUT('/api/work', {
          body: {
            version: version(),
            work: {
              ...rest,
              week: weekdays.flatMap((d) => readHours(week[d])!.map((h) => ({ day: d, ...h }))),
              tools: readTools(tools)!,
              weather: [],
            },
          },
        }),
      ),
    onSuccess: (saved) => {
      settle(fieldsOf(saved), saved.version);
      return client.invalidateQueries();
    },
  });
  return (
    <section>
      <EntryForm form={form} send={save.mutateAsync} className="space-y-4" disabled={!lead}>
        <h1 className="text-2xl">{tr`Hours and hands`}</h1>
        <p className="text-soft">
          {tr`What every plan goes by: when somebody is there, how many there are, and what there is but one of.`}
          {!lead && tr` A lead sets these.`}
        </p>
        <div className="space-y-2">
          {weekdays.map((d) => (
            <div key={d} className="items-center gap-3 sm:grid sm:grid-cols-[6.5rem_minmax(0,1fr)]">
              <span className="font-semibold capitalize">{d}</span>
              <TextField
                form={form}
                name={`week.${d}`}
                label={tr`Hours on ${d}`}
                unseen
                placeholder={tr`closed`}
                className="fig"
              />
            </div>
          ))}
        </div>
        <TextField
          form={form}
          name="zone"
          label={tr`Clock of`}
          placeholder={here}
          hint={tr`By region and city, such as ${here}. Empty takes the server’s clock.`}
        />
        <div className="grid grid-cols-2 gap-3">
          <FigureField form={form} name="hands" label={tr`Pairs of hands`} />
          <FigureField form={form} name="benches" label={tr`Benches`} />
        </div>
        <TextField
          form={form}
          name="tools"
          label={tr`Tools of which there are only so many`}
          placeholder={tr`hoist 1, press 1, acetylene 0`}
          hint={tr`0 while it is broken, empty or lent out: what needs it is held.`}
        />
        <div>
          <span className="label">{tr`Not there`}</span>
          <ul className="space-y-2">
            {fields.map((f, i) => (
              <li key={f.id} className="flex flex-wrap items-end gap-2">
                <TextField
                  form={form}
                  name={`away.${i}.who`}
                  label={tr`Who, or why`}
                  className="least-32 flex-1"
                />
                <TextField form={form} name={`away.${i}.from`} label={tr`From`} type="date" />
                <TextField form={form} name={`away.${i}.to`} label={tr`Until`} type="date" />
                <FigureField form={form} name={`away.${i}.hands`} label={tr`Hands missing`} />
                <button
                  type="button"
                  className="key"
                  aria-label={tr`Take this out`}
                  onClick={() => remove(i)}
                >
                  ✕
                </button>
              </li>
            ))}
          </ul>
          <button
            type="button"
            className="key mt-2 text-sm"
            onClick={() => append({ who: '', from: '', to: '', hands: '1' })}
          >
            {tr`Somebody is away`}
          </button>
          <p className="text-sm text-soft">{tr`No hands missing: the whole shop is closed.`}</p>
        </div>
        <TextField
          form={form}
          name="weatherAddress"
          label={tr`Weather service, host and port`}
          placeholder="weather:7175"
          hint={tr`Empty: the days are typed, or sent as a file. The operator of the server must have allowed the address; how it is asked is in docs/weather-format.md.`}
          className="fig"
        />
        <Trouble problem={save.error} />
        {lead && (
          <button className="key key-go" disabled={!touched || save.isPending}>
            {tr`Write the change`}
          </button>
        )}
      </EntryForm>
    </section>
  );
}

const oneDay = z.object({
  day: needed(tr`Which day?`),
  dry: z.enum(['yes', 'no', 'unknown']),
  coldest: numberTyped({ min: -90, max: 60 }),
});
const blankDay: z.input<typeof oneDay> = { day: '', dry: 'unknown', coldest: '' };

function Weather({ settings }: { settings: Schemas['ShopSettings'] }) {
  const client = useQueryClient();
  const mayWrite = useMayWrite();
  const file = useRef<HTMLInputElement>(null);
  const { form, settle } = useEntryForm(oneDay, blankDay, { draft: 'weather' });
  const again = () => client.invalidateQueries();
  const type = useMutation<unknown, ApiProblem, z.output<typeof oneDay>>({
    mutationFn: ({ day, dry, coldest }) =>
      unwrap(
        api.PUT('/api/weather', {
          body: { days: [{ day, dry: dry === 'unknown' ? null : dry === 'yes', coldest }] },
        }),
      ),
    onSuccess: () => {
      settle(blankDay);
      return again();
    },
  });
  const take = useMutation<Schemas['WeatherTaken'], ApiProblem, File | null>({
    mutationFn: (from) =>
      from
        ? unwrap<Schemas['WeatherTaken']>(
            api.POST('/api/weather.csv', {
              body: from as never,
              bodySerializer: () => from,
              headers: { 'Content-Type': 'text/csv' },
            }),
          )
        : unwrap(api.POST('/api/weather/ask')),
    onSuccess: again,
  });
  const today = new Date().toISOString().slice(0, 10);
  const ahead = settings.work.weather.filter((w) => w.day >= today);
  return (
    <section className="card h-fit space-y-3 p-5">
      <h2 className="text-xl">{tr`Weather`}</h2>
      <p className="text-soft">
        {tr`For washing outside, painting, and what must cure. Days that nobody speaks of count as good ones.`}
      </p>
      {ahead.length > 0 && (
        <ul className="divide-y divide-line">
          {ahead.map((w) => (
            <li key={w.day} className="flex gap-4 py-1">
              <span className="flex-1">{dayWords(w.day)}</span>
              <span>{w.dry === null ? '' : w.dry ? tr`dry` : tr`☂ wet`}</span>
              <span className="fig w-20 text-right">{w.coldest === null ? '' : `${w.coldest} °C`}</span>
            </li>
          ))}
        </ul>
      )}
      {mayWrite && (
        <>
          <EntryForm form={form} send={type.mutateAsync} className="space-y-2">
            <div className="grid grid-cols-2 gap-3">
              <TextField form={form} name="day" label={tr`Day`} type="date" />
              <FigureField form={form} name="coldest" label={tr`Coldest, °C`} />
            </div>
            <KeysField
              form={form}
              name="dry"
              label={tr`It is`}
              options={[
                ['yes', tr`dry`],
                ['no', tr`wet`],
                ['unknown', tr`not known`],
              ]}
            />
            <button className="key" disabled={type.isPending}>
              {tr`Keep the day`}
            </button>
          </EntryForm>
          <div className="mt-3 flex flex-wrap gap-2">
            <input
              ref={file}
              type="file"
              accept=".csv,text/csv"
              className="hidden"
              aria-label={tr`Forecast as a file`}
              onChange={(e) => {
                const [chosen] = e.target.files ?? [];
                if (chosen) take.mutate(chosen);
                e.target.value = '';
              }}
            />
            <button className="key text-sm" onClick={() => file.current?.click()} disabled={take.isPending}>
              {tr`A forecast from a file`}
            </button>
            {settings.work.weatherAddress && (
              <button className="key text-sm" onClick={() => take.mutate(null)} disabled={take.isPending}>
                {tr`Ask the weather service`}
              </button>
            )}
          </div>
          {take.data && (
            <p role="status">
              <Trans>{take.data.added} days taken</Trans>
              {take.data.bad > 0 && tr`, ${take.data.bad} rows not`}.
            </p>
          )}
          {take.data && take.data.problems.length > 0 && (
            <ul className="text-sm text-lead">
              {take.data.problems.map((p) => (
                <li key={`${p.row}${p.column}`}>
                  <Trans>
                    Row {p.row}, {p.column}: {p.text} {p.remedy}
                  </Trans>
                </li>
              ))}
            </ul>
          )}
          <Trouble problem={type.error ?? take.error} />
        </>
      )}
    </section>
  );
}
