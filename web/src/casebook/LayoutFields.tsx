import { t as tr } from '@lingui/core/macro';
import type { Layout, Schemas } from '../api/client';
import { Choice, Field } from '../ui/basics';

/** A layout while it is entered; numbers in a row are kept as typed. */
export type Shape = Omit<
  Layout,
  'firingOrder' | 'mainsAfter' | 'mainTypes' | 'gearTeeth' | 'firingAngles' | 'ownParts'
>;

/** What is typed as numbers in a row. */
export interface Rows {
  firing: string;
  mainsAfter: string;
  /** A letter for each: p for plain, r for rolling. */
  mainTypes: string;
  gearTeeth: string;
  firingAngles: string;
}

const numbers = (text: string) =>
  text
    .split(/[^0-9.]+/)
    .filter(Boolean)
    .map(Number);
const some = (text: string) => (text.trim() === '' ? null : numbers(text));

/** Each word by its first letter; what is neither is told by the server as one too few. */
const kinds = (text: string): Layout['mainTypes'] =>
  text.trim() === ''
    ? null
    : (text.toLowerCase().match(/[pr]/g) ?? []).map((l) => (l === 'p' ? 'plain' : 'rolling'));

export const layoutOf = (shape: Shape, rows: Rows, ownParts: Layout['ownParts']): Layout => ({
  ...shape,
  ownParts,
  firingOrder: firingOf(rows.firing),
  mainsAfter: some(rows.mainsAfter),
  mainTypes: kinds(rows.mainTypes),
  gearTeeth: numbers(rows.gearTeeth),
  firingAngles: some(rows.firingAngles),
});

/** The same taken apart again. */
export function taken(layout: Layout): { shape: Shape; rows: Rows } {
  const { firingOrder, mainsAfter, mainTypes, gearTeeth, firingAngles, ownParts: _, ...shape } = layout;
  return {
    shape,
    rows: {
      firing: firingOrder.join(' '),
      mainsAfter: (mainsAfter ?? []).join(' '),
      mainTypes: (mainTypes ?? []).map((t) => t[0]).join(' '),
      gearTeeth: gearTeeth.join(' '),
      firingAngles: (firingAngles ?? []).join(' '),
    },
  };
}

/** A firing order as people type it: “1-3-4-2”, “1, 3, 4, 2”, and “1342” up to nine cylinders. */
export const firingOf = (text: string): number[] =>
  /^[1-9]{2,9}$/.test(text.trim()) ? [...text.trim()].map(Number) : numbers(text);

/** Firing orders often met, offered as a start; the maker's plate decides. */
const usual: Record<string, string> = {
  single1: '1',
  inline2: '1 2',
  inline3: '1 3 2',
  inline4: '1 3 4 2',
  inline5: '1 2 4 5 3',
  inline6: '1 5 3 6 2 4',
  vee2: '1 2',
  vee6: '1 2 3 4 5 6',
  vee8: '1 8 4 3 6 5 7 2',
  flat2: '1 2',
  flat4: '1 4 3 2',
  flat6: '1 6 2 4 3 5',
};

/** One choice changes what others can be: what cannot stand beside it is put to what is usual. */
export function shaped(shape: Shape, rows: Rows, change: Partial<Shape>): { shape: Shape; rows: Rows } {
  const next = { ...shape, ...change };
  if (next.arrangement === 'single') next.cylinders = 1;
  else if (next.cylinders === 1) next.cylinders = next.arrangement === 'inline' ? 4 : 2;
  const banks = next.arrangement === 'vee' || next.arrangement === 'flat';
  if (banks && next.cylinders % 2 === 1) next.cylinders += 1;
  if (banks !== (next.numbering !== 'alongTheCrank')) next.numbering = banks ? 'oddEven' : 'alongTheCrank';
  if (next.arrangement !== 'vee') next.bankAngle = null;
  if (next.cycle !== 'twoStroke') next.uniflow = false;
  if (next.fuel !== 'diesel') next.feed = null;
  if (!next.gearboxInCase) next.primary = null;
  if (!(next.cycle === 'fourStroke' || next.uniflow)) next.camDrive = null;
  if (!next.uniflow && next.exhaustValves > 2) next.exhaustValves = 2;
  if (next.camPhasers && next.valveGear !== 'overhead' && next.valveGear !== 'twinOverhead')
    next.camPhasers = null;
  if (next.cooling === 'air' && next.bores === 'wetLiner') next.bores = null;
  if (next.oilRings !== null && next.ringsPerPiston - next.oilRings < 1) next.oilRings = null;
  if (next.arrangement === shape.arrangement && next.cylinders === shape.cylinders)
    return { shape: next, rows };
  const firing =
    usual[`${next.arrangement}${next.cylinders}`] ??
    Array.from({ length: next.cylinders }, (_, i) => i + 1).join(' ');
  return {
    shape: { ...next, mains: null },
    rows: { ...rows, firing, mainsAfter: '', mainTypes: '', firingAngles: '' },
  };
}

