import { t as tr } from '@lingui/core/macro';
import { use } from 'react';
import { useQuery } from '@tanstack/react-query';
import { api, unwrap } from '../api/client';
import { keys, useCases, useKnowledge, useMayWrite } from '../api/queries';
import { OpenCase, usePicked, type CaseContext } from '../casebook/context';
import { useRoomQuery } from '../casebook/caseQueries';
import { useBeginWalk } from '../casebook/Walk';
import { onTheBench, signsFor } from '../look/useLook';
import { useWrite, writes } from '../outbox/writes';
import type { Goal } from './finder';
import { addressOf } from './Next';
import { useShopPages, useTools } from './pages';
import { stationWords } from './stations';
import { stages } from './stages';

/** Everything that can be gone to from here: pages, and in a case its parts, stages, signs, rounds. */
export function useGoals(typed: string): Goal[] {
  const open = use(OpenCase);
  const { part } = usePicked();
  const tools = useTools();
  const shop = useShopPages();
  const knowledge = useKnowledge();
  const cases = useCases(typed.length > 2 ? typed : '');
  const reckoners = useQuery({ queryKey: keys.reckoners, queryFn: () => unwrap(api.GET('/api/reckoners')) });
  const progress = useRoomQuery(open?.engineCase.id ?? '', 'progress', open !== null).data;
  const mayWrite = useMayWrite();
  const clean = useWrite(open?.engineCase.id ?? '', writes.clean);
  const walk = useBeginWalk();
  const found: Goal[] = [
    { id: 'page/', kind: 'page', name: tr`Casebook`, also: ['engines', 'home'], to: '/' },
    { id: 'page/new', kind: 'page', name: tr`New case`, also: [tr`new engine`], to: '/new' },
    ...(mayWrite
      ? [
          {
            id: 'walk',
            kind: 'do',
            name: tr`First walk, ten minutes`,
            also: ['learn', 'begin', 'tutorial', 'help', tr`how does it work`],
            to: () => walk.mutate(),
          },
        ]
      : []),
    ...[...tools, ...shop].map((p) => ({
      id: `page${p.path}`,
      kind: 'page',
      name: p.name,
      also: [p.says, ...(p.path === '/shop' ? [tr`settings ways units currency`] : [])],
      to: p.path,
    })),
    ...(cases.data?.pages ?? [])
      .flatMap((p) => p.cases)
      .map((c) => ({
        id: `case/${c.id}`,
        kind: 'case',
        name: c.title,
        also: [c.engineName, c.owner],
        to: `/cases/${c.id}`,
      })),
    ...(reckoners.data ?? []).map((r) => ({
      id: `reckoner/${r.id}`,
      kind: 'calculator',
      name: r.name,
      to: `/reckon/${r.id}`,
    })),
    ...(knowledge.data?.causes ?? []).map((c) => ({
      id: `cause/${c.id}`,
      kind: 'cause',
      name: c.name,
      to: `/causes/${c.id}`,
    })),
    ...(knowledge.data?.signs ?? []).map((s) => ({
      id: `sign/${s.id}`,
      kind: 'sign',
      name: s.name,
      also: [...s.also, s.term],
      to: `/atlas/${s.id}`,
    })),
  ];
  if (open) {
    found.push(...ofCase(open, part, typed));
    if (mayWrite)
      found.push(
        ...open.section.cells.map((c) => ({
          id: `clean/${c.address}`,
          kind: 'do',
          name: tr`Looked, all clear: ${c.words}`,
          also: [tr`looked clean rest`],
          code: c.address,
          to: () => {
            const left = onTheBench(signsFor(c.address, open)).filter((s) => !s.recorded);
            if (left.length > 0) clean.mutate({ place: c.address, signs: left.map((s) => s.sign.id) });
            open.openPart(c.address);
          },
        })),
      );
    if (progress)
      found.push({
        id: 'next',
        kind: 'do',
        name: tr`Next: ${progress.next}`,
        also: [tr`go on`],
        to: addressOf(open.engineCase.id, progress.at),
      });
  }
  return found;
}

/** What the trade also calls a part. Common practice, no source. */
const partAlso: Record<string, readonly string[]> = {
  rod: [tr`big end`, 'conrod', tr`bottom end`],
  'rod-cap': [tr`big end cap`],
  crankpin: [tr`big end journal`, tr`rod journal`],
  'rod-shell-upper': [tr`big end bearing`, tr`rod bearing`],
  'rod-shell-lower': [tr`big end bearing`, tr`rod bearing`],
  'main-shell-upper': [tr`main bearing`],
  'main-shell-lower': [tr`main bearing`],
  'wrist-pin': [tr`gudgeon pin`, tr`piston pin`],
  'small-end': [tr`little end`, tr`wrist pin bush`],
  bore: [tr`cylinder wall`],
  'head-joint': [tr`head gasket`],
  'ring-top': [tr`compression ring`],
  'ring-oil': [tr`scraper ring`],
  'oil-pump': ['pump'],
  crankcase: ['block'],
};

