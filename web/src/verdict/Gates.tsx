import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import type { Schemas } from '../api/client';

const stood: Record<Schemas['GateStands'], [string, string]> = {
  open: ['✓', 'text-oil'],
  shut: ['○', 'text-brass'],
  failed: ['✕', 'text-lead'],
};

/** What must be known before it is ordered, with what opens each or is missing. */
export function Gates({ gates }: { gates: readonly Schemas['GateState'][] }) {
  if (gates.length === 0) return null;
  const open = gates.filter((g) => g.stands === 'open');
  const other = gates.filter((g) => g.stands !== 'open');
  return (
    <ul className="text-sm">
      {other.map((g) => (
        <li key={g.gate} title={g.why}>
          <span aria-hidden className={`fig font-bold ${stood[g.stands][1]}`}>
            {stood[g.stands][0]}
          </span>{' '}
          <b className={stood[g.stands][1]}>{g.stands === 'failed' ? tr`Failed` : tr`Not known yet`}:</b>{' '}
          {g.name}. <span className="text-soft">{g.evidence}</span>
        </li>
      ))}
      {open.length > 0 && (
        <li className="text-soft">
          <span aria-hidden className="fig font-bold text-oil">
            ✓
          </span>{' '}
          {open.map((g) => g.name).join(', ')}
        </li>
      )}
    </ul>
  );
}

/** Before each gate that is not open somebody says what is risked: one reason for each. */
export function GateReasons({
  gates,
  reasons,
  onChange,
}: {
  gates: readonly Schemas['GateState'][];
  reasons: Record<string, string>;
  onChange: (reasons: Record<string, string>) => void;
}) {
  return gates.map((g) => (
    <label key={g.gate} className="block">
      <span className="label">
        <Trans>
          {g.name} is not known. {g.evidence} What is risked by ordering before it, and why is it worth it?
        </Trans>
      </span>
      <input
        className="entry"
        value={reasons[g.gate] ?? ''}
        onChange={(e) => onChange({ ...reasons, [g.gate]: e.target.value })}
      />
    </label>
  ));
}
