import { t as tr } from '@lingui/core/macro';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useWatch } from 'react-hook-form';
import * as z from 'zod/mini';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys, useMe, useSettings } from '../api/queries';
import { Trouble, Waiting } from '../ui/basics';
import {
  asTyped,
  EntryForm,
  FigureField,
  KeysField,
  numberNeeded,
  oneOf,
  TextField,
  useEntryForm,
} from '../ui/form';
import { ratesAsTyped, ratesTyped } from '../ui/rates';
import { entriesOf, keepingWords } from '../ui/words';

const yesOrNo = z.pipe(
  z.enum(['yes', 'no']),
  z.transform((answer) => answer === 'yes'),
);
const yesNo = (yes: boolean) => (yes ? ('yes' as const) : ('no' as const));

const schema = z.object({
  holdSigner: z.enum(['lead', 'mechanic']),
  otherEyes: yesOrNo,
  openedBy: z.object({
    unread: z.enum(['lead', 'mechanic']),
    order: z.enum(['lead', 'mechanic']),
    fastenersOut: z.enum(['lead', 'mechanic']),
    hole: z.enum(['lead', 'mechanic']),
    empty: z.enum(['lead', 'mechanic']),
    assembly: z.enum(['lead', 'mechanic']),
  }),
  keeping: oneOf(keepingWords),
  keepingBySet: z.record(z.string(), oneOf(keepingWords)),
  gaugeAddress: z.string(),
  printerAddress: z.string(),
  lengths: z.enum(['mm', 'inch']),
  language: z.enum(['english', 'german']),
  currency: z.string().check(z.regex(/^[A-Za-z]{3}$/, tr`Three letters after ISO 4217, such as EUR.`)),
  hourRate: numberNeeded({ min: 0, max: 100_000 }),
  rates: ratesTyped,
  schools: z.object({
    mixing: z.enum(['alikeMayMix', 'never']),
    secondGap: z.enum(['notSmaller', 'mayBeSmaller']),
    ringUse: z.enum(['ordinary', 'hardDuty', 'airCooled', 'twoStroke', 'boosted']),
    honing: z.enum(['rigid', 'ball']),
    cutRidge: yesOrNo,
    measureReplaced: yesOrNo,
    twoPeople: yesOrNo,
    runningIn: z.enum(['loadEarly', 'gently']),
    steps: z.enum(['both', 'metric', 'inch']),
    centres: z.enum(['original', 'shifted']),
    grindingAllowance: numberNeeded({ min: 0, max: 1 }),
    boringAllowance: numberNeeded({ min: 0, max: 2 }),
    skimAllowance: numberNeeded({ min: 0, max: 1 }),
    looseRing: z.enum(['newShaft', 'sleeve', 'compound']),
    wornLobe: z.enum(['renewShaft', 'weldAndGrind']),
    usedRings: z.enum(['renew', 'reuseWhenSound']),
    portedRings: z.enum(['asMade', 'one']),
    ordering: z.enum(['holdAll', 'earlyAtARisk']),
    roomSpan: numberNeeded({ min: 0, max: 40 }),
  }),
});

/** Who may open a lock; one that the shop does not name a lead alone. */
const opener = (s: Schemas['ShopSettings'], lock: Schemas['StepLock']) =>
  s.openedBy[lock] === 'mechanic' ? ('mechanic' as const) : ('lead' as const);

const opened = [
  ['unread', tr`Evidence that nobody has read is passed, place by place, by`],
  ['order', tr`“Was off when it came”, and what must come first in a step, is said by`],
  ['fastenersOut', tr`A count of fasteners that differs is passed by`],
  ['hole', tr`Lengths that nobody noted are passed by`],
  ['empty', tr`A step with nothing entered is passed by`],
  ['assembly', tr`A figure, a look or a torque that is missing on the way back is passed by`],
] as const;

const fieldsOf = (s: Schemas['ShopSettings']): z.input<typeof schema> => ({
  holdSigner: s.holdSigner === 'mechanic' ? 'mechanic' : 'lead',
  otherEyes: yesNo(s.otherEyes),
  openedBy: {
    unread: opener(s, 'unread'),
    order: opener(s, 'order'),
    fastenersOut: opener(s, 'fastenersOut'),
    hole: opener(s, 'hole'),
    empty: opener(s, 'empty'),
    assembly: opener(s, 'assembly'),
  },
  keeping: s.keeping,
  keepingBySet: s.keepingBySet,
  gaugeAddress: s.gaugeAddress,
  printerAddress: s.printerAddress,
  lengths: s.lengths ?? 'mm',
  language: s.language ?? 'english',
  currency: s.currency,
  hourRate: asTyped(s.hourRate),
  rates: ratesAsTyped(s.rates),
  schools: {
    ...s.schools,
    cutRidge: yesNo(s.schools.cutRidge),
    measureReplaced: yesNo(s.schools.measureReplaced),
    twoPeople: yesNo(s.schools.twoPeople),
    grindingAllowance: asTyped(s.schools.grindingAllowance),
    boringAllowance: asTyped(s.schools.boringAllowance),
    skimAllowance: asTyped(s.schools.skimAllowance),
    roomSpan: asTyped(s.schools.roomSpan),
  },
});

