import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { Fragment, type ReactNode } from 'react';
import type { ApiProblem } from '../api/client';
import { region } from './region';

/** An address as it stands on tape: monospaced, with 6 and 9 underlined so that a turned tag cannot be misread. */
export function Addr({ code, className = '' }: { code: string; className?: string }) {
  return (
    <span className={`fig font-bold whitespace-nowrap ${className}`}>
      {[...code].map((c, i) => (
        <Fragment key={i}>{c === '6' || c === '9' ? <u className="underline-offset-2">{c}</u> : c}</Fragment>
      ))}
    </span>
  );
}

/** What went wrong and what to do, where it happened. */
export function Trouble({ problem }: { problem: ApiProblem | null | undefined }) {
  if (!problem) return null;
  const rest = problem.problems.slice(1);
  return (
    <div role="alert" className="rounded-lg border-2 border-lead bg-lead-tint px-3 py-2">
      <p className="font-bold">{problem.message}</p>
      <p>{problem.remedy}</p>
      {rest.map((p) => (
        <p key={p.text} className="mt-1">
          <b>{p.text}</b> {p.remedy}
        </p>
      ))}
    </div>
  );
}

export function Field({ label, hint, children }: { label: string; hint?: string; children: ReactNode }) {
  return (
    <label className="block">
      <span className="label">{label}</span>
      {children}
      {hint && <span className="mt-1 block text-sm text-soft">{hint}</span>}
    </label>
  );
}

/** One of a few, as keys that a gloved thumb hits. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
  disabled,
}: {
  label: string;
  value: T | null;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
  disabled?: boolean;
}) {
  return (
    <div role="group" aria-label={label}>
      <span className="label">{label}</span>
      <div className="flex flex-wrap gap-1.5">
        {options.map(([id, name]) => (
          <button
            key={id}
            type="button"
            className="key"
            aria-pressed={value === id}
            disabled={disabled}
            onClick={() => onChange(id)}
          >
            {name}
          </button>
        ))}
      </div>
    </div>
  );
}

export function Waiting({ what }: { what: string }) {
  return (
    <p className="p-6 text-soft">
      <Trans>Opening {what} …</Trans>
    </p>
  );
}

export const day = (iso: string) =>
  new Date(iso).toLocaleDateString(region(), { day: 'numeric', month: 'short', year: 'numeric' });

export const moment = (iso: string) =>
  new Date(iso).toLocaleString(region(), {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  });

/** How long ago, as it is said over a bench: in minutes for an hour, in hours for two days, then in days. */
export function since(iso: string, now = Date.now()) {
  const minutes = Math.max(0, Math.round((now - Date.parse(iso)) / 60_000));
  if (minutes < 1) return tr`just now`;
  if (minutes < 60) return tr`${minutes} min ago`;
  const hours = Math.floor(minutes / 60);
  return hours < 48 ? tr`${hours} h ago` : tr`${Math.floor(hours / 24)} days ago`;
}

/** A probability as a person says it; never a flat 0 or 100. */
export function percent(p: number) {
  if (p > 0.995) return '>99 %';
  if (p < 0.005) return '<1 %';
  return `${Math.round(p * 100)} %`;
}
