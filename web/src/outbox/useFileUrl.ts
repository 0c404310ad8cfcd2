import { useEffect, useState } from 'react';
import { outbox, useWaiting } from './useOutbox';

/** Where a file of a record is read from: the server, or while it waits what is kept on the device. */
export function useFileUrl(caseId: string, record: { id: string; version: number }, there: string) {
  const waiting = useWaiting(caseId);
  const kept =
    record.version === 0
      ? waiting.find((e) => e.file && (e.body as { id?: string }).id === record.id)
      : undefined;
  const [seq, type] = [kept?.seq ?? null, kept?.file?.type ?? ''];
  const [local, setLocal] = useState<string | null>(null);
  useEffect(() => {
    if (seq === null) return;
    let url: string | null = null;
    let gone = false;
    void outbox
      .bytes(seq)
      .catch(() => null)
      .then((data) => {
        if (gone || !data) return;
        url = URL.createObjectURL(new Blob([data], { type }));
        setLocal(url);
      });
    return () => {
      gone = true;
      if (url) URL.revokeObjectURL(url);
      setLocal(null);
    };
  }, [seq, type]);
  return local ?? there;
}
