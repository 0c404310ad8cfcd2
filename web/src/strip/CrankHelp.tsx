import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ApiProblem, unwrap, type Schemas } from '../api/client';
import { keys, useMayWrite } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { Field, Trouble } from '../ui/basics';
import { numberOrNull, parseNumber } from '../ui/number';
import { figure, told, type LengthUnit } from '../ui/figures';

const strokeWords: Record<Schemas['Stroke'], string> = {
  induction: tr`induction ↓`,
  compression: tr`compression ↑`,
  power: tr`power ↓`,
  exhaust: tr`exhaust ↑`,
  up: tr`going up ↑`,
  down: tr`going down ↓`,
};

/** Where the pistons stand when the crankshaft is turned, and where no valve can meet one. */
export function CrankHelp() {
  const { engineCase, lengths } = useCaseContext();
  const mayWrite = useMayWrite();
  const [stroke, setStroke] = useState(String(engineCase.stroke ?? 100));
  const [rod, setRod] = useState(String(engineCase.rodLength ?? 180));
  const [least, setLeast] = useState('12');
  const [angle, setAngle] = useState(0);
  const query = {
    angle,
    stroke: numberOrNull(stroke) ?? NaN,
    rod: numberOrNull(rod) ?? NaN,
    least: numberOrNull(least) ?? NaN,
  };
  const answer = useQuery({
    queryKey: [...keys.rooms(engineCase.id), 'crank', query],
    queryFn: () =>
      unwrap(api.GET('/api/cases/{caseId}/crank', { params: { path: { caseId: engineCase.id }, query } })),
    enabled: Object.values(query).every(Number.isFinite),
    placeholderData: (before) => before,
    retry: false,
  });
  const keep = useWrite(engineCase.id, writes.strip);
  const cycle = engineCase.layout.cycle === 'fourStroke' ? 720 : 360;
  const known = engineCase.stroke === query.stroke && engineCase.rodLength === query.rod;
  return (
    <div className="space-y-3">
      <h2 className="text-xl">{tr`Turn the crank, and where the pistons are`}</h2>
      <div className="grid grid-cols-3 gap-2">
        <Field label={tr`Stroke, mm`}>
          <input
            className="entry fig"
            inputMode="decimal"
            value={stroke}
            onChange={(e) => setStroke(e.target.value)}
          />
        </Field>
        <Field label={tr`Rod, mm`}>
          <input
            className="entry fig"
            inputMode="decimal"
            value={rod}
            onChange={(e) => setRod(e.target.value)}
          />
        </Field>
        <Field label={tr`Down at least`}>
          <input
            className="entry fig"
            inputMode="decimal"
            value={least}
            onChange={(e) => setLeast(e.target.value)}
          />
        </Field>
      </div>
      {mayWrite && !known && (
        <button
          className="key text-sm"
          onClick={() =>
            keep.mutate({
              version: engineCase.version,
              script: engineCase.script,
              stroke: query.stroke,
              rodLength: query.rod,
              variants: null,
            })
          }
        >
          {tr`Keep stroke and rod with this case`}
        </button>
      )}
      <label className="block">
        <span className="label">
          <Trans>
            Crank <b className="fig text-xl text-ink">{angle}°</b> after firing top dead centre of number one
          </Trans>
        </span>
        <input
          type="range"
          className="h-11 w-full accent-(--color-dye)"
          min={0}
          max={cycle - 1}
          value={angle}
          onChange={(e) => setAngle(Number(e.target.value))}
        />
      </label>
      {[stroke, rod, least].map((text, i) => {
        const typed = parseNumber(text);
        return (
          typed.kind === 'bad' && (
            <p key={i} role="alert" className="font-semibold text-lead">
              {typed.text} {typed.remedy}
            </p>
          )
        );
      })}
      <Trouble problem={(answer.error ?? keep.error) as ApiProblem | null} />
      {answer.data && !answer.error && (
        <>
          <Pistons
            pistons={answer.data.pistons}
            stroke={query.stroke}
            least={query.least}
            lengths={lengths}
          />
          <p className="text-lg">
            {answer.data.allDown.length > 0 ? (
              <>
                <Trans>Every piston is at least {least} mm down from </Trans>
                <b className="fig">
                  {answer.data.allDown
                    .map((r) => tr`${figure(r.from, 'deg')}° to ${figure(r.to, 'deg')}°`)
                    .join(', ')}
                </b>
                <Trans> of a turn.</Trans>
              </>
            ) : (
              <>
                <Trans>
                  At no angle is every piston {least} mm down. Ask for less, or lift the valves first.
                </Trans>
              </>
            )}
          </p>
          <p className="text-sm text-soft">
            {tr`Even firing is taken. Turn by hand, with the plugs out and fingers clear; stop where it stops.`}
          </p>
        </>
      )}
    </div>
  );
}

function Pistons({
  pistons,
  stroke,
  least,
  lengths,
}: {
  pistons: Schemas['PistonPosition'][];
  stroke: number;
  least: number;
  lengths: LengthUnit;
}) {
  const w = 56;
  const y = (drop: number) => 14 + (drop / stroke) * 70;
  return (
    <svg
      viewBox={`0 0 ${pistons.length * w} 150`}
      className="card max-h-64 w-full"
      role="img"
      aria-label={pistons
        .map((p) => tr`Cylinder ${p.cylinder}: ${strokeWords[p.stroke]}, ${told(p.drop, lengths, 1)} down`)
        .join('; ')}
    >
      <path
        d={`M0 ${y(least)}H${pistons.length * w}`}
        stroke="var(--color-lead)"
        strokeDasharray="4 3"
        strokeWidth="1.2"
      />
      {pistons.map((p, i) => {
        const x = i * w + 8;
        const low = p.drop < least;
        return (
          <g key={p.cylinder}>
            <path d={`M${x} 8V112M${x + 40} 8V112`} stroke="var(--color-ink)" strokeWidth="1.5" />
            <rect
              x={x + 2}
              y={y(p.drop)}
              width={36}
              height={24}
              fill={low ? 'var(--color-lead-tint)' : 'var(--color-oil-tint)'}
              stroke="var(--color-ink)"
            />
            <text
              x={x + 20}
              y={y(p.drop) + 16}
              textAnchor="middle"
              fontSize="13"
              fontWeight="800"
              className="fig"
              fill="var(--color-ink)"
              textDecoration={[6, 9].includes(p.cylinder) ? 'underline' : undefined}
            >
              {p.cylinder}
            </text>
            <text x={x + 20} y={126} textAnchor="middle" fontSize="9" fill="var(--color-ink)">
              {strokeWords[p.stroke]}
            </text>
            <text
              x={x + 20}
              y={141}
              textAnchor="middle"
              fontSize="11"
              className="fig"
              fill="var(--color-ink)"
            >
              {told(p.drop, lengths, 1)}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
