// Of the random cases of the longest tests so many are tried in each run, always others; `npm run thorough` tries all.
export const share = process.env['THOROUGH'] === undefined ? 0.25 : 1;
