import { createContext, use } from 'react';
import type { CaseAnswers, EngineCase, Knowledge } from '../api/client';
import type { LengthUnit } from '../ui/figures';

/** What a stage of the open case is given. */
export interface CaseContext {
  engineCase: EngineCase;
  section: CaseAnswers['section'];
  places: CaseAnswers['places'];
  knowledge: Knowledge;
  /** Unit in which lengths are told. */
  lengths: LengthUnit;
  setLengths: (unit: LengthUnit) => void;
  openPart: (address: string | null) => void;
  /** Thinks the candidate of this letter into the engine; empty takes it out again. */
  thinkIn: (letter: string) => void;
  /** Opens a bag or box in Index. */
  openBag: (code: string) => void;
  pickCause: (index: number) => void;
  /** Marks a place in the section without opening it. */
  mark: (address: string | null) => void;
}

/** What is picked in it; apart from the rest, so that a part that is opened does not draw the whole stage anew. */
export interface Picked {
  part: string | null;
  /** Number of the cause, in the order of likelihood. */
  cause: number;
}

export const PickedContext = createContext<Picked>({ part: null, cause: 0 });

export const usePicked = () => use(PickedContext);

export const OpenCase = createContext<CaseContext | null>(null);

/** Letter of the candidate that is thought into the engine; empty for the engine as it came. */
export const WithCandidate = createContext('');

/** Of the case that is open: in its rooms, and in whatever lies over them. */
export function useCaseContext(): CaseContext {
  const context = use(OpenCase);
  if (!context) throw new Error('No case is open here.');
  return context;
}
