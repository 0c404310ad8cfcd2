import type { CaseAnswers } from '../api/client';
import type { StationName } from '../section/Strip';

export type { StationName };

type State = Pick<CaseAnswers['stations'][number], 'scope' | 'number' | 'bank'>;

/** How a station is called in the address of its page. */
export const stationName = (s: State): StationName =>
  s.scope === 'bank' ? `bank-${s.bank}` : `${s.scope === 'main' ? 'main' : 'cylinder'}-${s.number}`;

/** @param short As it is written in a list of its kind. */
export const stationWords = (s: State, short = false) =>
  s.scope === 'bank'
    ? `${short ? '' : 'Bank '}${s.bank.toUpperCase()}`
    : `${short ? '' : s.scope === 'main' ? 'Main ' : 'Cylinder '}${s.number}`;

/** Title of the page of a station. */
export const stationTitle = (name: string) =>
  name === 'engine' ? 'The engine as a whole' : name.replace('-', ' ').replace(/^./, (c) => c.toUpperCase());
