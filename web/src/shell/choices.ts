import { t as tr } from '@lingui/core/macro';
import { useQueryClient } from '@tanstack/react-query';
import { chooseKeypad, keypadWords, useKeypad, type Keypad } from '../device/keypad';
import { chooseLanguage, language, languages, type Language } from '../device/language';
import { chooseLengths, useChosenLengths } from '../device/lengths';
import { chooseScreen, screenWords, useScreen, type Screen } from '../device/theme';
import { entriesOf } from '../ui/words';

const lengthWords = { mm: tr`millimetres`, in: tr`inches` } as const;

/** Something that a person chooses for this device. */
export interface DeviceChoice {
  label: string;
  value: string;
  words: readonly (readonly [string, string])[];
  choose: (value: string) => void;
}

/** What there is to choose, in the account at a desk and in the sheet on a phone alike. */
export function useDeviceChoices(): DeviceChoice[] {
  const client = useQueryClient();
  return [
    {
      label: tr`Screen`,
      value: useScreen(),
      words: entriesOf(screenWords),
      choose: (v) => chooseScreen(v as Screen),
    },
    {
      label: tr`Lengths on this device`,
      value: useChosenLengths() ?? '',
      words: [['', tr`as the engine has it`], ...entriesOf(lengthWords)],
      choose: (v) => {
        chooseLengths(v === 'mm' || v === 'in' ? v : null);
        void client.invalidateQueries();
      },
    },
    {
      // In the words of each language, for who does not read the one that stands.
      label: `${tr`Language`}${language() === 'en' ? '' : ' (language)'}`,
      value: language(),
      words: entriesOf(languages),
      choose: (v) => {
        chooseLanguage(v as Language);
        // What this device keeps is told in the old language until it is read again, which it is at once where there is a network.
        if (v !== language()) location.reload();
      },
    },
    {
      label: tr`Keys on a phone`,
      value: useKeypad(),
      words: entriesOf(keypadWords),
      choose: (v) => chooseKeypad(v as Keypad),
    },
  ];
}
