import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { Link } from 'react-router';
import { useMe } from '../api/queries';
import { roleWords } from '../ui/words';
import { useDeviceChoices, type DeviceChoice } from './choices';
import { itemLook, Menu } from './Menu';
import { Keys } from './Keys';
import { keyOf } from './hotkeys';
import { Leaving } from './Leaving';

/** Who one is, and how this device shows things. */
export function Account({ opened }: { opened: boolean }) {
  const { data: me } = useMe();
  const choices = useDeviceChoices();
  const [leaving, setLeaving] = useState(false);
  const [keys, setKeys] = useState(false);
  return (
    <>
      <Menu label={me?.name} opened={opened}>
        <DropdownMenu.Label className="px-3 py-2">
          <b className="text-lg">{me?.name}</b> <span className="text-soft">{roleWords[me?.role ?? '']}</span>
        </DropdownMenu.Label>
        <DropdownMenu.Item asChild>
          <Link to="/door" className={itemLook}>
            {tr`Password, passkeys, devices`}
          </Link>
        </DropdownMenu.Item>
        {choices.map((c) => (
          <Choices key={c.label} {...c} />
        ))}
        <DropdownMenu.Item className={`${itemLook} justify-between`} onSelect={() => setKeys(true)}>
          {tr`Keys`} <kbd className="fig text-sm text-soft">{keyOf('keys')}</kbd>
        </DropdownMenu.Item>
        <DropdownMenu.Separator className="my-1 border-t border-line" />
        <DropdownMenu.Item className={`${itemLook} font-bold`} onSelect={() => setLeaving(true)}>
          <Trans>Sign out {me?.name}</Trans>
        </DropdownMenu.Item>
      </Menu>
      <Keys open={keys} setOpen={setKeys} />
      <Leaving open={leaving} close={() => setLeaving(false)} />
    </>
  );
}

function Choices({ label, value, words, choose }: DeviceChoice) {
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
