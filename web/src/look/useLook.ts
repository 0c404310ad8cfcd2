import type { Schemas } from '../api/client';
import type { CaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { named } from '../ui/terms';
import { levelWords, stands } from '../ui/words';

export type Sign = Schemas['KnownSign'];
export type Finding = Schemas['Finding'];

/** Signs that a part can show, with whether each is recorded. */
export function signsFor(address: string, { section, engineCase, knowledge }: CaseContext) {
  const kind = section.cells.find((c) => c.address === address)?.kind;
  const recorded = new Set(
    engineCase.findings
      .filter(stands)
      .filter((f) => f.place === address)
      .map((f) => f.sign),
  );
  return knowledge.signs
    .filter((s) => !s.measured && s.on.includes(kind ?? ''))
    .map((sign) => ({ sign, recorded: recorded.has(sign.id) }));
}

/** Of those what is looked for on the bench: what is only heard while the engine runs is recorded where it is listened to. */
export const onTheBench = (signs: ReturnType<typeof signsFor>) =>
  signs.filter(({ sign }) => !sign.running || sign.on.includes('engine'));

/** Whether a search meets a sign by its name or by one of the trade's other names. */
export const meets = (sign: Sign, search: string) => named([sign.name, ...sign.also, sign.term], search);

/** Parts of the same kind, in walking order. */
export const peersOf = (address: string, { section }: Pick<CaseContext, 'section'>) => {
  const kind = section.cells.find((c) => c.address === address)?.kind;
  return section.cells.filter((c) => c.kind === kind);
};

/** Writes findings; each is kept on the device first. */
export function useFindings({ engineCase, knowledge }: CaseContext) {
  const one = useWrite(engineCase.id, writes.finding);
  const clean = useWrite(engineCase.id, writes.clean);
  /** What the queue says of a finding. */
  const told = (sign: string, level: Schemas['FindingEntry']['level']) =>
    `${knowledge.signs.find((s) => s.id === sign)?.name ?? sign}, ${levelWords[level]}`;
  return { one, clean, told };
}
