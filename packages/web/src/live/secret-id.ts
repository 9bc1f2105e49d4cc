import { api } from './api.ts';

/** The id under which a login's password is kept: a new one for what was typed, none without an account. */
export async function secretIdOf(
  showId: string,
  { account, password }: { readonly account: string; readonly password: string },
  before: string | null,
): Promise<string | null> {
  if (password) return (await api.post<{ id: string }>(`/shows/${showId}/secrets`, { password })).id;
  return account ? before : null;
}
