import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import type { ApiProblem, Schemas } from '../api/client';
import { sendFile } from '../api/sendFile';
import { moment, Trouble } from '../ui/basics';
import { megabytes } from '../ui/words';
import { digits } from './fingerprint';

/** Whoever was given a sealed bag drops it here: sound, or which file differs. */
export function CheckBag() {
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const told = useMutation<Schemas['BagTold'], ApiProblem, File>({
    mutationFn: (file) => sendFile('/api/bags/check', file),
  });
  return (
    <main className="mx-auto max-w-2xl px-4 py-8">
      <img src="/mark.svg" alt="" width={56} height={56} />
      <h1 className="mt-3 text-3xl">{tr`Is this bag as it was sealed?`}</h1>
      <p className="mt-2 text-soft">
        {tr`A sealed bag is a zip file with all that is known of one engine. It is read here, held against the digests and the signature in it, and kept nowhere.`}
      </p>
      <div
        className={`mt-4 rounded-xl border-2 border-dashed p-6 text-center ${over ? 'border-dye bg-dye-tint' : 'border-line'}`}
        onDragOver={(e) => {
          e.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(e) => {
          e.preventDefault();
          setOver(false);
          const file = e.dataTransfer.files[0];
          if (file) told.mutate(file);
        }}
      >
        <input
          ref={input}
          type="file"
          accept=".zip,application/zip"
          className="sr-only"
          aria-label={tr`Sealed bag`}
          tabIndex={-1}
          onChange={(e) => {
            const file = e.target.files?.[0];
            if (file) told.mutate(file);
            e.target.value = '';
          }}
        />
        <button className="key key-go" disabled={told.isPending} onClick={() => input.current?.click()}>
          {told.isPending ? tr`Reading ${megabytes(told.variables.size)} MB …` : tr`Choose a bag`}
        </button>
        <p className="mt-2 text-soft">{tr`or drop it here`}</p>
      </div>
      <div aria-live="polite" className="mt-4">
        <Trouble problem={told.error} />
        {told.data && <Told bag={told.data} />}
      </div>
    </main>
  );
}

function Told({ bag }: { bag: Schemas['BagTold'] }) {
  const says = (label: string) => bag.info.find((i) => i.label === label)?.value ?? '';
  const sealedAt = says('Sealed-At');
  return (
    <section className={`card border-2 p-4 ${bag.sound ? 'border-oil' : 'border-lead'}`}>
      <h2 className="text-2xl">
        {!bag.sound
          ? tr`✗ It is not as it was sealed`
          : bag.signature === 'none'
            ? tr`○ It is whole, and signed by nobody`
            : bag.ours
              ? tr`✓ Sound, and sealed by this shop`
              : tr`✓ Sound, and sealed by another than this shop`}
      </h2>
      <p className="mt-1">
        {says('External-Description')}
        {says('Seal-Number') && tr`, seal ${says('Seal-Number')}`}
        {sealedAt && tr`, ${moment(sealedAt)} by the clock of whoever sealed it`}{' '}
        <Trans>
          · {bag.files} files, {megabytes(bag.bytes)} MB
        </Trans>
      </p>
      {bag.sound && bag.signature === 'none' && (
        <p className="mt-2">{tr`Anyone can have packed it: there is nothing in it by which to tell who did.`}</p>
      )}
      {bag.sound && bag.signature === 'fits' && !bag.ours && (
        <p className="mt-2">
          {tr`Nothing was changed since it was signed with the key below. Whose key that is, this shop does not know: ask whoever gave it to you, on another way than the bag came.`}
        </p>
      )}
      {bag.fingerprint && (
        <p className="mt-2 text-sm text-soft">
          <Trans>
            Key <span className="fig break-all">{digits(bag.fingerprint)}</span>
          </Trans>
        </p>
      )}
      {bag.problems.length > 0 && (
        <ul className="mt-3 space-y-2">
          {bag.problems.map((p) => (
            <li key={`${p.field}${p.text}`}>
              <b className="break-all">{p.text}</b> <span className="text-soft">{p.remedy}</span>
            </li>
          ))}
          {bag.more > 0 && (
            <li>
              <Trans>And {bag.more} more.</Trans>
            </li>
          )}
        </ul>
      )}
    </section>
  );
}
