import { useOutletContext } from 'react-router';
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
  part: string | null;
  openPart: (address: string | null) => void;
  cause: number;
  pickCause: (index: number) => void;
  /** Marks a place in the section without opening it. */
  mark: (address: string | null) => void;
}

export const useCaseContext = () => useOutletContext<CaseContext>();