/** Ways of the shop in which practitioners differ; set by a lead. */
export function Ways() {
  const settings = useSettings();
  return settings.data ? <OfTheShop settings={settings.data} /> : <Waiting what={tr`the shop’s ways`} />;
}

function OfTheShop({ settings }: { settings: Schemas['ShopSettings'] }) {
  const client = useQueryClient();
  const { data: me } = useMe();
  const lead = me?.role === 'lead';
  const { form, touched, settle, version } = useEntryForm(schema, fieldsOf(settings), {
    draft: 'shop',
    version: settings.version,
  });
  const keepingBySet = useWatch({ control: form.control, name: 'keepingBySet' });
  const own = Object.entries(keepingBySet);
  const save = useMutation<Schemas['ShopSettings'], ApiProblem, z.output<typeof schema>>({
    mutationFn: (ways) =>
      unwrap(
        api.PUT('/api/settings', {
          // Habits of kinds are taken over elsewhere; the server keeps them as they are.
          body: { ...ways, schools: { ...ways.schools, odds: [] }, work: null, version: version() },
        }),
      ),
    onSuccess: (saved) => {
      settle(fieldsOf(saved), saved.version);
      return client.invalidateQueries({ queryKey: keys.settings });
    },
  });
  return (
    <>
      <main className="mx-auto max-w-3xl px-4 py-6">
        <EntryForm
          form={form}
          send={save.mutateAsync}
          className="space-y-6"
          disabled={!lead || save.isPending}
        >
          <h1 className="text-2xl">{tr`How this shop works`}</h1>
          {!lead && <p className="text-soft">{tr`A lead sets these.`}</p>}
          <KeysField
            form={form}
            name="holdSigner"
            label={tr`Sign-offs are signed by`}
            options={[
              ['lead', tr`A lead or teacher`],
              ['mechanic', tr`The mechanic himself, or a lead`],
            ]}
          />
          <KeysField
            form={form}
            name="otherEyes"
            label={tr`A sign-off is signed by`}
            options={[
              ['yes', tr`another than did the step`],
              ['no', tr`whoever may sign, the one who did it too`],
            ]}
          />
          <fieldset className="space-y-3">
            <legend className="text-xl">{tr`Who may go on in spite of a lock, with a reason for each`}</legend>
            <p className="text-soft">
              {tr`Sign-offs, what must come first and ticks that matter are opened by no reason.`}
            </p>
            {opened.map(([lock, label]) => (
              <KeysField
                key={lock}
                form={form}
                name={`openedBy.${lock}`}
                label={label}
                options={[
                  ['lead', tr`a lead`],
                  ['mechanic', tr`the mechanic too`],
                ]}
              />
            ))}
          </fieldset>
          <KeysField
            form={form}
            name="schools.mixing"
            label={tr`Parts that are alike`}
            options={[
              ['alikeMayMix', tr`mixed is fine, where the list of parts says so`],
              ['never', tr`never mixed: each goes back where it was`],
            ]}
          />
          <p className="text-soft">
            {tr`A pair that has run together, such as lifter and lobe, is mixed in neither school.`}
          </p>
          <KeysField
            form={form}
            name="keeping"
            label={tr`Fasteners are kept`}
            options={entriesOf(keepingWords)}
          />
          {own.length > 0 && (
            <div>
              <span className="label">{tr`Sets with a way of their own`}</span>
              <ul>
                {own.map(([key, keeping]) => (
                  <li key={key} className="flex items-center gap-3">
                    <span className="fig flex-1 text-sm">{key}</span>
                    {keepingWords[keeping]}
                    {lead && (
                      <button
                        type="button"
                        className="key"
                        aria-label={tr`No way of its own for ${key}`}
                        onClick={() =>
                          form.setValue('keepingBySet', Object.fromEntries(own.filter(([k]) => k !== key)), {
                            shouldDirty: true,
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
          <h2 className="text-xl">{tr`Where practitioners differ on putting it together`}</h2>
          <KeysField
            form={form}
            name="schools.twoPeople"
            label={tr`What was tightened`}
            options={[
              ['yes', tr`is gone over by a second person, who signs for it`],
              ['no', tr`is the word of who tightened it`],
            ]}
          />
          <KeysField
            form={form}
            name="schools.runningIn"
            label={tr`An engine is run in`}
            options={[
              ['loadEarly', tr`warm, then under changing load from the first hour`],
              ['gently', tr`at light load for long, load by steps`],
            ]}
          />
          <h2 className="text-xl">{tr`Where practitioners differ on measuring`}</h2>
          <KeysField
            form={form}
            name="schools.secondGap"
            label={tr`Second ring’s gap`}
            options={[
              ['notSmaller', tr`never smaller than the first`],
              ['mayBeSmaller', tr`may be smaller, as of old`],
            ]}
          />
          <KeysField
            form={form}
            name="schools.ringUse"
            label={tr`Ring gaps are reckoned for`}
            options={[
              ['ordinary', tr`ordinary use`],
              ['hardDuty', tr`hard duty`],
              ['airCooled', tr`air-cooled engines`],
              ['twoStroke', tr`two-strokes`],
              ['boosted', tr`boost or nitrous`],
            ]}
          />
          <KeysField
            form={form}
            name="schools.honing"
            label={tr`Bores are honed with`}
            options={[
              ['rigid', tr`a rigid hone`],
              ['ball', tr`a ball hone, for glaze only`],
            ]}
          />
          <KeysField
            form={form}
            name="schools.cutRidge"
            label={tr`The ridge is`}
            options={[
              ['yes', tr`cut before the pistons come out`],
              ['no', tr`left for the boring bar`],
            ]}
          />
          <KeysField
            form={form}
            name="schools.measureReplaced"
            label={tr`A part that is replaced anyway`}
            options={[
              ['yes', tr`is measured all the same: it is evidence`],
              ['no', tr`is left out of the rounds`],
            ]}
          />
          <KeysField
            form={form}
            name="lengths"
            label={tr`Lengths are told in`}
            options={[
              ['mm', tr`millimetres`],
              ['inch', tr`inches`],
            ]}
          />
          <KeysField
            form={form}
            name="language"
            label={tr`Screens and papers are told in, where nobody chose on his device`}
            options={[
              ['english', 'English'],
              ['german', 'Deutsch'],
            ]}
          />
          <KeysField
            form={form}
            name="schools.steps"
            label={tr`Undersizes and oversizes are to be had in`}
            options={[
              ['both', tr`both`],
              ['metric', tr`metric steps`],
              ['inch', tr`inch steps`],
            ]}
          />
          <KeysField
            form={form}
            name="schools.centres"
            label={tr`Journals are ground and bores are bored`}
            options={[
              ['original', tr`on the old centres: wear on one side counts twice`],
              ['shifted', tr`following the wear`],
            ]}
          />
          <KeysField
            form={form}
            name="schools.looseRing"
            label={tr`An inner ring that slides on its shaft by hand`}
            options={[
              ['newShaft', tr`condemns the shaft`],
              ['sleeve', tr`gets a sleeved seat`],
              ['compound', tr`is held by retaining compound`],
            ]}
          />
          <KeysField
            form={form}
            name="schools.wornLobe"
            label={tr`A lobe that is gone`}
            options={[
              ['renewShaft', tr`condemns the camshaft`],
              ['weldAndGrind', tr`is welded and ground`],
            ]}
          />
          <KeysField
            form={form}
            name="schools.usedRings"
            label={tr`Rings that came off whole`}
            options={[
              ['renew', tr`are renewed always`],
              ['reuseWhenSound', tr`may go back into their own bore`],
            ]}
          />
          <KeysField
            form={form}
            name="schools.portedRings"
            label={tr`A ported two-stroke made with two rings runs`}
            options={[
              ['asMade', tr`both`],
              ['one', tr`one: the second groove stays empty`],
            ]}
          />
          <KeysField
            form={form}
            name="schools.ordering"
            label={tr`Parts are ordered`}
            options={[
              ['holdAll', tr`when everything before them is known`],
              ['earlyAtARisk', tr`early too, with the risk named for each`],
            ]}
          />
          <div className="grid items-end gap-3 sm:grid-cols-2">
            <FigureField
              form={form}
              name="schools.grindingAllowance"
              label={tr`Grinding takes at least, mm on the diameter`}
            />
            <FigureField
              form={form}
              name="schools.boringAllowance"
              label={tr`Boring and honing take at least, mm`}
            />
            <FigureField form={form} name="schools.skimAllowance" label={tr`Skimming takes at least, mm`} />
            <FigureField form={form} name="schools.roomSpan" label={tr`The shop is 20 °C, give or take, K`} />
          </div>
          <h2 className="text-xl">{tr`Money`}</h2>
          <div className="grid items-start gap-3 sm:grid-cols-3">
            <TextField form={form} name="currency" label={tr`Told in`} className="fig" />
            <FigureField form={form} name="hourRate" label={tr`An hour of our own counts`} />
            <TextField
              form={form}
              name="rates"
              label={tr`One unit of another is`}
              placeholder={tr`CHF 1.06, GBP 1.17`}
              hint={tr`The rates that a new option begins with.`}
              className="fig"
            />
          </div>
          <TextField
            form={form}
            name="gaugeAddress"
            label={tr`Gauge on the network, host and port`}
            hint={tr`Empty: there is no gauge. The operator of the server must have allowed the address. The line protocol is in docs/gauge-protocol.md.`}
            placeholder="bench-gauge:7171"
            className="fig"
          />
          <TextField
            form={form}
            name="printerAddress"
            label={tr`Label printer on the network, host and port`}
            hint={tr`Empty: there is none, and labels are printed from the PDF. The line protocol is in docs/printer-protocol.md.`}
            placeholder="label-printer:7172"
            className="fig"
          />
          <Trouble problem={save.error} />
          {lead && (
            <button className="key key-go" disabled={save.isPending || !touched}>
              {tr`So we do it`}
            </button>
          )}
        </EntryForm>
      </main>
    </>
  );
}
