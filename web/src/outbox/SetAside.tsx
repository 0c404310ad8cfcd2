import { t as tr } from '@lingui/core/macro';
import { useState } from 'react';
import type { Kept } from './outbox';
import { outbox } from './useOutbox';
import { saveAs } from '../ui/FileKey';

/** What is wrong with an entry that was set aside, and what can become of it. */
export function SetAside({ entry }: { entry: Kept }) {
  if (!entry.refused) return null;
  return (
    <div className="mt-1">
      <p>
        <b>{entry.refused.title}</b> {entry.refused.remedy}
      </p>
      <div className="mt-1 flex flex-wrap gap-2">
        {entry.kind === 'reading' ? (
          <Mend entry={entry} />
        ) : (
          <button type="button" className="key" onClick={() => void outbox.retry(entry)}>
            {tr`Try again`}
          </button>
        )}
        <button type="button" className="key" onClick={() => void saveToFile(entry)}>
          {tr`Save to a file`}
        </button>
        <button type="button" className="key" onClick={() => void outbox.drop(entry.seq)}>
          {tr`Give it up`}
        </button>
      </div>
    </div>
  );
}

/** The picture itself, or the record as it would be sent: what no server takes can still be carried to one. */
async function saveToFile(entry: Kept) {
  const data = entry.file ? await outbox.bytes(entry.seq) : null;
  const { seq: _, refused: __, failures: ___, ...record } = entry;
  const blob = data
    ? new Blob([data], { type: entry.file!.type })
    : new Blob([JSON.stringify(record, null, 1)], { type: 'application/json' });
  saveAs(blob, data ? entry.file!.name : `${entry.kind}-${entry.place || 'entry'}-${entry.seq}.json`);
}

/** A reading that was asked about while nobody stood at its form: keep it as typed, or type what was meant. */
function Mend({ entry }: { entry: Kept }) {
  const body = entry.body as { typed: string };
  const [typed, setTyped] = useState(body.typed);
  const send = (confirmed: boolean) =>
    void outbox.retry({ ...entry, body: { ...body, typed, confirmed: confirmed && typed === body.typed } });
  return (
    <span className="flex flex-wrap gap-2">
      <input
        className="entry fig w-40"
        aria-label={tr`Figure of ${entry.place}`}
        value={typed}
        onChange={(ev) => setTyped(ev.target.value)}
      />
      <button type="button" className="key" onClick={() => send(true)}>
        {typed === body.typed ? tr`Keep as typed` : tr`Send the corrected one`}
      </button>
    </span>
  );
}
