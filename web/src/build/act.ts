import type { Schemas } from '../api/client';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';

type Act = Omit<Schemas['BackActEntry'], 'id'>;

const bare: Omit<Act, 'step' | 'kind' | 'of'> = {
  tag: '',
  isNew: false,
  facing: 'unknown',
  sideUp: false,
  line: null,
  pass: 0,
  instrument: '',
  hours: null,
  why: '',
};

/** Records what is done at a step of the way back; it is kept on the device until the server has it. */
export function useAct(step: string) {
  const { engineCase } = useCaseContext();
  const write = useWrite(engineCase.id, writes.backAct);
  return {
    error: write.error,
    isPending: write.isPending,
    act: (kind: Act['kind'], of: string, words: string, more: Partial<Act> = {}) =>
      write.mutateAsync({ body: { ...bare, step, kind, of, ...more }, words }),
  };
}
