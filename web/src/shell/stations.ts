import { t as tr } from '@lingui/core/macro';
import type { CaseAnswers } from '../api/client';
import { stationName, type StationName } from '../section/Strip';

export { stationName, type StationName };

type State = Pick<CaseAnswers['stations'][number], 'scope' | 'number' | 'bank'>;

/** @param short As it is written in a list of its kind. */
export const stationWords = (s: State, short = false) =>
  s.scope === 'bank'
    ? `${short ? '' : tr`Bank `}${s.bank.toUpperCase()}`
    : `${short ? '' : s.scope === 'main' ? tr`Main ` : tr`Cylinder `}${s.number}`;

/** Title of the page of a station. */
export const stationTitle = (name: string) =>
  name === 'engine'
    ? tr`The engine as a whole`
    : name.replace('-', ' ').replace(/^./, (c) => c.toUpperCase());
