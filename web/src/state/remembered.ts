/** What the browser would not take: this window remembers it as long as it lives. */
const here = new Map<string, string>();

/** Something small that this browser remembers; null: nothing. */
export function recall(key: string): string | null {
  const own = here.get(key);
  if (own !== undefined) return own;
  try {
    return localStorage.getItem(key);
  } catch {
    return null;
  }
}

/** Remembers something small. Where the browser refuses (it is full, or forbids it), this window does alone. */
export function remember(key: string, text: string): void {
  try {
    localStorage.setItem(key, text);
    here.delete(key);
  } catch {
    here.set(key, text);
  }
}

export function forget(key: string): void {
  here.delete(key);
  try {
    localStorage.removeItem(key);
  } catch {
    // There is nothing to forget.
  }
}
