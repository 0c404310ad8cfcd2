import { t as tr } from '@lingui/core/macro';
import { useMutation } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { v7 } from 'uuid';
import { api, ApiProblem, unwrap, type Schemas } from '../api/client';
import { useMayWrite } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { Trouble } from '../ui/basics';
import { saveAs } from '../ui/FileKey';
import { figure } from '../ui/figures';
import { NumberField } from '../ui/NumberField';
import { CircleOfTurns, OrdersOverSpeed, OrderBars } from './HeardDrawings';
import { asWave } from './wave';

interface Recorded {
  id: string;
  name: string;
  wave: Blob;
  seconds: number;
  channels: number;
  /** Cylinder that was cut out; 0 where all ran. */
  cut: number;
}

/** Nothing that is reckoned from a sound is quite sure. */
const percent = (share: number) =>
  share > 0.99 ? tr`over 99 %` : share < 0.01 ? tr`under 1 %` : tr`${figure(100 * share, '%', 0)} %`;

const beatWords: Record<Schemas['NoiseBeat'], string> = {
  none: tr`No knock stands out`,
  cycle: tr`A knock once a cycle`,
  turn: tr`A knock at every turn`,
  either: tr`A knock: once a cycle or at every turn, that cannot be told`,
  apart: tr`Something at an order of its own`,
};

