import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { Link } from 'react-router';
import { useQueryClient } from '@tanstack/react-query';
import { useMe } from '../api/queries';
import { chooseLengths, useChosenLengths } from '../device/lengths';
import { chooseScreen, screenWords, useScreen, type Screen } from '../device/theme';
import { entriesOf, roleWords } from '../ui/words';
import { itemLook, Menu } from './Menu';
import { chooseKeypad, keypadWords, useKeypad, type Keypad } from '../device/keypad';
import { Keys } from './Keys';
import { keyOf } from './hotkeys';
import { Leaving } from './Leaving';

const lengthWords = { mm: 'millimetres', in: 'inches' } as const;

/** Who one is, and how this device shows things. */
export function Account() {
  const { data: me } = useMe();
  const client = useQueryClient();
  const screen = useScreen();
  const lengths = useChosenLengths();
  const [leaving, setLeaving] = useState(false);
  const keypad = useKeypad();
  const [keys, setKeys] = useState(false);
  return (
    <>
      <Menu label={me?.name}>
        <DropdownMenu.Label className="px-3 py-2">
          <b className="text-lg">{me?.name}</b> <span className="text-soft">{roleWords[me?.role ?? '']}</span>
        </DropdownMenu.Label>
        <DropdownMenu.Item asChild>
          <Link to="/door" className={itemLook}>
            Password, passkeys, devices
          </Link>
        </DropdownMenu.Item>
        <Choices
          label="Screen"
          value={screen}
          words={entriesOf(screenWords)}
          choose={(v) => chooseScreen(v as Screen)}
        />
        <Choices
          label="Lengths on this device"
          value={lengths ?? ''}
          words={[['', 'as the engine has it'], ...entriesOf(lengthWords)]}
          choose={(v) => {
            chooseLengths(v === 'mm' || v === 'in' ? v : null);
            void client.invalidateQueries();
          }}
        />
        <Choices
          label="Keys on a phone"
          value={keypad}
          words={entriesOf(keypadWords)}
          choose={(v) => chooseKeypad(v as Keypad)}
        />
        <DropdownMenu.Item className={`${itemLook} justify-between`} onSelect={() => setKeys(true)}>
          Keys <kbd className="fig text-sm text-soft">{keyOf('keys')}</kbd>
        </DropdownMenu.Item>
        <DropdownMenu.Separator className="my-1 border-t border-line" />
        <DropdownMenu.Item className={`${itemLook} font-bold`} onSelect={() => setLeaving(true)}>
          Sign out {me?.name}
        </DropdownMenu.Item>
      </Menu>
      <Keys open={keys} setOpen={setKeys} />
      <Leaving open={leaving} close={() => setLeaving(false)} />
    </>
  );
}

function Choices({
  label,
  value,
  words,
  choose,
}: {
  label: string;
  value: string;
  words: readonly (readonly [string, string])[];
  choose: (value: string) => void;
}) {
  return (
    <DropdownMenu.RadioGroup value={value} onValueChange={choose} aria-label={label}>
      <DropdownMenu.Label className="px-3 pt-2 text-sm font-semibold text-soft">{label}</DropdownMenu.Label>
      {words.map(([id, name]) => (
        <DropdownMenu.RadioItem key={id} value={id} className={itemLook} onSelect={(e) => e.preventDefault()}>
          <span aria-hidden className="w-4 text-dye">
            {value === id ? '●' : '○'}
          </span>
          {name}
        </DropdownMenu.RadioItem>
      ))}
    </DropdownMenu.RadioGroup>
  );
}
