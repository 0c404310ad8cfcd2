// @vitest-environment happy-dom
import { beforeEach, expect, it } from 'vitest';
import { heldElsewhere } from './useArrival';

const of = (id: string) => document.getElementById(id)!;

beforeEach(() => {
  document.body.innerHTML = `
    <main><h2 id="below">A part</h2></main>
    <div role="dialog"><h2 id="drawer">A part</h2><input id="note"><button id="save">Save</button></div>
    <div role="dialog"><input id="find"></div>`;
});

it('takes the focus from a key beside it and from the page', () => {
  expect(heldElsewhere(of('drawer'))).toBe(false);
  for (const beside of ['save', 'note']) {
    of(beside).focus();
    expect(heldElsewhere(of('drawer'))).toBe(false);
  }
  // What stands behind the drawer takes it from a key of the drawer, which led there.
  of('save').focus();
  expect(heldElsewhere(of('below'))).toBe(false);
});

it('leaves it to whoever types in another dialog', () => {
  of('find').focus();
  expect(heldElsewhere(of('drawer'))).toBe(true);
  expect(heldElsewhere(of('below'))).toBe(true);
});

it('takes nothing where nothing arrived', () => {
  of('find').focus();
  expect(heldElsewhere(null)).toBe(false);
});
