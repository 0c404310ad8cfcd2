// @vitest-environment happy-dom
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { keepFocus } from './keepFocus';

let stop: () => void;
const of = (id: string) => document.getElementById(id)!;
/** Until the changes of the page have been heard of. */
const heard = () => new Promise((go) => setTimeout(go, 5));

beforeEach(() => {
  document.body.innerHTML = `<main id="page"><section id="card"><form id="form"><button id="save">Save</button></form></section>
    <button id="other">Other</button></main>`;
  stop = keepFocus();
});
afterEach(() => stop());

describe('the focus', () => {
  it('stays about where it was when what one was on is gone, and leaves no stop behind', async () => {
    of('save').focus();
    of('form').remove();
    (document.activeElement as HTMLElement | null)?.blur();
    await heard();
    expect(document.activeElement?.id).toBe('card');
    of('other').focus();
    expect(of('card').hasAttribute('tabindex')).toBe(false);
  });

  it('comes back to a key that was shut while it did its work', async () => {
    of('save').focus();
    (of('save') as HTMLButtonElement).disabled = true;
    of('save').blur();
    await heard();
    (of('save') as HTMLButtonElement).disabled = false;
    await heard();
    expect(document.activeElement?.id).toBe('save');
  });

  it('is not moved from where somebody has gone, nor back to what was left', async () => {
    of('save').focus();
    of('other').focus();
    of('form').remove();
    await heard();
    expect(document.activeElement?.id).toBe('other');
    of('other').blur();
    of('card').append(document.createElement('p'));
    await heard();
    expect(document.activeElement === document.body || document.activeElement === null).toBe(true);
  });
});