/** Recordings of the running engine, and what is heard in them. Nothing is written until somebody takes a sign. */
export function Listen() {
  const { engineCase } = useCaseContext();
  const mayWrite = useMayWrite();
  const [recorded, setRecorded] = useState<Recorded[]>([]);
  const [rpm, setRpm] = useState<number | null>(null);
  const [pickup, setPickup] = useState(0);
  const [bearing, setBearing] = useState<{
    elements: number | null;
    element: number | null;
    pitch: number | null;
  }>({
    elements: null,
    element: null,
    pitch: null,
  });
  const [shown, setShown] = useState(0);
  const [bad, setBad] = useState<ApiProblem | null>(null);
  const cylinders = Array.from({ length: engineCase.layout.cylinders }, (_, i) => i + 1);
  const add = async (file: Blob, name: string) => {
    setBad(null);
    try {
      const made = await asWave(file);
      setRecorded((before) => [...before, { id: v7(), name, cut: 0, ...made }]);
      listen.reset();
    } catch {
      setBad(
        new ApiProblem(422, {
          title: tr`${name} cannot be read as a sound.`,
          detail: tr`Give a WAV, Ogg, WebM, MP3 or M4A file that this browser can play.`,
        }),
      );
    }
  };
  const listen = useMutation<Schemas['ListenAnswer'], ApiProblem>({
    mutationFn: () =>
      unwrap(
        api.POST('/api/cases/{caseId}/listen', {
          params: { path: { caseId: engineCase.id } },
          // The form is put together below.
          body: {} as never,
          bodySerializer: () => {
            const form = new FormData();
            if (rpm !== null) form.set('rpm', String(rpm));
            if (pickup > 0) form.set('pickup', String(pickup));
            form.set('cutOut', recorded.map((r) => r.cut).join(','));
            if (bearing.elements && bearing.element && bearing.pitch)
              form.set('bearing', JSON.stringify(bearing));
            for (const r of recorded) form.append('files', r.wave, `${r.name}.wav`);
            return form;
          },
        }),
      ),
    onSuccess: () => setShown(0),
  });
  const heard = listen.data?.heard[shown];
  if (!mayWrite) return null;
  return (
    <div className="space-y-3">
      <Cautions />
      <div className="flex flex-wrap items-end gap-2">
        <RecordKey onDone={(blob) => void add(blob, tr`recording ${recorded.length + 1}`)} />
        <label className="key inline-flex cursor-pointer items-center">
          {tr`Read a sound file`}
          <input
            type="file"
            accept="audio/*"
            multiple
            className="sr-only"
            onChange={(e) => {
              const given = [...(e.target.files ?? [])];
              // One after the other, so that they stand in the order in which they were given.
              void given.reduce(
                (before, f) => before.then(() => add(f, f.name.replace(/\.[^.]*$/, ''))),
                Promise.resolve(),
              );
              e.target.value = '';
            }}
          />
        </label>
        <NumberField
          label={tr`Speed, rpm, if known`}
          value={rpm}
          onChange={(v) => {
            setRpm(v);
            listen.reset();
          }}
          min={250}
          max={9000}
          className="w-44"
        />
      </div>
      <Trouble problem={bad} />
      {recorded.length > 0 && (
        <ul className="divide-y divide-line" aria-label={tr`Recordings`}>
          {recorded.map((r) => (
            <li key={r.id} className="flex flex-wrap items-center gap-2 py-2">
              <span className="min-w-0 flex-1 truncate">
                <b>{r.name}</b> {tr`${figure(r.seconds, 's', 0)} s`}
              </span>
              <select
                className="entry w-auto"
                aria-label={tr`Cut out in ${r.name}`}
                value={r.cut}
                onChange={(e) => {
                  setRecorded(
                    recorded.map((o) => (o.id === r.id ? { ...o, cut: Number(e.target.value) } : o)),
                  );
                  listen.reset();
                }}
              >
                <option value={0}>{tr`all cylinders running`}</option>
                {cylinders.map((c) => (
                  <option key={c} value={c}>{tr`cylinder ${c} cut out`}</option>
                ))}
              </select>
              <button type="button" className="key" onClick={() => saveAs(r.wave, `${r.name}.wav`)}>
                {tr`Save it`}
              </button>
              <button
                type="button"
                className="key border-transparent px-2"
                aria-label={tr`Leave ${r.name} out`}
                onClick={() => {
                  setRecorded(recorded.filter((o) => o.id !== r.id));
                  listen.reset();
                }}
              >
                ✕
              </button>
            </li>
          ))}
        </ul>
      )}
      {recorded.length > 0 && (
        <p className="text-sm text-soft">
          {tr`Recordings stay on this page only: save those that you want to keep. What is heard is kept when you take it as a sign.`}
        </p>
      )}
      {recorded.some((r) => r.channels === 2) && (
        <label className="block">
          <span className="label">{tr`The second channel is a clamp on the line of`}</span>
          <select
            className="entry"
            value={pickup}
            onChange={(e) => {
              setPickup(Number(e.target.value));
              listen.reset();
            }}
          >
            <option value={0}>{tr`no cylinder`}</option>
            {cylinders.map((c) => (
              <option key={c} value={c}>{tr`cylinder ${c}`}</option>
            ))}
          </select>
        </label>
      )}
      <details>
        <summary className="min-h-8 cursor-pointer font-semibold">{tr`A rolling bearing to listen for`}</summary>
        <div className="mt-2 flex flex-wrap gap-2">
          {(
            [
              ['elements', tr`Rolling elements`],
              ['element', tr`Their diameter, mm`],
              ['pitch', tr`Circle they run on, mm`],
            ] as const
          ).map(([field, label]) => (
            <NumberField
              key={field}
              label={label}
              value={bearing[field]}
              onChange={(v) => {
                setBearing({ ...bearing, [field]: v });
                listen.reset();
              }}
              min={0}
              className="w-44"
            />
          ))}
        </div>
      </details>
      {recorded.length > 0 && !listen.data && (
        <button
          type="button"
          className="key key-go w-full text-lg"
          disabled={listen.isPending}
          onClick={() => listen.mutate()}
        >
          {listen.isPending ? tr`Listening …` : tr`Listen`}
        </button>
      )}
      <Trouble problem={listen.error} />
      {listen.data && listen.data.heard.length > 1 && (
        <div role="group" aria-label={tr`Recording that is shown`} className="flex flex-wrap gap-1.5">
          {recorded.map((r, i) => (
            <button
              key={r.id}
              type="button"
              className="key"
              aria-pressed={shown === i}
              onClick={() => setShown(i)}
            >
              {r.cut > 0 ? tr`${r.name}, ${r.cut} cut out` : r.name}
            </button>
          ))}
        </div>
      )}
      {heard && <HeardWords heard={heard} />}
      {listen.data?.cutOut && <CutOut of={listen.data.cutOut} />}
    </div>
  );
}