/** A choice that may be left open. */
function Open<T extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: T | null | undefined;
  options: [T, string][];
  onChange: (value: T | null) => void;
}) {
  return (
    <Choice
      label={label}
      value={value ?? 'open'}
      onChange={(v) => onChange(v === 'open' ? null : (v as T))}
      options={[['open', tr`Not said`], ...options]}
    />
  );
}

const surfaces: [NonNullable<Schemas['RunningSurface']>, string][] = [
  ['plain', tr`As cut`],
  ['inductionHardened', tr`Induction hardened`],
  ['nitrided', tr`Nitrided`],
  ['rolledFillets', tr`Rolled fillets`],
  ['chromed', tr`Chromed`],
  ['plated', tr`Plated`],
];

const metals: ['castIron' | 'steel' | 'aluminium', string][] = [
  ['castIron', tr`Cast iron`],
  ['steel', tr`Steel`],
  ['aluminium', tr`Alloy, bare or plated`],
];
const yesNo: ['yes' | 'no', string][] = [
  ['yes', tr`Yes`],
  ['no', tr`No`],
];
const asYes = (v: boolean | null | undefined) => (v === null || v === undefined ? null : v ? 'yes' : 'no');
const ends: ['freeEnd' | 'driveEnd', string][] = [
  ['freeEnd', tr`Free end`],
  ['driveEnd', tr`Drive end`],
];

function Row({
  label,
  hint,
  value,
  onChange,
}: {
  label: string;
  hint: string;
  value: string;
  onChange: (value: string) => void;
}) {
  return (
    <Field label={label} hint={hint}>
      <input
        className="entry fig max-w-72"
        inputMode="decimal"
        value={value}
        onChange={(e) => onChange(e.target.value)}
      />
    </Field>
  );
}

function Group({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <details className="border-t border-line py-2">
      <summary className="min-h-11 cursor-pointer py-2 font-semibold">{title}</summary>
      <div className="flex flex-wrap gap-x-6 gap-y-4 pt-1 pb-3">{children}</div>
    </details>
  );
}

interface Props {
  shape: Shape;
  rows: Rows;
  onChange: (next: { shape: Shape; rows: Rows }) => void;
  /** Which end is number one and how banks are numbered are put right by themselves once there are tags. */
  numbering: boolean;
}

