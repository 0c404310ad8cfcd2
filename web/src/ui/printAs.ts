/** Prints what is open; a browser names the file that it prints into after the page. */
export function printAs(name: string) {
  const was = document.title;
  // Not every browser stands still meanwhile.
  window.addEventListener('afterprint', () => (document.title = was), { once: true });
  document.title = name;
  window.print();
}
