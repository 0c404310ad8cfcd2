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
      options={[['open', 'Not said'], ...options]}
    />
  );
}

const surfaces: [NonNullable<Schemas['RunningSurface']>, string][] = [
  ['plain', 'As cut'],
  ['inductionHardened', 'Induction hardened'],
  ['nitrided', 'Nitrided'],
  ['rolledFillets', 'Rolled fillets'],
  ['chromed', 'Chromed'],
  ['plated', 'Plated'],
];

const metals: ['castIron' | 'steel' | 'aluminium', string][] = [
  ['castIron', 'Cast iron'],
  ['steel', 'Steel'],
  ['aluminium', 'Alloy, bare or plated'],
];
const yesNo: ['yes' | 'no', string][] = [
  ['yes', 'Yes'],
  ['no', 'No'],
];
const asYes = (v: boolean | null | undefined) => (v === null || v === undefined ? null : v ? 'yes' : 'no');
const ends: ['freeEnd' | 'driveEnd', string][] = [
  ['freeEnd', 'Free end'],
  ['driveEnd', 'Drive end'],
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
        label="Arrangement"
        value={l.arrangement}
        onChange={(arrangement) => set({ arrangement })}
        options={[
          ['single', 'Single'],
          ['inline', 'Inline'],
          ['vee', 'Vee'],
          ['flat', 'Flat'],
        ]}
      />
      <div className="flex flex-wrap gap-x-6 gap-y-4">
        <Stepper
          label="Cylinders"
          value={l.cylinders}
          least={l.arrangement === 'single' ? 1 : 2}
          most={l.arrangement === 'single' ? 1 : 24}
          step={step}
          onChange={(cylinders) => set({ cylinders })}
        />
        <Choice
          label="Cycle"
          value={l.cycle}
          onChange={(cycle) => set({ cycle })}
          options={[
            ['fourStroke', 'Four-stroke'],
            ['twoStroke', 'Two-stroke'],
          ]}
        />
        <Choice
          label="Main bearings"
          value={l.bearings}
          onChange={(bearings) => set({ bearings })}
          options={[
            ['plain', 'Plain shells'],
            ['rolling', 'Ball or roller bearings'],
          ]}
        />
      </div>
      <div>
        <Group title="Crankshaft and rods">
          <Open
            label="Big ends"
            value={l.rodBearings}
            onChange={(rodBearings) => set({ rodBearings })}
            options={[
              ['plain', 'Plain'],
              ['rolling', 'Ball or roller bearings'],
            ]}
          />
          <Open
            label="Crankshaft"
            value={l.crank}
            onChange={(crank) => set({ crank })}
            options={[
              ['onePiece', 'One piece, rods with caps'],
              ['built', 'Pressed together, rods in one piece'],
            ]}
          />
          <Row
            label="Mains stand after how many crankpins"
            hint="From number one, e.g. 0 2 4 6 for a six with four mains. Empty: one between all pins."
            value={rows.mainsAfter}
            onChange={(mainsAfter) => row({ mainsAfter })}
          />
          <Row
            label="Kinds of the mains, where they differ"
            hint="From number one, p for plain and r for rolling: p p r. Empty: all alike."
            value={rows.mainTypes}
            onChange={(mainTypes) => row({ mainTypes })}
          />
          {twoBanks && l.arrangement === 'vee' && (
            <Row
              label="Angle between the banks, °"
              hint="Leave it empty when nobody knows."
              value={l.bankAngle?.toString() ?? ''}
              onChange={(v) => set({ bankAngle: v.trim() === '' ? null : Number(v) })}
            />
          )}
        </Group>
        <Group title="Pistons, rings and bores">
          <Stepper
            label="Rings on a piston"
            value={l.ringsPerPiston}
            least={1}
            most={5}
            onChange={(ringsPerPiston) => set({ ringsPerPiston })}
          />
          <Open
            label="Oil rings among them"
            value={
              l.oilRings === null || l.oilRings === undefined ? null : (`${l.oilRings}` as '0' | '1' | '2')
            }
            onChange={(v) => set({ oilRings: v === null ? null : Number(v) })}
            options={[
              ['0', 'None'],
              ['1', 'One'],
              ['2', 'Two'],
            ]}
          />
          <Open
            label="Bores"
            value={l.bores}
            onChange={(bores) => set({ bores })}
            options={[
              ['parent', 'In the block'],
              ['dryLiner', 'Dry liners'],
              ['wetLiner', 'Wet liners'],
              ['barrel', 'Barrels'],
            ]}
          />
          <Open
            label="Bores are of"
            value={l.boreMetal}
            onChange={(boreMetal) => set({ boreMetal })}
            options={metals}
          />
          <Open
            label="Rings are of"
            value={l.ringMetal}
            onChange={(ringMetal) => set({ ringMetal })}
            options={metals.slice(0, 2)}
          />
          <Open
            label="Journals of the crankshaft are"
            value={l.journalSurface}
            onChange={(journalSurface) => set({ journalSurface })}
            options={surfaces.slice(0, 5)}
          />
          <Open
            label="Bores run"
            value={l.boreSurface}
            onChange={(boreSurface) => set({ boreSurface })}
            options={surfaces.filter(([s]) => s !== 'rolledFillets')}
          />
          <Open
            label="Oil jets under the pistons"
            value={asYes(l.oilJets)}
            onChange={(v) => set({ oilJets: v === null ? null : v === 'yes' })}
            options={yesNo}
          />
          <Field
            label="Exhaust lies at, o’clock"
            hint="Seen from the head, 12 toward the free end. It marks the exhaust on the maps of bore and piston."
          >
            <select
              className="entry max-w-40"
              value={l.exhaustAt ?? ''}
              onChange={(e) => set({ exhaustAt: e.target.value === '' ? null : Number(e.target.value) })}
            >
              <option value="">not noted</option>
              {Array.from({ length: 12 }, (_, i) => (
                <option key={i}>{i + 1}</option>
              ))}
            </select>
          </Field>
        </Group>
        <Group title="Valve gear">
          {l.cycle === 'twoStroke' && (
            <Choice
              label="Exhaust valves in the head"
              value={l.uniflow ? 'yes' : 'no'}
              onChange={(v) => set({ uniflow: v === 'yes' })}
              options={[
                ['no', 'No, ports only'],
                ['yes', 'Yes'],
              ]}
            />
          )}
          {valved && (
            <>
              <Choice
                label="Valves opened by"
                value={l.valveGear}
                onChange={(valveGear) => set({ valveGear })}
                options={[
                  ['side', 'Side valves'],
                  ['pushrod', 'Pushrods'],
                  ['overhead', 'One overhead camshaft'],
                  ['twinOverhead', 'Two overhead camshafts'],
                ]}
              />
              <Choice
                label={l.uniflow ? 'Exhaust valves per cylinder' : 'Valves per cylinder, inlet and exhaust'}
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
                label="Camshaft driven by"
                value={l.camDrive}
                onChange={(camDrive) => set({ camDrive })}
                options={[
                  ['chain', 'Chain'],
                  ['belt', 'Belt'],
                  ['gears', 'Gears'],
                  ['shaft', 'Bevel shaft'],
                ]}
              />
              {l.camDrive === 'gears' && (
                <Row
                  label="Teeth, from crankshaft to camshaft"
                  hint="Counted, e.g. 43 67 86. They tell after how many turns the marks meet again."
                  value={rows.gearTeeth}
                  onChange={(gearTeeth) => row({ gearTeeth })}
                />
              )}
              {(l.valveGear === 'overhead' || l.valveGear === 'twinOverhead') && (
                <Open
                  label="Cam phasers"
                  value={asYes(l.camPhasers)}
                  onChange={(v) => set({ camPhasers: v === null ? null : v === 'yes' })}
                  options={yesNo}
                />
              )}
            </>
          )}
          <Stepper
            label="Balance shafts"
            value={l.balanceShafts ?? 0}
            least={0}
            most={4}
            onChange={(balanceShafts) => set({ balanceShafts })}
          />
        </Group>
        <Group title="Fuel, air, oil and cooling">
          <Choice
            label="Fuel"
            value={l.fuel}
            onChange={(fuel) => set({ fuel })}
            options={[
              ['carburettor', 'Carburettor'],
              ['injected', 'Injected, spark'],
              ['gas', 'Gas, spark'],
              ['diesel', 'Diesel'],
            ]}
          />
          {l.fuel === 'diesel' && (
            <Open
              label="Injection"
              value={l.feed}
              onChange={(feed) => set({ feed })}
              options={[
                ['pumpAndLines', 'Pump and lines'],
                ['unitInjectors', 'Unit injectors'],
                ['commonRail', 'Common rail'],
              ]}
            />
          )}
          <Open
            label="Charged by"
            value={l.charging}
            onChange={(charging) => set({ charging })}
            options={[
              ['none', 'Nothing'],
              ['turbocharger', 'Turbocharger'],
              ['blower', 'Blower'],
            ]}
          />
          <Choice
            label="Cooling"
            value={l.cooling}
            onChange={(cooling) => set({ cooling })}
            options={[
              ['liquid', 'Liquid'],
              ['air', 'Air'],
            ]}
          />
          <Stepper
            label="Oil relief valves"
            value={l.reliefValves}
            least={1}
            most={4}
            onChange={(reliefValves) => set({ reliefValves })}
          />
        </Group>
        <Group title="Case and drive, what hangs on which end">
          <Choice
            label="Crankcase"
            value={l.case}
            onChange={(build) => set({ case: build })}
            options={[
              ['block', 'Block with caps or cover'],
              ['split', 'Two halves'],
            ]}
          />
          <Choice
            label="Gearbox in the same case"
            value={l.gearboxInCase ? 'yes' : 'no'}
            onChange={(v) => set({ gearboxInCase: v === 'yes' })}
            options={[
              ['no', 'No'],
              ['yes', 'Yes'],
            ]}
          />
          {l.gearboxInCase && (
            <Open
              label="Primary drive"
              value={l.primary}
              onChange={(primary) => set({ primary })}
              options={[
                ['gears', 'Gears'],
                ['chain', 'Chain'],
                ['belt', 'Belt'],
              ]}
            />
          )}
          <Choice
            label="Kick-start"
            value={l.kickStart ? 'yes' : 'no'}
            onChange={(v) => set({ kickStart: v === 'yes' })}
            options={[
              ['no', 'No'],
              ['yes', 'Yes'],
            ]}
          />
          {(
            [
              ['flywheel', 'Flywheel at the'],
              ['clutch', 'Clutch at the'],
              ['timing', 'Timing drive at the'],
              ['starter', 'Starter or recoil at the'],
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
            label="Oil comes in at the"
            value={l.oilFeedEnd}
            onChange={(oilFeedEnd) => set({ oilFeedEnd })}
            options={ends}
          />
        </Group>
      </div>
      <div className="flex flex-wrap gap-x-6 gap-y-4">
        {numbering && (
          <Choice
            label="Number one is at the"
            value={l.numberOneEnd}
            onChange={(numberOneEnd) => set({ numberOneEnd })}
            options={ends}
          />
        )}
        <Choice
          label="Turns, seen from the free end"
          value={l.rotation}
          onChange={(rotation) => set({ rotation })}
          options={[
            ['clockwise', 'Clockwise ↻'],
            ['anticlockwise', 'Anticlockwise ↺'],
          ]}
        />
      </div>
      {numbering && twoBanks && (
        <div className="flex flex-wrap gap-x-6 gap-y-4">
          <Choice
            label="Numbering"
            value={l.numbering}
            onChange={(scheme) => set({ numbering: scheme })}
            options={[
              ['oddEven', 'Odd and even banks'],
              ['bankAfterBank', 'Bank after bank'],
            ]}
          />
          <Choice
            label="Bank with number one, from the free end"
            value={l.bankAOnTheLeft ? 'left' : 'right'}
            onChange={(side) => set({ bankAOnTheLeft: side === 'left' })}
            options={[
              ['left', 'Left'],
              ['right', 'Right'],
            ]}
          />
        </div>
      )}
      <div className="grid gap-4 sm:grid-cols-2">
        <Row
          label="Firing order"
          hint="Offered as often met; the maker’s plate or manual decides."
          value={rows.firing}
          onChange={(firing) => row({ firing })}
        />
        <Row
          label="Fires at, crank degrees"
          hint="Only where intervals are uneven: one for each cylinder as they fire, the first 0. Empty: even."
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
          aria-label={`Fewer ${label.toLowerCase()}`}
          disabled={value - step < least}
          onClick={() => onChange(value - step)}
        >
          −
        </button>
        <output className="fig w-10 text-center text-2xl font-bold">{value}</output>
        <button
          type="button"
          className="key"
          aria-label={`More ${label.toLowerCase()}`}
          disabled={value + step > most}
          onClick={() => onChange(value + step)}
        >
          +
        </button>
      </div>
    </div>
  );
}
