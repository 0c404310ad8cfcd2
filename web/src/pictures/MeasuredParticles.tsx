import { plural, t as tr } from '@lingui/core/macro';
import { useState } from 'react';
import { v7 } from 'uuid';
import type { Schemas } from '../api/client';
import { useMayWrite } from '../api/queries';
import { useWrite, writes } from '../outbox/writes';
import { Choice, Trouble } from '../ui/basics';
import { formWords, materialWords } from '../ui/lookWords';
import { entriesOf } from '../ui/words';
import type { Photo } from './picture';

/** Particles by classes of sizes, and what they are entered as. */
export function MeasuredParticles({
  answer,
  photo,
  caseId,
}: {
  answer: Schemas['PictureAnswer'];
  photo: Photo;
  caseId: string;
}) {
  const mayWrite = useMayWrite();
  const add = useWrite(caseId, writes.debris);
  const [material, setMaterial] = useState<Schemas['DebrisMaterial'] | null>(null);
  const [form, setForm] = useState<Schemas['DebrisForm'] | null>(null);
  const most = Math.max(1, ...answer.classes.map((c) => c.count));
  const longest = answer.beside[0]?.value;
  const range = (c: Schemas['SizeCount']) =>
    c.to === null ? tr`${c.from} µm and over` : tr`${c.from} to ${c.to} µm`;
  const used = answer.classes.filter((c) => c.count > 0);
  return (
    <div className="space-y-3">
      <table className="w-full text-sm" aria-label={tr`Classes of sizes (ISO 16232)`}>
        <tbody>
          {answer.classes.map((c) => (
            <tr key={c.letter}>
              <th className="fig pr-2 text-left">{c.letter}</th>
              <td className="pr-2 whitespace-nowrap">{range(c)}</td>
              <td className="fig pr-2 text-right">{c.count}</td>
              <td className="w-1/3">
                <span className="block h-3 bg-steel" style={{ width: `${(100 * c.count) / most}%` }} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-sm text-soft">{tr`With a glint: ${answer.shiny}. Classes of sizes as ISO 16232 names them.`}</p>
      {mayWrite && answer.value > 0 && (
        <div className="space-y-2 rounded-lg border border-line p-3">
          <Choice
            label={tr`What are they? Try a magnet.`}
            value={material}
            options={entriesOf(materialWords)}
            onChange={setMaterial}
          />
          <Choice label={tr`Shape`} value={form} options={entriesOf(formWords)} onChange={setForm} />
          <button
            type="button"
            className="key key-go"
            disabled={material === null || add.isPending}
            onClick={() =>
              add.mutate({
                body: {
                  id: v7(),
                  place: photo.place,
                  material: material!,
                  hard: null,
                  colour: answer.shiny > answer.value / 2 ? 'bright' : 'unknown',
                  form: form ?? 'unknown',
                  count: answer.value,
                  size: longest === undefined ? null : Math.round(longest * 100) / 100,
                  doneBy: 'running',
                  note: tr`Counted in ${photo.fileName}: ${used.map((c) => `${c.letter} ${c.count}`).join(', ')}`,
                },
                words: plural(answer.value, { one: '# particle', other: '# particles' }),
              })
            }
          >
            {tr`Enter as debris`}
          </button>
          <Trouble problem={add.error} />
          {add.isSuccess && (
            <p role="status">{tr`Entered: its likely sources stand with the debris of ${photo.place}.`}</p>
          )}
        </div>
      )}
    </div>
  );
}
