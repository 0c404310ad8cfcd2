import { useOutletContext } from 'react-router';
import type { CaseAnswers, EngineCase, Knowledge } from '../api/client';

/** What a stage of the open case is given. */
export interface CaseContext {
  engineCase: EngineCase;
  section: CaseAnswers['section'];
  places: CaseAnswers['places'];
  knowledge: Knowledge;
  part: string | null;
  openPart: (address: string | null) => void;
  cause: number;
  pickCause: (index: number) => void;
  /** Marks a place in the section without opening it. */
  mark: (address: string | null) => void;
}

export const useCaseContext = () => useOutletContext<CaseContext>();
