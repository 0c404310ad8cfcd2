import { t as tr } from '@lingui/core/macro';
import { useIsLead, useIsStudent, useMayWrite } from '../api/queries';

export interface Page {
  path: string;
  name: string;
  /** What it is for, in a few words. */
  says: string;
}

/** Pages that serve at any engine. */
export const tools: readonly Page[] = [
  { path: '/search', name: tr`Search all cases`, says: tr`by words, sign, part, cause, time` },
  { path: '/atlas', name: tr`Atlas of signs`, says: tr`what a part can show, and what it means` },
  { path: '/causes', name: tr`Causes`, says: tr`what is known here, and your own` },
  { path: '/reckon', name: tr`Calculators`, says: tr`one formula at a time` },
  { path: '/scripts', name: tr`Strip scripts`, says: tr`the order in which engines come apart` },
  { path: '/practice', name: tr`Practice`, says: tr`an engine drawn from the causes` },
  { path: '/instruments', name: tr`Instruments`, says: tr`and how far each is trusted` },
  { path: '/studies', name: tr`Gauge studies`, says: tr`who reads what how alike` },
];

/** Tools that a student has. */
const ofStudents = new Set(['/atlas', '/reckon', '/practice']);

const classes = { path: '/classes', name: tr`Classes`, says: tr`benches, signatures, homework` };

const ofShop: readonly (Page & { for: 'all' | 'writers' | 'leads' })[] = [
  {
    path: '/kinds',
    name: tr`Kinds of engines`,
    says: tr`figures written once, for every later case`,
    for: 'all',
  },
  { path: '/fleet', name: tr`Fleet`, says: tr`hours, services, what is due`, for: 'all' },
  { ...classes, for: 'all' },
  { path: '/stock', name: tr`Spares`, says: tr`spare parts with their tags`, for: 'writers' },
  {
    path: '/hours',
    name: tr`Hours and hands`,
    says: tr`when work is done, who is away, weather`,
    for: 'all',
  },
  { path: '/suppliers', name: tr`Suppliers`, says: tr`and machine shops`, for: 'all' },
  { path: '/shop', name: tr`Settings`, says: tr`where practitioners differ`, for: 'writers' },
  { path: '/changes', name: tr`Record of changes`, says: tr`who wrote what, when`, for: 'all' },
  { path: '/people', name: tr`People`, says: tr`who may come in`, for: 'leads' },
];

/** Tools that this person may use. */
export function useTools(): readonly Page[] {
  return useIsStudent() ? tools.filter((p) => ofStudents.has(p.path)) : tools;
}

/** Pages of the shop that this person may open. */
export function useShopPages(): readonly Page[] {
  const writes = useMayWrite();
  const leads = useIsLead();
  const student = useIsStudent();
  if (student) return [classes];
  return ofShop.filter((p) => p.for === 'all' || (p.for === 'writers' ? writes : leads));
}