function ofCase(
  { engineCase, section, knowledge, openPart, openBag }: CaseContext,
  part: string | null,
  typed: string,
): Goal[] {
  const at = `/cases/${engineCase.id}`;
  const here = section.cells.find((c) => c.address === part);
  const fellows = section.cells.filter((c) => c.kind === here?.kind);
  const after = here && fellows[fellows.indexOf(here) + 1];
  return [
    ...stages.map(([path, name]) => ({ id: `stage/${path}`, kind: 'stage', name, to: `${at}/${path}` })),
    ...(['fits', 'options', 'order'] as const).map((view) => ({
      id: `verdict/${view}`,
      kind: 'stage',
      name: { fits: tr`What fits what`, options: tr`Options`, order: tr`The order` }[view],
      to: `${at}/verdict?view=${view}`,
    })),
    {
      id: 'do/promise',
      kind: 'do',
      name: tr`When does it run again? What waits for what`,
      also: [tr`schedule plan date promise deadline due ready when waiting now forty minutes`],
      to: `${at}/build`,
    },
    ...(['cylinder', 'main'] as const).flatMap((scope) =>
      [...new Set(section.cells.filter((c) => c.scope === scope).map((c) => c.station))].map((number) => ({
        id: `station/${scope}-${number}`,
        kind: scope === 'main' ? 'bearing' : 'cylinder',
        name: tr`All of ${stationWords({ scope, number, bank: 'a' }).toLowerCase()}`,
        also: scope === 'main' ? [tr`bearing everything about`] : [tr`cyl pot everything about`],
        to: `${at}/station/${scope}-${number}`,
      })),
    ),
    ...(section.columns.some((c) => c.cylinderB !== null) ? (['a', 'b'] as const) : []).map((bank) => ({
      id: `station/bank-${bank}`,
      kind: 'bank',
      name: tr`All of bank ${bank.toUpperCase()}`,
      to: `${at}/station/bank-${bank}`,
    })),
    ...ofCandidates(engineCase, section, typed, openPart),
    ...ofPairs(section.cells, typed, `${at}/index?mates=`),
    {
      id: 'do/mates',
      kind: 'do',
      name: tr`Mate check: do two tags belong together?`,
      also: [tr`mates pair cap match`],
      to: `${at}/index?mates=`,
    },
    ...section.cells.map((c) => ({
      id: `part/${c.address}`,
      kind: 'part',
      name: c.words,
      also: partAlso[c.kind] ?? [],
      code: c.address,
      to: () => openPart(c.address),
    })),
    ...section.cells.map((c) => ({
      id: `look/${c.address}`,
      kind: 'do',
      name: tr`Look at the ${c.words}`,
      also: [tr`looked clean clear read finding`],
      code: c.address,
      to: `${at}/look?part=${c.address}`,
    })),
    ...engineCase.stows
      .filter((s) => s.withdrawnAt === null)
      .map((s) => ({
        id: `bag/${s.code}`,
        kind: tr`bag or box`,
        name: s.name || s.code,
        code: s.code,
        to: () => openBag(s.code),
      })),
    ...knowledge.characteristics
      .filter((c) => section.cells.some((cell) => c.on.includes(cell.kind)))
      .map((c) => ({
        id: `round/${c.id}`,
        kind: 'do',
        name: tr`Measure a round: ${c.name}`,
        also: [tr`round measure gauge`],
        to: `${at}/gauge?round=${c.id}`,
      })),
    ...(after
      ? [
          {
            id: 'do/next-one',
            kind: 'do',
            name: tr`Next one like it: ${after.words}`,
            also: [tr`next cylinder`, tr`next journal`, tr`next bore`],
            code: after.address,
            to: () => openPart(after.address),
          },
        ]
      : []),
  ];
}

/** Two addresses, one after the other, ask whether they belong together. */
export function ofPairs(cells: readonly { address: string }[], typed: string, at: string): Goal[] {
  const tags = typed
    .trim()
    .toUpperCase()
    .split(/[\s,+&]+/);
  const [first = '', second = ''] = tags;
  if (tags.length !== 2 || first === second) return [];
  if (![first, second].every((t) => cells.some((c) => c.address === t))) return [];
  return [
    {
      id: `mates/${first}/${second}`,
      kind: 'do',
      name: tr`Do ${first} and ${second} belong together?`,
      code: `${first} ${second}`,
      to: `${at}${first}+${second}`,
    },
  ];
}

/** A part of an offered crank, head or set has the address of the engine's own with a letter behind it. */
function ofCandidates(
  { candidates }: CaseContext['engineCase'],
  { cells }: CaseContext['section'],
  typed: string,
  openPart: CaseContext['openPart'],
): Goal[] {
  const [code = '', letter = ''] = typed.trim().toUpperCase().split('.');
  const own = cells.find((c) => c.address === code || c.address.startsWith(`${code}.`));
  if (!own || !candidates.some((c) => c.withdrawnAt === null && c.letter === letter)) return [];
  const address = `${code}.${letter}`;
  if (cells.some((c) => c.address === address)) return [];
  return [
    {
      id: `part/${address}`,
      kind: 'part',
      name: tr`${own.words}, offered as ${letter}`,
      code: address,
      to: () => openPart(address),
    },
  ];
}
