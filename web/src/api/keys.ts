/** Names of what is read, in the query cache. */
export const keys = {
  me: ['me'] as const,
  setup: ['setup'] as const,
  knowledge: ['knowledge'] as const,
  instruments: ['instruments'] as const,
  studies: ['studies'] as const,
  cases: ['cases'] as const,
  settings: ['settings'] as const,
  lessons: ['lessons'] as const,
  stock: ['stock'] as const,
  suppliers: ['suppliers'] as const,
  reckoners: ['reckoners'] as const,
  printer: ['printer'] as const,
  causes: ['causes'] as const,
  people: ['people'] as const,
  door: ['door'] as const,
  changes: ['changes'] as const,
  learned: ['causes', 'learned'] as const,
  practice: (seed: number) => ['practice', seed] as const,
  case: (id: string) => ['case', id] as const,
  /** What was entered into a case. */
  record: (id: string) => ['case', id, 'record'] as const,
  /** What the server works out of a case. */
  rooms: (id: string) => ['case', id, 'room'] as const,
  room: (id: string, room: string, of = '') => ['case', id, 'room', room, ...(of ? [of] : [])] as const,
};