/** The engine as it is: what is asked first decides what is asked after. */
export function LayoutFields({ shape: l, rows, onChange, numbering }: Props) {
  const set = (change: Partial<Shape>) => onChange(shaped(l, rows, change));
  const row = (change: Partial<Rows>) => onChange({ shape: l, rows: { ...rows, ...change } });
  const twoBanks = l.arrangement === 'vee' || l.arrangement === 'flat';
  const valved = l.cycle === 'fourStroke' || l.uniflow;
  const step = twoBanks ? 2 : 1;
  return (
    <>
      <Choice
        label={tr`Arrangement`}
        value={l.arrangement}
        onChange={(arrangement) => set({ arrangement })}
        options={[
          ['single', tr`Single`],
          ['inline', tr`Inline`],
          ['vee', tr`Vee`],
          ['flat', tr`Flat`],
        ]}
      />
      <div className="flex flex-wrap gap-x-6 gap-y-4">
        <Stepper
          label={tr`Cylinders`}
          value={l.cylinders}
          least={l.arrangement === 'single' ? 1 : 2}
          most={l.arrangement === 'single' ? 1 : 24}
          step={step}
          onChange={(cylinders) => set({ cylinders })}
        />
        <Choice
          label={tr`Cycle`}
          value={l.cycle}
          onChange={(cycle) => set({ cycle })}
          options={[
            ['fourStroke', tr`Four-stroke`],
            ['twoStroke', tr`Two-stroke`],
          ]}
        />
        <Choice
          label={tr`Main bearings`}
          value={l.bearings}
          onChange={(bearings) => set({ bearings })}
          options={[
            ['plain', tr`Plain shells`],
            ['rolling', tr`Ball or roller bearings`],
          ]}
        />
      </div>
      <div>
        <Group title={tr`Crankshaft and rods`}>
          <Open
            label={tr`Big ends`}
            value={l.rodBearings}
            onChange={(rodBearings) => set({ rodBearings })}
            options={[
              ['plain', tr`Plain`],
              ['rolling', tr`Ball or roller bearings`],
            ]}
          />
          <Open
            label={tr`Crankshaft`}
            value={l.crank}
            onChange={(crank) => set({ crank })}
            options={[
              ['onePiece', tr`One piece, rods with caps`],
              ['built', tr`Pressed together, rods in one piece`],
            ]}
          />
          <Row
            label={tr`Mains stand after how many crankpins`}
            hint={tr`From number one, e.g. 0 2 4 6 for a six with four mains. Empty: one between all pins.`}
            value={rows.mainsAfter}
            onChange={(mainsAfter) => row({ mainsAfter })}
          />
          <Row
            label={tr`Kinds of the mains, where they differ`}
            hint={tr`From number one, p for plain and r for rolling: p p r. Empty: all alike.`}
            value={rows.mainTypes}
            onChange={(mainTypes) => row({ mainTypes })}
          />
          {twoBanks && l.arrangement === 'vee' && (
            <Row
              label={tr`Angle between the banks, °`}
              hint={tr`Leave it empty when nobody knows.`}
              value={l.bankAngle?.toString() ?? ''}
              onChange={(v) => set({ bankAngle: v.trim() === '' ? null : Number(v) })}
            />
          )}
        </Group>
        <Group title={tr`Pistons, rings and bores`}>
          <Stepper
            label={tr`Rings on a piston`}
            value={l.ringsPerPiston}
            least={1}
            most={5}
            onChange={(ringsPerPiston) => set({ ringsPerPiston })}
          />
          <Open
            label={tr`Oil rings among them`}
            value={
              l.oilRings === null || l.oilRings === undefined ? null : (`${l.oilRings}` as '0' | '1' | '2')
            }
            onChange={(v) => set({ oilRings: v === null ? null : Number(v) })}
            options={[
              ['0', tr`None`],
              ['1', tr`One`],
              ['2', tr`Two`],
            ]}
          />
          <Open
            label={tr`Bores`}
            value={l.bores}
            onChange={(bores) => set({ bores })}
            options={[
              ['parent', tr`In the block`],
              ['dryLiner', tr`Dry liners`],
              ['wetLiner', tr`Wet liners`],
              ['barrel', tr`Barrels`],
            ]}
          />
          <Open
            label={tr`Bores are of`}
            value={l.boreMetal}
            onChange={(boreMetal) => set({ boreMetal })}
            options={metals}
          />
          <Open
            label={tr`Rings are of`}
            value={l.ringMetal}
            onChange={(ringMetal) => set({ ringMetal })}
            options={metals.slice(0, 2)}
          />
          <Open
            label={tr`Journals of the crankshaft are`}
            value={l.journalSurface}
            onChange={(journalSurface) => set({ journalSurface })}
            options={surfaces.slice(0, 5)}
          />
          <Open
            label={tr`Bores run`}
            value={l.boreSurface}
            onChange={(boreSurface) => set({ boreSurface })}
            options={surfaces.filter(([s]) => s !== 'rolledFillets')}
          />
          <Open
            label={tr`Oil jets under the pistons`}
            value={asYes(l.oilJets)}
            onChange={(v) => set({ oilJets: v === null ? null : v === 'yes' })}
            options={yesNo}
          />
          <Field
            label={tr`Exhaust lies at, o’clock`}
            hint={tr`Seen from the head, 12 toward the free end. It marks the exhaust on the maps of bore and piston.`}
          >
            <select
              className="entry max-w-40"
              value={l.exhaustAt ?? ''}
              onChange={(e) => set({ exhaustAt: e.target.value === '' ? null : Number(e.target.value) })}
            >
              <option value="">{tr`not noted`}</option>
              {Array.from({ length: 12 }, (_, i) => (
                <option key={i}>{i + 1}</option>
              ))}
            </select>
          </Field>
        </Group>
        <Group title={tr`Valve gear`}>
          {l.cycle === 'twoStroke' && (
            <Choice
              label={tr`Exhaust valves in the head`}
              value={l.uniflow ? 'yes' : 'no'}
              onChange={(v) => set({ uniflow: v === 'yes' })}
              options={[
                ['no', tr`No, ports only`],
                ['yes', tr`Yes`],
              ]}
            />
          )}
          {valved && (
            <>
              <Choice
                label={tr`Valves opened by`}
                value={l.valveGear}
                onChange={(valveGear) => set({ valveGear })}
                options={[
                  ['side', tr`Side valves`],
                  ['pushrod', tr`Pushrods`],
                  ['overhead', tr`One overhead camshaft`],
                  ['twinOverhead', tr`Two overhead camshafts`],
                ]}
              />
              <Choice
                label={
                  l.uniflow ? tr`Exhaust valves per cylinder` : tr`Valves per cylinder, inlet and exhaust`
                }
                value={l.uniflow ? `1${l.exhaustValves}` : `${l.inletValves}${l.exhaustValves}`}
                onChange={(v) => set({ inletValves: Number(v[0]), exhaustValves: Number(v[1]) })}
                options={
                  l.uniflow
                    ? [
                        ['11', '1'],
                        ['12', '2'],
                        ['14', '4'],
                      ]
                    : [
                        ['11', '1 + 1'],
                        ['21', '2 + 1'],
                        ['22', '2 + 2'],
                        ['32', '3 + 2'],
                      ]
                }
              />
              <Open
                label={tr`Camshaft driven by`}
                value={l.camDrive}
                onChange={(camDrive) => set({ camDrive })}
                options={[
                  ['chain', tr`Chain`],
                  ['belt', tr`Belt`],
                  ['gears', tr`Gears`],
                  ['shaft', tr`Bevel shaft`],
                ]}
              />
              {l.camDrive === 'gears' && (
                <Row
                  label={tr`Teeth, from crankshaft to camshaft`}
                  hint={tr`Counted, e.g. 43 67 86. They tell after how many turns the marks meet again.`}
                  value={rows.gearTeeth}
                  onChange={(gearTeeth) => row({ gearTeeth })}
                />
              )}
              {(l.valveGear === 'overhead' || l.valveGear === 'twinOverhead') && (
                <Open
                  label={tr`Cam phasers`}
                  value={asYes(l.camPhasers)}
                  onChange={(v) => set({ camPhasers: v === null ? null : v === 'yes' })}
                  options={yesNo}
                />
              )}
            </>
          )}
          <Stepper
            label={tr`Balance shafts`}
            value={l.balanceShafts ?? 0}
            least={0}
            most={4}
            onChange={(balanceShafts) => set({ balanceShafts })}
          />
        </Group>
        <Group title={tr`Fuel, air, oil and cooling`}>
          <Choice
            label={tr`Fuel`}
            value={l.fuel}
            onChange={(fuel) => set({ fuel })}
            options={[
              ['carburettor', tr`Carburettor`],
              ['injected', tr`Injected, spark`],
              ['gas', tr`Gas, spark`],
              ['diesel', tr`Diesel`],
            ]}
          />
          {l.fuel === 'diesel' && (
            <Open
              label={tr`Injection`}
              value={l.feed}
              onChange={(feed) => set({ feed })}
              options={[
                ['pumpAndLines', tr`Pump and lines`],
                ['unitInjectors', tr`Unit injectors`],
                ['commonRail', tr`Common rail`],
              ]}
            />
          )}
          <Open
            label={tr`Charged by`}
            value={l.charging}
            onChange={(charging) => set({ charging })}
            options={[
              ['none', tr`Nothing`],
              ['turbocharger', tr`Turbocharger`],
              ['blower', tr`Blower`],
            ]}
          />
          <Choice
            label={tr`Cooling`}
            value={l.cooling}
            onChange={(cooling) => set({ cooling })}
            options={[
              ['liquid', tr`Liquid`],
              ['air', tr`Air`],
            ]}
          />
          <Stepper
            label={tr`Oil relief valves`}
            value={l.reliefValves}
            least={1}
            most={4}
            onChange={(reliefValves) => set({ reliefValves })}
          />
        </Group>
        <Group title={tr`Case and drive, what hangs on which end`}>
          <Choice
            label={tr`Crankcase`}
            value={l.case}
            onChange={(build) => set({ case: build })}
            options={[
              ['block', tr`Block with caps or cover`],
              ['split', tr`Two halves`],
            ]}
          />
          <Choice
            label={tr`Gearbox in the same case`}
            value={l.gearboxInCase ? 'yes' : 'no'}
            onChange={(v) => set({ gearboxInCase: v === 'yes' })}
            options={[
              ['no', tr`No`],
              ['yes', tr`Yes`],
            ]}
          />
          {l.gearboxInCase && (
            <Open
              label={tr`Primary drive`}
              value={l.primary}
              onChange={(primary) => set({ primary })}
              options={[
                ['gears', tr`Gears`],
                ['chain', tr`Chain`],
                ['belt', tr`Belt`],
              ]}
            />
          )}
          <Choice
            label={tr`Kick-start`}
            value={l.kickStart ? 'yes' : 'no'}
            onChange={(v) => set({ kickStart: v === 'yes' })}
            options={[
              ['no', tr`No`],
              ['yes', tr`Yes`],
            ]}
          />
          {(
            [
              ['flywheel', tr`Flywheel at the`],
              ['clutch', tr`Clutch at the`],
              ['timing', tr`Timing drive at the`],
              ['starter', tr`Starter or recoil at the`],
            ] as const
          ).map(([what, label]) => (
            <Open
              key={what}
              label={label}
              value={l.ends[what]}
              onChange={(end) => set({ ends: { ...l.ends, [what]: end } })}
              options={ends}
            />
          ))}
          <Choice
            label={tr`Oil comes in at the`}
            value={l.oilFeedEnd}
            onChange={(oilFeedEnd) => set({ oilFeedEnd })}
            options={ends}
          />
        </Group>
      </div>
      <div className="flex flex-wrap gap-x-6 gap-y-4">
        {numbering && (
          <Choice
            label={tr`Number one is at the`}
            value={l.numberOneEnd}
            onChange={(numberOneEnd) => set({ numberOneEnd })}
            options={ends}
          />
        )}
        <Choice
          label={tr`Turns, seen from the free end`}
          value={l.rotation}
          onChange={(rotation) => set({ rotation })}
          options={[
            ['clockwise', tr`Clockwise ↻`],
            ['anticlockwise', tr`Anticlockwise ↺`],
          ]}
        />
      </div>
      {numbering && twoBanks && (
        <div className="flex flex-wrap gap-x-6 gap-y-4">
          <Choice
            label={tr`Numbering`}
            value={l.numbering}
            onChange={(scheme) => set({ numbering: scheme })}
            options={[
              ['oddEven', tr`Odd and even banks`],
              ['bankAfterBank', tr`Bank after bank`],
            ]}
          />
          <Choice
            label={tr`Bank with number one, from the free end`}
            value={l.bankAOnTheLeft ? 'left' : 'right'}
            onChange={(side) => set({ bankAOnTheLeft: side === 'left' })}
            options={[
              ['left', tr`Left`],
              ['right', tr`Right`],
            ]}
          />
        </div>
      )}
      <div className="grid gap-4 sm:grid-cols-2">
        <Row
          label={tr`Firing order`}
          hint={tr`Offered as often met; the maker’s plate or manual decides.`}
          value={rows.firing}
          onChange={(firing) => row({ firing })}
        />
        <Row
          label={tr`Fires at, crank degrees`}
          hint={tr`Only where intervals are uneven: one for each cylinder as they fire, the first 0. Empty: even.`}
          value={rows.firingAngles}
          onChange={(firingAngles) => row({ firingAngles })}
        />
      </div>
    </>
  );
}

function Stepper({
  label,
  value,
  least,
  most,
  step = 1,
  onChange,
}: {
  label: string;
  value: number;
  least: number;
  most: number;
  step?: number;
  onChange: (value: number) => void;
}) {
  return (
    <div role="group" aria-label={label}>
      <span className="label">{label}</span>
      <div className="flex items-center gap-1.5">
        <button
          type="button"
          className="key"
          aria-label={tr`Fewer ${label.toLowerCase()}`}
          disabled={value - step < least}
          onClick={() => onChange(value - step)}
        >
          −
        </button>
        <output className="fig w-10 text-center text-2xl font-bold">{value}</output>
        <button
          type="button"
          className="key"
          aria-label={tr`More ${label.toLowerCase()}`}
          disabled={value + step > most}
          onClick={() => onChange(value + step)}
        >
          +
        </button>
      </div>
    </div>
  );
}
