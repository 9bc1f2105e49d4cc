/** The text of a form error, whatever shape the form library gives it. */
export const messageOf = (error: unknown): string | undefined =>
  typeof error === 'object' && error !== null && 'message' in error ? String(error.message) : undefined;
