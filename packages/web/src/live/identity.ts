/** This browser's own name for undo: made once, kept here, tells nothing about anybody. */
export function ownAuthor(): string {
  const known = localStorage.getItem('deep-patch-author');
  if (known && /^[a-z0-9-]{8,40}$/.test(known)) return known;
  const made = newId();
  localStorage.setItem('deep-patch-author', made);
  return made;
}

export const newId = (): string => crypto.randomUUID();
