import { t as tr } from '@lingui/core/macro';
import { byId } from './byId';
import type { Knowledge, Schemas } from '../api/client';
import { baseUnit, figure, unitSize, type LengthUnit } from './figures';

type Quantity = Schemas['Quantity'];

/** Unit in which a characteristic is told. */
export function unitOf(
  knowledge: Pick<Knowledge, 'characteristics'>,
  characteristic: string,
  quantity: Quantity,
  length: LengthUnit = 'mm',
) {
  const own = byId(knowledge.characteristics).get(characteristic)?.unit;
  if (own && unitSize[own]) return own;
  return quantity === 'length' ? length : baseUnit[quantity];
}

type Told = Pick<Schemas['AppliedLimit'], 'least' | 'most' | 'wear' | 'source' | 'sourceText'>;

/** From where to where, without who says so. */
export function boundWords(limit: Told, unit = 'mm') {
  const range =
    limit.least !== null && limit.most !== null
      ? tr`${figure(limit.least, unit)} to ${figure(limit.most, unit)}`
      : limit.most !== null
        ? tr`at most ${figure(limit.most, unit)}`
        : limit.least !== null
          ? tr`at least ${figure(limit.least, unit)}`
          : '';
  const wear = limit.wear !== null ? tr`wear to ${figure(limit.wear, unit)}` : '';
  const both = [range, wear].filter(Boolean).join(', ');
  return both && limit.source === 'ruleOfThumb' ? tr`about ${both}` : both;
}

export function limitWords(limit: Told | null, unit = 'mm') {
  const words = limit ? boundWords(limit, unit) : '';
  return words ? `${words} · ${limit!.sourceText}` : '';
}

/** How a figure stands, in words: a rule of thumb is never called a limit. */
export function standWords(f: Pick<Schemas['SheetFigure'], 'conformity' | 'limit' | 'asNew'>) {
  if (!f.conformity) return '';
  if (f.limit?.source === 'ruleOfThumb')
    return { inside: tr`usual`, outside: tr`unusual`, undecided: tr`near the edge` }[f.conformity];
  if (f.conformity === 'inside' && f.asNew) return f.asNew === 'inside' ? tr`✓ as new` : tr`✓ worn, inside`;
  return { inside: tr`✓ inside`, outside: tr`✕ outside`, undecided: tr`? undecided` }[f.conformity];
}
