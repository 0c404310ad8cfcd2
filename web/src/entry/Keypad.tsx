import { t as tr } from '@lingui/core/macro';
import type { Keypad as Kind } from '../device/keypad';

/** What a key does to what is typed: a sign goes to the front and off again, the last character goes, or it is put behind. */
export function pressed(typed: string, key: string): string {
  if (key === '⌫') return typed.slice(0, -1);
  if (key === '±') {
    const bare = typed.replace(/^[+-]/, '');
    return typed.startsWith('-') ? bare : typed.startsWith('+') ? `-${bare}` : `+${bare}`;
  }
  // One decimal sign in a number is enough; a second would be a slip of a gloved thumb.
  if ((key === '.' || key === ',') && /[.,]\d*$/.test(typed)) return typed;
  return typed + key;
}

/**
 * Keys for one thumb in a glove. `units` are put behind the figure for this one entry; the sign counts from the nominal.
 */
export function Keypad({
  kind,
  typed,
  units,
  onChange,
}: {
  kind: Exclude<Kind, 'device'>;
  typed: string;
  units: readonly string[];
  onChange: (typed: string) => void;
}) {
  const decimal = kind === 'comma' ? ',' : '.';
  const rows = [
    '1',
    '2',
    '3',
    '⌫',
    '4',
    '5',
    '6',
    '±',
    '7',
    '8',
    '9',
    '/',
    decimal,
    '0',
    ...units.slice(0, 2),
  ];
  return (
    <div role="group" aria-label={tr`Keys for the figure`} className="grid grid-cols-4 gap-1.5">
      {rows.map((key) => (
        <button
          key={key}
          type="button"
          className={`key min-h-14 px-0 ${/^[0-9.,]$/.test(key) ? 'fig text-2xl' : 'text-lg'}`}
          aria-label={names[key] ?? key}
          onPointerDown={(e) => e.preventDefault()}
          onClick={() => onChange(units.includes(key) ? withUnit(typed, key, units) : pressed(typed, key))}
        >
          {key}
        </button>
      ))}
    </div>
  );
}

const names: Record<string, string> = {
  '⌫': tr`Delete the last`,
  '±': tr`Sign: over or under the nominal`,
  '/': tr`Fraction bar`,
  '.': tr`Decimal point`,
  ',': tr`Decimal comma`,
};

/** A unit replaces the one that stands there; pressed again it goes. */
export function withUnit(typed: string, unit: string, units: readonly string[]): string {
  const has = units.find((u) => typed.endsWith(` ${u}`));
  const bare = has ? typed.slice(0, -has.length - 1) : typed.trimEnd();
  return has === unit || bare === '' ? bare : `${bare} ${unit}`;
}
