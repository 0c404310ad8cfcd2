import { t as tr } from '@lingui/core/macro';
import type { EngineCase, Schemas } from '../api/client';
import type { Characteristic } from '../entry/typed';
import { stands } from '../ui/words';

const prefix = 'own/';

/** What a dimension of somebody's own can be; a gap is a length that is no size of one part. */
export const ownKinds = [
  ['length', tr`a size`],
  ['gap', tr`a gap or clearance`],
  ['angle', tr`an angle`],
  ['mass', tr`a weight`],
  ['volume', tr`a volume`],
  ['force', tr`a force`],
  ['torque', tr`a torque`],
  ['pressure', tr`a pressure`],
  ['temperature', tr`a temperature`],
  ['share', tr`a share in %`],
  ['ratio', tr`a bare number`],
] as const;

export type OwnKind = (typeof ownKinds)[number][0];

export const longestOwnName = 60;

export const ownId = (kind: OwnKind, name: string) => `${prefix}${kind}/${name.trim()}`;

/** A dimension that nobody foresaw, by its id; null where the id is none. The server reads ids by the same rule. */
export function ownDimension(id: string): Characteristic | null {
  const [, kind, name] = /^own\/([a-z]+)\/(.{2,60})$/s.exec(id) ?? [];
  if (!name || name.trim() !== name || !ownKinds.some(([k]) => k === kind)) return null;
  return {
    id,
    name,
    quantity: (kind === 'gap' ? 'length' : kind) as Schemas['Quantity'],
    gap: kind === 'gap',
    group: '',
    on: [],
    stations: [],
    unwornAt: '',
    directions: {},
    by: [],
    inPicture: [],
    with: '',
    how: '',
    held: '',
    spoils: '',
    least: null,
    most: null,
    unit: '',
    between: false,
    derived: false,
    ways: [],
    minutes: 4,
    assembled: false,
    usual: 0,
    before: [],
    provenance: '',
  };
}

/** Dimensions of somebody's own that the case has, by name. */
export function ownOf(engineCase: Pick<EngineCase, 'readings' | 'limits'>): Characteristic[] {
  const ids = new Set(
    [...engineCase.readings, ...engineCase.limits].filter(stands).map((r) => r.characteristic),
  );
  return [...ids]
    .map(ownDimension)
    .filter((c) => c !== null)
    .sort((a, b) => a.name.localeCompare(b.name));
}
