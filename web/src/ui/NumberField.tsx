import { t as tr } from '@lingui/core/macro';
import { useEffect, useId, useRef, useState } from 'react';
import { parseNumber, type Bounds } from './number';

/**
 * A field for a number. What stands in it stays as typed; only what can be read is passed on, and what cannot is told below it and keeps
 * the form from being sent.
 */
export function NumberField({
  label,
  hint,
  value,
  onChange,
  onBad,
  required = false,
  className = '',
  disabled,
  name,
  ...bounds
}: {
  label: string;
  hint?: string;
  value: number | null;
  onChange: (value: number | null) => void;
  /** Told of what cannot be read, and of null once it can: for entries that are sent without a form. */
  onBad?: (words: string | null) => void;
  required?: boolean;
  className?: string;
  disabled?: boolean;
  name?: string;
} & Bounds) {
  const [text, setText] = useState(value === null ? '' : String(value));
  const input = useRef<HTMLInputElement>(null);
  const note = useId();
  const typed = parseNumber(text, bounds);
  const trouble =
    typed.kind === 'bad'
      ? `${typed.text} ${typed.remedy}`
      : typed.kind === 'empty' && required
        ? tr`A number is needed here.`
        : '';
  const passed = useRef(value);
  useEffect(() => {
    // Set from outside, not by what was typed here.
    if (value !== passed.current) {
      passed.current = value;
      setText(value === null ? '' : String(value));
    }
  }, [value]);
  useEffect(() => input.current?.setCustomValidity(trouble), [trouble]);
  return (
    <label className={`block ${className}`}>
      <span className="label">{label}</span>
      <input
        ref={input}
        className="entry fig"
        inputMode="decimal"
        name={name}
        value={text}
        disabled={disabled}
        aria-invalid={typed.kind === 'bad'}
        aria-describedby={trouble ? note : undefined}
        onChange={(e) => {
          setText(e.target.value);
          const read = parseNumber(e.target.value, bounds);
          onBad?.(read.kind === 'bad' ? `${read.text} ${read.remedy}` : null);
          if (read.kind === 'bad') return;
          passed.current = read.kind === 'number' ? read.value : null;
          onChange(passed.current);
        }}
      />
      {typed.kind === 'bad' && (
        <span id={note} role="alert" className="mt-1 block text-sm font-semibold text-lead">
          {typed.text} {typed.remedy}
        </span>
      )}
      {hint && <span className="mt-1 block text-sm text-soft">{hint}</span>}
    </label>
  );
}
