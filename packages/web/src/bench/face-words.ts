/** What a unit's screen shows, as its people say it. */
export const faceWords = (value: string): string => (value === 'true' ? 'on' : value === 'false' ? 'off' : value);
