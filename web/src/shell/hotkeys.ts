import { t as tr } from '@lingui/core/macro';
/**
 * Keys of daily acts. None is one that a browser, a screen reader or a text field has for something else: function keys that browsers
 * leave free, and pages with Alt.
 */
export const hotkeys = {
  find: ['F2', tr`Go anywhere: a part, a sign, a cause, a page, or something to do`],
  next: ['F4', tr`Go to the next thing`],
  keys: ['F8', tr`Show these keys`],
  undo: ['F9', tr`Undo what was saved last, for ten seconds`],
  later: [tr`Alt+PageDown`, tr`The next part like the one that is open`],
  earlier: [tr`Alt+PageUp`, tr`The part before it`],
} as const satisfies Record<string, readonly [string, string]>;

export type Hotkey = keyof typeof hotkeys;

export const keyOf = (of: Hotkey) => hotkeys[of][0];

type Pressed = Pick<KeyboardEvent, 'key' | 'altKey' | 'ctrlKey' | 'metaKey' | 'shiftKey'>;

/** Whether this press is the key of an act. */
export function isKey(e: Pressed, of: Hotkey) {
  const [key, ...with_] = hotkeys[of][0].split('+').reverse();
  return e.key === key && e.altKey === with_.includes('Alt') && !e.ctrlKey && !e.metaKey && !e.shiftKey;
}

/** Keys that belong to a field, a list, a dialog or the page wherever they are pressed. */
export const everywhere: readonly (readonly [string, string])[] = [
  [tr`Enter`, tr`Save the form; enter the figure and go on; open the part of the section`],
  ['Esc', tr`Close what is open`],
  ['← ↑ → ↓', tr`Walk over the section, a list or a row of choices`],
  [tr`Tab`, tr`The next field; the section is one stop`],
];
