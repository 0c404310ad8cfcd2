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
  currency: z.string().check(z.regex(/^[A-Za-z]{3}$/, 'Three letters after ISO 4217, such as EUR.')),
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
  ['unread', 'Evidence that nobody has read is passed, place by place, by'],
  ['order', '“Was off when it came”, and what must come first in a step, is said by'],
  ['fastenersOut', 'A count of fasteners that differs is passed by'],
  ['hole', 'Lengths that nobody noted are passed by'],
  ['empty', 'A step with nothing entered is passed by'],
  ['assembly', 'A figure, a look or a torque that is missing on the way back is passed by'],
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
  return settings.data ? <OfTheShop settings={settings.data} /> : <Waiting what="the shop’s ways" />;
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
          <h1 className="text-2xl">How this shop works</h1>
          {!lead && <p className="text-soft">A lead sets these.</p>}
          <KeysField
            form={form}
            name="holdSigner"
            label="Sign-offs are signed by"
            options={[
              ['lead', 'A lead or teacher'],
              ['mechanic', 'The mechanic himself, or a lead'],
            ]}
          />
          <KeysField
            form={form}
            name="otherEyes"
            label="A sign-off is signed by"
            options={[
              ['yes', 'another than did the step'],
              ['no', 'whoever may sign, the one who did it too'],
            ]}
          />
          <fieldset className="space-y-3">
            <legend className="text-xl">Who may go on in spite of a lock, with a reason for each</legend>
            <p className="text-soft">
              Sign-offs, what must come first and ticks that matter are opened by no reason.
            </p>
            {opened.map(([lock, label]) => (
              <KeysField
                key={lock}
                form={form}
                name={`openedBy.${lock}`}
                label={label}
                options={[
                  ['lead', 'a lead'],
                  ['mechanic', 'the mechanic too'],
                ]}
              />
            ))}
          </fieldset>
          <KeysField
            form={form}
            name="schools.mixing"
            label="Parts that are alike"
            options={[
              ['alikeMayMix', 'mixed is fine, where the list of parts says so'],
              ['never', 'never mixed: each goes back where it was'],
            ]}
          />
          <p className="text-soft">
            A pair that has run together, such as lifter and lobe, is mixed in neither school.
          </p>
          <KeysField
            form={form}
            name="keeping"
            label="Fasteners are kept"
            options={entriesOf(keepingWords)}
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
                        type="button"
                        className="key"
                        aria-label={`No way of its own for ${key}`}
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
          <h2 className="text-xl">Where practitioners differ on putting it together</h2>
          <KeysField
            form={form}
            name="schools.twoPeople"
            label="What was tightened"
            options={[
              ['yes', 'is gone over by a second person, who signs for it'],
              ['no', 'is the word of who tightened it'],
            ]}
          />
          <KeysField
            form={form}
            name="schools.runningIn"
            label="An engine is run in"
            options={[
              ['loadEarly', 'warm, then under changing load from the first hour'],
              ['gently', 'at light load for long, load by steps'],
            ]}
          />
          <h2 className="text-xl">Where practitioners differ on measuring</h2>
          <KeysField
            form={form}
            name="schools.secondGap"
            label="Second ring’s gap"
            options={[
              ['notSmaller', 'never smaller than the first'],
              ['mayBeSmaller', 'may be smaller, as of old'],
            ]}
          />
          <KeysField
            form={form}
            name="schools.ringUse"
            label="Ring gaps are reckoned for"
            options={[
              ['ordinary', 'ordinary use'],
              ['hardDuty', 'hard duty'],
              ['airCooled', 'air-cooled engines'],
              ['twoStroke', 'two-strokes'],
              ['boosted', 'boost or nitrous'],
            ]}
          />
          <KeysField
            form={form}
            name="schools.honing"
            label="Bores are honed with"
            options={[
              ['rigid', 'a rigid hone'],
              ['ball', 'a ball hone, for glaze only'],
            ]}
          />
          <KeysField
            form={form}
            name="schools.cutRidge"
            label="The ridge is"
            options={[
              ['yes', 'cut before the pistons come out'],
              ['no', 'left for the boring bar'],
            ]}
          />
          <KeysField
            form={form}
            name="schools.measureReplaced"
            label="A part that is replaced anyway"
            options={[
              ['yes', 'is measured all the same: it is evidence'],
              ['no', 'is left out of the rounds'],
            ]}
          />
          <KeysField
            form={form}
            name="lengths"
            label="Lengths are told in"
            options={[
              ['mm', 'millimetres'],
              ['inch', 'inches'],
            ]}
          />
          <KeysField
            form={form}
            name="schools.steps"
            label="Undersizes and oversizes are to be had in"
            options={[
              ['both', 'both'],
              ['metric', 'metric steps'],
              ['inch', 'inch steps'],
            ]}
          />
          <KeysField
            form={form}
            name="schools.centres"
            label="Journals are ground and bores are bored"
            options={[
              ['original', 'on the old centres: wear on one side counts twice'],
              ['shifted', 'following the wear'],
            ]}
          />
          <KeysField
            form={form}
            name="schools.looseRing"
            label="An inner ring that slides on its shaft by hand"
            options={[
              ['newShaft', 'condemns the shaft'],
              ['sleeve', 'gets a sleeved seat'],
              ['compound', 'is held by retaining compound'],
            ]}
          />
          <KeysField
            form={form}
            name="schools.wornLobe"
            label="A lobe that is gone"
            options={[
              ['renewShaft', 'condemns the camshaft'],
              ['weldAndGrind', 'is welded and ground'],
            ]}
          />
          <KeysField
            form={form}
            name="schools.usedRings"
            label="Rings that came off whole"
            options={[
              ['renew', 'are renewed always'],
              ['reuseWhenSound', 'may go back into their own bore'],
            ]}
          />
          <KeysField
            form={form}
            name="schools.portedRings"
            label="A ported two-stroke made with two rings runs"
            options={[
              ['asMade', 'both'],
              ['one', 'one: the second groove stays empty'],
            ]}
          />
          <KeysField
            form={form}
            name="schools.ordering"
            label="Parts are ordered"
            options={[
              ['holdAll', 'when everything before them is known'],
              ['earlyAtARisk', 'early too, with the risk named for each'],
            ]}
          />
          <div className="grid items-end gap-3 sm:grid-cols-2">
            <FigureField
              form={form}
              name="schools.grindingAllowance"
              label="Grinding takes at least, mm on the diameter"
            />
            <FigureField
              form={form}
              name="schools.boringAllowance"
              label="Boring and honing take at least, mm"
            />
            <FigureField form={form} name="schools.skimAllowance" label="Skimming takes at least, mm" />
            <FigureField form={form} name="schools.roomSpan" label="The shop is 20 °C, give or take, K" />
          </div>
          <h2 className="text-xl">Money</h2>
          <div className="grid items-start gap-3 sm:grid-cols-3">
            <TextField form={form} name="currency" label="Told in" className="fig" />
            <FigureField form={form} name="hourRate" label="An hour of our own counts" />
            <TextField
              form={form}
              name="rates"
              label="One unit of another is"
              placeholder="CHF 1.06, GBP 1.17"
              hint="The rates that a new option begins with."
              className="fig"
            />
          </div>
          <TextField
            form={form}
            name="gaugeAddress"
            label="Gauge on the network, host and port"
            hint="Empty: there is no gauge. The operator of the server must have allowed the address. The line protocol is in docs/gauge-protocol.md."
            placeholder="bench-gauge:7171"
            className="fig"
          />
          <TextField
            form={form}
            name="printerAddress"
            label="Label printer on the network, host and port"
            hint="Empty: there is none, and labels are printed from the PDF. The line protocol is in docs/printer-protocol.md."
            placeholder="label-printer:7172"
            className="fig"
          />
          <Trouble problem={save.error} />
          {lead && (
            <button className="key key-go" disabled={save.isPending || !touched}>
              So we do it
            </button>
          )}
        </EntryForm>
      </main>
    </>
  );
}