function Cautions() {
  return (
    <ul className="list-disc rounded-lg bg-brass-tint py-2 pr-3 pl-7 text-sm">
      <li>{tr`The maker’s manual first; whoever is not trained on it does not run or cut out this engine.`}</li>
      <li>{tr`Ears protected. Hands, hair, sleeves and leads away from belt, fan and shaft.`}</li>
      <li>{tr`Exhaust gas led outside. Stop at once when it knocks hard or the oil pressure falls.`}</li>
      <li>
        {tr`Injection lines stand under a pressure that goes through skin: never loosen one of a common rail while it runs. Ignition leads only with the maker’s tool.`}
      </li>
    </ul>
  );
}

function RecordKey({ onDone }: { onDone: (blob: Blob) => void }) {
  const recorder = useRef<MediaRecorder | null>(null);
  const [since, setSince] = useState<number | null>(null);
  const [seconds, setSeconds] = useState(0);
  const [refused, setRefused] = useState(false);
  useEffect(() => {
    if (since === null) return;
    const tick = setInterval(() => setSeconds(Math.round((Date.now() - since) / 1000)), 250);
    return () => clearInterval(tick);
  }, [since]);
  // Whoever leaves the page leaves the microphone.
  useEffect(() => () => recorder.current?.stream.getTracks().forEach((t) => t.stop()), []);
  const start = async () => {
    setRefused(false);
    try {
      // What a telephone does to speech would take a knock for noise.
      const stream = await navigator.mediaDevices.getUserMedia({
        audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false },
      });
      const parts: Blob[] = [];
      const made = new MediaRecorder(stream);
      made.ondataavailable = (e) => parts.push(e.data);
      made.onstop = () => {
        stream.getTracks().forEach((t) => t.stop());
        setSince(null);
        onDone(new Blob(parts, { type: made.mimeType }));
      };
      made.start();
      recorder.current = made;
      setSeconds(0);
      setSince(Date.now());
    } catch {
      setRefused(true);
    }
  };
  return (
    <div>
      <button
        type="button"
        className="key"
        aria-pressed={since !== null}
        onClick={() => (since === null ? void start() : recorder.current?.stop())}
      >
        {since === null ? tr`Record` : tr`Stop after ${seconds} s`}
      </button>
      {refused && (
        <p role="alert" className="mt-1 text-sm text-lead">
          {tr`The microphone is not allowed or not there. Allow it in the browser, or read a file.`}
        </p>
      )}
    </div>
  );
}

function HeardWords({ heard }: { heard: Schemas['HeardView'] }) {
  const whose =
    heard.whose.length === 1
      ? tr`likeliest of cylinder ${heard.whose[0]!}`
      : heard.whose.length > 1
        ? tr`of cylinder ${heard.whose.join(tr` or `)}`
        : null;
  return (
    <section aria-label={tr`What was heard`} className="space-y-3">
      <p className="text-lg">
        <b>{beatWords[heard.beat]}</b>
        {whose && <>, {whose}</>}
        {heard.beat !== 'none' && heard.beat !== 'either' && (
          <> ({tr`${percent(heard.chance)} sure of the rhythm`})</>
        )}
      </p>
      <p className="text-soft">
        {tr`${figure(heard.rpm, 'rpm', 0)} rpm over ${heard.cycles} cycles`}
        {heard.rival != null && ` (${tr`or ${figure(heard.rival, 'rpm', 0)} rpm`})`}
      </p>
      {heard.says.length > 0 && (
        <ul className="list-disc pl-5">
          {heard.says.map((s) => (
            <li key={s}>{s}</li>
          ))}
        </ul>
      )}
      <div className="space-y-3">
        <CircleOfTurns heard={heard} />
        <div className="space-y-3">
          <OrderBars heard={heard} />
          <OrdersOverSpeed heard={heard} />
        </div>
      </div>
      {heard.lines.length > 0 && (
        <ul className="text-sm">
          {heard.lines.map((l) => (
            <li key={l.order}>
              {tr`Order ${figure(l.order, '', 2)}`}
              {l.name ? `: ${l.name}` : ''}
            </li>
          ))}
        </ul>
      )}
      <Signs heard={heard} />
    </section>
  );
}

