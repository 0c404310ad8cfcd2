import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import { Link } from 'react-router';
import type { CaseContext } from '../casebook/context';
import { Trouble } from '../ui/basics';
import { SignArt } from '../art/SignArt';
import { meets, onTheBench, signsFor, useFindings, type Sign } from './useLook';
import { lostBy } from '../ui/lookWords';

import { Capture } from './Capture';

/**
 * What a part shows: sign, level, zones, done; or looked for and not there; or all of it clean in one touch. Four touches for a
 * common finding.
 */
export function LookForm({
  address,
  context,
  sign: open,
  zones,
  setSign: setOpen,
  onDone,
}: {
  address: string;
  context: CaseContext;
  sign: string | null;
  /** Where it lies, as a picture told. */
  zones?: string[] | undefined;
  setSign: (sign: string | null) => void;
  /** A sign is written: whoever asks to be told closes it. */
  onDone?: (sign: Sign, level: number) => void;
}) {
  const signs = signsFor(address, context);
  const [search, setSearch] = useState('');
  const { clean } = useFindings(context);
  const asked = onTheBench(signs);
  const left = asked.filter((s) => !s.recorded);
  // Also one that is recorded: a second look may see it otherwise.
  const current = signs.find((s) => s.sign.id === open)?.sign;
  if (current)
    return (
      <Capture
        key={`${address}/${current.id}`}
        sign={current}
        address={address}
        context={context}
        zones={zones}
        onBack={() => setOpen(null)}
        onDone={(level) => {
          if (onDone) onDone(current, level);
          else setOpen(null);
        }}
      />
    );
  const shown = left.filter((s) => search === '' || meets(s.sign, search));
  return (
    <div>
      <div className="mb-3 flex flex-wrap items-end gap-3">
        <h3 className="flex-1 text-lg">
          {left.length > 0 ? tr`What does it show?` : tr`Everything known for this part is recorded.`}
        </h3>
        {left.length > 0 && (
          <button
            className="key key-go"
            disabled={clean.isPending}
            onClick={() => clean.mutate({ place: address, signs: left.map((s) => s.sign.id) })}
          >
            {left.length < asked.length ? tr`Rest all clear` : tr`All clear`}
          </button>
        )}
      </div>
      <Trouble problem={clean.error} />
      {zones && zones.length > 0 && (
        <p className="mb-2 rounded-lg bg-oil-tint px-3 py-2">
          {tr`Choose the sign: where it lies was taken from the picture.`}
        </p>
      )}
      {left.length > 8 && (
        <input
          className="entry mb-2"
          type="search"
          placeholder={tr`Search, also by the trade’s other names`}
          aria-label={tr`Search signs`}
          value={search}
          onChange={(e) => setSearch(e.target.value)}
        />
      )}
      <ul className="grid gap-1.5 sm:grid-cols-2">
        {shown.map(({ sign }) => (
          <li key={sign.id}>
            <button
              className="flex min-h-16 w-full items-center gap-3 rounded-lg border-[1.5px] border-line bg-paper px-2 py-1 text-left hover:border-dye"
              onClick={() => setOpen(sign.id)}
            >
              <SignArt draw={sign.draw} className="h-13 w-17 shrink-0" />
              <span className="min-w-0 leading-tight">
                <span className="block font-semibold">{sign.name}</span>
                {sign.destroyedBy.length > 0 && (
                  <span className="block text-sm text-brass">
                    <Trans>lost by {lostBy(sign.destroyedBy)}</Trans>
                  </span>
                )}
              </span>
            </button>
          </li>
        ))}
      </ul>
      {shown.length === 0 && left.length > 0 && (
        <p className="text-soft">
          <Trans>
            No sign of this part is called so. Try another word, or look through the{' '}
            <Link className="underline" to="/atlas">
              atlas
            </Link>
            .
          </Trans>
        </p>
      )}
    </div>
  );
}
