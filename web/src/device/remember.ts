/** Small things that a browser remembers of itself. One that refuses to keep or to tell anything only forgets them. */
export function remembered(name: string): string | null {
  try {
    return localStorage.getItem(name);
  } catch {
    return null;
  }
}

export function remember(name: string, value: string) {
  try {
    localStorage.setItem(name, value);
  } catch {
    // It is so until the page is closed.
  }
}
