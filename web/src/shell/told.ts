import { t as tr } from '@lingui/core/macro';
import { useRoomSoon } from '../casebook/caseQueries';
import type { CaseContext } from '../casebook/context';
import { verdictSights } from '../section/lenses';
import { custodyText, levelWords, stands } from '../ui/words';

/** What is known of a part in one line: its name and mark, where it is now, what was last found, its figure, its verdict. */
export function useTold(context: CaseContext, address: string | null): string[] {
  const { engineCase, section, places, knowledge } = context;
  const gauge = useRoomSoon(engineCase.id, 'gauge');
  const cell = section.cells.find((c) => c.address === address);
  if (!cell) return [];
  const state = places.find((p) => p.place === address);
  const of = <T extends { place: string; at: string; withdrawnAt: string | null }>(records: readonly T[]) =>
    records.filter((r) => stands(r) && r.place === address).sort((a, b) => b.at.localeCompare(a.at))[0];
  const tag = of(engineCase.parts);
  const last = of(engineCase.findings);
  const worst = engineCase.findings
    .filter((f) => stands(f) && f.place === address && f.seen === 'present' && f.level > (last?.level ?? 0))
    .sort((a, b) => b.level - a.level)[0];
  const seen = (f: NonNullable<typeof last>) => {
    const name = knowledge.signs.find((s) => s.id === f.sign)?.name.toLowerCase() ?? f.sign;
    return f.seen === 'absent' ? tr`${name}: checked, not there` : `${name}, ${levelWords[f.level]}`;
  };
  const figure = gauge?.figures
    .filter((f) => f.place === address)
    .sort((a, b) => (b.share ?? -1) - (a.share ?? -1))[0];
  return [
    cell.words,
    tag ? tr`tag ${tag.mark || (address ?? '')}` : tr`no tag`,
    tag ? custodyText(tag) : '',
    last ? seen(last) : tr`not looked at`,
    worst ? seen(worst) : '',
    figure
      ? `${figure.name} ${figure.share === null ? tr`measured` : tr`${Math.round(figure.share * 100)} % of the limit`}`
      : '',
    state?.verdict ? verdictSights[state.verdict][2] : '',
  ].filter(Boolean);
}
