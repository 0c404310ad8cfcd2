import type { EngineCase } from '../api/client';
import { stands } from '../ui/words';

/** It was built and ran again: what is seen from now on tells of the build. */
export const ranAgain = (engineCase: EngineCase) =>
  engineCase.buildTasks.filter((t) => stands(t) && t.of === 'run').at(-1)?.mark === 'through';