/** What was heard as signs: each is a hint, and somebody takes it or does not. */
function Signs({ heard }: { heard: Schemas['HeardView'] }) {
  const { engineCase, knowledge, section } = useCaseContext();
  const add = useWrite(engineCase.id, writes.finding);
  const [taken, setTaken] = useState<string[]>([]);
  const engine = section.cells.find((c) => c.kind === 'engine')?.address;
  if (!engine || heard.signs.length === 0) return null;
  return (
    <div>
      <h3 className="font-semibold">{tr`May be taken as a sign`}</h3>
      <p className="text-sm text-soft">{tr`Hints: two noises may share a rhythm. Trace weighs each by its chance.`}</p>
      <ul className="divide-y divide-line">
        {heard.signs.map((s) => {
          const sign = knowledge.signs.find((k) => k.id === s.sign);
          if (!sign) return null;
          const name = sign.name;
          return (
            <li key={s.sign} className="flex flex-wrap items-center gap-2 py-2">
              <span className="min-w-0 flex-1">
                <b>{s.level > 0 ? name : tr`${name}: not heard`}</b>{' '}
                <span className="text-soft">
                  <span className="whitespace-nowrap">{percent(s.chance)}</span>, {s.why}
                </span>
              </span>
              <button
                type="button"
                className="key"
                disabled={add.isPending || taken.includes(s.sign)}
                onClick={() =>
                  add.mutate(
                    {
                      body: {
                        place: engine,
                        sign: s.sign,
                        seen: s.level > 0 ? 'present' : 'absent',
                        level: s.level,
                        spot: '',
                        note: noteOf(heard),
                        zones: [],
                        marks: [],
                        doneBy: 'running',
                        felt: false,
                        chance: s.chance,
                      },
                      words: name,
                    },
                    { onSuccess: () => setTaken((before) => [...before, s.sign]) },
                  )
                }
              >
                {taken.includes(s.sign) ? tr`Taken` : tr`Take it`}
              </button>
            </li>
          );
        })}
      </ul>
      <Trouble problem={add.error} />
    </div>
  );
}

const noteOf = (heard: Schemas['HeardView']) =>
  [
    beatWords[heard.beat],
    tr`${figure(heard.rpm, 'rpm', 0)} rpm over ${heard.cycles} cycles`,
    heard.whose.length > 0 ? tr`cylinder ${heard.whose.join(tr` or `)}` : '',
  ]
    .filter((w) => w !== '')
    .join('; ');

function CutOut({ of }: { of: Schemas['CutOutView'] }) {
  return (
    <section aria-label={tr`Cut-out test`}>
      <h3 className="font-semibold">{tr`Cut-out test`}</h3>
      {of.says ? (
        <p>{of.says}</p>
      ) : (
        <>
          <p className="text-lg">
            {of.whose != null
              ? tr`With cylinder ${of.whose} silent the knock goes: it is likely its own.`
              : tr`No one cylinder takes the knock away clearly enough to be named.`}
          </p>
          <table className="mt-1 w-full text-left [&_td]:border-t [&_td]:border-line [&_td]:py-1 [&_td]:pr-3 [&_th]:pr-3 [&_th]:align-bottom [&_th]:font-semibold">
            <thead>
              <tr>
                <th>{tr`Cut out`}</th>
                <th>{tr`Left of the knock`}</th>
                <th>{tr`Chance that it is this one`}</th>
              </tr>
            </thead>
            <tbody>
              {of.results.map((r) => (
                <tr key={r.cylinder}>
                  <td>{r.cylinder}</td>
                  <td className="whitespace-nowrap">
                    {tr`${figure(100 * r.left, '%', 0)} % ± ${figure(200 * r.standard, '%', 0)} %`}
                  </td>
                  <td className="whitespace-nowrap">{percent(r.chance)}</td>
                </tr>
              ))}
              <tr>
                <td colSpan={2}>{tr`another or none`}</td>
                <td className="whitespace-nowrap">{percent(of.elsewhere)}</td>
              </tr>
            </tbody>
          </table>
        </>
      )}
    </section>
  );
}
